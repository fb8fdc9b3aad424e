#include "core/steps/layers/bring_picture_in.h"

#include "core/base/problem.h"
#include "core/source/inspect.h"

namespace frenlo {

Shot picture_shot(const std::filesystem::path& file)
{
    std::error_code wrong;
    const auto whole = std::filesystem::absolute(file, wrong).lexically_normal();
    if (wrong || !std::filesystem::exists(whole, wrong))
        throw Failure({"there is no such file", whole, "Look at how its name is written"});
    const Inspected seen = inspect(whole);
    if (seen.state != PhotoState::fine || !seen.photo || seen.photo->size.empty())
        throw Failure({"it is no picture that can be read", whole, "Choose another, or save it anew"});
    if (is_one_of_several(*seen.photo))
        throw Failure({"it has several pictures", whole, "Bring it in as a shot first, and add that shot as a layer"});
    Shot shot;
    shot.name = whole.stem().string();
    shot.photos.push_back({seen.photo, Frames{1}});
    return shot;
}

}
