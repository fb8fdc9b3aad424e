#include "app/work/selection.h"

#include <algorithm>

namespace frenlo::app {

void Selection::choose(PhotoIndex photo)
{
    chosen_ = {photo};
    anchor_ = current_ = photo;
}

void Selection::extend_to(PhotoIndex photo)
{
    chosen_.clear();
    for (PhotoIndex p = std::min(anchor_, photo); p <= std::max(anchor_, photo); ++p)
        chosen_.insert(p);
    current_ = photo;
}

void Selection::toggle(PhotoIndex photo)
{
    if (!chosen_.erase(photo))
        chosen_.insert(photo);
    anchor_ = current_ = photo;
}

void Selection::choose_all(std::int64_t count)
{
    chosen_.clear();
    for (std::int64_t i = 0; i < count; ++i)
        chosen_.insert(PhotoIndex(i));
}

void Selection::clear()
{
    chosen_.clear();
}

void Selection::limit(std::int64_t count)
{
    std::erase_if(chosen_, [&](PhotoIndex p) { return p.value >= count; });
    const PhotoIndex last(std::max<std::int64_t>(0, count - 1));
    anchor_ = std::min(anchor_, last);
    current_ = std::min(current_, last);
}

}
