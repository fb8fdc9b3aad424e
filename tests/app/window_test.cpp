#include "app/picture/picture_view.h"
#include "app/sheet/sheet_view.h"
#include "app/steps/export/export_bench.h"
#include "app/window/keys_page.h"
#include "app/window/notice_bar.h"
#include "app/window/settings_page.h"
#include "core/export/kept_presets.h"
#include "core/project/project_file.h"
#include "core/source/preview_store.h"
#include "core/steps/pace/pace_edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/dng.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <QAction>
#include <QComboBox>
#include <QDropEvent>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QUrl>

#include <cmath>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString text_of(Person& p, const char* label)
{
    return p.find<QLabel>(QString::fromUtf8(label))->text();
}

std::int64_t frames(Person& p)
{
    return p.window().viewing().schedule().frames();
}

std::string notice(Person& p)
{
    return p.window().findChild<app::NoticeBar*>()->text().toStdString();
}

void export_to(Person& p, const std::filesystem::path& file)
{
    p.key(Qt::Key_7, Qt::ControlModifier);
    p.type_into(QStringLiteral("File"), app::to_qt(file));
    p.wait_until([&] { return text_of(p, "What will be written").contains(QStringLiteral("frames")); },
                 QStringLiteral("the plan"));
    p.click(QStringLiteral("Export the film"));
    p.wait_until([&] { return text_of(p, "State of the export").contains(QStringLiteral("checked")); },
                 QStringLiteral("the film"), 120'000);
}

std::string frames_in(const std::filesystem::path& film)
{
    return output_of("ffprobe -v error -count_frames -show_entries stream=nb_read_frames -of csv=p=0 " +
                     quoted(film.native()));
}

}

TEST_CASE("from an empty start to a film, by mouse and keys, and a hold set by key changes the film", "[window]")
{
    Person p;
    write_run(p.folder() / "Paper ferry", "ferry", 8, {160, 106});
    CHECK(p.sees(QStringLiteral("Bring a folder in…")));
    p.click(QStringLiteral("Bring a folder in…"));
    QFileDialog* dialog = nullptr;
    p.wait_until([&] { return (dialog = p.window().findChild<QFileDialog*>()) != nullptr; },
                 QStringLiteral("the folder is asked for"));
    dialog->selectFile(app::to_qt(p.folder() / "Paper ferry"));
    QMetaObject::invokeMethod(dialog, "accept");
    p.wait_until([&] { return !p.window().session().is_empty(); }, QStringLiteral("the photos are there"));
    CHECK(frames(p) == 8);
    p.wait_for_pictures();
    const auto& loader = p.window().loader();
    CHECK(loader.prepared() == 8);

    p.click(QStringLiteral("Pace"));
    p.click_photo(2);
    p.click_photo(4, Qt::ShiftModifier);
    p.key(Qt::Key_3);
    CHECK(frames(p) == 5 * 1 + 3 * 3);
    export_to(p, p.folder() / "film.mp4");
    CHECK(frames_in(p.folder() / "film.mp4") == "14\n");

    p.key(Qt::Key_2, Qt::ControlModifier);
    p.click_photo(1);
    p.key(Qt::Key_9);
    export_to(p, p.folder() / "film2.mp4");
    CHECK(frames_in(p.folder() / "film2.mp4") == "22\n"); // 14 - 1 + 9
    p.click(QStringLiteral("Undo"));
    CHECK(frames(p) == 14);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(frames(p) == 8);
    p.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(frames(p) == 14);
}

TEST_CASE("a loop is chosen and written", "[window]")
{
    Person p;
    write_run(p.folder() / "s", "s", 4, {80, 60});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_7, Qt::ControlModifier);
    p.choose(QStringLiteral("Format"), QStringLiteral("Loop, PNG, every colour (.apng)"));
    CHECK_FALSE(p.sees(QStringLiteral("Quality"))); // a control that does nothing is not shown
    CHECK_FALSE(p.sees(QStringLiteral("Colours")));
    p.choose(QStringLiteral("Format"), QStringLiteral("Loop, 1000 pixels (.gif)"));
    CHECK(p.sees(QStringLiteral("Colours")));
    CHECK(p.sees(QStringLiteral("Quality"))); // how much of what hardly changes stays as it is
    p.type_into(QStringLiteral("File"), app::to_qt(p.folder() / "loop.gif"));
    p.wait_until([&] { return p.find(QStringLiteral("Export the loop"))->isEnabled(); }, QStringLiteral("the plan"));
    p.click(QStringLiteral("Export the loop"));
    p.wait_until([&] { return p.sees(QStringLiteral("Play the result")); }, QStringLiteral("the loop"));
    CHECK(frames_in(p.folder() / "loop.gif") == "4\n");
}

