// Areas and states: where tone and retouching hold, what other photos show, things that appear.
#include "core/project/project_file.h"
#include "core/source/transfer.h"
#include "core/steps/retouch/area_edits.h"
#include "core/steps/retouch/retouch_operations.h"
#include "core/steps/tone/part_tones.h"
#include "core/steps/tone/tone_edits.h"
#include "tests/support/pictures.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
using Catch::Matchers::WithinRel;

namespace {

const cv::Size size(240, 160);

std::vector<double> box(double x, double y, double w, double h)
{
    return {x, y, x + w, y, x + w, y + h, x, y + h};
}

std::pair<Project, AreaId> with_area(const Project& p, const std::vector<double>& points,
                                     const std::function<void(Area&)>& change = {})
{
    Area area;
    area.keys = {{p.shot(first).photos[0].id, points}};
    area.soft = 0;
    if (change)
        change(area);
    return add_area(p, first, area);
}

Pictures greys(int count)
{
    Pictures pictures;
    for (int i = 0; i < count; ++i)
        pictures.all.emplace_back(size, CV_8UC3, cv::Scalar::all(80 + i));
    return pictures;
}

double linear_at(const cv::Mat& picture, cv::Point at)
{
    return linear_of(picture.at<cv::Vec3w>(at)[1] / 65535.0);
}

/// 0 where two pictures are the same.
double most_apart(const cv::Mat& a, const cv::Mat& b)
{
    return cv::norm(a, b, cv::NORM_INF);
}

}

TEST_CASE("an area covers what its outline or its brush does", "[areas]")
{
    const Transform to_plane = part_of_plane({400, 300}).to_plane;
    const cv::Rect whole(0, 0, 400, 300);
    const auto covered = [&](const AreaMask& mask) { return cv::sum(mask_shares(mask, to_plane, whole))[0]; };
    SECTION("an outline, with any softness: the integral of an even edge is that of a sharp one")
    {
        for (const double soft : {0.0, 0.01, 0.05}) {
            INFO(soft);
            const AreaMask box{{{0.25, 0.2}, {0.75, 0.2}, {0.75, 0.8}, {0.25, 0.8}}, 0, soft, false};
            CHECK_THAT(covered(box), WithinRel(double(200 * 180), 0.012));
            AreaMask other = box;
            other.outside = true;
            CHECK_THAT(covered(other), WithinRel(double(400 * 300 - covered(box)), 1e-5));
            CHECK(mask_shares(box, to_plane, whole)(150, 200) == 1);
            CHECK(mask_shares(box, to_plane, whole)(10, 10) == 0);
        }
    }
    SECTION("a brush: a line with round ends")
    {
        const AreaMask line{{{0.3, 0.5}, {0.7, 0.5}}, 0.05, 0.005, false};
        CHECK_THAT(covered(line), WithinRel(double(160 * 40 + CV_PI * 400), 0.02));
    }
    SECTION("a part of it is the same as that part of all")
    {
        const AreaMask round{{{0.1, 0.1}, {0.9, 0.3}, {0.5, 0.95}}, 0, 0.03, false};
        const cv::Mat1f all = mask_shares(round, to_plane, whole);
        for (const cv::Rect part :
             {cv::Rect(37, 21, 90, 60), cv::Rect(180, 120, 30, 40), mask_box(round, to_plane, {400, 300})})
            CHECK(most_apart(all(part), mask_shares(round, to_plane, part)) < 0.02);
    }
    SECTION("none at all is all of the picture")
    {
        CHECK(covered({}) == 400 * 300);
    }
}

