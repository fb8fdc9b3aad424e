// Pace by mouse and keys, on the real window with real files.
#include "app/picture/picture_view.h"
#include "app/steps/pace/speed_plot.h"
#include "app/steps/pace/timing_files.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <QAction>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QSpinBox>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// A person in Pace with a shot of so many photos on ones.
struct InPace : Person
{
    explicit InPace(int photos, cv::Size size = {64, 48})
    {
        // One scene with something that moves: nothing in it looks like another shot or a marker card.
        const cv::Mat scene = painted(size, 3);
        for (int i = 1; i <= photos; ++i) {
            cv::Mat photo = scene.clone();
            cv::rectangle(photo,
                          cv::Rect(size.width * i / (photos + 8), size.height / 3, size.width / 8, size.height / 4),
                          cv::Scalar(40, 60, 200), cv::FILLED);
            char name[32];
            std::snprintf(name, sizeof name, "s_%04d.jpg", i);
            write_jpeg(folder() / "s" / name, photo,
                       ExifWish{"2026:05:03 10:" + std::to_string(10 + i / 60) + ":" + std::to_string(10 + i % 50), "",
                                1, false});
        }
        bring_in(folder() / "s");
        key(Qt::Key_2, Qt::ControlModifier);
        sheet().set_row_length(app::RowLength::one); // a page of known shape
    }
    [[nodiscard]] const Project& project() { return window().session().project(); }
    [[nodiscard]] const Shot& shot() { return *window().viewing().shot(); }
    [[nodiscard]] std::int64_t film() { return window().viewing().film_frames(); }
    [[nodiscard]] std::int64_t page() { return window().viewing().schedule().frames(); }
    [[nodiscard]] std::int64_t playhead() { return window().viewing().playhead().value; }
    [[nodiscard]] std::string hold(int photo) { return hold_text(shot().photos[std::size_t(photo - 1)].hold); }
    [[nodiscard]] std::pair<std::int64_t, std::int64_t> kept()
    {
        const auto [a, b] = kept_photos(project(), shot());
        return {a.value + 1, b.value};
    }
    QString says(const char* label) { return find<QLabel>(q(label))->text(); }
    void undo_one() { key(Qt::Key_Z, Qt::ControlModifier); }
    int column() { return sheet().frame_in_view(FrameIndex(1)).left() - sheet().frame_in_view(FrameIndex(0)).left(); }
};

using Range = std::pair<std::int64_t, std::int64_t>;

}

TEST_CASE("a tile's edge is pulled, frames snap, the rest closes up, and one undo takes it back", "[window][pace]")
{
    InPace p(40);
    const Project before = p.project();
    const QPoint edge = p.sheet().hold_edge_in_view(PhotoIndex(1));
    p.drag_on_sheet(edge, edge + QPoint(3 * p.column() + 2, 0));
    CHECK(p.hold(2) == "4f");
    CHECK(p.film() == 43);
    CHECK(p.window().viewing().schedule().spans()[2].begin == FrameIndex(5)); // never a gap
    p.undo_one();
    CHECK(p.project() == before);

    // Never to nothing, and into the next row.
    p.drag_on_sheet(edge, edge - QPoint(200, 0));
    CHECK(p.hold(2) == "1f");
    const int row = p.sheet().frame_in_view(FrameIndex(24)).top() - p.sheet().frame_in_view(FrameIndex(0)).top();
    p.drag_on_sheet(edge, edge + QPoint(0, row));
    CHECK(p.hold(2) == "25f");
    p.undo_one();

    // All that are selected together.
    p.click_photo(3);
    p.click_photo(6, Qt::ShiftModifier);
    const QPoint selected = p.sheet().hold_edge_in_view(PhotoIndex(4));
    p.drag_on_sheet(selected, selected + QPoint(2 * p.column(), 0));
    for (const int photo : {3, 4, 5, 6})
        CHECK(p.hold(photo) == "3f");
    CHECK(p.hold(7) == "1f");
    p.undo_one();
    CHECK(p.project() == before);

    // Paced at another rate the pulled frames are still those of the film.
    p.choose(q("Paced at"), q("12 fps"));
    const QPoint slow = p.sheet().hold_edge_in_view(PhotoIndex(1));
    p.drag_on_sheet(slow, slow + QPoint(p.column(), 0)); // from two frames of the film to three
    CHECK(p.hold(2) == "0.125s");
    CHECK(p.window().viewing().schedule().spans()[1].frames() == 3);
}

