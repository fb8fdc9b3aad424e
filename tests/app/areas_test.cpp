// Areas and states by mouse and keys, on the real window with real files.
#include "core/picture/picture.h"
#include "core/steps/retouch/area_edits.h"
#include "core/steps/retouch/retouch_values.h"
#include "core/timeline/timeline.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <QPushButton>
#include <QTreeWidget>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

const Shot& shot(Person& p)
{
    return *p.window().viewing().shot();
}

std::vector<Area> areas(Person& p)
{
    return shot(p).steps.get<Areas>().all;
}

cv::Vec3b pixel(Person& p, std::int64_t at, cv::Point where)
{
    const auto film = film_of(p.window().session().project(), p.window().viewing().shot_index());
    const auto made = render(film->frame(FrameIndex(at), {.size = film->size()}), Originals());
    REQUIRE(made);
    return made->at<cv::Vec3b>(where);
}

/// These photos on ones, Retouch in view.
void bring_in(Person& p, const std::vector<cv::Mat>& photos)
{
    for (std::size_t i = 0; i < photos.size(); ++i)
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"), photos[i]);
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.window().viewing().set_step("retouch");
    p.wait_for_pictures();
}

std::vector<cv::Mat> greys(int count)
{
    return std::vector<cv::Mat>(std::size_t(count), cv::Mat(400, 600, CV_8UC3, cv::Scalar::all(100)));
}

}

TEST_CASE("An area is drawn round, toned by itself in Light, moved, and taken away")
{
    Person p;
    bring_in(p, greys(3));
    p.click(q("Areas"));
    p.click(q("Outline an area"));
    p.drag_on_picture({{0.3, 0.3}, {0.7, 0.3}, {0.7, 0.7}, {0.3, 0.7}, {0.3, 0.31}});
    REQUIRE(areas(p).size() == 1);
    CHECK_FALSE(p.find<QPushButton>(q("Outline an area"))->isChecked());
    p.look("areas");
    p.window().viewing().set_step("tone");
    p.wait_for_pictures();
    p.choose(q("What is toned"), q("Tone of area Area 1"));
    p.type_into(q("Exposure"), q("1"));
    p.look("tone-of-area");
    const int inside = pixel(p, 1, {300, 200})[1];
    CHECK(inside > 130);
    CHECK(pixel(p, 1, {30, 30})[1] == 100);
    CHECK(pixel(p, 2, {300, 200})[1] == inside);
    p.choose(q("What is toned"), q("Tone of all of the picture"));
    p.type_into(q("Exposure"), q("-1"));
    CHECK(pixel(p, 1, {30, 30})[1] < 80);
    CHECK(std::abs(pixel(p, 1, {300, 200})[1] - 100) <= 1);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.window().viewing().set_step("retouch");
    p.wait_for_pictures();
    p.drag_on_picture({0.5, 0.5}, {0.75, 0.5});
    CHECK(pixel(p, 0, {200, 200})[1] == 100);
    CHECK(pixel(p, 0, {520, 200})[1] == inside);
    p.choose(q("Which side of the outline"), q("outside its outline"));
    CHECK(pixel(p, 0, {520, 200})[1] == 100);
    CHECK(pixel(p, 0, {200, 200})[1] == inside);
    p.click(q("Take the area away"));
    CHECK(areas(p).empty());
    CHECK(pixel(p, 0, {200, 200})[1] == 100);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(areas(p).size() == 1);
}

TEST_CASE("A state is the same photos once more, with a tone of its own, and is switched along the film")
{
    Person p;
    bring_in(p, greys(2));
    p.click(q("States"));
    p.click(q("Add a state"));
    auto* list = p.find<QTreeWidget>(q("List of states"));
    list->topLevelItem(0)->setText(0, q("Lamplight"));
    const int to_look_at = p.findings().open();
    p.click(q("Photos once more in it"));
    REQUIRE(shot(p).photos.size() == 4);
    p.wait_until([&] { return p.window().at_rest(); }, q("they are looked at"));
    CHECK(p.findings().open() == to_look_at); // none of them is a copy by mistake
    CHECK(p.window().viewing().film_frames() == 4);
    CHECK(list->topLevelItem(0)->text(1) == q("3 to 4"));
    p.look("states");
    p.window().viewing().set_step("tone");
    p.wait_for_pictures();
    p.window().viewing().go_to_photo(PhotoIndex(3));
    p.choose(q("What is toned"), q("Tone of state Lamplight"));
    p.type_into(q("Exposure"), q("-2"));
    CHECK(pixel(p, 1, {9, 9})[1] == 100);
    CHECK(pixel(p, 2, {9, 9})[1] < 60);
    p.window().viewing().set_step("retouch");
    p.window().viewing().go_to_photo(PhotoIndex(3));
    p.click(q("No state from here on"));
    CHECK(pixel(p, 3, {9, 9})[1] == 100);
    CHECK(pixel(p, 2, {9, 9})[1] < 60);
    p.window().viewing().go_to_photo(PhotoIndex(0));
    p.click(q("This state from here on"));
    CHECK(pixel(p, 0, {9, 9})[1] < 60);
}

TEST_CASE("What appears photo by photo is found, and comes when it is told to")
{
    Person p;
    const cv::Size size(600, 400);
    const cv::Mat scene = photo_of_scene(turned_by(0, 1, {0, 0}), size);
    std::vector<cv::Mat> photos{scene};
    for (int i = 0; i < 3; ++i) {
        cv::Mat photo = photos.back().clone();
        cv::rectangle(photo, cv::Rect(80 + 170 * i, 150, 80, 90), cv::Scalar(40 + 90 * i, 20, 200 - 60 * i),
                      cv::FILLED);
        photos.push_back(photo);
    }
    for (std::size_t i = 1; i < photos.size(); ++i) // the light flickers
        photos[i].convertTo(photos[i], -1, i % 2 == 1 ? 0.92 : 0.97);
    bring_in(p, photos);
    p.window().viewing().go_to_photo(PhotoIndex(0));
    p.click(q("Use this photo"));
    p.click(q("Areas"));
    p.click(q("Find what appears"));
    p.wait_until([&] { return areas(p).size() == 4; }, q("three things and all else"), 60'000);
    p.look("things");
    const cv::Point second(290, 195), empty(300, 40);
    CHECK(cv::norm(cv::Vec3d(pixel(p, 3, empty)) - cv::Vec3d(scene.at<cv::Vec3b>(empty))) <= 3);
    CHECK(cv::norm(cv::Vec3d(pixel(p, 1, second)) - cv::Vec3d(scene.at<cv::Vec3b>(second))) <= 3);
    CHECK(cv::norm(cv::Vec3d(pixel(p, 2, second)) - cv::Vec3d(130, 20, 140)) <= 12);
    auto* list = p.find<QTreeWidget>(q("List of areas"));
    list->setCurrentItem(list->topLevelItem(2));
    p.window().viewing().go_to_photo(PhotoIndex(3));
    p.click(q("From this photo on"));
    CHECK(cv::norm(cv::Vec3d(pixel(p, 2, second)) - cv::Vec3d(scene.at<cv::Vec3b>(second))) <= 3);
    CHECK(cv::norm(cv::Vec3d(pixel(p, 3, second)) - cv::Vec3d(130, 20, 140)) <= 12);
}

}
