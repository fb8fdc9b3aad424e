// Layers: what lies over the photos and behind them, against arithmetic and against pictures made in another way.
#include "core/cards/card_values.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/source/photo_source.h"
#include "core/source/transfer.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/layers/layer_edits.h"
#include "core/steps/layers/layer_movement.h"
#include "core/steps/layers/layer_pictures.h"
#include "core/timeline/reel_timeline.h"
#include "tests/support/catch.h"
#include "tests/support/colour.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <map>
#include <numbers>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Pictures by the names of their photos; drawings are drawn.
class NamedPictures : public PhotoSource
{
public:
    std::map<std::string, cv::Mat> pictures;
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const override
    {
        if (!is_on_disk(photo))
            return originals_->pixels(photo, at_least, damage);
        const auto at = pictures.find(photo.file.stem().string());
        if (at == pictures.end())
            return tl::unexpected(Problem{"it is gone", photo.file, ""});
        return at->second.clone();
    }

private:
    std::shared_ptr<const Originals> originals_ = std::make_shared<const Originals>();
};

ShotPtr shot_of(const std::string& name, cv::Size size, int photos = 1, bool alpha = false)
{
    Shot shot;
    shot.name = name;
    for (int i = 0; i < photos; ++i) {
        auto p = std::make_shared<PhotoFile>();
        p->file = "/s/" + name + (photos > 1 ? std::to_string(i) : "") + ".png";
        p->size = size;
        p->alpha = alpha;
        shot.photos.push_back({p, Frames{1}});
    }
    give_ids(shot);
    return std::make_shared<const Shot>(std::move(shot));
}

struct Made
{
    Project project;
    LayerHome home;
    LayerId layer;
};

/// A shot of so many frames with another over it.
Made with_layer(cv::Size frame, int frames, cv::Size picture, bool alpha = false)
{
    Project p;
    p.shots = {shot_of("below", frame, frames, alpha), shot_of("above", picture, 1, true)};
    const LayerHome home{p.shots[0]->id};
    WithLayer with = add_film_layer(p, home, p.shots[1]->id);
    return {std::move(with.project), home, with.layer};
}

cv::Mat flat(cv::Size size, double b, double g, double r, double a = 1)
{
    return {size, CV_16UC4, cv::Scalar(b, g, r, a) * 65535};
}

NamedPictures pictures_for(int frames, const cv::Mat& below, const cv::Mat& above)
{
    NamedPictures source;
    source.pictures["above"] = above;
    source.pictures["below"] = below;
    for (int i = 0; i < frames; ++i)
        source.pictures["below" + std::to_string(i)] = below;
    return source;
}

Result<cv::Mat> frame(const Project& p, const PhotoSource& source, std::int64_t at = 0, cv::Size size = {},
                      bool alpha = false)
{
    const auto film = film_of(p, ShotIndex(0));
    return render(
        film->frame(
            FrameIndex(at),
            {.size = size.empty() ? film->size() : size, .depth = Depth::sixteen, .alpha = alpha, .dither = false}),
        source);
}

/// Of a picture's brightness, linear light, pixel centres on integers.
cv::Point2d middle_of_light(const cv::Mat& picture)
{
    double sum = 0;
    cv::Point2d at;
    for (int y = 0; y < picture.rows; ++y)
        for (int x = 0; x < picture.cols; ++x) {
            const double light = linear_of(picture.at<cv::Vec3w>(y, x)[1] / 65535.0);
            sum += light;
            at += cv::Point2d(x, y) * light;
        }
    return at / sum;
}

/// A round spot of light, its middle in that of the picture.
cv::Mat spot(int side, double sigma)
{
    cv::Mat picture(side, side, CV_16UC4);
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const double dx = x - (side - 1) / 2.0, dy = y - (side - 1) / 2.0;
            const double a = std::exp(-(dx * dx + dy * dy) / (2 * sigma * sigma));
            const auto white = std::uint16_t(65535);
            picture.at<cv::Vec4w>(y, x) = {white, white, white, std::uint16_t(std::lround(a * 65535))};
        }
    return picture;
}

}

TEST_CASE("layer and picture become one in linear light, exactly", "[layers]")
{
    // over: Porter, Duff 1984; add, multiply, screen: W3C Compositing and Blending Level 1, of opaque pictures.
    const double a = std::lround(0.25 * 65535) / 65535.0, below = linear_of(0.3), above = linear_of(0.8);
    const auto [blend, expected] =
        GENERATE_COPY(table<Blend, double>({{Blend::over, above * a + below * (1 - a)},
                                            {Blend::add, above * a + below},
                                            {Blend::multiply, above * a * below + below * (1 - a)},
                                            {Blend::screen, above * a + below - above * a * below}}));
    Made m = with_layer({8, 6}, 1, {8, 6});
    m.project = change_layer(m.project, m.home, m.layer, [b = blend](Layer& l) { l.blend = b; });
    const auto source = pictures_for(1, flat({8, 6}, 0.3, 0.3, 0.3), flat({8, 6}, 0.8, 0.8, 0.8, a));
    const auto made = frame(m.project, source);
    REQUIRE(made);
    const double encoded = encoded_of(std::min(1.0, expected)) * 65535;
    CHECK(std::abs(made->at<cv::Vec3w>(3, 4)[1] - encoded) <= 1.0); // one quantisation, and those of the two colours
}