TEST_CASE("holds by key and by field, together, by speed, and longer at the ends", "[window][pace]")
{
    InPace p(13);
    const Project before = p.project();
    p.click_photo(1);
    p.click_photo(2, Qt::ShiftModifier);
    p.key(Qt::Key_Plus);
    CHECK(p.hold(1) == "2f");
    CHECK(p.hold(3) == "1f");
    p.key(Qt::Key_Minus);
    p.key(Qt::Key_Minus); // no less than one
    CHECK(p.project() == before);
    p.key(Qt::Key_Escape);
    p.type_into(q("Hold"), q("0"));
    CHECK(p.film() == 0);
    p.undo_one();

    p.type_into(q("Total length"), q("4 s")); // 13 photos, 96 frames
    CHECK(p.film() == 96);
    CHECK((p.hold(1) == "7f" || p.hold(1) == "8f"));
    p.undo_one();
    CHECK(p.project() == before);
    p.type_into(q("Speed"), q("50 %"));
    CHECK(p.hold(5) == "2f");
    p.type_into(q("Speed"), q("fast"));
    CHECK(p.find(q("Speed"))->property("wrong").toBool());
    p.key(Qt::Key_Escape);
    p.undo_one();
    CHECK(p.project() == before);

    p.click_photo(4);
    p.key(Qt::Key_3);
    p.key(Qt::Key_Escape);
    p.find<QLineEdit>(q("Total length"))->setText(q("30 f")); // 15 frames now: twice as long, shares kept
    p.click(q("Scale holds"));
    CHECK(p.hold(4) == "6f");
    CHECK(p.hold(5) == "2f");
    p.undo_one();
    p.undo_one();

    p.type_into(q("Hold of the film's first photo"), q("12f"));
    p.type_into(q("Hold of the film's last photo"), q("1 s"));
    CHECK(p.film() == 12 + 11 + 24);
    CHECK(p.hold(1) == "1f"); // its own hold stays
    // Pulled on the Sheet it is this hold that follows.
    const QPoint edge = p.sheet().hold_edge_in_view(PhotoIndex(0));
    p.drag_on_sheet(edge, edge - QPoint(4 * p.column(), 0));
    CHECK(p.film() == 8 + 11 + 24);
    p.type_into(q("Hold of the film's first photo"), QString());
    CHECK(p.film() == 1 + 11 + 24);
    for (int i = 0; i < 4; ++i)
        p.undo_one();
    CHECK(p.project() == before);
}

TEST_CASE("the kept range by brackets, keys and numbers, with a fixed length slid along", "[window][pace][range]")
{
    InPace p(100);
    const Project before = p.project();
    p.click_photo(11);
    p.key(Qt::Key_BracketLeft);
    p.click_photo(60);
    p.key(Qt::Key_BracketRight);
    CHECK(p.kept() == Range{11, 60});
    CHECK(p.film() == 50);
    CHECK(p.page() == 100); // the Sheet shows all of it

    p.click(q("Range and order"));
    const QPoint first = p.sheet().range_bracket_in_view(true);
    p.drag_on_sheet(first, first + QPoint(5 * p.column(), 0));
    CHECK(p.kept() == Range{16, 60});
    p.undo_one(); // one drag is one step
    CHECK(p.kept() == Range{11, 60});
    const QPoint last = p.sheet().range_bracket_in_view(false);
    p.drag_on_sheet(last, last - QPoint(4 * p.column(), 0));
    CHECK(p.kept() == Range{11, 56});
    p.undo_one();

    p.type_into(q("Last kept photo"), q("20"));
    CHECK(p.kept() == Range{11, 20});
    p.type_into(q("First kept photo"), q("99"));
    CHECK(p.find(q("Last kept photo"))->property("wrong").toBool());
    CHECK(p.kept() == Range{11, 20});
    p.type_into(q("First kept photo"), q("5"));
    CHECK(p.kept() == Range{5, 20});
    CHECK(p.find<QLineEdit>(q("Length of the range"))->text().isEmpty());

    p.type_into(q("Length of the range"), q("2 s"));
    CHECK(p.kept() == Range{5, 52});
    p.click_photo(30);
    p.key(Qt::Key_Right, Qt::AltModifier);
    CHECK(p.kept() == Range{6, 53});
    p.key(Qt::Key_Right, Qt::AltModifier | Qt::ShiftModifier);
    CHECK(p.kept() == Range{16, 63});
    p.key(Qt::Key_Left, Qt::AltModifier);
    CHECK(p.kept() == Range{15, 62});
    p.key(Qt::Key_Space); // slid while it plays
    auto* slider = p.find<QSlider>(q("Slide the range"));
    CHECK(slider->maximum() == 52);
    slider->setValue(52);
    CHECK(p.kept() == Range{53, 100});
    CHECK(p.sees(q("Stop")));
    CHECK(p.playhead() == 52); // into the range at once
    std::set<std::int64_t> played;
    const auto watch = QObject::connect(&p.window().viewing(), &app::Viewing::playhead_changed, &p.window(),
                                        [&] { played.insert(p.playhead()); });
    p.wait_until([&] { return played.contains(99) && played.contains(52); }, q("it plays the range, and again"));
    CHECK(*played.begin() == 52);
    QObject::disconnect(watch);
    p.key(Qt::Key_Space);
    p.undo_one();
    CHECK(p.kept() == Range{15, 62});
    const QPoint fixed = p.sheet().range_bracket_in_view(true);
    p.drag_on_sheet(fixed, fixed + QPoint(3 * p.column(), 0));
    CHECK(p.kept() == Range{18, 65}); // a bracket of a fixed length slides it

    p.type_into(q("Length of the range"), q("30 photos"));
    CHECK(p.kept() == Range{18, 47});
    p.click(q("Keep as a version of its own"));
    REQUIRE(p.project().shots.size() == 2);
    CHECK(p.window().viewing().shot_index() == ShotIndex(1));
    p.type_into(q("Length of the range"), QString());
    p.type_into(q("First kept photo"), q("40"));
    CHECK(p.kept() == Range{40, 47});
    CHECK(schedule_of(p.project(), p.project().shot(ShotIndex(0))).frames() == 30); // the other stays
    p.click(q("Whole shot"));
    CHECK(p.film() == 100);
}

