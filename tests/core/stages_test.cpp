// What steps do to pictures, in their order, whoever set them.
#include "core/base/typed_values.h"
#include "core/picture/picture.h"
#include "core/picture/step_pictures.h"
#include "core/project/edits.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/retouch/healing.h"
#include "core/steps/steady/steady_values.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/requests.h"

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
inline RowStage row_stage(const Doubled& d, const StagePhoto& photo)
{
    return [times = std::exp2(float(d.times)), width = photo.size.width](int, int, int, float* p) {
        for (int i = 0; i < 4 * width; ++i)
            p[i] *= i % 4 == 3 ? 1 : times;
    };
}
inline RowStage row_stage(const Lifted& l, const StagePhoto& photo)
{
    return [by = float(l.by), width = photo.size.width](int, int, int, float* p) {
        for (int i = 0; i < 4 * width; ++i)
            p[i] += i % 4 == 3 ? 0 : by;
    };
}
/// A stage that needs the whole photo: all becomes as bright as the photo's first pixel is.
struct AsFirst
{
    bool operator==(const AsFirst&) const = default;
};
inline std::size_t hash_value(const AsFirst&)
{
    return 1;
}
inline RowStage row_stage(const AsFirst&, const StagePhoto& photo)
{
    return [first = photo.overview()(0, 0)[0]](int, int begin, int end, float* p) {
        std::fill(p, p + std::ptrdiff_t(4) * (end - begin), first);
    };
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
template <>
struct frenlo::PhotoStage<frenlo::test::AsFirst>
{
    static constexpr const char* key = "as_first";
    static constexpr int order = stage_order::tone + 1;
};

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Six pixels of light.
CanvasRows plain()
{
    return {{6, 4}, [](int, int, int, float* p) {
                for (int x = 0; x < 6; ++x, p += 4)
                    std::copy_n(std::array<float, 4>{20, 40, 60, 1}.data(), 4, p);
            }};
}

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
        std::array<float, 24> row{};
        staged(plain(), stages, part_of_plane({6, 1})).row(0, 0, 6, row.data());
        CHECK(std::vector(row.begin() + 20, row.end()) ==
              std::vector<float>{(20 + 5) * 2, (40 + 5) * 2, (60 + 5) * 2, 1});
    }
}

TEST_CASE("no stage leaves rows as they are", "[stages]")
{
    std::array<float, 24> row{}, as_it_was{};
    plain().row(0, 0, 6, as_it_was.data());
    staged(plain(), {}, part_of_plane({6, 1})).row(0, 0, 6, row.data());
    CHECK(row == as_it_was);
}

TEST_CASE("light is smoother than whole numbers after what works on all of a photo, not after healed spots", "[stages]")
{
    CHECK_FALSE(make_smooth_light({}));
    StageValues spots;
    spots.set(Healing{.marks = {HealedMark{.points = {{0.5, 0.5}}, .radius = 0.01}}});
    CHECK_FALSE(make_smooth_light(spots));
    StageValues area; // another photo's light may be carried over all of it
    area.set(Healing{.areas = {ShownArea{}}});
    CHECK(make_smooth_light(area));
    spots.set(Correction{.gain = {0.1, 0.1, 0.1}});
    CHECK(make_smooth_light(spots));
}

TEST_CASE("pictures with other stages are other pictures", "[stages]")
{
    FrameRequest a = request_of(std::make_shared<PhotoFile>(), {});
    FrameRequest b = a;
    CHECK(a == b);
    placed(b).stages.set(Doubled{1});
    CHECK_FALSE(a == b);
    CHECK(hash_of(a) != hash_of(b));
    placed(a).stages.set(Doubled{2});
    CHECK_FALSE(a == b);
    placed(a).stages.set(Doubled{1});
    CHECK(a == b);
    CHECK(hash_of(a) == hash_of(b));
    placed(a).stages.set(Lifted{1});
    placed(b).stages.set(Lifted{1}); // the same two, set in the other order
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
    CHECK_FALSE(placed(request()).placement);
    CHECK(placed(request()).stages == StageValues());
    CHECK(film_size(shot) == cv::Size(600, 400));
    CHECK(film_transforms(shot, std::array{PhotoIndex(0), PhotoIndex(1)}).empty());

    Alignment lies;
    lies.from_film = Transform(1, 0, 7, 0, 1, -3, 0, 0, 1);
    shot.photos.edit(1).steps.set(lies);
    CHECK_FALSE(placed(request()).placement); // the shot is as shot
    shot.steps.set(Steadying{.size = {600, 400}, .crop = {10, 10, 500, 300}});
    REQUIRE(placed(request()).placement);
    CHECK(placed(request()).placement->from_film == lies.from_film);
    CHECK(placed(request()).placement->crop == cv::Rect(10, 10, 500, 300));
    CHECK(film_size(shot) == cv::Size(500, 300));
    CHECK(film_transforms(shot, std::array{PhotoIndex(0), PhotoIndex(1)}) ==
          std::vector<Transform>{Transform::eye(), lies.from_film});

    PhotoLight light;
    light.change.correction.gain = {0.1, 0.2, 0.3};
    shot.photos.edit(1).steps.set(light);
    CHECK(placed(request()).stages == StageValues());
    shot.steps.set(Deflicker());
    REQUIRE(placed(request()).stages.has<Correction>());
    CHECK(placed(request()).stages.get<Correction>().gain == Stops3{0.1, 0.2, 0.3});
    CHECK_FALSE(placed(request(Corrections::none)).stages.has<Correction>()); // in its own light, where the film has it
    CHECK(placed(request(Corrections::none)).placement);

    // A photo that its neighbours stand in for is not asked for.
    shot.photos.edit(1).steps.edit<PhotoLight>().remedy = LightRemedy::mixed;
    CHECK(standing_in(shot, PhotoIndex(1)).size() == 2);
    CHECK(standing_in(shot, PhotoIndex(0)) == std::vector<Share>{{PhotoIndex(0), 1}});
    const FrameRequest mixed = request();
    CHECK(mixed.photo() == shot.photos[0].photo);
    REQUIRE(mixed.parts.size() == 2);
    CHECK(placed(mixed, 1).photo == shot.photos[2].photo);
    CHECK(mixed.parts[0].weight + mixed.parts[1].weight == 1);
    CHECK(request(Corrections::none).photo() == shot.photos[1].photo);
}

TEST_CASE("a stage sees the whole photo as the stages before it leave it", "[stages]")
{
    StageValues stages;
    stages.set(Doubled{1});
    stages.set(AsFirst{});
    StagePhoto photo = part_of_plane({6, 1});
    photo.overview = [] { return Canvas(2, 3, cv::Vec4f(7, 7, 7, 1)); };
    std::array<float, 24> row{};
    staged(plain(), stages, photo).row(0, 0, 6, row.data());
    CHECK(row == [] {
        std::array<float, 24> all{};
        all.fill(14);
        return all;
    }());
}

}