TEST_CASE("beside a layer a frame of eight bits is the photo as it is without one, and no noise is added",
          "[layers][render]")
{
    // Made smaller and dithered where layers lie, as films are.
    const cv::Size size(96, 64);
    cv::Mat below(128, 192, CV_8UC3);
    cv::RNG(6).fill(below, cv::RNG::UNIFORM, 0, 256);
    cv::GaussianBlur(below, below, {}, 1);
    const Made m = with_layer(below.size(), 1, {24, 16});
    const Project p = change_key(m.project, m.home, m.layer, {}, [](LayerKey& k) {
        k.x = 0.75;
        k.size = 0.25;
        k.opacity = 0.5;
    });
    NamedPictures source;
    source.pictures = {{"below", below}, {"above", cv::Mat(16, 24, CV_8UC4, cv::Scalar(0, 90, 200, 255))}};
    const auto seen = [&](const Project& project) {
        return *render(film_of(project, ShotIndex(0))->frame(FrameIndex(0), {.size = size}), source);
    };
    const cv::Mat with = seen(p), without = seen(remove_layer(p, m.home, m.layer));
    REQUIRE(with.type() == CV_8UC3);
    cv::Mat apart;
    cv::absdiff(with, without, apart);
    CHECK(cv::norm(apart.colRange(0, size.width / 2), cv::NORM_INF) == 0);
    CHECK(cv::mean(apart.colRange(size.width * 5 / 8, size.width * 7 / 8))[2] > 10);
}

TEST_CASE("layers are put one onto the other in order, however many there are", "[layers][render]")
{
    // More than twice the frame is not made at once; then the rest goes onto what is there.
    const int count = GENERATE(1, 2, 3, 5);
    Made m = with_layer({8, 6}, 1, {8, 6});
    for (int i = 1; i < count; ++i)
        m.project = add_film_layer(m.project, m.home, m.project.shots[1]->id).project;
    double expected = linear_of(0.2);
    const double above = linear_of(0.9);
    int at = 0;
    const auto all = layers_of(m.project, m.home);
    for (const Layer& layer : std::vector<Layer>(all.begin(), all.end())) {
        const double opacity = 0.1 + 0.15 * at;
        const bool multiplied = at % 2 == 1;
        m.project = change_key(m.project, m.home, layer.id, {}, [&](LayerKey& k) { k.opacity = opacity; });
        m.project = change_layer(m.project, m.home, layer.id,
                                 [&](Layer& l) { l.blend = multiplied ? Blend::multiply : Blend::over; });
        expected = expected * (1 - opacity) + above * opacity * (multiplied ? expected : 1);
        ++at;
    }
    REQUIRE(at == count);
    const auto made = frame(m.project, pictures_for(1, flat({8, 6}, 0.2, 0.2, 0.2), flat({8, 6}, 0.9, 0.9, 0.9)));
    REQUIRE(made);
    CHECK(std::abs(made->at<cv::Vec3w>(2, 5)[1] - encoded_of(expected) * 65535) <= 1.5);
}

TEST_CASE("opacity is a share of the layer, and what is switched off is not there", "[layers]")
{
    Made m = with_layer({8, 6}, 1, {8, 6});
    const auto source = pictures_for(1, flat({8, 6}, 0, 0, 0), flat({8, 6}, 1, 1, 1));
    const auto seen = [&](const Project& p) { return frame(p, source)->at<cv::Vec3w>(2, 2)[0]; };
    CHECK(seen(m.project) == 65535);
    const Project half = change_key(m.project, m.home, m.layer, {}, [](LayerKey& k) { k.opacity = 0.5; });
    CHECK(std::abs(seen(half) - encoded_of(0.5) * 65535) <= 1);
    CHECK(seen(change_layer(half, m.home, m.layer, [](Layer& l) { l.on = false; })) == 0);
    // A locked one is not changed but for its lock and its switch.
    const Project locked = change_layer(m.project, m.home, m.layer, [](Layer& l) { l.locked = true; });
    const Project unchanged = change_key(locked, m.home, m.layer, {}, [](LayerKey& k) { k.x = 3; });
    CHECK(*find_layer(unchanged, m.home, m.layer) == *find_layer(locked, m.home, m.layer));
    CHECK(seen(change_layer(locked, m.home, m.layer, [](Layer& l) { l.on = false; })) == 0);
    CHECK(layers_of(remove_layer(locked, m.home, m.layer), m.home).size() == 1);
}