TEST_CASE("another delivery rate is chosen by its result", "[window][pace]")
{
    InPace p(24);
    const Project before = p.project();
    p.choose(q("Delivered at"), q("30 fps"));
    CHECK(p.project() == before); // nothing yet
    CHECK(p.says("Result with the same photos per frame").contains(q("0.80 s")));
    CHECK(p.says("Result with the same clock time").contains(q("1.00 s")));
    CHECK(p.says("Result with the same clock time").contains(q("in 4 repeated")));
    p.click(q("Leave the rate as it is"));
    CHECK(p.project() == before);
    CHECK(p.find<QComboBox>(q("Delivered at"))->currentText() == q("24 fps"));
    p.choose(q("Delivered at"), q("30 fps"));
    p.click(q("Same clock time"));
    CHECK(p.film() == 30);
    CHECK(p.says("Cadence in words").contains(q("in 4 repeated")));
    p.undo_one();
    CHECK(p.project() == before);
    p.choose(q("Delivered at"), q("12 fps"));
    CHECK(p.says("Result with the same clock time").contains(q("not seen")));
    p.click(q("Same photos per frame"));
    CHECK(p.film() == 24);
    p.undo_one();
    CHECK(p.project() == before);
}

TEST_CASE("mixed frames are seen as they are written", "[window][pace][picture]")
{
    InPace p(8, {600, 400});
    p.choose(q("Paced at"), q("48 fps")); // two photos a frame
    CHECK(p.window().viewing().schedule().between_frames().size() == 4);
    p.click(q("Mix"));
    CHECK(p.window().viewing().schedule().between_frames().empty());
    p.key(Qt::Key_Period);
    REQUIRE(p.playhead() == 1);
    p.wait_for_pictures();
    auto& view = *p.window().findChild<app::PictureView*>();
    const Schedule film = schedule_of(p.project(), p.shot());
    const auto request = request_for_shares(p.shot(), film.shares_at(FrameIndex(1)), view.picture_size());
    REQUIRE(request.parts.size() == 2);
    const QImage shown = view.grab().toImage().convertToFormat(QImage::Format_RGB32);
    const QImage made = app::to_image(*render(request, Originals()));
    const QPoint corner(int(std::lround((shown.width() - made.width()) / 2.0)),
                        26 + int(std::lround((shown.height() - 26 - 12 - made.height()) / 2.0)));
    int different = 0;
    for (int y = 0; y < made.height(); ++y)
        for (int x = 0; x < made.width(); ++x)
            different += made.pixel(x, y) != shown.pixel(corner.x() + x, corner.y() + y);
    CHECK(different == 0);
}

