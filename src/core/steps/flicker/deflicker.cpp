#include "core/steps/flicker/deflicker.h"

#include "core/steps/flicker/explained_flicker.h"
#include "core/steps/flicker/exposure_steps.h"
#include "core/steps/flicker/flicker_kind.h"
#include "core/steps/flicker/light_steps.h"
#include "core/steps/flicker/trend.h"

#include <algorithm>
#include <cmath>
#include <utility>

namespace frenlo {

namespace {

std::vector<std::size_t> those_measured(std::span<const Brightness> photos)
{
    std::vector<std::size_t> measured;
    for (std::size_t i = 0; i < photos.size(); ++i)
        if (!photos[i].empty())
            measured.push_back(i);
    return measured;
}

CommonBrightness shared_of(std::span<const Brightness> photos, const std::vector<std::size_t>& measured,
                           const Sharing& sharing)
{
    std::vector<const Brightness*> seen;
    seen.reserve(measured.size());
    for (const std::size_t i : measured)
        seen.push_back(&photos[i]);
    return common_brightness(seen, sharing);
}

/// A step that was found, by position among the measured photos.
struct Found
{
    std::size_t at = 0;
    LightJump jump;
    double taken_out = 0; ///< stops, where it is not kept
};

/// What was decided about a step before; else what is usual.
bool kept(const DeflickerOptions& options, std::size_t photo, LightJump::Cause cause, bool usually)
{
    for (const LightStep& decided : options.steps)
        if (decided.photo == photo && decided.jump.cause == cause)
            return decided.jump.kept;
    return usually;
}

/// Takes what happens at a step off all photos from there on.
void level_off(std::vector<double>& y, std::size_t from, double stops)
{
    for (std::size_t k = from; k < y.size(); ++k)
        y[k] -= stops;
}

class DeflickerFit
{
public:
    DeflickerFit(std::span<const Brightness> photos, std::span<const double> seconds,
                 std::span<const std::optional<double>> exposures, const DeflickerOptions& options)
        : photos_(photos), options_(options), measured_(those_measured(photos))
    {
        for (const std::size_t i : measured_) {
            x_.push_back(seconds[i]);
            exposures_.push_back(i < exposures.size() ? exposures[i] : std::nullopt);
        }
    }

    DeflickerCurve result()
    {
        DeflickerCurve curve;
        curve.measured = measured_;
        for (const Brightness& b : photos_)
            curve.photos.push_back({.stops = b.stops, .target = b.stops, .correction = {}});
        if (measured_.size() < 3)
            return curve;
        choose(curve);
        find_steps();
        for (const Found& f : found_)
            curve.steps.push_back({measured_[f.at], f.jump});
        std::vector<std::size_t> breaks{0};
        for (const Found& f : found_)
            if (f.jump.cause == LightJump::Cause::scene || f.jump.kept)
                breaks.push_back(f.at);
        breaks.push_back(measured_.size());
        breaks_ = std::move(breaks);
        const Trend slow = trend_of(level_);
        curve.window_s = slow.window_s();
        correct(slow, curve);
        mark_outliers(slow, curve);
        return curve;
    }

private:
    /// What is seen of the photos together, the kind of flicker, and what is corrected.
    void choose(DeflickerCurve& curve)
    {
        const auto share = [&](bool by_place) {
            shared_ = shared_of(photos_, measured_, {options_.leave_out_moving, by_place});
        };
        share(options_.by_place.value_or(false));
        FlickerKind& kind = curve.kind = flicker_kind(shared_, exposures_);
        // Lights lie in one part of the picture: what is left of the tones beside the places says which of the two it
        // is.
        if (kind.by_place && kind.tones != FlickerKind::Tones::all && !options_.by_place) {
            share(true);
            kind.by_place = flicker_kind(shared_, exposures_).tones == FlickerKind::Tones::all;
            if (kind.by_place)
                kind.tones = FlickerKind::Tones::all;
            share(false);
        }
        const Corrected suits = what_suits(curve.kind);
        does_ = curve.corrected = {options_.each_colour.value_or(suits.each_colour),
                                   options_.by_tone.value_or(suits.by_tone), options_.by_place.value_or(suits.by_place),
                                   options_.camera_steps.value_or(suits.camera_steps)};
        if (does_.by_place && !options_.by_place)
            share(true);
    }