TEST_CASE("a layer behind shows where the photos are transparent, before the backdrop", "[layers]")
{
    Made m = with_layer({8, 6}, 1, {8, 6}, true);
    m.project = change_layer(m.project, m.home, m.layer, [](Layer& l) { l.behind = true; });
    cv::Mat below = flat({8, 6}, 0, 0, 1);
    below.colRange(4, 8).setTo(cv::Scalar::all(0));
    cv::Mat above = flat({8, 6}, 0, 1, 0);
    above.rowRange(3, 6).setTo(cv::Scalar::all(0));
    const auto source = pictures_for(1, below, above);
    const Project p = set_backdrop(m.project, ShotIndex(0), Backdrop{0, 0, 255});
    const auto made = frame(p, source);
    REQUIRE(made);
    CHECK(made->at<cv::Vec3w>(1, 1) == cv::Vec3w(0, 0, 65535)); // the photo
    CHECK(made->at<cv::Vec3w>(1, 6) == cv::Vec3w(0, 65535, 0)); // the layer behind it
    CHECK(made->at<cv::Vec3w>(4, 6) == cv::Vec3w(65535, 0, 0)); // the backdrop behind both
}

TEST_CASE("a layer goes where its keys say, to parts of a pixel", "[layers]")
{
    // Against the arithmetic of the movement, at sizes and turns at which every pixel is worked out anew.
    constexpr int frames = 25;
    const cv::Size size(320, 200);
    Made m = with_layer(size, frames, {65, 65});
    const auto seconds = [&](std::int64_t f) { return length_of(f, m.project.delivered_at); };
    const bool curved = GENERATE(false, true);
    m.project = change_layer(m.project, m.home, m.layer, [&](Layer& l) {
        l.curved = curved;
        l.keys = {{.at = seconds(0), .x = 0.2, .y = 0.3, .size = 0.4, .turn = 0, .ease = Ease::both},
                  {.at = seconds(12), .x = 0.5, .y = 0.7, .size = 0.5, .turn = 40, .ease = Ease::in},
                  {.at = seconds(24), .x = 0.8, .y = 0.35, .size = 0.3, .turn = 200}};
    });
    const auto source = pictures_for(frames, flat(size, 0, 0, 0), spot(65, 8));
    // Natural cubic spline through three points at equal times: its only inner second derivative is 3/2 of the second
    // difference (Burden, Faires: Numerical Analysis, natural boundary).
    const auto along = [&](double a, double b, double c, double t) {
        const bool first = t < 1;
        const Ease ease = first ? Ease::both : Ease::in;
        const double u = eased(first ? t : t - 1, ease);
        if (!curved)
            return first ? a + (b - a) * u : b + (c - b) * u;
        const double bend = 1.5 * (c - 2 * b + a), left = first ? a : b, right = first ? b : c;
        const double p = 1 - u, q = u;
        return p * left + q * right + ((first ? 0 : (p * p * p - p)) + (first ? (q * q * q - q) : 0)) * bend / 6;
    };
    double worst = 0;
    for (int f = 0; f < frames; f += 3) {
        const auto made = frame(m.project, source, f);
        REQUIRE(made);
        const cv::Point2d at = middle_of_light(*made);
        const double t = f / 12.0;
        const cv::Point2d expected(along(0.2, 0.5, 0.8, t) * size.width - 0.5,
                                   along(0.3, 0.7, 0.35, t) * size.height - 0.5);
        worst = std::max(worst, cv::norm(at - expected));
    }
    INFO("worst " << worst << " px");
    CHECK(worst <= 0.02);
}

TEST_CASE("a movement repeats exactly, forwards or there and back", "[layers]")
{
    Layer layer;
    layer.keys = {{.at = {Fraction(1)}, .turn = 0}, {.at = {Fraction(3)}, .turn = 360}};
    layer.movement_end = MovementEnd::again;
    const LayerMovement again(layer);
    CHECK(again.at(0).turn == 0);
    CHECK(again.at(2).turn == 180);
    for (int i = 0; i < 48; ++i) // an exact turn loops: the frame that is due when it ends is its first
        CHECK(again.at(1 + i / 24.0).turn == Approx(again.at(1 + 2 * 7 + i / 24.0).turn).margin(1e-6));
    CHECK(again.at(3).turn == Approx(0).margin(1e-6));
    layer.movement_end = MovementEnd::there_and_back;
    const LayerMovement back(layer);
    CHECK(back.at(4).turn == Approx(180));
    CHECK(back.at(4.5).turn == Approx(90));
    CHECK(back.at(5).turn == Approx(0).margin(1e-6));
    CHECK(back.at(6).turn == Approx(180));
}

