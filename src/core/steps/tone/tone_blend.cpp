#include "core/steps/tone/tone_blend.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace frenlo {

double monotone_cubic(std::span<const double> x, std::span<const double> y, double at)
{
    const std::size_t n = x.size();
    if (n == 1 || at <= x.front())
        return y.front();
    if (at >= x.back())
        return y.back();
    const auto i = std::size_t(std::upper_bound(x.begin(), x.end(), at) - x.begin()) - 1;
    const auto secant = [&](std::size_t k) { return (y[k + 1] - y[k]) / (x[k + 1] - x[k]); };
    // Fritsch, Butland 1984: a weighted harmonic mean is at most twice the flatter of the two.
    const auto slope = [&](std::size_t k) {
        if (k == 0 || k + 1 == n)
            return secant(k == 0 ? 0 : n - 2);
        const double before = secant(k - 1), behind = secant(k);
        if (before * behind <= 0)
            return 0.0;
        const double a = 2 * (x[k + 1] - x[k]) + (x[k] - x[k - 1]), b = (x[k + 1] - x[k]) + 2 * (x[k] - x[k - 1]);
        return std::copysign(std::min((a + b) / (a / std::abs(before) + b / std::abs(behind)),
                                      2 * std::min(std::abs(before), std::abs(behind))),
                             before);
    };
    const double h = x[i + 1] - x[i], t = (at - x[i]) / h;
    const double t2 = t * t, t3 = t2 * t;
    return (2 * t3 - 3 * t2 + 1) * y[i] + (t3 - 2 * t2 + t) * h * slope(i) + (3 * t2 - 2 * t3) * y[i + 1] +
           (t3 - t2) * h * slope(i + 1);
}

namespace {

/// Calls with each value of a tone.
template <class Visit>
void each_value(const Visit& visit)
{
    Fields<Tone>::table.apply([&](const auto&... f) { (visit(f.member), ...); });
}

/// Where in the film each photo comes; those that are not in it take the place of the next.
std::vector<double> places_in_film(const Shot& shot)
{
    const auto shown = in_film(shot);
    std::vector<double> places;
    double place = 0;
    for (const bool here : shown) {
        places.push_back(place);
        place += here;
    }
    return places;
}

/// How bright each photo is; between those that were measured what lies between. Empty where none was.
std::vector<double> light_of_all(const Shot& shot)
{
    std::vector<double> x, y, all;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (const auto* light = shot.photos[i].steps.find<ToneLight>()) {
            x.push_back(double(i));
            y.push_back(light->stops);
        }
    for (std::size_t i = 0; !x.empty() && i < shot.photos.size(); ++i)
        all.push_back(monotone_cubic(x, y, double(i)));
    return all;
}

/// Tone by a place: time or light.
class Course
{
public:
    void add(double at, const Tone& tone)
    {
        Sum& sum = knots_[at];
        each_value([&](auto value) { sum.tone.*value += stored(value, tone.*value); });
        ++sum.count;
    }
    void close()
    {
        for (const auto& [at, sum] : knots_)
            x_.push_back(at);
        each_value([&](auto value) {
            std::vector<double>& y = y_.emplace_back();
            for (const auto& [at, sum] : knots_)
                y.push_back(sum.tone.*value / sum.count);
        });
    }
    [[nodiscard]] Tone at(double place) const
    {
        Tone tone;
        auto y = y_.begin();
        each_value([&](auto value) { tone.*value = stored(value, monotone_cubic(x_, *y++, place)); });
        return tone;
    }

private:
    struct Sum
    {
        Tone tone{0, 0, 0, 0, 0, 0, 0, 0, 0};
        double count = 0;
    };
    /// Even steps of the reciprocal temperature are about even steps of colour; its own inverse.
    static double stored(ToneValue value, double v) { return value == &Tone::warmth ? 1 / v : v; }

    std::map<double, Sum> knots_;
    std::vector<double> x_;
    std::vector<std::vector<double>> y_; ///< value by value
};

struct Blended
{
    Course course;
    std::vector<double> places;
};

Blended blended(const Shot& shot, const std::vector<PhotoIndex>& anchors)
{
    Blended b;
    if (toning_of(shot) && toning_of(shot)->blend == ToneBlend::light)
        b.places = light_of_all(shot);
    if (b.places.empty())
        b.places = places_in_film(shot);
    for (const PhotoIndex a : anchors)
        b.course.add(b.places[a.at()], anchor_of(shot.photos[a.at()])->tone);
    b.course.close();
    return b;
}

Tone tone_without_blend(const Shot& shot, const std::vector<PhotoIndex>& anchors)
{
    if (!anchors.empty())
        return anchor_of(shot.photos[anchors.front().at()])->tone;
    return toning_of(shot) ? toning_of(shot)->tone : Tone();
}

}

std::vector<PhotoIndex> anchors_of(const Shot& shot)
{
    std::vector<PhotoIndex> anchors;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (anchor_of(shot.photos[i]))
            anchors.push_back(PhotoIndex(std::int64_t(i)));
    return anchors;
}

std::vector<Tone> tones_of(const Shot& shot)
{
    const auto anchors = anchors_of(shot);
    std::vector<Tone> tones(shot.photos.size(), tone_without_blend(shot, anchors));
    if (anchors.size() < 2)
        return tones;
    const auto b = blended(shot, anchors);
    for (std::size_t i = 0; i < tones.size(); ++i)
        tones[i] = anchor_of(shot.photos[i]) ? anchor_of(shot.photos[i])->tone : b.course.at(b.places[i]);
    return tones;
}

Tone tone_of(const Shot& shot, PhotoIndex photo)
{
    if (const ToneAnchor* anchor = anchor_of(shot.photos[photo.at()]))
        return anchor->tone;
    const auto anchors = anchors_of(shot);
    if (anchors.size() < 2)
        return tone_without_blend(shot, anchors);
    const auto b = blended(shot, anchors);
    return b.course.at(b.places[photo.at()]);
}

}