TEST_CASE("tone holds in an area, and nowhere else", "[areas][tone]")
{
    const Pictures pictures = greys(2);
    const Project plain = project_of(pictures);
    const auto made = with_area(plain, box(0.25, 0.25, 0.5, 0.5));
    Project p = made.first;
    const AreaId area = made.second;
    Tone brighter;
    brighter.exposure = 1;
    p = set_part_tone(p, first, {area, {}}, brighter);
    const cv::Mat before = frame(plain, pictures, 0, Depth::sixteen), after = frame(p, pictures, 0, Depth::sixteen);
    CHECK_THAT(linear_at(after, {120, 80}), WithinRel(double(2 * linear_at(before, {120, 80})), 0.002));
    CHECK(most_apart(after(cv::Rect(0, 0, 240, 36)), before(cv::Rect(0, 0, 240, 36))) == 0);
    SECTION("or outside of it")
    {
        p = change_area(p, first, area, [](Area& a) { a.outside = true; });
        const cv::Mat outside = frame(p, pictures, 0, Depth::sixteen);
        CHECK_THAT(linear_at(outside, {5, 5}), WithinRel(double(2 * linear_at(before, {5, 5})), 0.002));
        CHECK(most_apart(outside(cv::Rect(70, 50, 90, 60)), before(cv::Rect(70, 50, 90, 60))) == 0);
    }
    SECTION("in the photos that it is in")
    {
        p = change_area(p, first, area, [&](Area& a) { a.first = p.shot(first).photos[1].id; });
        CHECK(most_apart(frame(p, pictures, 0, Depth::sixteen), before) == 0);
        CHECK(linear_at(frame(p, pictures, 1, Depth::sixteen), {120, 80}) >
              1.9 * linear_at(frame(plain, pictures, 1, Depth::sixteen), {120, 80}));
    }
    SECTION("on top of the tone of the shot, and gone with its area")
    {
        p = change_tone(p, first, [](Tone& t) { t.exposure = 0.5; });
        CHECK_THAT(linear_at(frame(p, pictures, 0, Depth::sixteen), {120, 80}),
                   WithinRel(double(std::exp2(1.5) * linear_at(before, {120, 80})), 0.003));
        p = remove_area(p, first, area);
        CHECK_THAT(linear_at(frame(p, pictures, 0, Depth::sixteen), {120, 80}),
                   WithinRel(double(std::exp2(0.5) * linear_at(before, {120, 80})), 0.003));
    }
    SECTION("as shot again it is nowhere")
    {
        CHECK(is_toned(p.shot(first)));
        p = set_part_tone(p, first, {area, {}}, Tone());
        CHECK_FALSE(is_toned(p.shot(first)));
        CHECK(most_apart(frame(p, pictures, 0, Depth::sixteen), before) == 0);
    }
}

TEST_CASE("an area that moves goes evenly from photo to photo", "[areas]")
{
    const Pictures pictures = greys(5);
    auto [p, area] = with_area(project_of(pictures), box(0.1, 0.1, 0.2, 0.2));
    const auto moved = std::vector<cv::Point2d>{{0.5, 0.1}, {0.7, 0.1}, {0.7, 0.3}, {0.5, 0.3}};
    p = place_area(p, first, area, p.shot(first).photos[4].id, moved, true);
    const auto mask = mask_at(*find_area(p.shot(first), area), p.shot(first), PhotoIndex(2));
    REQUIRE(mask);
    CHECK_THAT(mask->points.at(0).x, WithinRel(0.3, 1e-9));
    CHECK_THAT(mask->points.at(2).y, WithinRel(0.3, 1e-9));
}

TEST_CASE("states are finished versions of the same photos, which share what is set for both", "[areas][states]")
{
    const Pictures pictures = greys(3);
    Project p = project_of(pictures);
    p = change_tone(p, first, [](Tone& t) { t.exposure = 0.25; });
    const auto made = add_state(p, first, "By lamplight");
    const StateId night = made.second;
    p = once_more(made.first, first, std::vector{PhotoIndex(0), PhotoIndex(1), PhotoIndex(2)}, night);
    REQUIRE(p.shot(first).photos.size() == 6);
    CHECK(p.shot(first).photos[3].id != p.shot(first).photos[0].id);
    Tone darker;
    darker.exposure = -2;
    p = set_part_tone(p, first, {{}, night}, darker);
    const cv::Mat day = frame(p, pictures, 1, Depth::sixteen), dark = frame(p, pictures, 4, Depth::sixteen);
    CHECK_THAT(linear_at(dark, {9, 9}), WithinRel(double(linear_at(day, {9, 9}) / 4), 0.003));
    SECTION("and are switched back")
    {
        p = switch_state(p, first, PhotoIndex(5), std::nullopt);
        CHECK(most_apart(frame(p, pictures, 5, Depth::sixteen), frame(p, pictures, 2, Depth::sixteen)) == 0);
        CHECK_FALSE(state_at(p.shot(first), PhotoIndex(5)));
        CHECK(state_at(p.shot(first), PhotoIndex(4)) == night);
    }
    SECTION("an area is there in one of them")
    {
        auto [limited, lamp] = with_area(p, box(0.4, 0.4, 0.2, 0.2), [&](Area& a) { a.state = night; });
        Tone warm;
        warm.exposure = 1;
        p = set_part_tone(limited, first, {lamp, {}}, warm);
        CHECK(most_apart(frame(p, pictures, 1, Depth::sixteen), day) == 0);
        CHECK_THAT(linear_at(frame(p, pictures, 4, Depth::sixteen), {120, 80}),
                   WithinRel(double(2 * linear_at(dark, {120, 80})), 0.003));
    }
    SECTION("one that is gone leaves nothing behind")
    {
        p = remove_state(p, first, night);
        CHECK(most_apart(frame(p, pictures, 4, Depth::sixteen), day) == 0);
        CHECK_FALSE(p.shot(first).steps.has<States>());
    }
    SECTION("a switch that says nothing new is not kept")
    {
        CHECK(switch_state(p, first, PhotoIndex(4), night).shot(first).steps.get<States>().switches.size() == 1);
    }
    SECTION("photos in another order stay in the states that begin at them")
    {
        CHECK(state_at(p.shot(first), PhotoIndex(3)) == night);
        CHECK_FALSE(state_at(p.shot(first), PhotoIndex(2)));
    }
}

