#include "core/steps/layers/layer_movement.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

namespace frenlo {

void check_value(const Layer& layer)
{
    for (std::size_t i = 1; i < layer.keys.size(); ++i)
        if (!(layer.keys[i - 1].at.value < layer.keys[i].at.value))
            throw std::invalid_argument("the keys of a layer are not in order of time");
    if (layer.end && !(layer.begin.value < layer.end->value))
        throw std::invalid_argument("a layer ends before it begins");
}

void check_value(const Stroke& stroke)
{
    if (stroke.points.size() > most_stroke_points)
        throw std::invalid_argument("a stroke has too many points");
}

LayerMovement::LayerMovement(const Layer& layer) : curved_(layer.curved), end_(layer.movement_end)
{
    auto keys = layer.keys;
    if (keys.empty())
        keys.emplace_back();
    for (const LayerKey& k : keys) {
        times_.push_back(k.at.value.approx());
        eases_.push_back(k.ease);
        points_.push_back({k.x, k.y, k.size, k.turn, k.opacity});
    }
    spline_ = NaturalSpline<values>(times_, points_);
}

double LayerMovement::within(double seconds) const
{
    const double first = times_.front(), lasts = times_.back() - first;
    if (end_ == MovementEnd::stays || lasts <= 0 || seconds <= first)
        return std::clamp(seconds, first, times_.back());
    constexpr double nothing = 1e-9; // a frame that is due when a round ends begins the next one
    const double rounds = (seconds - first) / lasts + nothing;
    const double along = std::max(0.0, rounds - std::floor(rounds) - nothing) * lasts;
    const bool back = end_ == MovementEnd::there_and_back && std::fmod(std::floor(rounds), 2) == 1;
    return back ? times_.back() - along : first + along;
}

LayerKey LayerMovement::at(double seconds) const
{
    const double t = within(seconds);
    std::size_t i = 0;
    while (i + 2 < times_.size() && t >= times_[i + 1])
        ++i;
    std::array<double, values> v = points_[i];
    if (times_.size() > 1) {
        const double lasts = times_[i + 1] - times_[i], gone = eased((t - times_[i]) / lasts, eases_[i]);
        if (curved_)
            v = spline_.at(times_[i] + gone * lasts);
        else
            for (std::size_t c = 0; c < values; ++c)
                v[c] += gone * (points_[i + 1][c] - points_[i][c]);
    }
    LayerKey key;
    key.x = v[0];
    key.y = v[1];
    key.size = std::max(layer_size_limits.low, v[2]); // a spline may swing out between its keys
    key.turn = v[3];
    key.opacity = std::clamp(v[4], 0.0, 1.0);
    return key;
}

}