TEST_CASE("what lies under a name already is asked about, with a free name beside it", "[window][export][overwrite]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    write_bytes(p.folder() / "f.mp4", "somebody's film");
    p.key(Qt::Key_7, Qt::ControlModifier);
    p.type_into(QStringLiteral("File"), app::to_qt(p.folder() / "f.mp4"));
    p.wait_until(
        [&] {
            return p.sees(QStringLiteral("Notes on the export")) &&
                   text_of(p, "Notes on the export").contains(QStringLiteral("already"));
        },
        QStringLiteral("it is told"));
    p.click(QStringLiteral("Export the film"));
    p.wait_until([&] { return p.sees(QStringLiteral("Write f-2.mp4")); }, QStringLiteral("it is asked"));
    CHECK(text_of(p, "What is there already").contains(QStringLiteral("f.mp4")));
    p.click(QStringLiteral("Leave it"));
    CHECK_FALSE(p.sees(QStringLiteral("Write f-2.mp4")));
    p.click(QStringLiteral("Export the film"));
    p.wait_until([&] { return p.sees(QStringLiteral("Write f-2.mp4")); }, QStringLiteral("it is asked again"));
    p.click(QStringLiteral("Write f-2.mp4"));
    p.wait_until([&] { return p.sees(QStringLiteral("Play the result")); }, QStringLiteral("the film"));
    CHECK(frames_in(p.folder() / "f-2.mp4") == "3\n");
    CHECK(read_bytes(p.folder() / "f.mp4") == "somebody's film");
    p.click(QStringLiteral("Export the film")); // the same once more: now its own film is there
    p.wait_until([&] { return p.sees(QStringLiteral("Replace it")); }, QStringLiteral("it is asked"));
    CHECK(p.sees(QStringLiteral("Write f-3.mp4")) != p.sees(QStringLiteral("Write f-2-2.mp4")));
    write_bytes(p.folder() / "f-2.mp4", "spoilt");
    p.click(QStringLiteral("Replace it"));
    p.wait_until([&] { return text_of(p, "State of the export").contains(QStringLiteral("checked")); },
                 QStringLiteral("the film"));
    CHECK(frames_in(p.folder() / "f-2.mp4") == "3\n");
}

TEST_CASE("photos are decoded before the export needs them, and what cannot be read is named", "[window][export][bad]")
{
    Person p;
    write_run(p.folder() / "s", "s", 6, {640, 480});
    std::string bytes = read_bytes(p.folder() / "s" / "s_0004.jpg");
    std::fill_n(bytes.begin() + std::ptrdiff_t(bytes.size() / 2), 600, '\0'); // head and end as they should be
    write_bytes(p.folder() / "s" / "s_0004.jpg", bytes);
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_7, Qt::ControlModifier);
    p.wait_until(
        [&] {
            return p.sees(QStringLiteral("Notes on the export")) &&
                   text_of(p, "Notes on the export").contains(QStringLiteral("s_0004.jpg"));
        },
        QStringLiteral("it is found"));
    p.wait_until([&] { return p.sees(QStringLiteral("Export, holding the photo before")); },
                 QStringLiteral("it can be exported all the same"));
}

TEST_CASE("a project that another program changes is taken in, or saved under another name, and neither work is lost",
          "[window][lock]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.window().session().save(p.folder() / "p.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.key(Qt::Key_6); // unsaved: all photos for six frames
    REQUIRE(frames(p) == 18);
    const auto theirs = [&](std::int64_t frames_each) {
        change_project(p.folder() / "p.frenlo", [&](const Project& now) {
            return set_hold(now, ShotIndex(0), std::array{PhotoIndex(0), PhotoIndex(1), PhotoIndex(2)},
                            Frames{frames_each});
        });
    };
    theirs(9);
    p.wait_until([&] { return notice(p).find("Another program") != std::string::npos; },
                 QStringLiteral("it is noticed"));
    SECTION("saving does not replace it")
    {
        p.click(QStringLiteral("Later"));
        p.key(Qt::Key_S, Qt::ControlModifier);
        p.wait_until([&] { return notice(p).find("Another program") != std::string::npos; },
                     QStringLiteral("it is told"));
        CHECK_FALSE(p.window().session().saved());
        const LoadedProject there = load_project(p.folder() / "p.frenlo");
        CHECK(there.project.shot(ShotIndex(0)).photos[0].hold == Hold(Frames{9}));
        CHECK(p.sees(QStringLiteral("Save under another name…")));
    }
    SECTION("it is taken in, as a step that can be undone")
    {
        p.click(QStringLiteral("Take the change in"));
        p.wait_until([&] { return frames(p) == 27; }, QStringLiteral("it is there"));
        CHECK(p.window().session().saved());
        p.window().session().undo();
        CHECK(frames(p) == 18);                             // what was not saved
        p.window().session().save(p.folder() / "p.frenlo"); // and now it is wanted
        p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    }
}

