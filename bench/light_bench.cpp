#include "bench/measure.h"
#include "bench/sequences.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/deflicker.h"
#include "core/steps/flicker/exposure_steps.h"
#include "core/steps/flicker/trend.h"
#include "core/steps/sort/scan.h"
#include "tests/support/photos.h"

#include <opencv2/imgcodecs.hpp>
#include <tbb/parallel_for.h>

#include <chrono>
#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <iostream>
#include <string>

namespace frenlo::bench {

namespace {

/// The smoother that it is compared with: a Gaussian, ends reflected.
std::vector<double> gaussian_smoothed(std::span<const double> values, double sigma = 5)
{
    const auto n = std::int64_t(values.size());
    const auto reach = std::int64_t(std::ceil(4 * sigma));
    std::vector<double> smooth;
    for (std::int64_t i = 0; i < n; ++i) {
        double sum = 0, weights = 0;
        for (std::int64_t k = -reach; k <= reach; ++k) {
            std::int64_t at = i + k;
            while (n > 0 && (at < 0 || at >= n)) // reflected, the end itself twice
                at = at < 0 ? -1 - at : 2 * n - 1 - at;
            const double w = std::exp(-0.5 * double(k * k) / (sigma * sigma));
            sum += w * values[std::size_t(at)];
            weights += w;
        }
        smooth.push_back(sum / weights);
    }
    return smooth;
}

double rms(const std::vector<double>& v)
{
    double sum = 0;
    for (const double x : v)
        sum += x * x;
    return std::sqrt(sum / double(std::max<std::size_t>(1, v.size())));
}

double mean(const std::vector<double>& v)
{
    double sum = 0;
    for (const double x : v)
        sum += x;
    return sum / double(std::max<std::size_t>(1, v.size()));
}

/// log2 of the mean luminance of all pixels: apart from the core's own measure, which looks at cells and leaves pixels
/// out.
std::vector<double> plain_stops(const std::vector<cv::Mat>& photos, int colour = -1)
{
    std::vector<double> stops;
    std::vector<double> linear(256); // IEC 61966-2-1
    for (int v = 0; v < 256; ++v)
        linear[std::size_t(v)] = v / 255.0 <= 0.04045 ? v / 255.0 / 12.92 : std::pow((v / 255.0 + 0.055) / 1.055, 2.4);
    for (const cv::Mat& p : photos) {
        double sum[3] = {};
        for (int y = 0; y < p.rows; ++y)
            for (int x = 0; x < p.cols; ++x)
                for (int c = 0; c < 3; ++c)
                    sum[c] += linear[p.at<cv::Vec3b>(y, x)[c]];
        const double n = double(p.total());
        stops.push_back(
            std::log2((colour >= 0 ? sum[2 - colour] : 0.2126 * sum[2] + 0.7152 * sum[1] + 0.0722 * sum[0]) / n));
    }
    return stops;
}

struct LightFigures
{
    double above = 0; ///< flicker above that of the clean photos
    double left = 0;  ///< of what was added
    double trend = 0;
    double offset = 0;
};

LightFigures figures_of(const std::vector<double>& output, const std::vector<double>& clean)
{
    std::vector<double> left, trend;
    for (std::size_t i = 0; i < output.size(); ++i)
        left.push_back(output[i] - clean[i]);
    LightFigures f;
    f.offset = mean(left);
    f.above = flicker_of(output) - flicker_of(clean);
    f.left = flicker_of(left);
    const auto a = gaussian_smoothed(output), b = gaussian_smoothed(clean);
    for (std::size_t i = 0; i < a.size(); ++i)
        trend.push_back(a[i] - b[i]);
    const double constant = mean(trend);
    for (double& t : trend)
        t -= constant;
    f.trend = rms(trend);
    return f;
}

LightFigures rms_of(const std::vector<LightFigures>& all)
{
    const auto of = [&](double LightFigures::*figure) {
        std::vector<double> values;
        for (const LightFigures& f : all)
            values.push_back(f.*figure);
        return rms(values);
    };
    return {of(&LightFigures::above), of(&LightFigures::left), of(&LightFigures::trend), of(&LightFigures::offset)};
}

void print(const std::string& who, const LightFigures& f)
{
    std::cout << "    " << who << ": flicker above clean " << f.above << ", added flicker left " << f.left
              << ", trend error " << f.trend << ", offset " << f.offset << " stop" << std::endl;
}

std::vector<cv::Mat> evened_photos(const std::vector<cv::Mat>& photos, const DeflickerResult& e)
{
    std::vector<cv::Mat> out;
    for (std::size_t i = 0; i < photos.size(); ++i)
        out.push_back(apply_correction(photos[i], e.curve.photos[i].correction));
    return out;
}

/// FFmpeg's deflicker over the same photos.
std::vector<cv::Mat> by_ffmpeg(const std::vector<cv::Mat>& photos, int size, const std::filesystem::path& folder)
{
    std::filesystem::remove_all(folder);
    std::filesystem::create_directories(folder);
    const auto name = [&](const char* kind, std::size_t i) {
        return (folder / (kind + std::to_string(1000 + i) + ".png")).native();
    };
    for (std::size_t i = 0; i < photos.size(); ++i)
        cv::imwrite(name("in", i), photos[i]);
    const std::string command = "ffmpeg -v error -y -start_number 1000 -i '" + (folder / "in%04d.png").native() +
                                "' -vf deflicker=size=" + std::to_string(size) +
                                ":mode=am -pix_fmt rgb24 -start_number 1000 '" + (folder / "out%04d.png").native() +
                                "'";
    if (std::system(command.c_str()) != 0)
        throw std::runtime_error("ffmpeg failed: " + command);
    std::vector<cv::Mat> out;
    for (std::size_t i = 0; i < photos.size(); ++i)
        out.push_back(cv::imread(name("out", i)));
    return out;
}

}

void bench_light(bool quick)
{
    std::cout << "evening: 120 photos, trend 1.2 stops, flicker 0.12 stop, a moving subject (aims: 0.003, 0.006, 0.02, "
                 "0.02)\n";
    std::vector<double> seconds;
    LightSequence s;
    std::vector<double> clean;
    std::vector<LightFigures> evened_figures, gaussian_figures;
    // What of the flicker is slow by chance differs from one to the other: the figures are those of all of them.
    for (int seed = 1; seed <= (quick ? 3 : 10); ++seed) {
        s = make_light_sequence({.seed = seed});
        clean = plain_stops(s.clean);
        const test::InMemory source(s.photos);
        seconds = test::seconds_of(s.photos.size());
        const DeflickerResult e = deflicker_shot(source.photos(), {}, seconds, {}, {}, source, {});
        evened_figures.push_back(figures_of(plain_stops(evened_photos(s.photos, e)), clean));
        print("evened, seed " + std::to_string(seed), evened_figures.back());
        std::cout << "      it says of itself: " << e.before_figures.shared << " to " << e.after_figures.shared
                  << " stop\n";
        // A plain gain towards the Gaussian of the brightness, as a measure of how much of this flicker is slow by
        // chance.
        const auto shot = plain_stops(s.photos), gaussian = gaussian_smoothed(shot);
        std::vector<cv::Mat> plain;
        for (std::size_t i = 0; i < shot.size(); ++i) {
            const double gain = gaussian[i] - shot[i];
            plain.push_back(apply_correction(s.photos[i], {.gain = {gain, gain, gain}}));
        }
        gaussian_figures.push_back(figures_of(plain_stops(plain), clean));
    }
    print("as shot, the last one", figures_of(plain_stops(s.photos), clean));
    print("a gain towards a Gaussian, root mean square of all", rms_of(gaussian_figures));
    print("evened, root mean square of all", rms_of(evened_figures));
    if (!quick)
        for (const int size : {5, 10, 20, 40, 80, 129})
            print("FFmpeg deflicker, size " + std::to_string(size),
                  figures_of(plain_stops(by_ffmpeg(s.photos, size,
                                                   std::filesystem::temp_directory_path() / "frenlo-bench-light")),
                             clean));

    const LightSequence colours = make_light_sequence({.flicker_sigma = 0, .colour_sigma = 0.05});
    const test::InMemory colour_source(colours.photos);
    const DeflickerResult each =
        deflicker_shot(colour_source.photos(), {}, seconds, {}, {.each_colour = true}, colour_source, {});
    const auto evened = evened_photos(colours.photos, each);
    std::cout << "  colour flicker of 0.05 stop, after, above clean (aim: 0.004):";
    for (int c = 0; c < 3; ++c)
        std::cout << ' ' << flicker_of(plain_stops(evened, c)) - flicker_of(plain_stops(colours.clean, c));
    std::cout << std::endl;

    // Six camera steps of a third: printed as cameras do.
    const std::vector<Fraction> printed{Fraction(1, 100), Fraction(1, 80), Fraction(1, 60), Fraction(1, 50),
                                        Fraction(1, 40),  Fraction(1, 30), Fraction(1, 25)};
    LightSequenceWishes sunset{.trend_stops = 2, .flicker_sigma = 0.004};
    std::vector<Exposure> exposures;
    for (int i = 0; i < sunset.photos; ++i)
        exposures.push_back({.seconds = printed[std::size_t(std::min(6, i / 17))],
                             .f_number = Fraction(8),
                             .iso = 100,
                             .focal_mm = {}});
    for (int k = 1; k <= 6; ++k)
        sunset.steps.emplace_back(17 * k, 1.0 / 3);
    const LightSequence steps = make_light_sequence(sunset);
    const test::InMemory step_source(steps.photos);
    const DeflickerResult ramp =
        deflicker_shot(step_source.photos(exposures), {}, seconds, {}, {.camera_steps = true}, step_source, {});
    // Against the same day without the steps.
    sunset.steps.clear();
    sunset.flicker_sigma = 0;
    const auto day = plain_stops(make_light_sequence(sunset).clean),
               out = plain_stops(evened_photos(steps.photos, ramp));
    double worst = 0;
    for (std::size_t i = 1; i < out.size(); ++i)
        worst = std::max(worst, std::abs((out[i] - out[i - 1]) - (day[i] - day[i - 1])));
    std::cout << "  sunset with six camera steps of 1/3 stop, largest jump left (aim: 0.02): " << worst << std::endl;

    const LightSequence lamp =
        make_light_sequence({.trend_stops = 0.6, .flicker_sigma = 0.01, .steps = {{60, 0.8}}, .flashes = {{30, 1.5}}});
    const test::InMemory lamp_source(lamp.photos);
    const DeflickerResult kept = deflicker_shot(lamp_source.photos(), {}, seconds, {}, {}, lamp_source, {});
    const auto lamp_out = plain_stops(evened_photos(lamp.photos, kept)), lamp_clean = plain_stops(lamp.clean);
    std::cout << "  lamp of 0.8 stop: step error " << (lamp_out[60] - lamp_out[59]) - (lamp_clean[60] - lamp_clean[59])
              << " (aim: 0.01), found " << kept.curve.steps.size()
              << "; flash marked: " << (kept.curve.photos[30].outlier ? "yes" : "no") << ", others marked: ";
    int others = 0;
    for (std::size_t i = 0; i < kept.curve.photos.size(); ++i)
        others += i != 30 && kept.curve.photos[i].outlier;
    std::cout << others << std::endl;
}

void bench_light_time(const std::filesystem::path& folder)
{
    const std::array places{folder};
    std::vector<SeenPhoto> photos;
    for (const FoundPhoto& p : scan(places, {.looking = Looking::at_headers}, {}).photos)
        photos.push_back({p.photo, 0, Damage::refuse});
    const auto timed = [](const auto& work) {
        const auto start = std::chrono::steady_clock::now();
        work();
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    };
    const Originals source;
    const double bare = timed([&] {
        tbb::parallel_for(std::size_t(0), photos.size(), [&](std::size_t i) {
            (void)source.pixels(*photos[i].photo, {480, 320}, Damage::refuse);
        });
    });
    const double measured = timed([&] {
        (void)brightness_of_all(small_photos(photos, {}, measuring_side(photos.size()), source, {}), {}, {}, {});
    });
    std::cout << "brightness of " << photos.size() << " photos of 24 megapixels: " << measured / bare
              << " of the bare down-scaled decode (aim: at most 1.3)\n";
}

}
