#include "core/steps/tone/operations.h"

#include "core/base/smoothing.h"
#include "core/picture/turned.h"
#include "core/project/with_shot.h"
#include "core/steps/tone/seen_before_tone.h"
#include "core/steps/tone/tone_blend.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

constexpr int measuring_side = 240;
constexpr double darkest = 1.0 / 512; ///< what is darker counts as this

std::int64_t stands_for(const StageValues& stages)
{
    return std::int64_t(std::uint32_t(hash_value(stages)));
}

double mean_stops(const Canvas& canvas)
{
    double sum = 0, alpha = 0;
    for (const cv::Vec4f& p : canvas) {
        sum += 0.0722 * p[0] + 0.7152 * p[1] + 0.2126 * p[2];
        alpha += p[3];
    }
    return std::log2(std::max(alpha > 0 ? sum / alpha : 0, darkest));
}

/// What was measured of a photo; nothing of one that cannot be read.
struct Measured
{
    ToneLight light;
    double toned = 0;
};

std::optional<Measured> measured(const SeenPhoto& seen, const StageValues& stages, const Tone& tone,
                                 const PhotoSource& source)
{
    const auto before = seen.photo->size.empty() ? Result<Canvas>(tl::unexpected(Problem()))
                                                 : small_before_tone(seen, stages, measuring_side, source);
    if (!before)
        return std::nullopt;
    return Measured{{mean_stops(*before), stands_for(stages)}, mean_stops(toned(*before, tone))};
}

/// All photos in the film.
std::vector<std::optional<Measured>> measured_all(const Shot& shot, const ToMeasure& photos, const PhotoSource& source,
                                                  const Job& job)
{
    const std::vector<Tone> tones = tones_of(shot);
    std::vector<std::optional<Measured>> results(photos.at.size());
    std::atomic<std::size_t> done = 0;
    tbb::parallel_for(std::size_t(0), results.size(), [&](std::size_t i) {
        if (job.stopping())
            return;
        results[i] =
            measured(photos.photos[i], stages_before_tone(shot, photos.at[i]), tones[photos.at[i].at()], source);
        job.report(double(++done) / double(results.size()),
                   "photo " + std::to_string(done) + " of " + std::to_string(results.size()));
    });
    job.check();
    return results;
}

}

Operation measure_tone_light(const Project& project, ShotIndex shot)
{
    return [before = project.shots.at(shot.at())](const PhotoSource& source, const Job& job) -> Edit {
        const ToMeasure photos = to_measure(*before);
        return [=, id = before->id, results = measured_all(*before, photos, source, job)](const Project& now) {
            return with_shot(now, find_measured(now, id), [&](Shot& s) {
                for (const auto& [place, photo] : photos.still_in(s))
                    if (results[place])
                        s.photos.edit(photo.at()).steps.set(results[place]->light);
            });
        };
    };
}

ToneFigures tone_figures(const Shot& shot, const PhotoSource& source, const Job& job)
{
    std::vector<double> plain, toned;
    for (const auto& m : measured_all(shot, to_measure(shot), source, job))
        if (m) {
            plain.push_back(m->light.stops);
            toned.push_back(m->toned);
        }
    return {flicker_of(plain), flicker_of(toned)};
}

std::int64_t tone_light_missing(const Shot& shot)
{
    const auto shown = in_film(shot);
    std::int64_t missing = 0;
    for (std::size_t i = 0; i < shown.size(); ++i) {
        const auto* light = shot.photos[i].steps.find<ToneLight>();
        missing +=
            shown[i] && !(light && light->seen == stands_for(stages_before_tone(shot, PhotoIndex(std::int64_t(i)))));
    }
    return missing;
}

WhitePoint white_at(const Shot& shot, PhotoIndex photo, cv::Point pixel, const PhotoSource& source)
{
    constexpr int around = 2;
    const SeenPhoto seen = seen_photo(shot.photos.at(photo.at()));
    const cv::Size whole = turned(seen.photo->size, seen.turns);
    const cv::Rect part =
        cv::Rect(pixel.x - around, pixel.y - around, 2 * around + 1, 2 * around + 1) & cv::Rect({0, 0}, whole);
    if (part.empty())
        throw Failure({"there is no such place in the photo, which is " + std::to_string(whole.width) + " x " +
                           std::to_string(whole.height) + " pixels",
                       seen.photo->file, "Say a place in it"});
    FrameRequest request = request_before_tone(seen, stages_before_tone(shot, photo), part.size());
    std::get<PlacedPhoto>(request.parts.front().what).placement = Placement{.plane = whole, .crop = part};
    const auto canvas = render_canvas(request, source);
    if (!canvas)
        throw Failure(canvas.error());
    const cv::Scalar mean = cv::mean(*canvas);
    const auto white = white_point({mean[0], mean[1], mean[2]});
    if (!white)
        throw Failure({"this place of the photo is black, so that it has no colour", seen.photo->file,
                       "Choose something grey that is lit"});
    return *white;
}

std::vector<AnchorSuggestion> suggested_anchors(const Shot& shot)
{
    using Why = AnchorSuggestion::Why;
    const auto shown = in_film(shot);
    std::vector<AnchorSuggestion> all;
    std::optional<PhotoIndex> first, last, dark, bright;
    const auto stops = [&](PhotoIndex p) { return shot.photos[p.at()].steps.find<ToneLight>()->stops; };
    for (std::size_t i = 0; i < shown.size(); ++i) {
        if (!shown[i])
            continue;
        const PhotoIndex here(static_cast<std::int64_t>(i));
        first = first ? first : here;
        last = here;
        if (!shot.photos[i].steps.has<ToneLight>())
            continue;
        dark = dark && stops(*dark) <= stops(here) ? dark : here;
        bright = bright && stops(*bright) >= stops(here) ? bright : here;
    }
    for (const auto& one : {std::pair(dark, Why::darkest), std::pair(bright, Why::brightest),
                            std::pair(first, Why::first), std::pair(last, Why::last)}) {
        const auto known = [&](const AnchorSuggestion& s) { return s.photo == *one.first; };
        if (one.first && std::none_of(all.begin(), all.end(), known))
            all.push_back({*one.first, one.second});
    }
    std::sort(all.begin(), all.end(),
              [](const AnchorSuggestion& a, const AnchorSuggestion& b) { return a.photo < b.photo; });
    return all;
}

}
