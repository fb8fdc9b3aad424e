// Shoot on the real window: the simulated camera, its figure pulled by the mouse, photos on disk and on the Sheet.
#include "app/steps/shoot/live_view.h"
#include "app/steps/shoot/series_part.h"
#include "core/camera/simulated_scene.h"
#include "core/picture/picture.h"
#include "core/source/inspect.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include <fstream>

using namespace frenlo;
using namespace frenlo::test;
using app::LiveLook;
using app::LiveView;

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

LiveView& view(Person& p)
{
    return *p.find<LiveView>(q("Live picture"));
}

/// From the start page to a live picture of the simulated camera, photos going into a folder of the test's.
void begin_to_shoot(Person& p)
{
    p.click(q("Shoot with a camera"));
    p.wait_until([&] { return p.sees(q("Take photo")) && p.find(q("Take photo"))->isEnabled(); },
                 q("the camera opens"));
    p.click(q("Camera")); // a machine with a camera of its own has that one open by now
    if (p.find<QComboBox>(q("Camera in use"))->currentText() != q("Simulated camera")) {
        p.choose(q("Camera in use"), q("Simulated camera"));
        p.wait_until([&] { return p.find(q("Take photo"))->isEnabled(); }, q("the simulated one opens"));
    }
    p.click(q("Take"));
    p.type_into(q("Folder for the photos"), QString::fromStdString((p.folder() / "set").string()));
    p.type_into(q("Name of the new shot"), q("Tin walk"));
}

std::size_t photos(Person& p)
{
    const Shot* shot = p.window().viewing().shot();
    return shot ? shot->photos.size() : 0;
}

void take(Person& p)
{
    const std::size_t before = photos(p);
    p.key(Qt::Key_T);
    p.wait_until([&] { return photos(p) > before; }, q("the photo is on the Sheet"));
    p.wait_until([&] { return p.find(q("Take photo"))->isEnabled(); }, q("the next can be taken"));
}

/// Pulls over the live picture, shares of it.
void pull(Person& p, QPointF from, QPointF to)
{
    LiveView& v = view(p);
    const auto at = [&](QPointF share) {
        const QRectF r = v.place();
        return QPoint(int(r.left() + share.x() * r.width()), int(r.top() + share.y() * r.height()));
    };
    QTest::mousePress(&v, Qt::LeftButton, {}, at(from));
    for (int i = 1; i <= 4; ++i)
        QTest::mouseMove(&v, at(from + (to - from) * i / 4));
    QTest::mouseRelease(&v, Qt::LeftButton, {}, at(to));
}

const TakenHere& taken(Person& p, std::size_t photo)
{
    const auto* t = p.window().viewing().shot()->photos[photo].steps.find<TakenHere>();
    REQUIRE(t);
    return *t;
}

}

TEST_CASE("Twenty photos of the figure are shot, one anew, one averaged, and the loop is exported")
{
    Person p;
    begin_to_shoot(p);
    p.click(q("Lock all"));
    const double wide = 16.0 / 9;
    const cv::Point2d hand = end_of(Pose{}, Pose::right_hand);
    QPointF at(hand.x / wide, hand.y);
    for (int i = 0; i < 20; ++i) {
        take(p);
        const QPointF next = at + QPointF(-0.002, i % 10 < 5 ? -0.012 : 0.012);
        pull(p, at, next);
        at = next;
    }
    REQUIRE(photos(p) == 20);
    const Shot& shot = *p.window().viewing().shot();
    CHECK(shot.name == "Tin walk");
    for (const ShotPhoto& photo : shot.photos) {
        CHECK(photo.hold == Hold(Frames{2}));
        CHECK(inspect(photo.photo->file).state == PhotoState::fine);
        CHECK(photo.photo->file.parent_path() == p.folder() / "set");
    }
    CHECK(shot.photos[19].photo->file.filename() == "tin-walk_0020.png");
    // The hand moved, and it is measured.
    int moved = 0;
    for (std::size_t i = 1; i < 20; ++i) {
        REQUIRE(taken(p, i).moved);
        moved += taken(p, i).moved->changed > 0.0002 ? 1 : 0;
    }
    CHECK(moved >= 15);
    CHECK(p.find<QLabel>(q("The last photo"))->text().contains(q("safe on disk after")));

    p.sheet().setFocus();
    p.click_photo(7);
    p.click(q("Retake"));
    p.wait_until([&] { return photos(p) == 21; }, q("it is taken anew"));
    const Shot& anew = *p.window().viewing().shot();
    CHECK_FALSE(anew.photos[6].aside);
    CHECK(anew.photos[6].photo->file.filename() == "tin-walk_0021.png");
    CHECK(anew.photos[7].aside);
    CHECK(anew.photos[7].photo->file.filename() == "tin-walk_0007.png");
    CHECK(std::filesystem::exists(p.folder() / "set" / "tin-walk_0007.png"));

    p.type_into(q("Pictures averaged"), q("4"));
    p.sheet().setFocus();
    take(p);
    CHECK(taken(p, 21).averaged == 4);
    CHECK(taken(p, 21).noise_gain == Approx(2).epsilon(0.1));
    CHECK(p.find<QLabel>(q("The last photo"))->text().contains(q("noise ÷")));
    p.type_into(q("Pictures averaged"), q("1"));

    // Undo takes it off the Sheet, never off the disk.
    p.window().session().undo();
    CHECK(photos(p) == 21);
    CHECK(std::filesystem::exists(p.folder() / "set" / "tin-walk_0022.png"));
    p.window().session().redo();

    const auto loop = p.folder() / "loop.gif";
    p.window().viewing().set_step("export");
    p.type_into(q("File"), QString::fromStdString(loop.string())); // its ending chooses the format
    p.wait_until([&] { return p.sees(q("Export the loop")) && p.find(q("Export the loop"))->isEnabled(); },
                 q("the plan"));
    p.click(q("Export the loop"));
    p.wait_until([&] { return std::filesystem::exists(loop); }, q("it is written"));
    const int frames = std::stoi(output_of("ffprobe -v error -count_frames -select_streams v -show_entries "
                                           "stream=nb_read_frames -of csv=p=0 " +
                                           quoted(loop.native())));
    CHECK(frames >= 21); // held frames of a loop are one
}

