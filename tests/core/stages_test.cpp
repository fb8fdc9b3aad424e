// What steps do to pictures, in their order, whoever set them.
#include "core/base/typed_values.h"
#include "core/picture/picture.h"
#include "core/picture/step_pictures.h"
#include "core/project/edits.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/steady/steady_values.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>

namespace frenlo::test {

/// Two stages that do not commute: which came first is seen.
struct Doubled
{
    int times = 1;
    bool operator==(const Doubled&) const = default;
};
struct Lifted
{
    int by = 10;
    bool operator==(const Lifted&) const = default;
};
inline std::size_t hash_value(const Doubled& d)
{
    return std::size_t(d.times);
}
inline std::size_t hash_value(const Lifted& l)
{
    return std::size_t(l.by);
}
inline cv::Mat apply_stage(const Doubled& d, const cv::Mat& picture, const cv::Rect2d&)
{
    return picture * std::pow(2, d.times);
}
inline cv::Mat apply_stage(const Lifted& l, const cv::Mat& picture, const cv::Rect2d&)
{
    return picture + cv::Scalar::all(l.by);
}

}

template <>
struct frenlo::PhotoStage<frenlo::test::Doubled>
{
    static constexpr const char* key = "doubled";
    static constexpr int order = stage_order::tone;
};
template <>
struct frenlo::PhotoStage<frenlo::test::Lifted>
{
    static constexpr const char* key = "lifted";
    static constexpr int order = stage_order::flicker - 1;
};

using namespace frenlo;
using namespace frenlo::test;

namespace {

const cv::Mat plain(4, 6, CV_8UC3, cv::Scalar(20, 40, 60));

}

TEST_CASE("stages come in their order, however they were set", "[stages]")
{
    for (const bool turned : {false, true}) {
        StageValues stages;
        if (turned)
            stages.set(Lifted{5});
        stages.set(Doubled{1});
        if (!turned)
            stages.set(Lifted{5});
        const cv::Mat out = apply_stages(stages, plain, {0, 0, 1, 1});
        CHECK(out.at<cv::Vec3b>(0, 0) == cv::Vec3b((20 + 5) * 2, (40 + 5) * 2, (60 + 5) * 2));
    }
    CHECK(plain.at<cv::Vec3b>(0, 0) == cv::Vec3b(20, 40, 60)); // what came in is not changed
}

TEST_CASE("no stage leaves a picture as it is, without a copy", "[stages]")
{
    CHECK(apply_stages({}, plain, {0, 0, 1, 1}).data == plain.data);
}

TEST_CASE("pictures with other stages are other pictures", "[stages]")
{
    PictureRequest a;
    a.photo = std::make_shared<PhotoFile>();
    PictureRequest b = a;
    CHECK(a == b);
    b.stages.set(Doubled{1});
    CHECK_FALSE(a == b);
    CHECK(hash_of(a) != hash_of(b));
    a.stages.set(Doubled{2});
    CHECK_FALSE(a == b);
    a.stages.set(Doubled{1});
    CHECK(a == b);
    CHECK(hash_of(a) == hash_of(b));
    a.stages.set(Lifted{1});
    b.stages.set(Lifted{1}); // the same two, set in the other order
    CHECK(a == b);
}

TEST_CASE("what lies in the film and what is done to its light goes into the request for its picture", "[stages]")
{
    Shot shot;
    shot.name = "s";
    for (int i = 0; i < 3; ++i) {
        auto file = std::make_shared<PhotoFile>();
        file->file = "/films/p" + std::to_string(i) + ".jpg";
        file->size = {600, 400};
        shot.photos.push_back({std::move(file), Frames{1}});
    }
    const std::array shares{Share{PhotoIndex(1)}};
    const auto request = [&](Corrections corrections = Corrections::applied) {
        return request_for_shares(shot, shares, {60, 40}, Fit::inside, corrections);
    };
    CHECK_FALSE(request().placement);
    CHECK(request().stages == StageValues());
    CHECK(film_size(shot) == cv::Size(600, 400));
    CHECK(film_transforms(shot, std::array{PhotoIndex(0), PhotoIndex(1)}).empty());

    Alignment lies;
    lies.from_film = Transform(1, 0, 7, 0, 1, -3, 0, 0, 1);
    shot.photos.edit(1).steps.set(lies);
    CHECK_FALSE(request().placement); // the shot is as shot
    shot.steps.set(Steadying{.size = {600, 400}, .crop = {10, 10, 500, 300}});
    REQUIRE(request().placement);
    CHECK(request().placement->from_film == lies.from_film);
    CHECK(request().placement->crop == cv::Rect(10, 10, 500, 300));
    CHECK(film_size(shot) == cv::Size(500, 300));
    CHECK(film_transforms(shot, std::array{PhotoIndex(0), PhotoIndex(1)}) ==
          std::vector<Transform>{Transform::eye(), lies.from_film});

    PhotoLight light;
    light.change.correction.gain = {0.1, 0.2, 0.3};
    shot.photos.edit(1).steps.set(light);
    CHECK(request().stages == StageValues());
    shot.steps.set(Deflicker());
    REQUIRE(request().stages.has<Correction>());
    CHECK(request().stages.get<Correction>().gain == Stops3{0.1, 0.2, 0.3});
    CHECK_FALSE(request(Corrections::none).stages.has<Correction>()); // in its own light, where the film has it
    CHECK(request(Corrections::none).placement);

    // A photo that its neighbours stand in for is not asked for.
    shot.photos.edit(1).steps.edit<PhotoLight>().remedy = LightRemedy::mixed;
    CHECK(standing_in(shot, PhotoIndex(1)).size() == 2);
    CHECK(standing_in(shot, PhotoIndex(0)) == std::vector<Share>{{PhotoIndex(0), 1}});
    const PictureRequest mixed = request();
    CHECK(mixed.photo == shot.photos[0].photo);
    REQUIRE(mixed.mixed_with.size() == 1);
    CHECK(mixed.mixed_with[0].photo == shot.photos[2].photo);
    CHECK(mixed.weight + mixed.mixed_with[0].weight == 1);
    CHECK(request(Corrections::none).photo == shot.photos[1].photo);
}
