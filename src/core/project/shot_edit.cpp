#include "core/project/shot_edit.h"

#include <unordered_map>

namespace frenlo {

namespace {

/// Moved or renamed, it is still the same photo.
bool same_content(const PhotoFile& a, const PhotoFile& b)
{
    return a.bytes == b.bytes && a.size == b.size && a.orientation == b.orientation && a.fingerprint == b.fingerprint &&
           a.picture == b.picture && a.averaged == b.averaged && a.merged == b.merged &&
           (!a.fingerprint.empty() || (a.file == b.file && a.modified_ns == b.modified_ns));
}

}

bool ShotEdit::lies_as_before(std::size_t photo) const
{
    const ShotPhoto* old = photo_before(photo);
    return old && old->turns == now.photos[photo].turns && old->photo->size == now.photos[photo].photo->size;
}

bool ShotEdit::seen_as_before(std::size_t photo) const
{
    return lies_as_before(photo) && (photo_before(photo)->photo == now.photos[photo].photo ||
                                     same_content(*photo_before(photo)->photo, *now.photos[photo].photo));
}

void follow_edit(const Shot& before, Shot& now)
{
    ShotEdit edit{before, now, {}};
    const std::size_t count = now.photos.size();
    edit.was.reserve(count);
    // Most edits leave all photos where they are.
    for (std::size_t i = 0; i < count && i < before.photos.size(); ++i) {
        if (now.photos.shared(i) != before.photos.shared(i) && now.photos[i].id != before.photos[i].id)
            break;
        edit.was.emplace_back(i);
    }
    if (edit.was.size() < count) {
        std::unordered_map<PhotoId, std::size_t> place;
        for (std::size_t k = 0; k < before.photos.size(); ++k)
            place.emplace(before.photos[k].id, k);
        while (edit.was.size() < count) {
            const auto at = place.find(now.photos[edit.was.size()].id);
            edit.was.push_back(at == place.end() ? std::nullopt : std::optional(at->second));
        }
    }
    follow_by_steps(edit);
}

}