TEST_CASE("What the next photo is to be is said, and done")
{
    Person p;
    begin_to_shoot(p);
    take(p);
    p.type_into(q("Hold of the next photo"), q("3"));
    CHECK(p.find(q("Take photo"))->isEnabled());
    p.sheet().setFocus();
    take(p);
    CHECK(p.window().viewing().shot()->photos[1].hold == Hold(Frames{3}));
    p.click(q("Trial"));
    take(p);
    CHECK(p.window().viewing().shot()->photos[2].aside);
    CHECK(p.window().viewing().shot()->photos[2].photo->file.filename() == "tin-walk_0003_trial.png");
    p.click(q("Trial"));
    // Behind the first photo.
    p.choose(q("Place of the next photo"), q("behind the photo in hand"));
    p.sheet().setFocus();
    p.click_photo(1);
    take(p);
    CHECK(p.window().viewing().shot()->photos[1].photo->file.filename() == "tin-walk_0004.png");
    p.choose(q("Place of the next photo"), q("at the end"));
    p.choose(q("Exposures"), q("3, two stops apart"));
    p.sheet().setFocus();
    take(p);
    const Shot& shot = *p.window().viewing().shot();
    REQUIRE(shot.photos.size() == 7);
    CHECK_FALSE(shot.photos[4].aside);
    CHECK(shot.photos[5].aside);
    CHECK(taken(p, 5).stops == -2);
    p.choose(q("Exposures"), q("one exposure"));
    // What is none is said, and nothing is lost.
    p.type_into(q("Hold of the next photo"), q("fast"));
    CHECK(p.find<QLineEdit>(q("Hold of the next photo"))->property("wrong").toBool());
    p.type_into(q("Hold of the next photo"), q("2 f"));
    p.click(q("Set aside"));
    CHECK(p.window().viewing().shot()->photos[4].aside);
}

TEST_CASE("The last photos are seen with the live picture, and played before it")
{
    Person p;
    begin_to_shoot(p);
    p.click(q("Lock all"));
    for (int i = 0; i < 4; ++i)
        take(p);
    LiveView& v = view(p);
    CHECK(v.look().over == LiveLook::Over::seen_through);
    for (const auto over :
         {LiveLook::Over::seen_through, LiveLook::Over::seen_through, LiveLook::Over::difference, LiveLook::Over::blink,
          LiveLook::Over::last_photo, LiveLook::Over::nothing, LiveLook::Over::seen_through}) {
        p.key(Qt::Key_G);
        CHECK(view(p).look().over == over);
        int painted = 0;
        const auto counting = QObject::connect(&v, &LiveView::painted, &v, [&] { ++painted; });
        p.wait_until([&] { return painted > 2; }, q("it is painted"));
        QObject::disconnect(counting);
    }
    p.key(Qt::Key_Space);
    CHECK(v.playing());
    std::set<std::size_t> seen;
    p.wait_until([&] { return seen.insert(v.played_now()), seen.size() == 5; }, q("four photos and the live picture"));
    p.key(Qt::Key_Escape);
    CHECK_FALSE(v.playing());
    // Back in the film, and to the live picture again.
    p.key(Qt::Key_Comma);
    CHECK_FALSE(p.sees(q("Live picture")));
    p.key(Qt::Key_L);
    CHECK(p.sees(q("Live picture")));
}