TEST_CASE("backwards, there and back, repeated, and every Nth, each one step", "[window][pace]")
{
    InPace p(10);
    const Project before = p.project();
    const auto film = [&] { return schedule_of(p.project(), p.shot()); };
    p.click(q("Range and order"));
    p.click(q("Backwards"));
    CHECK(film().photo_at(FrameIndex(0)) == PhotoIndex(9));
    p.undo_one();
    p.click(q("There and back"));
    CHECK(p.film() == 18);
    p.choose(q("Turning photos"), q("A B C C B A"));
    CHECK(p.film() == 20);
    p.choose(q("Turning photos"), q("A B C B A"));
    CHECK(p.film() == 19);
    // A photo that comes twice is one photo: a hold that is pulled at its second place changes both.
    p.click_photo(3);
    p.key(Qt::Key_2);
    CHECK(p.film() == 21);
    p.key(Qt::Key_End);
    CHECK(p.playhead() == 20);
    p.key(Qt::Key_Left);
    CHECK(p.playhead() == 19); // along the page, not back to where the photo comes first
    CHECK(p.window().viewing().selection().current() == PhotoIndex(1));
    for (int i = 0; i < 4; ++i)
        p.undo_one();
    CHECK(p.project() == before);

    p.find<QSpinBox>(q("Times"))->setValue(3);
    CHECK(p.film() == 30);
    p.undo_one();
    p.type_into(q("At least"), q("4 s")); // ten times 10 frames are the first that last 96
    CHECK(p.film() == 100);
    CHECK(p.says("How often it plays").contains(q("10")));
    p.undo_one();
    p.find<QSpinBox>(q("Keep every"))->setValue(3);
    CHECK(film().photo_of_each_frame() == std::vector{PhotoIndex(0), PhotoIndex(3), PhotoIndex(6), PhotoIndex(9)});
    p.undo_one();
    CHECK(p.project() == before);
}

TEST_CASE("marks set while it plays drop photos", "[window][pace]")
{
    InPace p(24);
    p.click(q("Range and order"));
    p.click_photo(1);
    p.key(Qt::Key_Space);
    p.wait_until([&] { return p.playhead() > 4; }, q("it plays"));
    p.key(Qt::Key_M);
    p.key(Qt::Key_Space);
    const auto marks = marked_photos(p.shot());
    REQUIRE(marks.size() == 1);
    CHECK(p.says("Marks").contains(q("1 mark")));
    p.find<QSpinBox>(q("Photos at each mark"))->setValue(2);
    p.click(q("Set aside at marks"));
    CHECK(marked_photos(p.shot()).empty());
    CHECK(p.shot().photos[marks[0].at()].aside);
    p.undo_one();
    CHECK(marked_photos(p.shot()) == marks);
    p.click(q("Clear"));
    CHECK(marked_photos(p.shot()).empty());
}

TEST_CASE("photos without movement are found, looked at and left out", "[window][pace]")
{
    Person p;
    cv::RNG noise(5);
    const cv::Mat scene = painted({640, 480}, 3);
    for (int i = 1; i <= 9; ++i) { // photos 4, 5 and 8 repeat the one before, with other noise and light
        const int step = i <= 3 ? i : i <= 5 ? 3 : i <= 7 ? i - 2 : i == 8 ? 5 : 6;
        cv::Mat photo = scene.clone();
        cv::rectangle(photo, {100 + 14 * step, 200, 60, 80}, cv::Scalar(40, 60, 200), cv::FILLED);
        cv::Mat grain(photo.size(), CV_16SC3), sum;
        noise.fill(grain, cv::RNG::NORMAL, 0, 5);
        photo.convertTo(sum, CV_16SC3, 1 + 0.02 * (i % 3));
        sum += grain;
        sum.convertTo(photo, CV_8UC3);
        write_jpeg(p.folder() / "s" / ("s_000" + std::to_string(i) + ".jpg"), photo);
    }
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.click(q("Range and order"));
    p.click(q("Find stumbles"));
    p.wait_until([&] { return p.sees(q("Set aside what does not move")); }, q("they are found"));
    CHECK(p.find<QLabel>(q("Photos without movement"))->text().startsWith(q("3 ")));
    p.click(q("Select"));
    CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(3), PhotoIndex(4), PhotoIndex(7)});
    p.click(q("Set aside what does not move"));
    CHECK(p.window().viewing().timeline().photos == 6);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(p.window().viewing().timeline().photos == 9);
}