TEST_CASE("another layer decides what shows", "[layers]")
{
    const auto [of, inverse, left, right] =
        GENERATE(table<MatteOf, bool, double, double>({{MatteOf::alpha, false, 1, 0},
                                                       {MatteOf::alpha, true, 0, 1},
                                                       {MatteOf::brightness, false, 0.5, 0},
                                                       {MatteOf::brightness, true, 0.5, 1}}));
    Made m = with_layer({16, 8}, 4, {16, 8});
    m.project.shots.push_back(shot_of("matte", {16, 8}, 1, true));
    const WithLayer matte = add_film_layer(m.project, m.home, m.project.shots.back()->id);
    Project p =
        change_layer(matte.project, m.home, matte.layer, [](Layer& l) { l.on = false; }); // it is not seen itself
    p = change_layer(p, m.home, m.layer, [&, of = of, inverse = inverse](Layer& l) {
        l.matte = LayerMatte{matte.layer, of, inverse};
    });
    auto source = pictures_for(4, flat({16, 8}, 0, 0, 0), flat({16, 8}, 1, 1, 1));
    const double half = encoded_of(0.5);
    cv::Mat shape = flat({16, 8}, half, half, half);
    shape.colRange(8, 16).setTo(cv::Scalar::all(0));
    source.pictures["matte"] = shape;
    const auto made = frame(p, source);
    REQUIRE(made);
    CHECK(std::abs(linear_of(made->at<cv::Vec3w>(3, 3)[1] / 65535.0) - left) < 2e-5);
    CHECK(std::abs(linear_of(made->at<cv::Vec3w>(3, 12)[1] / 65535.0) - right) < 2e-5);

    SECTION("where the matte has ended, nothing of it is there")
    {
        p = change_layer(p, m.home, matte.layer, [&](Layer& l) { l.end = length_of(2, p.delivered_at); });
        const auto later = frame(p, source, 3);
        REQUIRE(later);
        CHECK(later->at<cv::Vec3w>(3, 3)[1] == (inverse ? 65535 : 0));
    }
    SECTION("a matte that is gone is said")
    {
        p = remove_layer(p, m.home, matte.layer);
        REQUIRE(layer_notes(p, m.home).size() == 1);
        const auto without = frame(p, source, 0);
        REQUIRE(without);
        CHECK(without->at<cv::Vec3w>(3, 3)[1] == (inverse ? 65535 : 0));
    }
}

TEST_CASE("a shadow falls where it is told to, softly, below its layer", "[layers]")
{
    Made m = with_layer({200, 100}, 1, {200, 100});
    m.project = change_layer(m.project, m.home, m.layer, [](Layer& l) {
        l.keys = {{.size = 0.2}};
        l.shadow = LayerShadow{.degrees = 0, .distance = 0.3, .softness = 0.02, .strength = 0.5};
    });
    const auto source = pictures_for(1, flat({200, 100}, 1, 1, 1), flat({200, 100}, 0, 0, 1));
    const auto made = frame(m.project, source);
    REQUIRE(made);
    CHECK(made->at<cv::Vec3w>(50, 100) == cv::Vec3w(0, 0, 65535)); // the layer over its own shadow
    // 30 pixels to the right: half as bright, and all of the light between the far edge and its surround.
    CHECK(std::abs(linear_of(made->at<cv::Vec3w>(50, 140)[1] / 65535.0) - 0.5) < 0.01);
    CHECK(std::abs(linear_of(made->at<cv::Vec3w>(50, 150)[1] / 65535.0) - 0.75) < 0.08); // its edge
    CHECK(made->at<cv::Vec3w>(50, 165)[1] > 65000);
    CHECK(made->at<cv::Vec3w>(50, 60)[1] == 65535);
}

TEST_CASE("a soft edge comes in evenly on all sides", "[layers]")
{
    Made m = with_layer({120, 120}, 1, {60, 60});
    m.project = change_layer(m.project, m.home, m.layer, [](Layer& l) {
        l.keys = {{.size = 0.5}};
        l.soft_edge = 0.1; // 12 pixels
    });
    const auto made = frame(m.project, pictures_for(1, flat({120, 120}, 0, 0, 0), flat({60, 60}, 1, 1, 1)));
    REQUIRE(made);
    const auto light = [&](int x, int y) { return linear_of(made->at<cv::Vec3w>(y, x)[1] / 65535.0); };
    CHECK(light(60, 60) == Approx(1).margin(0.01));
    CHECK(light(28, 60) == Approx(0).margin(0.01));
    CHECK(light(34, 60) > 0.2);
    CHECK(light(34, 60) < 0.9);
    for (int d = 31; d < 50; ++d) {
        CHECK(light(d, 60) == Approx(light(119 - d, 60)).margin(0.002));
        CHECK(light(d, 60) == Approx(light(60, d)).margin(0.002));
    }
}

TEST_CASE("a layer on the scene goes with it when the frame is cropped", "[layers]")
{
    Made m = with_layer({200, 100}, 1, {20, 20});
    m.project =
        change_layer(m.project, m.home, m.layer, [](Layer& l) { l.keys = {{.x = 0.75, .y = 0.5, .size = 0.2}}; });
    const auto source = pictures_for(1, flat({200, 100}, 0, 0, 0), flat({20, 20}, 1, 1, 1));
    const Project cropped =
        change_framing(m.project, ShotIndex(0), [](Framing& f) { f.crop = cv::Rect2d(0.5, 0.25, 0.5, 0.5); });
    SECTION("in the frame it stays")
    {
        const auto made = frame(cropped, source);
        REQUIRE(made->size() == cv::Size(100, 50));
        CHECK(cv::norm(middle_of_light(*made) - cv::Point2d(0.75 * 100 - 0.5, 24.5)) < 0.02);
    }
    SECTION("on the scene it lies where it lay on the photo")
    {
        const Project p = change_layer(cropped, m.home, m.layer, [](Layer& l) { l.on_scene = true; });
        const auto made = frame(p, source);
        CHECK(cv::norm(middle_of_light(*made) - cv::Point2d(150 - 100 - 0.5, 50 - 25 - 0.5)) < 0.02);
    }
}