TEST_CASE("names of areas and states are their own, and everything survives the file", "[areas][project]")
{
    TempFolder t;
    const Pictures pictures = greys(2);
    auto [a, one] = with_area(project_of(pictures), box(0.1, 0.1, 0.3, 0.3));
    auto [b, two] = with_area(a, box(0.4, 0.1, 0.3, 0.3), [](Area& area) { area.name = "Area 1"; });
    auto [c, state] = add_state(b, first, "");
    Project p = switch_state(c, first, PhotoIndex(1), state);
    Tone tone;
    tone.warmth = 4000;
    p = set_part_tone(p, first, {two, state}, tone);
    const Areas& areas = *p.shot(first).steps.find<Areas>();
    CHECK(areas.all[0].name == "Area 1");
    CHECK(areas.all[1].name == "Area 1 2");
    const Project back = project_from_json(project_to_json(p, t / "a.frenlo"), t / "a.frenlo").project;
    CHECK(back == p);
    SECTION("an outline without room is not kept")
    {
        const Project same = change_area(p, first, one, [](Area& area) { area.keys.front().points = {0.1, 0.1}; });
        CHECK(find_area(same.shot(first), one)->keys == find_area(p.shot(first), one)->keys);
    }
}

TEST_CASE("an area shows the clean plate, or another photo, in the light of this one", "[areas]")
{
    Pictures pictures;
    const cv::Mat scene = texture(size, {300, 200});
    for (int i = 0; i < 3; ++i) {
        cv::Mat photo;
        scene.convertTo(photo, -1, 1 - 0.05 * i); // the light changes
        if (i == 1)
            cv::rectangle(photo, cv::Rect(100, 60, 40, 40), cv::Scalar(20, 20, 200), cv::FILLED);
        pictures.all.push_back(photo);
    }
    Project p = project_of(pictures);
    const PhotoId empty = p.shot(first).photos[0].id;
    auto [shown, area] = with_area(p, box(0.38, 0.33, 0.25, 0.36), [&](Area& a) {
        a.shows = AreaShows::other;
        a.other = empty;
        a.soft = 0.01;
    });
    const cv::Mat made = frame(shown, pictures, 1);
    cv::Mat truth;
    scene.convertTo(truth, -1, 0.95);
    CHECK(cv::PSNR(made(cv::Rect(95, 55, 50, 50)), truth(cv::Rect(95, 55, 50, 50))) > 36);
    CHECK(most_apart(made(cv::Rect(0, 0, 240, 40)), pictures.all[1](cv::Rect(0, 0, 240, 40))) == 0);
    SECTION("a photo that cannot be read is a problem where it is written; the screen shows what there is")
    {
        struct WithoutFirst : PhotoSource
        {
            const Pictures& pictures;
            bool screen;
            WithoutFirst(const Pictures& all, bool for_screen) : pictures(all), screen(for_screen) {}
            [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size least, Damage damage) const override
            {
                if (photo.file == "/m/0.png")
                    return problem("the file is gone", photo.file);
                return pictures.pixels(photo, least, damage);
            }
            [[nodiscard]] bool what_there_is() const override { return screen; }
        };
        const auto film = film_of(shown, first);
        const auto request = film->frame(FrameIndex(1), {.size = film->size()});
        const auto written = render(request, WithoutFirst(pictures, false)),
                   seen = render(request, WithoutFirst(pictures, true));
        REQUIRE_FALSE(written);
        CHECK(written.error().file == "/m/0.png");
        REQUIRE(seen);
        CHECK(most_apart(*seen, pictures.all[1]) == 0);
        // Nested in a sum of two as well.
        FrameRequest both{.size = film->size()};
        for (const int at : {1, 2})
            both.parts.push_back({0.5, film->frame(FrameIndex(at), {.size = film->size()}).parts.front().what});
        CHECK_FALSE(render(both, WithoutFirst(pictures, false)));
        CHECK(render(both, WithoutFirst(pictures, true)));
    }
    SECTION("a photo that is gone, or no plate, is told and changes nothing")
    {
        const Project without = change_area(shown, first, area, [](Area& a) { a.shows = AreaShows::plate; });
        CHECK(area_notes(without.shot(first)).size() == 1);
        CHECK(most_apart(frame(without, pictures, 1), pictures.all[1]) == 0);
    }
}