TEST_CASE("a project is saved, closed and opened again", "[window]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.key(Qt::Key_6); // none is selected: all
    CHECK(frames(p) == 3 * 6);
    CHECK(text_of(p, "Where the project is saved") == QStringLiteral("not saved yet"));
    p.window().session().save(p.folder() / "p.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    CHECK(text_of(p, "Where the project is saved").contains(QStringLiteral("saved")));
    p.kill_and_restart();
    p.wait_for_pictures();
    CHECK(notice(p).empty());           // nothing was unsaved
    CHECK(p.sees(QStringLiteral("p"))); // among the projects of late
    p.click(QStringLiteral("p"));
    p.wait_until([&] { return !p.window().session().is_empty(); }, QStringLiteral("it opens"));
    CHECK(frames(p) == 18);
}

TEST_CASE("after a kill unsaved work is offered and taken back", "[window][recovery]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.key(Qt::Key_7);
    const auto kept = [&] {
        for (const auto& e : std::filesystem::directory_iterator(p.places().recovery))
            if (e.path().extension() == ".frenlo" && read_bytes(e.path()).find("\"7f\"") != std::string::npos)
                return true;
        return false;
    };
    p.wait_until(kept, QStringLiteral("the work is kept"));
    p.kill_and_restart();
    p.wait_until([&] { return !notice(p).empty(); }, QStringLiteral("it is offered"));
    p.click(QStringLiteral("Take it back"));
    p.wait_until([&] { return !p.window().session().is_empty(); }, QStringLiteral("it is back"));
    CHECK(frames(p) == 21);
    CHECK_FALSE(p.window().session().saved());
}

TEST_CASE("set aside, order, reverse and name, each one step back", "[window][sort]")
{
    Person p;
    write_run(p.folder() / "s", "s", 5, {64, 48});
    p.bring_in(p.folder() / "s");
    p.click_photo(2);
    p.click_photo(4, Qt::ControlModifier);
    p.key(Qt::Key_X);
    CHECK(frames(p) == 3);
    CHECK(p.sees(QStringLiteral("Bring back")));
    p.key(Qt::Key_X);
    CHECK(frames(p) == 5);
    p.menu(QStringLiteral("Reverse"))->trigger();
    const auto first = [&] { return p.window().viewing().shot()->photos.front().photo->file.filename().native(); };
    CHECK(first() == "s_0005.jpg");
    p.menu(QStringLiteral("By capture time"))->trigger();
    CHECK(first() == "s_0001.jpg");
    p.click(QStringLiteral("Undo"));
    CHECK(first() == "s_0005.jpg");
    p.click(QStringLiteral("Undo"));
    p.click(QStringLiteral("Undo"));
    CHECK(frames(p) == 3);
}

TEST_CASE("a sweep over the tiles and the arrow keys select", "[window][sheet]")
{
    Person p;
    write_run(p.folder() / "s", "s", 12, {64, 48});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.drag_over_photos(3, 6);
    CHECK(p.window().viewing().selection().size() == 4);
    p.key(Qt::Key_Right);
    CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(6)});
    p.key(Qt::Key_Right, Qt::ShiftModifier);
    CHECK(p.window().viewing().selection().size() == 2);
    p.key(Qt::Key_A, Qt::ControlModifier);
    CHECK(p.window().viewing().selection().size() == 12);
    p.key(Qt::Key_Escape);
    CHECK(p.window().viewing().selection().empty());
    p.key(Qt::Key_Home);
    p.key(Qt::Key_Period);
    CHECK(p.window().viewing().playhead() == FrameIndex(1));
    p.key(Qt::Key_2); // photo 1, which the keys stand on
    p.key(Qt::Key_Greater, Qt::ShiftModifier);
    CHECK(p.window().viewing().playhead() == FrameIndex(2)); // one photo on
}