TEST_CASE("A series is taken by the clock, stopped, and goes on the Sheet")
{
    Person p;
    begin_to_shoot(p);
    p.type_into(q("Time from one photo to the next"), q("0.6 s"));
    p.type_into(q("Photos in the series"), q("4"));
    p.click(q("Start series"));
    CHECK(p.find(q("Stop series"))->isEnabled());
    p.wait_until([&] { return photos(p) == 4; }, q("four photos"));
    p.wait_until([&] { return p.sees(q("Start series")); }, q("it ends"));
    const Shot& shot = *p.window().viewing().shot();
    for (std::size_t i = 1; i < 4; ++i) {
        const auto apart =
            shot.photos[i].photo->captured->microseconds - shot.photos[i - 1].photo->captured->microseconds;
        CHECK(double(apart) * 1e-6 ==
              Approx(0.6).margin(0.3)); // of the clock; a busy machine is late, never early in sum
    }
    p.type_into(q("Photos in the series"), q("0"));
    p.click(q("Start series"));
    p.wait_until([&] { return photos(p) >= 6; }, q("more photos"));
    p.click(q("Stop series"));
    p.wait_until([&] { return p.sees(q("Start series")); }, q("it is stopped"));
    p.type_into(q("Time from one photo to the next"), q("soon"));
    p.click(q("Start series"));
    CHECK(p.find<QLineEdit>(q("Time from one photo to the next"))->property("wrong").toBool());
    CHECK(app::parse_span(q("2 min")) == 120.0);
    CHECK(app::parse_span(q("1,5 h")) == 5400.0);
    CHECK_FALSE(app::parse_span(q("-1 s")));
}

TEST_CASE("A camera's settings are shown, changed and locked")
{
    Person p;
    begin_to_shoot(p);
    p.click(q("Camera"));
    p.type_into(q("Shutter time"), q("1/50"));
    p.wait_until(
        [&] {
            return p.find<QLineEdit>(q("Shutter time"))->text() == q("1/50 s") &&
                   !p.find<QPushButton>(q("Shutter time automatic"))->isChecked();
        },
        q("it is set, and manual"));
    CHECK(p.find<QPushButton>(q("Gain automatic"))->isChecked());
    p.click(q("Lock all"));
    p.wait_until([&] { return !p.find<QPushButton>(q("Gain automatic"))->isChecked(); }, q("all is locked"));
    CHECK_FALSE(p.find(q("Lock all"))->isEnabled());
    p.choose(q("Camera in use"), q("none"));
    p.wait_until([&] { return !p.find(q("Take photo"))->isEnabled(); }, q("it is closed"));
    p.choose(q("Camera in use"), q("Simulated camera"));
    p.wait_until([&] { return p.find(q("Take photo"))->isEnabled(); }, q("it is open again"));
}

TEST_CASE("Paths are drawn over the live picture, their marks follow the photos, and undo takes them away")
{
    Person p;
    begin_to_shoot(p);
    p.click(q("Guides and paths"));
    p.click(q("Draw a path"));
    pull(p, {0.2, 0.7}, {0.8, 0.5});
    p.key(Qt::Key_Escape);
    CHECK_FALSE(view(p).drawing());
    take(p); // the path was waiting for its shot
    const auto paths = [&] { return p.window().viewing().shot()->steps.get<PathMarks>().paths; };
    REQUIRE(paths().size() == 1);
    CHECK(paths()[0].first == 0);
    CHECK(paths()[0].points.front().x == Approx(0.2).margin(0.01));
    CHECK(paths()[0].points.back().x == Approx(0.8).margin(0.01));
    p.type_into(q("Photos along the path"), q("20"));
    CHECK(paths()[0].steps == 20);
    p.choose(q("How it goes along the path"), q("evenly"));
    CHECK(paths()[0].ease == Ease::none);
    // A corner is moved.
    p.click(q("Draw a path"));
    pull(p, {0.8, 0.5}, {0.9, 0.4});
    CHECK(paths()[0].points.back().y == Approx(0.4).margin(0.01));
    p.key(Qt::Key_Escape);
    for (const char* guide : {"Grid", "Rulers", "Clipped", "Histogram", "Magnifier"})
        p.click(q(guide));
    p.choose(q("Shape that stays light"), q("2.39:1"));
    CHECK(view(p).look().grid);
    CHECK(view(p).look().magnifier);
    CHECK(view(p).look().mask == Fraction(239, 100));
    p.click(q("Remove the path"));
    CHECK(paths().empty());
    p.window().session().undo();
    CHECK(paths().size() == 1);
}