TEST_CASE("a layer keeps its place at every size of the film, also inside bars", "[layers]")
{
    Made m = with_layer({200, 100}, 1, {20, 20});
    m.project =
        change_layer(m.project, m.home, m.layer, [](Layer& l) { l.keys = {{.x = 0.25, .y = 0.5, .size = 0.2}}; });
    const auto source = pictures_for(1, flat({200, 100}, 0, 0, 0), flat({20, 20}, 1, 1, 1));
    const auto large = frame(m.project, source, 0, {400, 200});
    CHECK(cv::norm(middle_of_light(*large) - cv::Point2d(99.5, 99.5)) < 0.02);
    const auto square = frame(m.project, source, 0, {200, 200}); // 50 pixels of bar above and below
    CHECK(cv::norm(middle_of_light(*square) - cv::Point2d(49.5, 99.5)) < 0.02);
}

TEST_CASE("another shot in a layer plays with its own holds, and ends as it is told", "[layers]")
{
    Project p;
    p.shots = {shot_of("below", {8, 8}, 6), shot_of("above", {8, 8}, 2, true)};
    const LayerHome home{p.shots[0]->id};
    const WithLayer with = add_film_layer(p, home, p.shots[1]->id);
    auto source = pictures_for(6, flat({8, 8}, 0, 0, 0), {});
    source.pictures["above0"] = flat({8, 8}, 1, 0, 0);
    source.pictures["above1"] = flat({8, 8}, 0, 0, 1);
    const auto [end, expected] = GENERATE(table<FilmEnd, std::string>(
        {{FilmEnd::held, ".brrrr"}, {FilmEnd::again, ".brbrb"}, {FilmEnd::gone, ".br..."}}));
    const Project q = change_layer(with.project, home, with.layer, [&, end = end](Layer& l) {
        l.begin = length_of(1, p.delivered_at);
        l.film_end = end;
    });
    std::string seen;
    for (int f = 0; f < 6; ++f) {
        const cv::Vec3w c = frame(q, source, f)->at<cv::Vec3w>(4, 4);
        seen += c[0] > 0 ? 'b' : c[2] > 0 ? 'r' : '.';
    }
    CHECK(seen == expected);
    // Frames that show the same are one range: each is rendered once.
    if (end == FilmEnd::gone)
        CHECK(film_of(q, ShotIndex(0))->runs().size() == 6);
    // A film in a layer is in no Reel by itself.
    CHECK(reel_of(q)->parts().size() == 1);
}

TEST_CASE("a shot never shows itself, however far round", "[layers]")
{
    Project p;
    p.shots = {shot_of("a", {8, 8}), shot_of("b", {8, 8})};
    const LayerHome a{p.shots[0]->id}, b{p.shots[1]->id};
    CHECK_FALSE(add_film_layer(p, a, *a.shot).layer);
    p = add_film_layer(p, a, *b.shot).project;
    p = add_film_layer(p, b, *a.shot).project;
    NamedPictures source;
    source.pictures["a"] = flat({8, 8}, 1, 0, 0);
    source.pictures["b"] = flat({8, 8}, 0, 1, 0);
    const auto made = frame(p, source);
    REQUIRE(made);
    CHECK(made->at<cv::Vec3w>(4, 4) == cv::Vec3w(0, 65535, 0));
}

TEST_CASE("a shot that a layer showed can be removed, and it is said", "[layers]")
{
    Made m = with_layer({8, 8}, 1, {8, 8});
    const Project p = remove_shot(m.project, ShotIndex(1));
    REQUIRE(layer_notes(p, m.home).size() == 1);
    CHECK(layer_notes(p, m.home)[0].find("gone") != std::string::npos);
    CHECK(frame(p, pictures_for(1, flat({8, 8}, 1, 1, 1), {}))->at<cv::Vec3w>(4, 4)[0] == 65535);
}