TEST_CASE("the Sheet is scrubbed, and stepped by frame and by photo", "[window][pace]")
{
    InPace p(60);
    p.click_photo(1);
    p.key(Qt::Key_2);
    const QRect from = p.sheet().frame_in_view(FrameIndex(1)), to = p.sheet().frame_in_view(FrameIndex(14));
    const auto selected = p.window().viewing().selection();
    p.drag_on_sheet(from.center() + QPoint(0, from.height() / 2 + 8), to.center() + QPoint(0, to.height() / 2 + 8));
    CHECK(p.playhead() == 14);
    CHECK(p.window().viewing().selection() == selected); // looking changes no selection
    const QRect tab = p.sheet().frame_in_view(FrameIndex(14)), far = p.sheet().frame_in_view(FrameIndex(40));
    p.drag_on_sheet({tab.center().x(), tab.top() - 5}, far.center());
    CHECK(p.playhead() == 40);
    p.key(Qt::Key_Comma);
    CHECK(p.playhead() == 39);
    p.click_photo(1);
    p.key(Qt::Key_Period);
    CHECK(p.playhead() == 1);
    p.key(Qt::Key_Greater, Qt::ShiftModifier);
    CHECK(p.playhead() == 2); // photo 1 is on twos
    p.key(Qt::Key_Down);
    CHECK(p.playhead() == 26);
    p.key(Qt::Key_Home);
    CHECK(p.playhead() == 0);
}

TEST_CASE("the player keeps to the range, plays slower, and says how exactly", "[window][player]")
{
    InPace p(30);
    p.type_into(q("Delivered at"), q("60"));
    p.click(q("Same photos per frame"));
    p.click_photo(6);
    p.key(Qt::Key_BracketLeft);
    p.click_photo(15);
    p.key(Qt::Key_BracketRight);
    p.wait_for_pictures();
    p.menu(q("Player timing"))->trigger();
    std::set<std::int64_t> seen;
    QObject::connect(&p.window().viewing(), &app::Viewing::playhead_changed, &p.window(),
                     [&] { seen.insert(p.playhead()); });
    p.click_photo(1); // outside: it starts at the range
    seen.clear();
    p.key(Qt::Key_Space);
    p.wait_until([&] { return seen.size() >= 10; }, q("the range was played"));
    CHECK(*seen.begin() == 5);
    CHECK(*seen.rbegin() == 14);
    p.click(q("Range")); // now the whole page
    p.wait_until([&] { return seen.contains(29) && seen.contains(0); }, q("all was played"));
    auto& player = p.window().player();
    p.wait_until([&] { return player.timing().frames() > 60; }, q("a second was played"));
    // Once for real: frames come in their time, never before it, and are seldom left out on an idle machine.
    CHECK(player.timing().mean_ms() >= 0);
    CHECK(player.timing().worst_ms() >= player.timing().mean_ms());
    p.choose(q("Speed of the player"), q("quarter"));
    CHECK(player.speed() == Fraction(1, 4));
    p.key(Qt::Key_Space);
}

TEST_CASE("the onion skin shows neighbours and what differs, and not while it plays", "[window][pace][picture]")
{
    InPace p(5, {600, 400});
    p.click_photo(3);
    p.wait_for_pictures();
    auto& view = *p.window().findChild<app::PictureView*>();
    const auto seen = [&] {
        p.wait_for_pictures();
        return view.grab().toImage();
    };
    const QImage plain = seen();
    p.key(Qt::Key_G);
    CHECK(view.also_wanted() == std::vector{PhotoIndex(1)});
    const QImage one_back = seen();
    CHECK(one_back != plain);
    app::OnionSkin skin = view.onion_skin();
    skin.back = 3;
    skin.ahead = 2;
    view.set_onion_skin(skin);
    CHECK(view.also_wanted() ==
          std::vector{PhotoIndex(0), PhotoIndex(4), PhotoIndex(1), PhotoIndex(3)}); // the nearest last, on top
    CHECK(seen() != one_back);
    skin.difference = true;
    view.set_onion_skin(skin);
    const QImage difference = seen();
    CHECK(difference != plain);
    p.key(Qt::Key_Space);
    CHECK(view.also_wanted().empty());
    p.key(Qt::Key_Space);
    p.click(q("Onion skin"));
    p.click_photo(3);
    CHECK(seen() == plain);
}

TEST_CASE("the picture fills the screen and comes back, and lengths are counted as asked", "[window]")
{
    InPace p(48);
    p.key(Qt::Key_F11);
    CHECK(p.window().isFullScreen());
    CHECK_FALSE(p.sheet().isVisible());
    p.key(Qt::Key_Period);
    CHECK(p.playhead() == 1);
    p.key(Qt::Key_Escape);
    CHECK_FALSE(p.window().isFullScreen());
    CHECK(p.sheet().isVisible());
    CHECK(p.says("Length of the page") == q("of 0:02:00"));
    p.menu(q("Frames"))->trigger();
    CHECK(p.says("Length of the page") == q("of 48 f"));
    p.menu(q("Timecode"))->trigger();
    CHECK(p.says("Clock") == q("00:00:00:01"));
    p.kill_and_restart();
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    CHECK(p.says("Clock") == q("00:00:00:00")); // it is remembered
}