TEST_CASE("Another key takes photos, and is kept")
{
    Person p;
    begin_to_shoot(p);
    p.click(q("Guides and paths"));
    p.click(q("Change the key that takes a photo"));
    p.key(Qt::Key_F9);
    p.key(Qt::Key_F9);
    p.wait_until([&] { return photos(p) == 1; }, q("F9 takes a photo"));
    p.wait_until([&] { return p.find(q("Take photo"))->isEnabled(); }, q("the next can be taken"));
    p.key(Qt::Key_T);
    QTest::qWait(50);
    CHECK(photos(p) == 1);
    std::ifstream in(p.places().kept / "take-key");
    std::string key;
    std::getline(in, key);
    CHECK(key == "F9");
}

TEST_CASE("A folder that cannot be written to is told when a photo is to be taken, and the camera stays")
{
    Person p;
    begin_to_shoot(p);
    p.type_into(q("Folder for the photos"), q("/proc/nowhere"));
    p.sheet().setFocus();
    p.key(Qt::Key_T);
    p.wait_until([&] { return p.sees(q("Take photo")) && p.find(q("Take photo"))->isEnabled(); }, q("it ends"));
    CHECK(photos(p) == 0);
    p.type_into(q("Folder for the photos"), QString::fromStdString((p.folder() / "set").string()));
    p.sheet().setFocus();
    take(p);
    CHECK(photos(p) == 1);
}

TEST_CASE("After a kill what was taken is on disk, and back on the Sheet")
{
    Person p;
    begin_to_shoot(p);
    take(p);
    take(p);
    const auto kept = [&] {
        for (const auto& e : std::filesystem::directory_iterator(p.places().recovery))
            if (e.path().extension() == ".frenlo" && read_bytes(e.path()).find("tin-walk_0002") != std::string::npos)
                return true;
        return false;
    };
    p.wait_until(kept, q("the work is kept"));
    p.kill_and_restart();
    for (const char* name : {"tin-walk_0001.png", "tin-walk_0002.png"})
        CHECK(inspect(p.folder() / "set" / name).state == PhotoState::fine);
    p.wait_until([&] { return p.sees(q("Take it back")); }, q("it is offered"));
    p.click(q("Take it back"));
    p.wait_until([&] { return photos(p) == 2; }, q("it is back"));
    // What was taken when the project could not be told any more lies in the folder, and is offered.
    std::filesystem::copy_file(p.folder() / "set" / "tin-walk_0002.png", p.folder() / "set" / "tin-walk_0003.png");
    // And it goes on where it was.
    p.menu(q("Shoot with a camera"))->trigger();
    p.wait_until([&] { return p.sees(q("Take photo")) && p.find(q("Take photo"))->isEnabled(); },
                 q("the camera opens"));
    p.wait_until([&] { return p.sees(q("Bring in photos that are not on the Sheet")); }, q("it is offered"));
    p.click(q("Bring in photos that are not on the Sheet"));
    p.wait_until([&] { return photos(p) == 3; }, q("it is on the Sheet"));
    p.sheet().setFocus();
    take(p);
    CHECK(p.window().viewing().shot()->photos[3].photo->file == p.folder() / "set" / "tin-walk_0004.png");
    CHECK(taken(p, 3).moved);
}

TEST_CASE("A series goes on while somebody works on another shot, which stays as it is")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.menu(q("Shoot with a camera"))->trigger();
    p.wait_until([&] { return p.sees(q("Take photo")) && p.find(q("Take photo"))->isEnabled(); },
                 q("the camera opens"));
    p.type_into(q("Folder for the photos"), QString::fromStdString((p.folder() / "set").string()));
    p.type_into(q("Name of the new shot"), q("Night"));
    p.type_into(q("Time from one photo to the next"), q("0.4 s"));
    p.type_into(q("Photos in the series"), q("5"));
    p.click(q("Start series"));
    const auto& project = [&]() -> const Project& { return p.window().session().project(); };
    p.wait_until([&] { return project().shots.size() == 2; }, q("the first photo makes a shot"));
    p.window().viewing().set_shot(ShotIndex(0));
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_3);
    p.wait_until([&] { return project().shots[1]->photos.size() == 5; }, q("the series ends"));
    CHECK(p.window().viewing().shot_index() == ShotIndex(0));
    CHECK(project().shots[0]->photos.size() == 3);
    CHECK(project().shots[0]->photos[0].hold == Hold(Frames{3}));
    CHECK(project().shots[1]->name == "Night");
    CHECK(project().shots[1]->photos[4].hold == Hold(Frames{2}));
}