TEST_CASE("fields take seconds and fractions, refuse nonsense, and digits typed there set no holds", "[window][pace]")
{
    Person p;
    write_run(p.folder() / "s", "s", 13, {64, 48});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.type_into(QStringLiteral("Hold"), QStringLiteral("0.15s"));
    CHECK(frames(p) == 47); // 13 * 0.15 s * 24 = 46.8
    p.type_into(QStringLiteral("Hold"), QStringLiteral("soon"));
    CHECK(frames(p) == 47);
    p.type_into(QStringLiteral("Delivered at"), QStringLiteral("29.97"));
    p.click(QStringLiteral("Same photos per frame"));
    CHECK(p.window().session().project().delivered_at == *parse_rate("30000/1001"));
    p.type_into(QStringLiteral("Hold"), QStringLiteral("0.01s"));
    CHECK(p.window().viewing().schedule().between_frames().size() > 0);
    p.type_into(QStringLiteral("Hold"), QStringLiteral("2f"));
    p.choose(QStringLiteral("Paced at"), QStringLiteral("12 fps"));
    CHECK(frames(p) == 65); // 13 * 2 / 12 s * 29.97 = 64.9
}

TEST_CASE("what cannot be read is listed with a way there, and set aside with a click", "[window][sort][bad]")
{
    Person p;
    write_run(p.folder() / "s", "s", 6, {64, 48});
    write_bytes(p.folder() / "s" / "s_0003.jpg", "");
    std::filesystem::remove(p.folder() / "s" / "s_0005.jpg");
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    CHECK(frames(p) == 4);
    CHECK(p.find(QStringLiteral("Sort"))->accessibleDescription() == QStringLiteral("4 photos, 2 to look at"));
    // One goes bad while it is open.
    const auto late = p.folder() / "s" / "s_0001.jpg";
    const std::string whole = read_bytes(late);
    p.window().session().start({}, {});
    write_bytes(late, whole.substr(0, 40) + std::string(whole.size() - 42, 'x') + "\xFF\xD9");
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.wait_until([&] { return p.findings().open() == 3; }, QStringLiteral("it is listed"));
}

namespace {

/// Five photos, one of which is gone from the disk by now, on the way to f.mp4.
void to_export_with_a_gap(Person& p)
{
    write_run(p.folder() / "s", "s", 5, {64, 48});
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    std::filesystem::remove(p.folder() / "s" / "s_0003.jpg");
    p.key(Qt::Key_7, Qt::ControlModifier);
    p.type_into(QStringLiteral("File"), app::to_qt(p.folder() / "f.mp4"));
}

}

TEST_CASE("an export that meets a bad photo says which, and can hold the one before", "[window][export][bad]")
{
    Person p;
    to_export_with_a_gap(p);
    p.wait_until([&] { return p.find(QStringLiteral("Export the film"))->isEnabled(); }, QStringLiteral("the plan"));
    p.click(QStringLiteral("Export the film"));
    p.wait_until([&] { return p.sees(QStringLiteral("Export, holding the photo before")); },
                 QStringLiteral("it fails"));
    CHECK(text_of(p, "Notes on the export").contains(QStringLiteral("s_0003.jpg")));
    CHECK_FALSE(std::filesystem::exists(p.folder() / "f.mp4"));
    p.click(QStringLiteral("Export, holding the photo before"));
    p.wait_until([&] { return p.sees(QStringLiteral("Play the result")); }, QStringLiteral("the film"));
    CHECK(frames_in(p.folder() / "f.mp4") == "5\n");
}

TEST_CASE("of two exports asked for at once, the last is made", "[window][export][bad]")
{
    Person p;
    to_export_with_a_gap(p);
    p.wait_until([&] { return p.sees(QStringLiteral("Export, holding the photo before")); },
                 QStringLiteral("the photo is missed"));
    auto* at_once = p.find<QAbstractButton>(QStringLiteral("Export the film"));
    auto* holding = p.find<QAbstractButton>(QStringLiteral("Export, holding the photo before"));
    at_once->click();
    holding->click();
    p.wait_until([&] { return p.sees(QStringLiteral("Play the result")); }, QStringLiteral("the film"));
    CHECK(frames_in(p.folder() / "f.mp4") == "5\n");
}