TEST_CASE("what plays next is ready before it is played", "[window][player]")
{
    InPace p(40, {640, 480});
    p.wait_for_pictures();
    auto& view = *p.window().findChild<app::PictureView*>();
    const Schedule& schedule = p.window().viewing().schedule();
    for (FrameIndex f; f.value < schedule.frames(); ++f)
        CHECK(p.window().loader().has(p.window().viewing().film()->frame(f, {.size = view.picture_size()}),
                                      app::Quality::preview));
}

TEST_CASE("the wheel makes the Sheet larger round the pointer, and each shot keeps its own size",
          "[window][sheet][fit]")
{
    InPace p(64, {90, 60}); // so many that rows of the shortest kind would not all be seen
    app::SheetView& sheet = p.sheet();
    sheet.set_row_length(std::nullopt);
    CHECK(sheet.fits());
    const app::RowLength as_fits = sheet.row_length();
    const FrameRange all = sheet.frames_in_view();
    CHECK(all.frames() == p.window().viewing().schedule().frames()); // the whole shot is on the page
    const QPoint at = sheet.tile_in_view(PhotoIndex(20)).center();
    const auto wheel = [&](int notches) {
        QWheelEvent event(at, sheet.viewport()->mapToGlobal(at), {}, {0, 120 * notches}, Qt::NoButton,
                          Qt::ControlModifier, Qt::NoScrollPhase, false);
        QApplication::sendEvent(sheet.viewport(), &event);
    };
    wheel(1);
    CHECK_FALSE(sheet.fits());
    CHECK(int(sheet.row_length()) < int(as_fits));
    const auto* length = p.find<QComboBox>(q("Length of a row"));
    CHECK(length->currentText() != q("as it fits"));
    const QRect tile = sheet.tile_in_view(PhotoIndex(20));
    CHECK(std::abs(tile.center().y() - at.y()) <= tile.height()); // what was under the pointer is still near it
    wheel(-1);
    CHECK(sheet.row_length() == as_fits);
    p.key(Qt::Key_0, Qt::ControlModifier);
    CHECK(sheet.fits());
    p.choose(q("Length of a row"), q("5 seconds"));
    CHECK(sheet.row_length() == app::RowLength::five);
    p.key(Qt::Key_0, Qt::ControlModifier);
    CHECK(length->currentText() == q("as it fits"));
}

TEST_CASE("A loop is found, kept, and the next best one tried")
{
    Person p;
    constexpr int period = 12;
    for (int i = 0; i < 3 * period; ++i) {
        cv::Mat photo = painted({240, 160}, 3);
        const double turn = 2 * 3.14159265358979 * i / period;
        cv::circle(photo, {120 + int(60 * std::cos(turn)), 80 + int(40 * std::sin(turn))}, 12, cv::Scalar(0, 0, 255),
                   -1);
        write_picture(p.folder() / "w" / ("w_" + std::to_string(1001 + i) + ".png"),
                      with_noise(photo, 2, std::uint64_t(i)));
    }
    p.bring_in(p.folder() / "w");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.click(QStringLiteral("Range and order"));
    p.click(QStringLiteral("Find a loop"));
    p.wait_until([&] { return p.window().viewing().shot()->pacing.kept.has_value(); },
                 QStringLiteral("a loop is kept"));
    CHECK(p.window().viewing().film_frames() == period);
    const auto kept = p.window().viewing().shot()->pacing.kept;
    p.click(QStringLiteral("Try the next loop"));
    CHECK_FALSE(p.window().viewing().shot()->pacing.kept == kept);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(p.window().viewing().shot()->pacing.kept == kept);
}