TEST_CASE("what is drawn lies over the photos that it was drawn for", "[layers][drawing]")
{
    Project p;
    p.shots = {shot_of("below", {400, 300}, 6)};
    const LayerHome home{p.shots[0]->id};
    WithLayer with = add_drawing_layer(p, home, "Smoke");
    const PhotoId second = p.shots[0]->photos[1].id, fourth = p.shots[0]->photos[3].id;
    Stroke line{.kind = StrokeKind::line, .colour = {255, 0, 0}, .width = 0.1, .points = {0.25, 0.5, 1, 0.75, 0.5, 1}};
    Project q = add_stroke(with.project, home, with.layer, second, line);
    q = hold_drawing(q, home, with.layer, second, 4);
    line.colour = {0, 0, 255};
    q = add_stroke(q, home, with.layer, fourth, line);
    const auto source = pictures_for(6, flat({400, 300}, 0, 0, 0), {});
    std::string seen;
    for (int f = 0; f < 6; ++f) {
        const cv::Vec3w c = frame(q, source, f)->at<cv::Vec3w>(150, 200);
        seen += c[2] > 60000 ? 'r' : c[0] > 60000 ? 'b' : '.';
    }
    CHECK(seen == ".rrbr."); // the second drawing takes the first one's place while it is there

    SECTION("a line is as wide and long as it was drawn, sharp at every size")
    {
        for (const cv::Size size : {cv::Size(400, 300), cv::Size(1600, 1200)}) {
            const auto made = frame(q, source, 1, size);
            cv::Mat red;
            cv::extractChannel(*made, red, 2);
            const double covered = cv::countNonZero(red > 45000) / double(size.area());
            const double length = 0.5 * 400, width = 0.1 * 300; // and two half discs at its ends
            CHECK(covered ==
                  Approx((length * width + std::numbers::pi * width * width / 4) / (400 * 300)).epsilon(0.01));
        }
    }
    SECTION("rubbing out takes away what was drawn before, and nothing that comes after")
    {
        Stroke rub = line;
        rub.kind = StrokeKind::erase;
        Project r = add_stroke(q, home, with.layer, second, rub);
        CHECK(frame(r, source, 1)->at<cv::Vec3w>(150, 200)[2] < 300);
        line.colour = {0, 255, 0};
        r = add_stroke(r, home, with.layer, second, line);
        CHECK(frame(r, source, 1)->at<cv::Vec3w>(150, 200)[1] > 60000);
        r = remove_last_stroke(remove_last_stroke(r, home, with.layer, second), home, with.layer, second);
        CHECK(frame(r, source, 1)->at<cv::Vec3w>(150, 200)[2] > 60000);
    }
    SECTION("a shape that is filled is closed")
    {
        const Stroke box{.kind = StrokeKind::filled,
                         .colour = {0, 255, 0},
                         .width = 0.01,
                         .points = {0.1, 0.1, 1, 0.3, 0.1, 1, 0.3, 0.3, 1, 0.1, 0.3, 1}};
        const Project r = add_stroke(q, home, with.layer, second, box);
        CHECK(frame(r, source, 1)->at<cv::Vec3w>(60, 80)[1] > 60000);
        CHECK(frame(r, source, 1)->at<cv::Vec3w>(60, 130)[1] == 0);
    }
    SECTION("switched off it is not there")
    {
        const Project r = change_layer(q, home, with.layer, [](Layer& l) { l.on = false; });
        CHECK(cv::countNonZero(frame(r, source, 1)->reshape(1) > 0) == 0);
    }
}