    /// How much of the luminance's flicker tones and colours tell by what they differ by from each other: light that
    /// changes is in all of them alike. Where only the highlights flicker, the darks show the light as it is.
    [[nodiscard]] std::vector<double> told_by_differences() const
    {
        std::vector<std::vector<double>> differences;
        if (does_.by_tone)
            differences = shared_.by_tone;
        for (std::size_t c = 0; does_.each_colour && c < 2; ++c) { // the third follows from the two
            differences.push_back(shared_.colours[c]);
            for (std::size_t k = 0; k < differences.back().size(); ++k)
                differences.back()[k] -= shared_.luminance[k];
        }
        for (auto& d : differences)
            d = quick(trend_of(d), d);
        return explained_flicker(shared_.luminance, differences);
    }

    [[nodiscard]] Trend trend_of(std::span<const double> y) const { return {x_, y, breaks_, options_.window_s}; }

    /// level_: the luminance without what the camera's settings did and what is known to be flicker; the slow course is
    /// seen on it.
    void find_steps()
    {
        breaks_ = {0, measured_.size()};
        told_ = told_by_differences();
        level_ = shared_.luminance;
        for (std::size_t k = 0; k < level_.size(); ++k)
            level_[k] -= told_[k];
        if (does_.camera_steps)
            for (const CameraStep& s : camera_steps(x_, level_, exposures_)) {
                const bool stays = kept(options_, measured_[s.photo], LightJump::Cause::camera, false);
                found_.push_back({s.photo, {s.set, LightJump::Cause::camera, stays}, stays ? 0 : s.true_stops});
                level_off(level_, s.photo, s.true_stops);
            }
        const std::vector<double> without_settings = level_;
        for (const std::size_t k : sudden_steps(x_, without_settings)) {
            if (std::any_of(found_.begin(), found_.end(), [&](const Found& f) { return f.at == k; }))
                continue;
            found_.push_back({k, {0, LightJump::Cause::scene, true}, 0});
        }
        std::sort(found_.begin(), found_.end(), [](const Found& a, const Found& b) { return a.at < b.at; });
        size_scene_steps();
        for (const Found& f : found_) // those of the camera that stay are steps of the film
            if (f.jump.cause == LightJump::Cause::camera && f.jump.kept)
                level_off(level_, f.at, -f.jump.stops);
    }

    /// How large they are, by the slow courses on both sides; those that the camera made are told apart.
    void size_scene_steps()
    {
        std::vector<std::size_t> breaks{0};
        for (const Found& f : found_)
            if (f.jump.cause == LightJump::Cause::scene)
                breaks.push_back(f.at);
        breaks.push_back(measured_.size());
        const auto slow = Trend(x_, level_, breaks, options_.window_s).of(level_);
        for (Found& f : found_) {
            if (f.jump.cause != LightJump::Cause::scene)
                continue;
            f.jump.stops = slow[f.at] - slow[f.at - 1];
            const bool by_exif = exposures_[f.at] && exposures_[f.at - 1];
            if (does_.camera_steps && !by_exif &&
                looks_like_settings(photos_[measured_[f.at - 1]], photos_[measured_[f.at]], f.jump.stops))
                f.jump.cause = LightJump::Cause::camera;
            f.jump.kept = kept(options_, measured_[f.at], f.jump.cause, f.jump.cause == LightJump::Cause::scene);
            if (!f.jump.kept)
                f.taken_out = f.jump.stops;
            if (f.jump.cause == LightJump::Cause::camera)
                level_off(level_, f.at, f.jump.stops);
        }
    }

    /// How much of steps is in this photo and goes.
    [[nodiscard]] double taken_out(std::size_t at) const
    {
        double stops = 0;
        for (const Found& f : found_)
            stops += f.at <= at ? f.taken_out : 0;
        return stops;
    }

    /// What is quicker than the slow course.
    [[nodiscard]] static std::vector<double> quick(const Trend& slow, const std::vector<double>& y)
    {
        std::vector<double> left = slow.of(y);
        for (std::size_t k = 0; k < y.size(); ++k)
            left[k] = y[k] - left[k];
        return left;
    }

    /// What is quick of what some tones or a colour differ by from another: light that changes is in both and counts
    /// for nothing here, so that their difference has a slow course of its own, far calmer than the light's.
    [[nodiscard]] std::vector<double> quick_beside(std::vector<double> y, const std::vector<double>& other) const
    {
        for (std::size_t k = 0; k < y.size(); ++k)
            y[k] -= other[k];
        return quick(trend_of(y), y);
    }