TEST_CASE("a project that cannot be opened is said in the window, and what is open stays", "[window][bad]")
{
    Person p;
    write_run(p.folder() / "s", "s", 2, {64, 48});
    p.bring_in(p.folder() / "s");
    p.window().session().save(p.folder() / "p.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    write_bytes(p.folder() / "newer.frenlo", "{\"frenlo\": 99}");
    p.window().open(p.folder() / "newer.frenlo");
    p.wait_until([&] { return notice(p).find("newer") != std::string::npos; }, QStringLiteral("it is said"));
    CHECK_THAT(notice(p), Catch::Contains("newer.frenlo") && Catch::Contains("newer Frenlo"));
    CHECK(frames(p) == 2);
    p.click(QStringLiteral("Close"));
    std::filesystem::create_directories(p.folder() / "empty");
    p.window().take_in({p.folder() / "empty"});
    p.wait_until([&] { return !notice(p).empty(); }, QStringLiteral("there are no photos"));
    CHECK_THAT(notice(p), Catch::Contains("no photos"));
}

TEST_CASE("unsaved work is asked about before it would go", "[window]")
{
    Person p;
    write_run(p.folder() / "s", "s", 2, {64, 48});
    p.bring_in(p.folder() / "s");
    p.window().close();
    QMessageBox* question = nullptr;
    p.wait_until([&] { return (question = p.window().findChild<QMessageBox*>()) != nullptr; },
                 QStringLiteral("it is asked"));
    CHECK(p.window().isVisible());
    question->button(QMessageBox::Cancel)->click();
    CHECK(frames(p) == 2);
}

TEST_CASE("a dropped folder is brought in", "[window]")
{
    Person p;
    write_run(p.folder() / "s", "s", 2, {64, 48});
    QMimeData data;
    data.setUrls({QUrl::fromLocalFile(app::to_qt(p.folder() / "s"))});
    QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&p.window(), &enter);
    CHECK(enter.isAccepted());
    QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&p.window(), &drop);
    p.wait_until([&] { return !p.window().session().is_empty(); }, QStringLiteral("it is brought in"));
    CHECK(frames(p) == 2);
}

TEST_CASE("playing moves through the film in time and loops, and Space stops it", "[window][player]")
{
    Person p;
    write_run(p.folder() / "s", "s", 6, {64, 48});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.wait_for_pictures();
    std::set<std::int64_t> seen;
    QObject::connect(&p.window().viewing(), &app::Viewing::playhead_changed, &p.window(),
                     [&] { seen.insert(p.window().viewing().playhead().value); });
    p.key(Qt::Key_Space);
    CHECK(p.sees(QStringLiteral("Stop")));
    p.wait_until([&] { return seen.size() == 6 && text_of(p, "Frame rate reached").contains(QLatin1Char('.')); },
                 QStringLiteral("all frames were played"));
    p.key(Qt::Key_Space);
    CHECK(p.sees(QStringLiteral("Play")));
}

TEST_CASE("what the picture shows is what render makes", "[window][picture]")
{
    Person p;
    write_run(p.folder() / "s", "s", 2, {1200, 800});
    p.bring_in(p.folder() / "s");
    p.click_photo(2);
    p.wait_for_pictures();
    auto& view = *p.window().findChild<app::PictureView*>();
    const auto request = request_for_photo(*p.window().viewing().shot(), PhotoIndex(1), view.picture_size());
    const QImage shown = view.grab().toImage().convertToFormat(QImage::Format_RGB32);
    const QImage made = app::to_image(*render(request, Originals()));
    // The picture lies somewhere on the neutral surround: find its first row by the colour of the surround.
    const QPoint corner(int(std::lround((shown.width() - made.width()) / 2.0)),
                        26 + int(std::lround((shown.height() - 26 - 12 - made.height()) / 2.0)));
    int different = 0;
    for (int y = 0; y < made.height(); ++y)
        for (int x = 0; x < made.width(); ++x)
            different += made.pixel(x, y) != shown.pixel(corner.x() + x, corner.y() + y);
    CHECK(different == 0);
}

