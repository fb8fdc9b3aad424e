#include "core/project/to_measure.h"

#include <algorithm>
#include <unordered_map>

namespace frenlo {

SeenPhoto seen_photo(const ShotPhoto& p)
{
    return {p.photo, p.turns, p.what_there_is ? Damage::accept : Damage::refuse, p.lens};
}

ToMeasure to_measure(const Shot& shot)
{
    ToMeasure m;
    for (const HeldPhoto& held : held_photos(shot)) {
        m.photos.push_back(seen_photo(shot.photos[held.photo.at()]));
        m.at.push_back(held.photo);
        m.ids.push_back(shot.photos[held.photo.at()].id);
    }
    return m;
}

namespace {

bool seen_the_same(const SeenPhoto& a, const SeenPhoto& b)
{
    return (a.photo == b.photo || *a.photo == *b.photo) && a.turns == b.turns && a.damage == b.damage &&
           a.lens == b.lens;
}

}

std::vector<std::pair<std::size_t, PhotoIndex>> ToMeasure::still_in(const Shot& now) const
{
    std::unordered_map<PhotoId, std::size_t> place;
    for (std::size_t k = 0; k < now.photos.size(); ++k)
        place.emplace(now.photos[k].id, k);
    std::vector<std::pair<std::size_t, PhotoIndex>> there;
    for (std::size_t i = 0; i < ids.size(); ++i)
        if (const auto k = place.find(ids[i]);
            k != place.end() && seen_the_same(photos[i], seen_photo(now.photos[k->second])))
            there.emplace_back(i, PhotoIndex(std::int64_t(k->second)));
    return there;
}

bool ToMeasure::same_photos(const ToMeasure& other) const
{
    return at == other.at &&
           std::equal(photos.begin(), photos.end(), other.photos.begin(), other.photos.end(), seen_the_same);
}

}