TEST_CASE("In-betweens are made, seen on the Sheet, checked, refused after one photo, and exported")
{
    Person p;
    cv::Mat back = photo_of_scene(turned_by(0, 1, {0, 0}), {600, 400});
    const cv::Mat disc = photo_of_scene(turned_by(20, 1, {90, 40}), {600, 400});
    const auto picture = [&](double x) {
        cv::Mat photo = back.clone(), mask(back.size(), CV_8U, cv::Scalar(0));
        const cv::Point middle(int(std::lround(x)), 200);
        cv::circle(mask, middle, 60, cv::Scalar(255), -1, cv::LINE_AA);
        cv::Mat carried;
        const cv::Mat by = (cv::Mat_<double>(2, 3) << 1, 0, x - 300, 0, 1, 0);
        cv::warpAffine(disc, carried, by, back.size(), cv::INTER_LINEAR, cv::BORDER_REFLECT);
        carried.copyTo(photo, mask);
        return photo;
    };
    for (int i = 0; i < 6; ++i)
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"), picture(200 + 16 * i));
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.click(q("Flow"));
    p.click(q("2 times"));
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    CHECK(shot().pacing.between == Between::motion);
    CHECK(p.window().viewing().film_frames() == 12);
    REQUIRE(p.window().viewing().schedule().shares_at(FrameIndex(1)).size() == 2);
    p.click(q("Check the in-betweens"));
    const QString found = q("What was found between the photos");
    p.wait_until([&] { return p.sees(found) && p.find<QLabel>(found)->text() == q("all movement is followed"); },
                 q("they are checked"));

    // Refused behind the third photo: there the nearer photo is repeated.
    p.window().viewing().go_to_photo(PhotoIndex(2));
    p.choose(q("How this photo becomes the next"), q("repeat"));
    CHECK(shot().photos[2].to_next == Between::repeat);
    p.export_film(p.folder() / "slow.mp4");
    output_of("ffmpeg -v error -i " + quoted((p.folder() / "slow.mp4").native()) + " " +
              quoted((p.folder() / "slow_%04d.png").native()));
    const auto written = [&](int frame) {
        return cv::imread((p.folder() / ("slow_000" + std::to_string(frame + 1) + ".png")).string());
    };
    const auto apart = [](const cv::Mat& a, const cv::Mat& b, double x) { // over the disc
        const cv::Rect part(int(x) - 40, 160, 80, 80);
        return cv::norm(a(part), b(part), cv::NORM_L2) / std::sqrt(80.0 * 80 * 3);
    };
    const double followed = apart(written(1), picture(208), 208);
    CAPTURE(followed, apart(written(1), picture(200), 208));
    CHECK(followed < 0.4 * apart(written(1), picture(200), 208));
    CHECK(followed < 0.4 * apart(written(1), picture(216), 208));
    CHECK(apart(written(5), picture(248), 248) < 0.4 * apart(written(5), picture(240), 248)); // the next one, repeated
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK_FALSE(shot().photos[2].to_next);
}

TEST_CASE("A speed course is drawn, pulled, typed, kept to its length, and taken away")
{
    Person p;
    for (int i = 0; i < 25; ++i)
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"),
                      cv::Mat(40, 60, CV_8UC3, cv::Scalar::all(100 + 4 * i)));
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_2);
    p.click(q("Flow"));
    p.wait_for_pictures();
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    auto* plot = p.find<app::SpeedPlot>(q("Speed course"));
    const auto press = [&](double photo, double percent) {
        QTest::mouseClick(plot, Qt::LeftButton, {}, plot->at(photo, percent).toPoint());
    };
    press(0, 100);
    press(12, 100);
    press(24, 100);
    REQUIRE(speed_course_of(shot()).points.size() == 3);
    // The middle one is pulled down to half of the speed: one change, and the film is longer at once.
    const auto from = plot->at(12, speed_course_of(shot()).points[1].percent).toPoint();
    QTest::mousePress(plot, Qt::LeftButton, {}, from);
    for (int step = 1; step <= 5; ++step) {
        const QPoint to = plot->at(12, 100 - 10 * step).toPoint();
        QMouseEvent move(QEvent::MouseMove, to, plot->mapToGlobal(to), Qt::LeftButton, Qt::LeftButton, {});
        QApplication::sendEvent(plot, &move);
    }
    QTest::mouseRelease(plot, Qt::LeftButton, {}, plot->at(12, 50).toPoint());
    CHECK(speed_course_of(shot()).points[1].percent == Approx(50).epsilon(0.05));
    CHECK(p.window().viewing().film_frames() > 60);
    p.type_into(q("speed"), q("25"));
    CHECK(speed_course_of(shot()).points[1].percent == 25);
    p.choose(q("Way to the next point"), q("evenly"));
    CHECK(speed_course_of(shot()).points[1].ease == Ease::none);
    const auto before = p.window().viewing().film_frames();
    p.click(q("Keep the length"));
    CHECK(p.window().viewing().film_frames() == 50);
    p.click(q("Keep the length"));
    CHECK(p.window().viewing().film_frames() == before);
    plot->setFocus();
    p.key(Qt::Key_Right);
    CHECK(speed_course_of(shot()).points[1].photo == shot().photos[13].id);
    p.key(Qt::Key_Delete);
    CHECK(speed_course_of(shot()).points.size() == 2);
    p.click(q("Even speed"));
    CHECK_FALSE(shot().steps.has<SpeedCourse>());
    CHECK(p.window().viewing().film_frames() == 50);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(speed_course_of(shot()).points.size() == 2);

    p.click(q("Vary holds"));
    CHECK(std::any_of(shot().photos.begin(), shot().photos.end(),
                      [](const ShotPhoto& photo) { return photo.hold != Hold(Frames{2}); }));
}

