#include "core/source/capture_gaps.h"

#include "core/source/order.h"

namespace frenlo {

std::vector<std::optional<double>> gaps_between(std::span<const PhotoPtr> photos)
{
    std::vector<std::optional<double>> gaps(photos.size());
    // Photos in reverse order have their intervals too.
    std::vector<PhotoPtr> backwards(photos.rbegin(), photos.rend());
    auto out = out_of_line(photos);
    const auto out_backwards = out_of_line(backwards);
    const bool reversed = out_backwards.size() < out.size();
    if (reversed) {
        out = out_backwards;
        for (auto& i : out)
            i = photos.size() - 1 - i;
    }
    std::vector<bool> skip(photos.size(), false);
    for (const std::size_t i : out)
        skip[i] = true;
    std::optional<std::size_t> before;
    for (std::size_t i = 0; i < photos.size(); ++i) {
        if (skip[i] || !photos[i]->captured)
            continue;
        if (before) {
            const double gap =
                double(photos[i]->captured->microseconds - photos[*before]->captured->microseconds) / 1e6;
            gaps[i] = std::abs(gap);
        }
        before = i;
    }
    return gaps;
}

}
