// Shoot on the real window: the simulated camera, its figure pulled by the mouse, photos on disk and on the Sheet.
#include "app/steps/shoot/live_view.h"
#include "app/steps/shoot/reference.h"
#include "app/steps/shoot/series_part.h"
#include "app/steps/shoot/sound_strip.h"
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
#include <QSpinBox>

#include <algorithm>
#include <cstdlib>
#include <fstream>
#include <numeric>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
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
    // Fewer of them, while it plays.
    p.find<QSpinBox>(q("How many photos are played"))->setValue(2);
    CHECK(v.playing());
    std::set<std::size_t> few;
    p.wait_until([&] { return few.insert(v.played_now()), few.size() == 3; }, q("two photos and the live picture"));
    CHECK(*few.rbegin() == 2);
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
    CHECK(p.find(q("Take photo"))->isEnabled()); // nothing is being taken
    p.key(Qt::Key_F9);
    CHECK_FALSE(p.find(q("Take photo"))->isEnabled());
    p.wait_until([&] { return photos(p) == 2; }, q("that one is"));
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
    p.wait_until(
        [&] {
            const auto labels = p.window().findChildren<QLabel*>();
            return std::any_of(labels.begin(), labels.end(), [](const QLabel* l) {
                return l->text().contains(q("/proc/nowhere")) && l->isVisible();
            });
        },
        q("it is told, with the folder"));
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