TEST_CASE("a raw photo, a drawing and a scan become one film", "[window][format]")
{
    Person p;
    cv::Mat3f light(160, 240, cv::Vec3f(0.1F, 0.2F, 0.4F));
    write_dng(p.folder() / "m" / "a_001.dng", light);
    write_bytes(p.folder() / "m" / "a_002.svg",
                "<svg xmlns='http://www.w3.org/2000/svg' width='240' height='160'><rect width='240' height='160' "
                "fill='#30a040'/></svg>");
    write_picture(p.folder() / "m" / "a_003.png", cv::Mat(160, 240, CV_16UC3, cv::Scalar(10000, 20000, 30000)));
    p.bring_in(p.folder() / "m");
    REQUIRE(photos_in_film(*p.window().viewing().shot()) == 3);
    p.wait_for_pictures();
    p.window().viewing().set_step("export");
    p.choose(QStringLiteral("Format"), QStringLiteral("Numbered stills, PNG (.png)"));
    p.type_into(QStringLiteral("File"), app::to_qt(p.folder() / "out_%04d.png"));
    p.wait_until([&] { return p.find(QStringLiteral("Export the stills"))->isEnabled(); },
                 QStringLiteral("it can be exported"));
    // What it takes is found out from its pictures; with other settings anew.
    const auto found_out = [&] {
        const QString said = text_of(p, "What will be written");
        return said.contains(QStringLiteral("takes about")) ? said.section(QStringLiteral(" · "), 3, 3) : QString();
    };
    p.wait_until([&] { return !found_out().isEmpty(); }, QStringLiteral("what it takes is known"));
    const QString as_large = found_out();
    p.type_into(QStringLiteral("Size"), QStringLiteral("60x40"));
    p.wait_until([&] { return !found_out().isEmpty() && found_out() != as_large; },
                 QStringLiteral("what the smaller ones take is known"));
    p.type_into(QStringLiteral("Size"), QStringLiteral("240x160"));
    p.wait_until([&] { return p.find(QStringLiteral("Export the stills"))->isEnabled(); },
                 QStringLiteral("it can be exported again"));
    p.click(QStringLiteral("Export the stills"));
    p.wait_until([&] { return text_of(p, "State of the export").contains(QStringLiteral("checked")); },
                 QStringLiteral("it is written"));
    CHECK(text_of(p, "What will be written").contains(QStringLiteral("written")));
    const auto frame = [&](int n) {
        return cv::imread((p.folder() / ("out_000" + std::to_string(n) + ".png")).native());
    };
    REQUIRE_FALSE(frame(1).empty());
    const cv::Vec3b raw = frame(1).at<cv::Vec3b>(80, 120);
    CHECK(raw[2] > raw[1]);
    CHECK(raw[1] > raw[0]);
    bool drawn = false, scan = false;
    for (int n = 2; !frame(n).empty(); ++n) {
        const cv::Vec3b c = frame(n).at<cv::Vec3b>(80, 120);
        drawn = drawn || cv::norm(c - cv::Vec3b(0x40, 0xa0, 0x30), cv::NORM_INF) <= 1;
        scan = scan || std::abs(c[1] - 20000 / 257) <= 1;
    }
    CHECK(drawn);
    CHECK(scan);
}