TEST_CASE("10,000 strokes are drawn", "[layers][drawing]")
{
    Project p;
    p.shots = {shot_of("below", {800, 600})};
    const LayerHome home{p.shots[0]->id};
    WithLayer with = add_drawing_layer(p, home, "many");
    Drawing drawing{.photo = p.shots[0]->photos[0].id};
    std::mt19937 random(7);
    std::uniform_real_distribution<double> share(0, 1);
    for (int i = 0; i < 10'000; ++i)
        drawing.strokes.push_back({i % 50 == 49 ? StrokeKind::erase : StrokeKind::line,
                                   {255, 255, 255},
                                   0.004,
                                   {share(random), share(random), 1, share(random), share(random), share(random)}});
    const Project q = change_layer(with.project, home, with.layer, [&](Layer& l) { l.drawings = {drawing}; });
    const auto made = frame(q, pictures_for(1, flat({800, 600}, 0, 0, 0), {}));
    REQUIRE(made);
    CHECK(cv::countNonZero(made->reshape(1) > 20000) > 100'000);
    TempFolder folder;
    save_project(q, folder / "p.frenlo");
    CHECK(load_project(folder / "p.frenlo").project.shots[0]->steps == q.shots[0]->steps);
}

TEST_CASE("text lies over the photos without a backdrop", "[layers]")
{
    Project p;
    p.shots = {shot_of("below", {640, 360})};
    const LayerHome home{p.shots[0]->id};
    const WithLayer with = add_text_layer(p, home, "Harbour");
    REQUIRE(with.layer);
    const auto made = frame(with.project, pictures_for(1, flat({640, 360}, 1, 0, 0), {}));
    REQUIRE(made);
    CHECK(made->at<cv::Vec3w>(10, 10) == cv::Vec3w(65535, 0, 0));
    cv::Mat red;
    cv::extractChannel(*made, red, 2);
    CHECK(cv::countNonZero(red > 50000) > 500); // letters
    CHECK(cv::countNonZero(red > 50000) < 640 * 360 / 8);
}

TEST_CASE("layers over the Reel go on over its cuts", "[layers][reel]")
{
    Project p;
    p.shots = {shot_of("one", {8, 8}, 3), shot_of("two", {8, 8}, 3), shot_of("above", {8, 8}, 1, true)};
    const WithLayer with = add_film_layer(p, {}, p.shots[2]->id);
    const Project q = change_layer(with.project, {}, with.layer, [&](Layer& l) {
        l.begin = length_of(2, p.delivered_at);
        l.end = length_of(4, p.delivered_at);
    });
    NamedPictures source;
    for (const char* name : {"one0", "one1", "one2", "two0", "two1", "two2"})
        source.pictures[name] = flat({8, 8}, 0, 0, 0);
    source.pictures["above"] = flat({8, 8}, 0, 1, 0);
    const auto reel = reel_of(q);
    REQUIRE(reel->frames() == 6);
    std::string seen;
    for (int f = 0; f < 6; ++f)
        seen += render(reel->frame(FrameIndex(f), {.size = {8, 8}}), source)->at<cv::Vec3b>(4, 4)[1] > 0 ? 'g' : '.';
    CHECK(seen == "..gg..");
}

TEST_CASE("a picture that comes in as a layer is a shot of its own, in no Reel", "[layers]")
{
    Project p;
    p.shots = {shot_of("below", {8, 8})};
    const WithLayer with = add_picture_layer(p, {p.shots[0]->id}, *shot_of("sign", {4, 4}));
    REQUIRE(with.layer);
    REQUIRE(with.project.shots.size() == 2);
    CHECK(find_layer(with.project, {p.shots[0]->id}, with.layer)->shot == with.project.shots[1]->id);
    CHECK(reel_of(with.project)->parts().size() == 1);
}

TEST_CASE("layers are moved in their order", "[layers]")
{
    Project p;
    p.shots = {shot_of("below", {8, 8})};
    const LayerHome home{p.shots[0]->id};
    std::vector<LayerId> ids;
    for (const char* name : {"a", "b", "c"}) {
        WithLayer with = add_drawing_layer(p, home, name);
        p = std::move(with.project);
        ids.push_back(with.layer);
    }
    const auto order = [&](const Project& q) {
        std::string names;
        for (const Layer& l : layers_of(q, home))
            names += l.name;
        return names;
    };
    CHECK(order(p) == "abc");
    CHECK(order(move_layer(p, home, ids[0], 1)) == "bac");
    CHECK(order(move_layer(p, home, ids[0], 9)) == "bca");
    CHECK(order(move_layer(p, home, ids[2], -2)) == "cab");
    CHECK(order(move_layer(p, home, ids[2], 1)) == "abc");
    CHECK(order(move_layer(p, home, LayerId{1}, 1)) == "abc");
    CHECK(order(remove_layer(p, home, ids[1])) == "ac");
}

TEST_CASE("what a file may not say of layers is refused by its field", "[layers]")
{
    Layer layer;
    layer.id = LayerId::fresh();
    layer.keys = {{.at = {Fraction(2)}}, {.at = {Fraction(1)}}};
    CHECK_THROWS(check_value(layer));
    layer.keys.clear();
    layer.begin = {Fraction(3)};
    layer.end = Seconds{Fraction(3)};
    CHECK_THROWS(check_value(layer));
    Stroke stroke;
    stroke.points.resize(most_stroke_points + 3);
    CHECK_THROWS(check_value(stroke));
    // What an edit sets so is put right.
    Made m = with_layer({8, 8}, 1, {8, 8});
    const Project p = change_layer(m.project, m.home, m.layer, [](Layer& l) {
        l.keys = {{.at = {Fraction(2)}, .opacity = 7}, {.at = {Fraction(1)}, .size = -3}, {.at = {Fraction(1)}}};
        l.begin = {Fraction(3)};
        l.end = Seconds{Fraction(3)};
    });
    const Layer right = *find_layer(p, m.home, m.layer);
    CHECK_NOTHROW(check_value(right));
    CHECK(right.keys.size() == 2);
}

namespace {

/// A figure of thin hairs and a blurred disc before an uneven backdrop with noise: its colours, its true alpha, and the
/// picture that a camera would take. Linear light, B G R.
struct Figure
{
    cv::Mat3f colours;
    cv::Mat1f alpha;
    cv::Mat picture; ///< 16 bit, encoded
};

Figure figure_before(const cv::Vec3f& backdrop, int seed, double noise, cv::Size size = {480, 360})
{
    std::mt19937 random{std::uint32_t(seed)};
    std::uniform_real_distribution<float> share(0, 1);
    std::normal_distribution<float> normal(0, 1);
    constexpr int fine = 4; // drawn so much larger, then made small: true shares of pixels
    cv::Mat1b large(size * fine, std::uint8_t(0));
    const cv::Point middle(size.width * fine / 2, size.height * fine * 6 / 10);
    cv::circle(large, middle, size.height * fine / 5, cv::Scalar(255), -1);
    for (int i = 0; i < 120; ++i) {
        const double turn = std::numbers::pi * (1 + share(random)),
                     far = size.height * fine * (0.25 + 0.2 * share(random));
        const cv::Point end(int(middle.x + std::cos(turn) * far), int(middle.y + std::sin(turn) * far));
        cv::line(large, middle, end, cv::Scalar(255), 1 + int(3 * share(random)));
    }
    Figure f;
    cv::Mat small;
    cv::resize(large, small, size, 0, 0, cv::INTER_AREA);
    small.convertTo(f.alpha, CV_32F, 1 / 255.0);
    cv::Mat1f arm(size, 0.0F), moving; // an arm that moved while the shutter was open
    cv::rectangle(arm, {size.width / 10, size.height / 2, size.width / 4, size.height / 12}, cv::Scalar(1), -1);
    cv::blur(arm, moving, {1, 31});
    f.alpha = cv::max(f.alpha, moving);
    const cv::Vec3f skin(0.18F, 0.24F, 0.42F), hair(0.02F, 0.035F, 0.06F);
    f.colours.create(size);
    f.picture.create(size, CV_16UC3);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            const bool low = y > size.height * 45 / 100;
            f.colours(y, x) = low ? skin : hair;
            const double u = double(x) / size.width - 0.5, v = double(y) / size.height - 0.4;
            const auto light = float(1.1 - 0.9 * (u * u + v * v) + 0.15 * u); // a lamp that does not reach everywhere
            const float a = f.alpha(y, x);
            for (int c = 0; c < 3; ++c) {
                const float exact = a * f.colours(y, x)[c] + (1 - a) * backdrop[c] * light;
                const double seen = exact + noise * std::sqrt(double(exact) + 0.01) * double(normal(random));
                f.picture.at<cv::Vec3w>(y, x)[c] =
                    std::uint16_t(std::lround(encoded_of(std::clamp(seen, 0.0, 1.0)) * 65535));
            }
        }
    return f;
}

struct TakenOut
{
    double alpha_error = 0;          ///< mean, where the true alpha is 0.02 to 0.98
    double left = 0;                 ///< CIEDE2000 of the edges on grey against the truth, mean
    double backdrop = 0, figure = 0; ///< mean alpha where there is surely none, and all
};

TakenOut take_out(const Figure& f, const Backdrop& picked)
{
    auto photo = std::make_shared<PhotoFile>();
    photo->file = "/s/figure.png";
    photo->size = f.picture.size();
    PlacedPhoto placed{.photo = photo};
    placed.stages.set(ColourOut{.colour = picked});
    NamedPictures source;
    source.pictures["figure"] = f.picture;
    const auto canvas = render_canvas(
        {.size = f.picture.size(), .depth = Depth::sixteen, .alpha = true, .parts = {{1, placed}}}, source);
    REQUIRE(canvas);
    TakenOut out;
    double edges = 0, none = 0, all = 0;
    for (int y = 0; y < f.alpha.rows; ++y)
        for (int x = 0; x < f.alpha.cols; ++x) {
            const float a = f.alpha(y, x), seen = (*canvas)(y, x)[3];
            if (a == 0) {
                ++none;
                out.backdrop += double(seen);
            } else if (a == 1) {
                ++all;
                out.figure += double(seen);
            }
            if (a < 0.02F || a > 0.98F)
                continue;
            ++edges;
            out.alpha_error += std::abs(double(seen - a));
            cv::Vec3d over, truth; // on a middle grey, linear R G B
            for (int c = 0; c < 3; ++c) {
                over[2 - c] = double((*canvas)(y, x)[c] + (1 - seen) * 0.2F);
                truth[2 - c] = double(a * f.colours(y, x)[c] + (1 - a) * 0.2F);
            }
            const cv::Vec3d white = xyz_of_rgb({1, 1, 1});
            out.left += ciede2000(lab_of(xyz_of_rgb(over), white), lab_of(xyz_of_rgb(truth), white));
        }
    out.alpha_error /= edges;
    out.left /= edges;
    out.backdrop /= none;
    out.figure /= all;
    return out;
}

Backdrop encoded_colour(const cv::Vec3f& bgr)
{
    const auto channel = [](float v) { return std::uint8_t(std::lround(encoded_of(double(v)) * 255)); };
    return {channel(bgr[2]), channel(bgr[1]), channel(bgr[0])};
}

}

TEST_CASE("a backdrop is taken out behind hair and a moving arm", "[layers][colour-out]")
{
    const auto [name, backdrop] = GENERATE(table<std::string, cv::Vec3f>(
        {{"green", {0.08F, 0.40F, 0.07F}}, {"dark green", {0.04F, 0.18F, 0.03F}}, {"blue", {0.45F, 0.12F, 0.05F}}}));
    const int seed = GENERATE(1, 2, 3);
    const Figure f = figure_before(backdrop, seed, 0.01);
    const TakenOut out = take_out(f, encoded_colour(backdrop));
    CAPTURE(name, seed, out.alpha_error, out.left, out.backdrop, out.figure);
    CHECK(out.alpha_error <= 0.08);
    CHECK(out.left <= 3);
    CHECK(out.backdrop <= 0.01);
    CHECK(out.figure >= 0.95);
}

}
