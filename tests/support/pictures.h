#pragma once
// A shot of photos that lie in memory only.
#include "core/picture/picture.h"
#include "core/source/photo_source.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <memory>
#include <string>
#include <vector>

namespace frenlo::test {

inline constexpr ShotIndex first{0};

/// Photos in memory by number, and whatever lies on the disk.
class Pictures : public PhotoSource
{
public:
    std::vector<cv::Mat> all;
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const override
    {
        const std::string stem = photo.file.stem().string();
        if (photo.file.parent_path() != "/m")
            return originals_->pixels(photo, at_least, damage);
        return all.at(std::size_t(std::stoi(stem))).clone();
    }

private:
    std::shared_ptr<const Originals> originals_ = std::make_shared<const Originals>();
};

inline Project project_of(const Pictures& pictures)
{
    Shot shot;
    shot.name = "Pier";
    for (std::size_t i = 0; i < pictures.all.size(); ++i) {
        auto p = std::make_shared<PhotoFile>();
        p->file = "/m/" + std::to_string(i) + ".png";
        p->size = pictures.all[i].size();
        shot.photos.push_back({p, Frames{1}});
    }
    give_ids(shot);
    Project project;
    project.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return project;
}

inline cv::Mat frame(const Project& p, const PhotoSource& source, std::int64_t at, Depth depth = Depth::eight)
{
    const auto film = film_of(p, first);
    auto made = render(film->frame(FrameIndex(at), {.size = film->size(), .depth = depth, .dither = false}), source);
    REQUIRE(made);
    return *made;
}

/// A part of the real scene (Debian's opencv-doc).
inline cv::Mat texture(cv::Size size, cv::Point at)
{
    return real_scene()(cv::Rect(at, size)).clone();
}

}