TEST_CASE("things that appear one by one are found, and all else comes from the plate", "[areas][things]")
{
    // Real texture, light that flickers, a thing more in every photo.
    const auto seed = std::uint64_t(GENERATE(11, 12, 13));
    INFO(seed);
    cv::RNG random(seed);
    Pictures pictures;
    const cv::Size large(480, 320);
    const cv::Mat scene = texture(large, {120 + int(random.uniform(0, 200)), 100 + int(random.uniform(0, 100))});
    const std::vector<cv::Rect> places{{60, 60, 50, 70}, {200, 150, 80, 60}, {340, 40, 60, 60}, {350, 220, 70, 50}};
    std::vector<cv::Mat> truth{scene.clone()};
    pictures.all.push_back(scene.clone());
    cv::Mat now = scene.clone();
    for (std::size_t i = 0; i < places.size(); ++i) {
        const cv::Mat thing = texture(places[i].size(), {40 + 90 * int(i), 30});
        cv::Mat(255 - thing).copyTo(now(places[i]));
        truth.push_back(now.clone());
        cv::Mat photo;
        now.convertTo(photo, -1, random.uniform(0.93, 1.07));
        cv::Mat noise(photo.size(), CV_16SC3), noisy;
        random.fill(noise, cv::RNG::NORMAL, 0, 1.5);
        photo.convertTo(noisy, CV_16S);
        cv::Mat(noisy + noise).convertTo(photo, CV_8U);
        pictures.all.push_back(photo);
    }
    Project p = project_of(pictures);
    p = set_plate(p, first, p.shot(first).photos[0].id);
    p = find_things(p.shot(first))(pictures, Job())(p);
    const Areas& areas = *p.shot(first).steps.find<Areas>();
    CHECK(areas.all.size() == 1 + places.size());
    for (std::size_t i = 0; i < truth.size(); ++i) {
        INFO(i);
        const cv::Mat made = frame(p, pictures, std::int64_t(i));
        cv::Mat elsewhere = made.clone();
        for (const cv::Rect& r : places) {
            const cv::Rect around = cv::Rect(r.x - 24, r.y - 24, r.width + 48, r.height + 48) & cv::Rect({0, 0}, large);
            scene(around).copyTo(elsewhere(around));
        }
        CHECK(most_apart(elsewhere, scene) <= 1);
        for (std::size_t k = 0; k < places.size(); ++k)
            CHECK(cv::PSNR(made(places[k]), truth[i](places[k])) > 27);
    }
    SECTION("one that is to come later does")
    {
        const AreaId second = areas.all[2].id;
        const Project later = change_area(p, first, second, [&](Area& a) { a.first = p.shot(first).photos[4].id; });
        const cv::Rect& there = places[1];
        CHECK(cv::PSNR(frame(later, pictures, 3)(there), scene(there)) > 40);
        CHECK(cv::PSNR(frame(later, pictures, 4)(there), truth[4](there)) > 27);
    }
    SECTION("without a plate it says what to do")
    {
        CHECK_THROWS_AS(find_things(project_of(pictures).shot(first))(pictures, Job()), Failure);
    }
}

TEST_CASE("a spot is healed only in its area and in its state", "[areas][retouch]")
{
    Pictures pictures;
    for (int i = 0; i < 2; ++i) {
        cv::Mat photo(size, CV_8UC3, cv::Scalar(90, 120, 150));
        cv::rectangle(photo, cv::Rect(100, 70, 40, 8), cv::Scalar(10, 10, 10), cv::FILLED);
        pictures.all.push_back(photo);
    }
    Project p = project_of(pictures);
    auto [a, left] = with_area(p, box(0, 0, 0.5, 1));
    auto [b, state] = add_state(a, first, "Clean");
    p = switch_state(b, first, PhotoIndex(1), state);
    Spot spot;
    spot.keys = {{p.shot(first).photos[0].id, {0.42, 0.4625, 0.58, 0.4625}}};
    spot.radius = 0.03;
    spot.offset = {0, 0.3};
    spot.area = left;
    spot.state = state;
    p = add_spot(p, first, spot).project;
    CHECK(most_apart(frame(p, pictures, 0), pictures.all[0]) == 0);
    const cv::Mat made = frame(p, pictures, 1);
    CHECK(made.at<cv::Vec3b>(74, 105)[1] > 110);
    CHECK(made.at<cv::Vec3b>(74, 135)[1] == 10);
}

}