TEST_CASE("A camera at a cable that is pulled off in mid-series is told, and its photos stay")
{
    ::setenv("CAMLIBS", FRENLO_CAMLIBS, 1);
    const TempFolder t;
    ::setenv("FRENLO_TEST_CAMERA", t.path().c_str(), 1);
    write_jpeg(t / "photo.jpg", painted({320, 240}, 5));
    app::Background background;
    app::CameraDesk desk(background);
    int taken = 0;
    QString why;
    QStringList told;
    QObject::connect(&desk, &app::CameraDesk::taken, [&](const auto& photo) {
        CHECK(inspect(photo->photo->file).state == PhotoState::fine);
        if (++taken == 3)
            write_bytes(t / "gone", "");
    });
    QObject::connect(&desk, &app::CameraDesk::ended, [&](const QString& text) { why = text; });
    QObject::connect(&desk, &app::CameraDesk::told, [&](const QString& text) { told << text; });
    desk.open("gphoto2:disk:" + t.path().string());
    REQUIRE(QTest::qWaitFor([&] { return desk.is_open(); }, 10'000));
    CHECK(desk.name() == q("Still camera of the tests"));
    CHECK(told.filter(q("clock")).size() == 1); // it stands still in the past
    REQUIRE(QTest::qWaitFor([&] { return !desk.live().image.isNull(); }, 10'000));
    app::DeskOrder order;
    order.series = {.count = 0, .every = 0.05};
    order.folder = t / "set";
    order.stem = "s";
    desk.take(order);
    CHECK(desk.in_series());
    REQUIRE(QTest::qWaitFor([&] { return !why.isEmpty(); }, 20'000));
    CHECK(why.contains(q("does not answer any more")) == true);
    REQUIRE(QTest::qWaitFor([&] { return !desk.is_open(); }, 10'000));
    // The next one may be on its way already when the cable is pulled; what is there was told of, all of it.
    CHECK(taken >= 3);
    CHECK(std::distance(std::filesystem::directory_iterator(t / "set"), {}) == taken);
}

TEST_CASE("A live picture is made with what was wished for")
{
    cv::Mat picture(360, 640, CV_8UC3, cv::Scalar::all(100));
    picture(cv::Rect(0, 0, 320, 36)).setTo(cv::Scalar::all(255));    // a twentieth
    picture(cv::Rect(0, 324, 640, 36)).setTo(cv::Scalar(0, 90, 90)); // a tenth, of which blue is black
    app::LiveWish wish;
    wish.size = {320, 180};
    app::LivePicture live = live_picture(picture, wish);
    CHECK(live.image.size() == QSize(320, 180));
    CHECK(live.full == cv::Size(640, 360));
    CHECK(live.clipped.isNull());
    CHECK(live.magnified.isNull());
    wish.size = {2000, 2000}; // a small one is not made larger
    wish.histogram = wish.magnifier = true;
    wish.clipped = app::colours_of(app::ThemeName::paper);
    wish.compared = QImage(640, 360, QImage::Format_RGB32);
    wish.compared.fill(QColor(100, 100, 100));
    live = live_picture(picture, wish);
    CHECK(live.image.size() == QSize(640, 360));
    CHECK(live.bright_share == Approx(0.05));
    CHECK(live.dark_share == Approx(0.1));
    CHECK(std::accumulate(live.histogram.begin(), live.histogram.end(), 0) == 640 * 360);
    CHECK(live.magnified.width() == 280);
    // Half of the white is striped, a quarter of the black dotted, nothing else.
    int marked_white = 0, marked_black = 0, marked_else = 0;
    for (int y = 0; y < 360; ++y)
        for (int x = 0; x < 640; ++x)
            if (qAlpha(live.clipped.pixel(x, y)) > 0)
                ++(y < 36 && x < 320 ? marked_white : y >= 324 ? marked_black : marked_else);
    CHECK(marked_white == Approx(320 * 36 / 2).epsilon(0.02));
    CHECK(marked_black == Approx(640 * 36 / 4).epsilon(0.02));
    CHECK(marked_else == 0);
    // What differs is grey where nothing does.
    CHECK(qRed(live.difference.pixel(400, 200)) == qRed(live.difference.pixel(50, 200)));
    CHECK(qRed(live.difference.pixel(50, 10)) > qRed(live.difference.pixel(400, 200)));
    wish.compared = QImage(10, 10, QImage::Format_RGB32);
    CHECK(live_picture(picture, wish).difference.isNull());
}

TEST_CASE("A reference film is seen at the moment when the next photo begins")
{
    const TempFolder t;
    // Ten pictures a second, each a grey of its own.
    output_of(
        "ffmpeg -v error -f lavfi -i \"color=black:size=64x48:rate=10:duration=2,geq=lum='16+N*10':cb=128:cr=128\" "
        "-c:v ffv1 " +
        quoted((t / "f.mkv").native()));
    app::Background background;
    app::Reference reference(background);
    int changes = 0;
    QStringList failed;
    QObject::connect(&reference, &app::Reference::changed, [&] { ++changes; });
    QObject::connect(&reference, &app::Reference::failed, [&](const QString& text) { failed << text; });
    reference.choose(t / "f.mkv");
    const auto shown = [&](double seconds) {
        reference.go_to(seconds);
        REQUIRE(QTest::qWaitFor([&] { return background.idle(); }, 5000));
        QApplication::processEvents(); // what it made is delivered
        return reference.image().isNull() ? -1 : qGreen(reference.image().pixel(5, 5));
    };
    REQUIRE(QTest::qWaitFor([&] { return !reference.image().isNull(); }, 10'000));
    CHECK(reference.is_film());
    const int first = shown(0), fifth = shown(0.4), still_fifth = shown(0.4999 - 0.01), last = shown(99);
    CHECK(fifth > first + 20);
    CHECK(still_fifth == fifth);
    CHECK(last > shown(1.7));
    write_bytes(t / "n.mkv", "no film");
    reference.choose(t / "n.mkv");
    REQUIRE(QTest::qWaitFor([&] { return !failed.isEmpty(); }, 10'000));
    CHECK(failed.first().contains(q("n.mkv")));
    CHECK(reference.file().empty());
}

TEST_CASE("The words of the next photo are those that are said while it is held")
{
    const TempFolder t;
    app::Background background;
    app::Session session(background, t / "recovery");
    app::Waveforms waveforms(background, t / "waves");
    Project project;
    project.reel.sound.words = {{Seconds{Fraction(0)}, Seconds{Fraction(1, 2)}, "tin"},
                                {Seconds{Fraction(1, 2)}, Seconds{Fraction(1)}, "can"}};
    app::SoundStrip strip(session, waveforms);
    CHECK_FALSE(strip.has_sound());
    session.start(project, {});
    CHECK(strip.has_sound());
    strip.show_time(0.1, 0.2);
    CHECK(strip.words_now() == q("tin"));
    strip.show_time(0.4, 0.6);
    CHECK(strip.words_now() == q("tin can"));
    strip.show_time(1, 1.1);
    CHECK(strip.words_now().isEmpty());
    CHECK(strip.accessibleDescription().isEmpty());
}

}
