#pragma once
#include "core/base/natural_spline.h"
#include "core/steps/layers/layer_values.h"

namespace frenlo {

/// The way of a layer through its keys: straight from one to the next, each way eased as its key says; or, curved, the
/// natural cubic spline through all of them, walked in the same time. Before the first key it stays; behind the last it
/// does what movement_end says.
class LayerMovement
{
public:
    explicit LayerMovement(const Layer& layer);
    /// seconds: of the film.
    [[nodiscard]] LayerKey at(double seconds) const;

private:
    static constexpr std::size_t values = 5; ///< x, y, size, turn, opacity
    [[nodiscard]] double within(double seconds) const;

    std::vector<double> times_;
    std::vector<Ease> eases_;
    std::vector<std::array<double, values>> points_;
    NaturalSpline<values> spline_;
    bool curved_ = false;
    MovementEnd end_ = MovementEnd::stays;
};

}