TEST_CASE("a project is collected into one folder while the window goes on, and opened there", "[window][collect]")
{
    Person p;
    write_run(p.folder() / "s", "s", 6, {64, 48});
    p.bring_in(p.folder() / "s");
    p.window().collect(p.folder() / "all");
    p.wait_until([&] { return p.sees(QStringLiteral("Open it there")); }, QStringLiteral("it is collected"));
    std::filesystem::rename(p.folder() / "s", p.folder() / "gone");
    p.window().session().save(p.folder() / "old.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    p.click(QStringLiteral("Open it there"));
    p.wait_until([&] { return p.window().session().file().parent_path() == p.folder() / "all"; },
                 QStringLiteral("it opens"));
    const Shot& shot = *p.window().viewing().shot();
    REQUIRE(shot.photos.size() == 6);
    CHECK(shot.photos[0].photo->file.native().starts_with((p.folder() / "all" / "photos").native()));
    CHECK(std::filesystem::exists(shot.photos[5].photo->file));
}

TEST_CASE("settings hold for what comes next, and small versions are cleared", "[window][settings]")
{
    Person p;
    write_run(p.folder() / "s", "s", 5, {64, 48});
    p.menu(QStringLiteral("Settings…"))->trigger();
    auto* page = p.window().findChild<app::SettingsPage*>();
    REQUIRE(page);
    const auto pick = [&](const char* name, const char* item) {
        for (auto* combo : page->findChildren<QComboBox*>())
            if (combo->accessibleName() == QString::fromUtf8(name)) {
                const int at = combo->findText(QString::fromUtf8(item));
                REQUIRE(at >= 0);
                combo->setCurrentIndex(at);
                Q_EMIT combo->activated(at);
                return;
            }
        FAIL(name);
    };
    p.look("settings", *page);
    pick("What new photos begin with", "a hold of");
    auto* hold = page->findChild<QLineEdit*>();
    for (auto* line : page->findChildren<QLineEdit*>())
        if (line->accessibleName() == QStringLiteral("Hold of new photos"))
            hold = line;
    hold->setText(QStringLiteral("nonsense"));
    Q_EMIT hold->editingFinished();
    hold->setText(QStringLiteral("0.25 s"));
    Q_EMIT hold->editingFinished();
    pick("Rate of new projects", "25");
    pick("How lengths are counted", "frames");
    CHECK(p.window().viewing().counting() == Counting::frames);
    pick("Looks", "dim room");
    CHECK(p.window().palette().color(QPalette::Window).lightness() < 128);
    pick("Looks", "paper");
    page->close();
    p.bring_in(p.folder() / "s");
    CHECK(p.window().session().project().delivered_at == Rate(25));
    CHECK(p.window().viewing().shot()->photos[2].hold == Hold(Seconds{Fraction(1, 4)}));
    p.wait_until([&] { return p.window().at_rest(); }, QStringLiteral("all is made ready"));
    PreviewStore store(p.places().previews, 1'000'000'000);
    CHECK(store.bytes() > 0);
    p.menu(QStringLiteral("Settings…"))->trigger();
    page = p.window().findChild<app::SettingsPage*>();
    for (auto* b : page->findChildren<QPushButton*>())
        if (b->text() == QStringLiteral("Clear them"))
            b->click();
    p.wait_until([&] { return store.bytes() == 0; }, QStringLiteral("they are gone"));
    p.kill_and_restart();
    CHECK(p.window().viewing().counting() == Counting::frames);
}

TEST_CASE("photos that are gone are looked for near by where that is wished", "[window][settings]")
{
    Person p;
    write_run(p.folder() / "here" / "s", "s", 4, {64, 48});
    p.bring_in(p.folder() / "here" / "s");
    p.window().session().save(p.folder() / "here" / "a.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    std::filesystem::rename(p.folder() / "here" / "s", p.folder() / "here" / "renamed");
    p.window().open(p.folder() / "here" / "a.frenlo");
    p.wait_until([&] { return p.window().session().missing() == 4; }, QStringLiteral("they are missed"));
    p.menu(QStringLiteral("Settings…"))->trigger();
    auto* page = p.window().findChild<app::SettingsPage*>();
    for (auto* combo : page->findChildren<QComboBox*>())
        if (combo->accessibleName() == QStringLiteral("Photos that are gone")) {
            combo->setCurrentIndex(1);
            Q_EMIT combo->activated(1);
        }
    page->close();
    p.window().open(p.folder() / "here" / "a.frenlo");
    p.wait_until(
        [&] {
            const Shot* shot = p.window().viewing().shot();
            return shot && shot->photos[0].photo->file.parent_path().filename() == "renamed";
        },
        QStringLiteral("they are found"));
}

TEST_CASE("keys are searched, and printed as a table", "[window][keys]")
{
    Person p;
    p.menu(QStringLiteral("Keys"))->trigger();
    auto* page = p.window().findChild<app::KeysPage*>();
    REQUIRE(page);
    const auto seen = [&] {
        int lines = 0;
        for (auto* label : page->findChildren<QLabel*>())
            lines += int(label->isVisibleTo(page));
        return lines;
    };
    const int all = seen();
    auto* search = page->findChild<QLineEdit*>();
    p.look("keys", *page);
    search->setText(QStringLiteral("onion"));
    CHECK(seen() < all / 4);
    CHECK(seen() >= 2);
    search->setText(QStringLiteral("nothing at all like this"));
    CHECK(seen() == 1); // which says so
    search->clear();
    CHECK(seen() == all);
    CHECK(page->as_table().contains(QStringLiteral("onion skin")));
    page->close();
}

TEST_CASE("a shot that has come in says what it is, and where to go on", "[window][next]")
{
    Person p;
    for (int i = 0; i < 6; ++i) // the scene moves
        write_picture(p.folder() / "s" / ("s_" + std::to_string(1001 + i) + ".png"),
                      photo_of_scene(turned_by(0, 1, {9.0 * (i % 3), 4.0 * i}), {600, 400}));
    p.bring_in(p.folder() / "s");
    auto* notice = p.window().findChild<app::NoticeBar*>();
    p.wait_until([&] { return notice->text().contains(QStringLiteral("hold it still?")); }, QStringLiteral("it asks"));
    CHECK(notice->text().startsWith(QStringLiteral("6 photo")));
    p.look("next-step");
    p.click(QStringLiteral("Go to Steady"));
    CHECK(p.window().viewing().is_step("steady"));
    CHECK(notice->text().isEmpty());
}

TEST_CASE("a shot is dressed for another shape by hand, and Export takes the one that is chosen", "[window][shapes]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {480, 320});
    p.bring_in(p.folder() / "s");
    p.window().viewing().set_step("frame");
    p.click(QStringLiteral("16:9"));
    auto* also = p.find<QPushButton>(QStringLiteral("Also for"));
    const auto pick = [&](const char* item) {
        Q_EMIT also->menu()->aboutToShow();
        for (QAction* a : also->menu()->actions())
            if (a->text() == QString::fromUtf8(item))
                return a->trigger();
        FAIL(item);
    };
    pick("9:16");
    const auto size = [&] { return film_size(*p.window().viewing().shot()); };
    CHECK(size().width < size().height);
    p.choose(QStringLiteral("Dressed for"), QStringLiteral("for 16:9"));
    CHECK(size().width > size().height);
    p.window().viewing().set_step("export");
    p.choose(QStringLiteral("Shape"), QStringLiteral("dressed for 9:16"));
    export_to(p, p.folder() / "tall.mp4");
    const std::string probed =
        output_of("ffprobe -v error -show_entries stream=width,height -of csv=p=0 " + quoted(p.folder() / "tall.mp4"));
    const auto comma = probed.find(',');
    CHECK(std::stoi(probed.substr(0, comma)) < std::stoi(probed.substr(comma + 1)));
    p.window().viewing().set_step("frame");
    pick("No longer for 16:9");
    CHECK(size().width < size().height);
}

TEST_CASE("settings are kept as a preset of one's own, and a limit shows what was tried", "[window][presets]")
{
    Person p;
    for (int i = 0; i < 6; ++i)
        write_picture(p.folder() / "s" / ("s_" + std::to_string(1001 + i) + ".png"),
                      photo_of_scene(turned_by(0, 1, {3.0 * i, 0}), {480, 320}));
    p.bring_in(p.folder() / "s");
    p.window().viewing().set_step("export");
    p.type_into(QStringLiteral("File"), app::to_qt(p.folder() / "a.gif"));
    p.type_into(QStringLiteral("Largest file"), QStringLiteral("60 kB"));
    auto* menu = p.find<QPushButton>(QStringLiteral("Presets"))->menu();
    Q_EMIT menu->aboutToShow();
    QLineEdit* name = nullptr;
    for (auto* line : menu->findChildren<QLineEdit*>())
        if (line->accessibleName() == QStringLiteral("Name to keep these settings under"))
            name = line;
    REQUIRE(name);
    name->setText(QStringLiteral("Club page"));
    Q_EMIT name->returnPressed();
    CHECK(p.find<QComboBox>(QStringLiteral("Format"))->currentText().startsWith(QStringLiteral("Club page")));
    const auto kept = load_presets(p.places().kept / "presets.json");
    REQUIRE(kept.size() == 1);
    CHECK(kept[0].format == "gif");
    CHECK(kept[0].most_bytes == 60'000);
    p.wait_until([&] { return p.find(QStringLiteral("Export the loop"))->isEnabled(); }, QStringLiteral("the plan"));
    p.click(QStringLiteral("Export the loop"));
    p.wait_until([&] { return text_of(p, "State of the export").contains(QStringLiteral("checked")); },
                 QStringLiteral("the loop"), 120'000);
    CHECK(std::filesystem::file_size(p.folder() / "a.gif") <= 60'000);
    auto* trade = p.find(QStringLiteral("What was tried to keep the limit"));
    CHECK(trade->accessibleDescription().count(QStringLiteral(";")) >= 1);
    p.look("trade");
    p.kill_and_restart();
    p.bring_in(p.folder() / "s");
    p.window().viewing().set_step("export");
    p.wait_until(
        [&] { return p.find<QComboBox>(QStringLiteral("Format"))->findData(QStringLiteral("Club page")) >= 0; },
        QStringLiteral("it is offered again"));
}

TEST_CASE("own presets that cannot be read are told", "[window][presets][bad]")
{
    Person p;
    write_bytes(p.places().kept / "presets.json", "[");
    p.kill_and_restart();
    p.wait_until([&] { return notice(p).find("presets") != std::string::npos; }, QStringLiteral("it is told"));
}

TEST_CASE("the export list looks ahead, and says which export would fail", "[window][list]")
{
    Person p;
    write_run(p.folder() / "s", "s", 4, {120, 80});
    p.bring_in(p.folder() / "s");
    p.window().viewing().set_step("export");
    p.type_into(QStringLiteral("File"), app::to_qt(p.folder() / "a.mp4"));
    p.wait_until([&] { return p.find(QStringLiteral("Export the film"))->isEnabled(); }, QStringLiteral("the plan"));
    p.click(QStringLiteral("Put on the export list"));
    p.click(QStringLiteral("Look ahead"));
    p.wait_until([&] { return text_of(p, "State of the list").contains(QStringLiteral("nothing stands in the way")); },
                 QStringLiteral("all is well"));
    const auto broken = p.folder() / "s" / "s_0002.jpg";
    write_bytes(broken, read_bytes(broken).substr(0, 400));
    p.click(QStringLiteral("Look ahead"));
    p.wait_until([&] { return text_of(p, "State of the list").contains(QStringLiteral("1 of 1 to look at")); },
                 QStringLiteral("it is found"));
    p.look("look-ahead");
    CHECK_FALSE(std::filesystem::exists(p.folder() / "a.mp4"));
}

}