    void correct(const Trend& slow, DeflickerCurve& curve)
    {
        const auto gain_of = [&](double quick, std::size_t k) { return -(options_.strength * quick + taken_out(k)); };
        curve.aim = shared_;
        luminance_ = quick(slow, level_);
        for (std::size_t k = 0; k < luminance_.size(); ++k)
            luminance_[k] += told_[k];
        for (std::size_t k = 0; k < measured_.size(); ++k) {
            LightChange& change = curve.photos[measured_[k]];
            const double gain = gain_of(luminance_[k], k);
            change.stops = shared_.luminance[k];
            change.correction.gain = {gain, gain, gain};
            change.steps = -taken_out(k);
            change.target = change.stops + gain;
            curve.aim.luminance[k] += gain;
        }
        for (std::size_t c = 0; does_.each_colour && c < 3; ++c) {
            const auto beside = quick_beside(shared_.colours[c], shared_.luminance);
            for (std::size_t k = 0; k < measured_.size(); ++k) {
                const double gain = gain_of(luminance_[k] + beside[k], k);
                curve.photos[measured_[k]].correction.gain[c] = gain;
                curve.aim.colours[c][k] += gain;
            }
        }
        for (std::size_t n = 0; does_.by_tone && n < shared_.by_tone.size(); ++n)
            even_node(quick(trend_of(shared_.by_tone[n]), shared_.by_tone[n]), curve.aim.by_tone[n],
                      &Correction::by_tone, curve);
        for (std::size_t n = 0; does_.by_place && n < shared_.by_place.size(); ++n) // light goes over places, too
            even_node(quick(slow, shared_.by_place[n]), curve.aim.by_place[n], &Correction::by_place, curve);
    }

    void even_node(const std::vector<double>& left, std::vector<double>& aim, std::vector<double> Correction::*where,
                   DeflickerCurve& curve) const
    {
        for (std::size_t k = 0; k < measured_.size(); ++k) {
            const double gain = -options_.strength * left[k];
            (curve.photos[measured_[k]].correction.*where).push_back(gain);
            aim[k] += gain;
        }
    }

    /// All of it, or a large part of it.
    void mark_outliers(const Trend& slow, DeflickerCurve& curve) const
    {
        const auto mark = [&](const std::vector<double>& left) {
            std::vector<double> off;
            off.reserve(left.size());
            for (const double l : left)
                off.push_back(std::abs(l));
            const double usual = std::max(0.02, 1.4826 * middle_of(off)), limit = std::max(0.3, 5 * usual);
            constexpr std::ptrdiff_t around = 3,
                                     most = 2; // what lasts longer is a cloud, or somebody who walks through
            for (auto k = off.begin(); k != off.end(); ++k) {
                const auto from = off.begin() + std::max<std::ptrdiff_t>(0, k - off.begin() - around),
                           to = k + std::min(off.end() - k, around + 1);
                if (*k > limit && std::count_if(from, to, [&](double o) { return o > limit; }) <= most)
                    curve.photos[measured_[std::size_t(k - off.begin())]].outlier = true;
            }
        };
        mark(luminance_);
        for (const auto& place : shared_.by_place)
            mark(quick(slow, place));
    }

