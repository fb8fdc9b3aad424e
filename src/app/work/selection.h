#pragma once
#include "core/base/strong.h"

#include <set>
#include <span>
#include <vector>

namespace frenlo::app {

/// Which photos are selected, and the one that the keys move from. A value; photos count from 0 to count - 1.
class Selection
{
public:
    [[nodiscard]] bool contains(PhotoIndex photo) const { return chosen_.contains(photo); }
    [[nodiscard]] bool empty() const { return chosen_.empty(); }
    [[nodiscard]] std::size_t size() const { return chosen_.size(); }
    [[nodiscard]] std::vector<PhotoIndex> photos() const { return {chosen_.begin(), chosen_.end()}; }
    [[nodiscard]] PhotoIndex current() const { return current_; }
    bool operator==(const Selection&) const = default;

    /// A click or a key: only this photo.
    void choose(PhotoIndex photo);
    /// With Shift: all from the anchor, the last photo that was chosen alone or toggled, to this.
    void extend_to(PhotoIndex photo);
    /// With Ctrl: this one in or out.
    void toggle(PhotoIndex photo);
    void choose_all(std::int64_t count);
    void clear();
    /// Forgets photos from count on.
    void limit(std::int64_t count);

private:
    std::set<PhotoIndex> chosen_;
    PhotoIndex anchor_;
    PhotoIndex current_;
};

}
