#include "tests/support/photos.h"

#include "core/source/decode.h"
#include "core/source/transfer.h"
#include "core/steps/sort/scan.h"

#include <exiv2/exiv2.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <stdexcept>
#include <sys/wait.h>

namespace frenlo::test {

cv::Mat painted(cv::Size size, int seed)
{
    cv::RNG rng(std::uint64_t(seed) * 2654435761u + 7);
    cv::Mat m(size, CV_8UC3, cv::Scalar(rng.uniform(40, 200), rng.uniform(40, 200), rng.uniform(40, 200)));
    for (int i = 0; i < 6; ++i)
        cv::circle(m, {rng.uniform(0, size.width), rng.uniform(0, size.height)},
                   rng.uniform(2, std::max(3, size.height / 3)),
                   cv::Scalar(rng.uniform(0, 255), rng.uniform(0, 255), rng.uniform(0, 255)), cv::FILLED, cv::LINE_AA);
    if (size.width > 8)
        cv::GaussianBlur(m, m, {}, 1.2);
    return m;
}

const cv::Mat& real_scene()
{
    static const cv::Mat scene = [] {
        cv::Mat m = cv::imread("/usr/share/doc/opencv-doc/examples/data/aloeL.jpg");
        if (m.empty())
            throw std::runtime_error("opencv-doc is not installed");
        return m;
    }();
    return scene;
}

cv::Matx33d turned_by(double degrees, double size, cv::Point2d shift, cv::Point2d middle)
{
    const double a = size * std::cos(degrees * CV_PI / 180), b = size * std::sin(degrees * CV_PI / 180);
    return {a, -b, middle.x - a * middle.x + b * middle.y + shift.x,
            b, a,  middle.y - b * middle.x - a * middle.y + shift.y,
            0, 0,  1};
}

cv::Mat photo_of_scene(const cv::Matx33d& t, cv::Size size)
{
    constexpr int margin = 150;
    const cv::Matx33d into(1, 0, margin, 0, 1, margin, 0, 0, 1);
    cv::Mat out;
    cv::warpPerspective(real_scene(), out, into * t.inv(), size, cv::INTER_LANCZOS4 | cv::WARP_INVERSE_MAP,
                        cv::BORDER_REFLECT);
    return out;
}

cv::Mat with_noise(const cv::Mat& m, double sigma, std::uint64_t seed)
{
    cv::RNG random(seed);
    cv::Mat grain(m.size(), CV_16SC3), sum;
    random.fill(grain, cv::RNG::NORMAL, 0, sigma);
    m.convertTo(sum, CV_16S);
    sum += grain;
    cv::Mat out;
    sum.convertTo(out, CV_8U);
    return out;
}

double largest_shift(const std::vector<cv::Mat>& pictures)
{
    double most = 0;
    cv::Mat first, window;
    for (const cv::Mat& picture : pictures) {
        cv::Mat grey;
        cv::cvtColor(picture, grey, cv::COLOR_BGR2GRAY);
        grey.convertTo(grey, CV_64F);
        if (first.empty()) {
            first = grey;
            cv::createHanningWindow(window, grey.size(), CV_64F);
        }
        const cv::Point2d shift = cv::phaseCorrelate(first, grey, window);
        most = std::max(most, std::hypot(shift.x, shift.y));
    }
    return most;
}

cv::Mat in_light(const std::array<double, 3>& stops, cv::Size size)
{
    cv::Mat small, out(size, CV_8UC3);
    cv::resize(real_scene()(cv::Rect(100, 100, 900, 600)), small, size, 0, 0, cv::INTER_AREA);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            for (int c = 0; c < 3; ++c)
                out.at<cv::Vec3b>(y, x)[c] = cv::saturate_cast<std::uint8_t>(
                    encoded_of(std::min(1.0, linear_of(small.at<cv::Vec3b>(y, x)[c] / 255.0) *
                                                 std::exp2(stops[std::size_t(2 - c)]))) *
                    255);
    return out;
}

cv::Mat in_light(double stops, cv::Size size)
{
    return in_light(std::array{stops, stops, stops}, size);
}

std::vector<double> seconds_of(std::size_t photos)
{
    std::vector<double> s;
    for (std::size_t i = 0; i < photos; ++i)
        s.push_back(double(i) / 24);
    return s;
}

Result<cv::Mat> InMemory::pixels(const PhotoFile& photo, cv::Size, Damage) const
{
    const cv::Mat& m = pictures_.at(std::stoul(photo.file.filename().native()));
    if (m.empty())
        return problem("the photo cannot be read", photo.file);
    return m;
}

std::vector<SeenPhoto> InMemory::photos(const std::vector<Exposure>& exposures) const
{
    std::vector<SeenPhoto> seen;
    for (std::size_t i = 0; i < pictures_.size(); ++i) {
        auto file = std::make_shared<PhotoFile>();
        file->file = std::to_string(i);
        if (!exposures.empty())
            file->exposure = exposures.at(i);
        file->size = pictures_[i].empty() ? cv::Size(900, 600) : pictures_[i].size();
        seen.push_back({file, 0, Damage::refuse});
    }
    return seen;
}

void write_jpeg(const std::filesystem::path& file, const cv::Mat& pixels, const std::optional<ExifWish>& wish,
                int quality)
{
    write_bytes(file, encode_jpeg(pixels, quality));
    if (!wish)
        return;
    const auto image = Exiv2::ImageFactory::open(file.native());
    Exiv2::ExifData exif;
    exif["Exif.Image.Orientation"] = std::uint16_t(wish->orientation);
    if (!wish->date_time.empty())
        exif["Exif.Photo.DateTimeOriginal"] = wish->date_time;
    if (!wish->sub_seconds.empty())
        exif["Exif.Photo.SubSecTimeOriginal"] = wish->sub_seconds;
    if (!wish->camera.empty())
        exif["Exif.Image.Model"] = wish->camera;
    if (wish->thumbnail) {
        cv::Mat small;
        cv::resize(pixels, small, {160, 120});
        const std::string bytes = encode_jpeg(small, 80);
        Exiv2::ExifThumb(exif).setJpegThumbnail(reinterpret_cast<const Exiv2::byte*>(bytes.data()), long(bytes.size()));
    }
    image->setExifData(exif);
    image->writeMetadata();
}

void write_picture(const std::filesystem::path& file, const cv::Mat& pixels)
{
    std::filesystem::create_directories(file.parent_path());
    if (!cv::imwrite(file.native(), pixels))
        throw std::runtime_error("cannot write " + file.native());
}

void write_bytes(const std::filesystem::path& file, std::string_view bytes)
{
    std::filesystem::create_directories(file.parent_path());
    std::ofstream(file, std::ios::binary).write(bytes.data(), std::streamsize(bytes.size()));
}

std::string read_bytes(const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

void write_run(const std::filesystem::path& folder, const std::string& name, int count, cv::Size size)
{
    for (int i = 1; i <= count; ++i) {
        std::array<char, 64> text{};
        std::snprintf(text.data(), text.size(), "2026:05:03 10:%02d:%02d", i / 60 % 60, i % 60);
        std::array<char, 32> number{};
        std::snprintf(number.data(), number.size(), "_%04d.jpg", i);
        write_jpeg(folder / (name + number.data()), painted(size, i), ExifWish{text.data(), "", 1, false});
    }
}

PhotoPtr scanned(const std::filesystem::path& file)
{
    const std::array places{file.parent_path()};
    for (const auto& found : scan(places, {}, {}).photos)
        if (found.photo->file == file)
            return found.photo;
    throw std::runtime_error("scan does not find " + file.native());
}

std::string output_of(const std::string& command, int* status)
{
    FILE* pipe = popen(command.c_str(), "r");
    if (!pipe)
        throw std::runtime_error("cannot run " + command);
    std::string out;
    std::array<char, 4096> part{};
    for (std::size_t n = 0; (n = std::fread(part.data(), 1, part.size(), pipe)) > 0;)
        out.append(part.data(), n);
    const int result = pclose(pipe);
    if (status)
        *status = WIFEXITED(result) ? WEXITSTATUS(result) : 128 + WTERMSIG(result);
    return out;
}

std::string quoted(const std::string& text)
{
    std::string out = "'";
    for (const char c : text)
        out += c == '\'' ? std::string("'\\''") : std::string(1, c);
    return out + "'";
}

}