TEST_CASE("The dopesheet goes out as PDF and table, and holds come back in")
{
    InPace p(30);
    p.key(Qt::Key_2);
    app::TimingFiles files(p.window().session(), p.window().viewing());
    QString said;
    QObject::connect(&files, &app::TimingFiles::failed, [&](const QString& message) { said = message; });
    const auto to = [&](const char* name) { return app::to_qt(p.folder() / name); };
    files.write(to("sheet.pdf"));
    files.write(to("sheet.csv"));
    files.write(to("sheet.otio"));
    CHECK(said.isEmpty());
    CHECK(read_bytes(p.folder() / "sheet.pdf").starts_with("%PDF"));
    CHECK(read_bytes(p.folder() / "sheet.otio").find("Timeline.1") != std::string::npos);
    files.write(to("sheet.doc"));
    CHECK(said.contains(q(".csv")));

    write_bytes(p.folder() / "holds.csv", "photo,hold\n3,12\n");
    files.read_holds(to("holds.csv"));
    CHECK(p.window().viewing().shot()->photos[2].hold == Hold(Frames{12}));
    CHECK(p.window().viewing().film_frames() == 70);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(p.window().viewing().film_frames() == 60);
}

TEST_CASE("A place where movement cannot be followed is gone to, and refused there")
{
    Person p;
    for (int i = 0; i < 5; ++i)
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"),
                      i < 3 ? photo_of_scene(turned_by(0, 1, {4.0 * i, 0}), {600, 400})
                            : with_noise(cv::Mat(400, 600, CV_8UC3, cv::Scalar::all(90)), 50, 3));
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_2);
    p.click(q("Flow"));
    p.click(q("Motion"));
    p.click(q("Check the in-betweens"));
    const QString found = q("What was found between the photos");
    p.wait_until([&] { return p.sees(found) && p.find<QLabel>(found)->text().startsWith(q("1 of 1: photo 3 to 4")); },
                 q("it is found"));
    CHECK(p.window().viewing().schedule().shares_at(p.window().viewing().playhead()).size() == 2);
    p.choose(q("How this photo becomes the next"), q("repeat"));
    for (std::size_t i = 0; i < 5; ++i)
        CHECK(p.window().viewing().shot()->photos[i].to_next.has_value() == (i == 2));
    CHECK(p.sees(found)); // what was decided changes nothing of what was found
    p.window().session().apply([](const Project& project) { return split_shot(project, ShotIndex(0), PhotoIndex(1)); },
                               q("Split the shot"));
    CHECK_FALSE(p.sees(found)); // now it would be another place
}

TEST_CASE("Holds are tapped: each photo until the next tap, in one step", "[pace][tap]")
{
    Person p;
    write_run(p.folder() / "s", "s", 5, {64, 48});
    p.bring_in(p.folder() / "s");
    p.window().viewing().set_step("pace");
    p.wait_for_pictures();
    p.click(QStringLiteral("Flow"));
    p.click(QStringLiteral("Tap holds"));
    p.sheet().setFocus();
    const auto hold = [&](std::size_t i) {
        const Shot& shot = *p.window().viewing().shot();
        return (length_of(shot.photos[i].hold, Rate(24)).value * Fraction(24)).rounded();
    };
    QElapsedTimer time;
    time.start();
    std::vector<double> pressed;
    for (const int wait : {250, 500, 125}) {
        QTest::qWait(wait);
        pressed.push_back(double(time.elapsed()) / 1000);
        p.key(Qt::Key_Space);
    }
    CHECK(p.window().viewing().shown_photo() == PhotoIndex(3));
    p.key(Qt::Key_Escape);
    // As they were pressed, within two frames: a machine under load takes its time between the two clocks.
    CHECK(double(hold(0)) == Approx(pressed[0] * 24).margin(2));
    CHECK(double(hold(1)) == Approx((pressed[1] - pressed[0]) * 24).margin(2));
    CHECK(double(hold(2)) == Approx((pressed[2] - pressed[1]) * 24).margin(2));
    p.window().session().undo();
    CHECK(hold(1) <= 2);
    p.key(Qt::Key_Space); // it plays again
    CHECK(p.window().player().playing());
}

}