    std::span<const Brightness> photos_;
    const DeflickerOptions& options_;
    std::vector<std::size_t> measured_;
    std::vector<double> x_;
    std::vector<std::optional<double>> exposures_;
    CommonBrightness shared_;
    Corrected does_;
    std::vector<double> told_; ///< of the luminance's flicker, by differences that light has no part in
    std::vector<double> level_;
    std::vector<Found> found_;
    std::vector<std::size_t> breaks_; ///< where the light is another one at once: their photos, 0, one past the last
    std::vector<double> luminance_;   ///< what is quick of it
};

/// Steps are no flicker: what they make is taken off. as_shot: before what is not kept went.
FlickerFigures figures_of(const CommonBrightness& shared, const DeflickerCurve& curve, bool as_shot)
{
    std::vector<double> luminance = shared.luminance;
    for (const LightStep& s : curve.steps) {
        const auto from =
            std::lower_bound(curve.measured.begin(), curve.measured.end(), s.photo) - curve.measured.begin();
        if (as_shot || s.jump.kept)
            level_off(luminance, std::size_t(from), s.jump.stops);
    }
    const auto of_nodes = [](const std::vector<std::vector<double>>& nodes) {
        double squares = 0;
        for (const auto& n : nodes)
            squares += std::pow(flicker_of(n), 2) / double(nodes.size());
        return std::sqrt(squares);
    };
    std::vector<std::vector<double>> tints;
    for (const auto& colour : shared.colours) {
        tints.push_back(colour);
        for (std::size_t k = 0; k < colour.size(); ++k)
            tints.back()[k] -= shared.luminance[k];
    }
    return {flicker_of(luminance), of_nodes(tints), of_nodes(shared.by_tone), of_nodes(shared.by_place)};
}

/// By what values miss those that they are to have; the level is not theirs to miss.
std::vector<double> missed(const std::vector<double>& now, const std::vector<double>& aim)
{
    std::vector<double> off;
    for (std::size_t k = 0; k < now.size(); ++k)
        off.push_back(now[k] - aim[k]);
    const double level = middle_of(off);
    for (double& o : off)
        o -= level;
    return off;
}

/// What is still to be corrected, and the root mean square of that, stops.
struct Rest
{
    std::vector<std::pair<double*, double>> values;
    [[nodiscard]] double size() const
    {
        double squares = 0;
        for (const auto& [value, off] : values)
            squares += off * off / double(values.size());
        return std::sqrt(squares);
    }
};

Rest rest_of(DeflickerCurve& curve, const CommonBrightness& now)
{
    const Corrected& does = curve.corrected;
    Rest rest;
    const auto take = [&](const std::vector<double>& off, const auto& value) {
        for (std::size_t k = 0; k < off.size(); ++k)
            rest.values.emplace_back(&value(curve.photos[curve.measured[k]].correction), off[k]);
    };
    for (std::size_t c = 0; c < 3; ++c)
        take(does.each_colour ? missed(now.colours[c], curve.aim.colours[c])
                              : missed(now.luminance, curve.aim.luminance),
             [c](Correction& x) -> double& { return x.gain[c]; });
    for (std::size_t n = 0; does.by_tone && n < now.by_tone.size(); ++n)
        take(missed(now.by_tone[n], curve.aim.by_tone[n]), [n](Correction& x) -> double& { return x.by_tone[n]; });
    for (std::size_t n = 0; does.by_place && n < now.by_place.size(); ++n)
        take(missed(now.by_place[n], curve.aim.by_place[n]), [n](Correction& x) -> double& { return x.by_place[n]; });
    return rest;
}

}

DeflickerCurve deflicker_curve(std::span<const Brightness> photos, std::span<const double> seconds,
                               std::span<const std::optional<double>> exposures, const DeflickerOptions& options)
{
    return DeflickerFit(photos, seconds, exposures, options).result();
}

DeflickerResult deflicker_shot(const std::vector<SeenPhoto>& photos, const std::vector<Transform>& from_film,
                               std::span<const double> seconds, const Region& region, const DeflickerOptions& options,
                               const PhotoSource& source, const Job& job)
{
    constexpr double for_reading = 0.9;
    constexpr int most_rounds = 2;
    constexpr double enough = 0.001; // stops
    const Job reading(job.token(),
                      [&](double fraction, std::string_view what) { job.report(for_reading * fraction, what); });
    const auto small = small_photos(photos, from_film, measuring_side(photos.size()), source, reading);
    std::vector<std::optional<double>> exposures;
    exposures.reserve(photos.size());
    for (const SeenPhoto& p : photos)
        exposures.push_back(exposure_stops(p.photo->exposure));
    const auto before = brightness_of_all(small, {}, region, job);
    DeflickerResult result;
    DeflickerCurve& curve = result.curve = deflicker_curve(before, seconds, exposures, options);
    for (const Brightness& b : before)
        result.after.push_back(b.stops);
    if (curve.measured.size() < 3)
        return result;
    const Sharing sharing{options.leave_out_moving, curve.corrected.by_place};
    result.before_figures = figures_of(shared_of(before, curve.measured, sharing), curve, true);
    for (int round = 0;; ++round) {
        job.report(for_reading + (1 - for_reading) * round / (most_rounds + 1), "measuring what is left");
        std::vector<Correction> corrections;
        for (const LightChange& c : curve.photos)
            corrections.push_back(c.correction);
        const auto now = brightness_of_all(small, corrections, region, job);
        const CommonBrightness shared = shared_of(now, curve.measured, sharing);
        for (std::size_t k = 0; k < curve.measured.size(); ++k)
            result.after[curve.measured[k]] = shared.luminance[k];
        result.after_figures = figures_of(shared, curve, false);
        const Rest rest = rest_of(curve, shared);
        if (round == most_rounds || rest.size() < enough)
            return result;
        for (const auto& [value, off] : rest.values)
            *value -= off;
    }
}

}
