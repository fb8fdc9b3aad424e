// Sort in the real window: a card, from what was found on it to shots; problems with their remedies; files in order.
#include "app/picture/picture_view.h"
#include "app/sheet/sheet_view.h"
#include "app/window/notice_bar.h"
#include "core/project/project_file.h"
#include "tests/app/person.h"
#include "tests/support/card.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/imgproc.hpp>
#include <QAction>
#include <QComboBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollBar>
#include <QTreeWidget>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Two trials, a marker, 12 hand-moved photos, a marker, 10 of a sunset.
void write_card(const std::filesystem::path& folder)
{
    Card card(folder, "HARB", 1);
    card.shoot(scene(90), 5);
    card.shoot(scene(91), 9);
    card.shoot(hand(1), 12);
    for (int i = 0; i < 12; ++i)
        card.shoot(hand_moved(1, i), 11 + i * 5 % 9);
    card.shoot(cloth({40, 60, 190}, 1), 11);
    for (int i = 0; i < 10; ++i)
        card.shoot(sunset(2, i / 9.0), 20);
}

using Parts = std::vector<std::pair<std::int64_t, std::int64_t>>;

Parts parts(Person& p)
{
    Parts found;
    for (const auto& part : p.window().viewing().shot()->parts)
        found.emplace_back(part.begin.value, part.end.value);
    return found;
}

void drag(Person& p, QPoint from, QPoint to)
{
    auto* page = p.window().findChild<app::SheetView*>()->viewport();
    QTest::mousePress(page, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 10; ++i) {
        const QPoint at = from + (to - from) * i / 10;
        QMouseEvent move(QEvent::MouseMove, at, page->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(page, &move);
    }
    QTest::mouseRelease(page, Qt::LeftButton, {}, to);
}

QRect tile(Person& p, int number)
{
    return p.window().findChild<app::SheetView*>()->tile_in_view(PhotoIndex(number - 1));
}

/// Presses the button of the line that says this.
void press_in_line(Person& p, const QString& button, const QString& said)
{
    QPushButton* found = nullptr;
    const auto look = [&] {
        for (auto* b : p.window().findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == button && b->accessibleDescription().contains(said))
                found = b;
        return found != nullptr;
    };
    p.wait_until(look, QStringLiteral("“%1” in a line about “%2”").arg(button, said));
    QTest::mouseClick(found, Qt::LeftButton);
}

/// Chooses from the line's More menu.
void choose_in_line(Person& p, const QString& action, const QString& said)
{
    for (auto* b : p.window().findChildren<QPushButton*>())
        if (b->isVisible() && b->menu() && b->accessibleDescription().contains(said))
            for (auto* a : b->menu()->actions())
                if (a->text() == action) {
                    a->trigger();
                    return;
                }
    p.fail(QStringLiteral("no “%1” behind More of “%2”").arg(action, said));
}

std::vector<std::string> names(const Shot& shot)
{
    std::vector<std::string> list;
    for (const auto& p : shot.photos)
        list.push_back(p.photo->file.filename());
    return list;
}

}

TEST_CASE("a card: accept what was found, move a boundary, set two aside, name, reverse, make shots", "[window][sort]")
{
    Person p;
    write_card(p.folder() / "100HARBO");
    p.bring_in(p.folder() / "100HARBO");
    CHECK(parts(p) == Parts{{3, 15}, {16, 26}});
    CHECK(p.find(QStringLiteral("Make 2 shots"))->isEnabled());
    // The end of the first shot, by mouse: its bracket two photos back, in one step.
    drag(p, QPoint(tile(p, 15).right() + 3, tile(p, 15).center().y()),
         QPoint(tile(p, 13).right() + 3, tile(p, 13).center().y()));
    CHECK(parts(p) == Parts{{3, 13}, {16, 26}});
    p.click(QStringLiteral("Undo"));
    CHECK(parts(p) == Parts{{3, 15}, {16, 26}});
    // Its start, by key.
    p.click_photo(6);
    p.key(Qt::Key_BracketLeft);
    CHECK(parts(p) == Parts{{5, 15}, {16, 26}});
    p.click_photo(8);
    p.click_photo(10, Qt::ControlModifier);
    p.key(Qt::Key_X);
    // Named in the list, in place.
    auto* list = p.find<QTreeWidget>(QStringLiteral("List of shots"));
    list->setCurrentItem(list->topLevelItem(0));
    list->setFocus();
    QTest::keyClick(list, Qt::Key_F2);
    auto* editor = list->findChild<QLineEdit*>();
    REQUIRE(editor);
    QTest::keyClick(editor, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClicks(editor, QStringLiteral("Paper ferry"));
    QTest::keyClick(editor, Qt::Key_Return);
    p.wait_until([&] { return p.window().viewing().shot()->parts[0].name == "Paper ferry"; },
                 QStringLiteral("it is named"));
    p.click(QStringLiteral("Make 2 shots"));
    const auto& shots = p.window().session().project().shots;
    REQUIRE(shots.size() == 2);
    CHECK(shots[0]->name == "Paper ferry");
    CHECK(shots[0]->kind == ShotKind::hand_moved);
    CHECK(shots[1]->kind == ShotKind::time_lapse);
    CHECK(photos_in_film(*shots[0]) == 10 - 2);
    CHECK(shots[0]->photos.size() == 15);
    CHECK(photos_in_film(*shots[1]) == 10);
    CHECK(shots[0]->photos[6].hold == Hold(Frames{2})); // hand-moved starts on twos
    p.menu(QStringLiteral("Reverse"))->trigger();
    CHECK(names(*p.window().session().project().shots[0]).front() == "HARB0015.JPG");
    for (int step = 0; step < 5; ++step)
        p.click(QStringLiteral("Undo"));
    CHECK(parts(p) == Parts{{3, 15}, {16, 26}});
}

TEST_CASE("parts are split, joined, and looked for again with another pause, and ties hold", "[window][sort]")
{
    Person p;
    write_card(p.folder() / "100HARBO");
    p.bring_in(p.folder() / "100HARBO");
    p.click_photo(9);
    p.click(QStringLiteral("Split"));
    CHECK(parts(p) == Parts{{3, 8}, {8, 15}, {16, 26}});
    p.click_photo(10);
    p.click(QStringLiteral("Join"));
    CHECK(parts(p) == Parts{{3, 8}, {8, 26}});
    const auto searched = [&](const QString& pause) {
        const auto before = p.window().session().project();
        p.type_into(QStringLiteral("Pause that ends a shot"), pause);
        p.wait_until([&] { return !(p.window().session().project() == before); },
                     QStringLiteral("shots are found again"));
    };
    searched(QStringLiteral("30 min"));
    CHECK(parts(p) == Parts{{3, 8}, {8, 26}}); // by hand: no search overrules it
    CHECK(p.window().viewing().shot()->pause->value == Fraction(1800));
    p.type_into(QStringLiteral("Pause that ends a shot"), QStringLiteral("soon"));
    CHECK(p.find(QStringLiteral("Pause that ends a shot"))->property("wrong").toBool());
    p.click(QStringLiteral("All one shot"));
    CHECK(p.window().viewing().shot()->parts.empty());
}

TEST_CASE("photos are dragged to another place, or moved with the keys, each one step", "[window][sort]")
{
    Person p;
    write_run(p.folder() / "s", "s", 8, {64, 48});
    p.bring_in(p.folder() / "s");
    p.click_photo(2);
    p.click_photo(3, Qt::ShiftModifier);
    drag(p, tile(p, 2).center(), QPoint(tile(p, 6).left() + 2, tile(p, 6).center().y()));
    CHECK(names(*p.window().viewing().shot()) == std::vector<std::string>{"s_0001.jpg", "s_0004.jpg", "s_0005.jpg",
                                                                          "s_0002.jpg", "s_0003.jpg", "s_0006.jpg",
                                                                          "s_0007.jpg", "s_0008.jpg"});
    CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(3), PhotoIndex(4)});
    p.key(Qt::Key_Left, Qt::AltModifier);
    CHECK(names(*p.window().viewing().shot())[2] == "s_0002.jpg");
    p.click(QStringLiteral("Undo"));
    p.click(QStringLiteral("Undo"));
    CHECK(names(*p.window().viewing().shot())[1] == "s_0002.jpg");
    p.click_photo(2); // a click on one of several chosen photos chooses it alone
    CHECK(p.window().viewing().selection().size() == 1);
    p.menu(QStringLiteral("First photo to the end"))->trigger();
    CHECK(names(*p.window().viewing().shot()).back() == "s_0001.jpg");
}

TEST_CASE("each problem is settled on the spot", "[window][sort][bad]")
{
    Person p;
    Card card(p.folder() / "s", "HARB", 1);
    for (int i = 0; i < 12; ++i)
        card.shoot(i == 8 ? exposed(hand_moved(1, i), 1.8) : hand_moved(1, i), 15);
    const auto cut = p.folder() / "s" / "HARB0004.JPG";
    const std::string whole = read_bytes(cut);
    write_bytes(cut, whole.substr(0, whole.size() * 7 / 10));
    std::filesystem::copy_file(p.folder() / "s" / "HARB0002.JPG", p.folder() / "s" / "HARB0013.JPG");
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.wait_until([&] { return p.findings().open() == 4; }, QStringLiteral("four things to look at"));
    const auto& shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    press_in_line(p, QStringLiteral("Hold the one before"), QStringLiteral("HARB0004"));
    CHECK(shot().photos[2].hold == Hold(Frames{2}));
    p.wait_until([&] { return p.findings().open() == 3; }, QStringLiteral("it is settled"));
    p.click(QStringLiteral("Undo"));
    choose_in_line(p, QStringLiteral("Use what there is"), QStringLiteral("HARB0004"));
    CHECK(shot().photos[3].what_there_is);
    CHECK_FALSE(shot().photos[3].aside);
    press_in_line(p, QStringLiteral("Leave it out"), QStringLiteral("byte for byte"));
    CHECK(shot().photos[12].aside);
    p.wait_until([&] { return p.findings().open() <= 2; }, QStringLiteral("the copy is settled"));
    choose_in_line(p, QStringLiteral("Leave it as it is"), QStringLiteral("stops brighter"));
    press_in_line(p, QStringLiteral("Show"), QStringLiteral("stops brighter"));
    CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(8)});
    p.wait_for_pictures();
    // What there is of the cut-off photo goes into the film, as it is seen.
    p.click_photo(4);
    p.wait_for_pictures();
    CHECK(p.window().loader().has(
        request_for_photo(shot(), PhotoIndex(3), p.window().findChild<app::PictureView*>()->picture_size()),
        app::Quality::exact));
}

TEST_CASE("problems of one kind are one line with one remedy, in one step", "[window][sort][bad]")
{
    Person p;
    Card card(p.folder() / "s", "HARB", 1);
    for (int i = 0; i < 20; ++i)
        card.shoot(i == 4 || i == 9 || i == 15 ? exposed(hand_moved(1, i), 1.8) : hand_moved(1, i), 15);
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.wait_until([&] { return p.findings().open() == 3; }, QStringLiteral("three photos that are too bright"));
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    const Shot before = shot();
    const QString line = QStringLiteral("3 photos are much brighter or darker");
    // Show goes from one to the next.
    for (const int photo : {4, 9, 15, 4}) {
        press_in_line(p, QStringLiteral("Show"), line);
        CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(photo)});
    }
    choose_in_line(p, QStringLiteral("Each in its own line"), line);
    press_in_line(p, QStringLiteral("Show"), QStringLiteral("HARB0010"));
    CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(9)});
    choose_in_line(p, QStringLiteral("All of them in one line"), line);
    press_in_line(p, QStringLiteral("Leave it out"), line);
    for (const std::size_t photo : {4U, 9U, 15U})
        CHECK(shot().photos[photo].aside);
    p.wait_until([&] { return p.findings().open() == 0; }, QStringLiteral("all are settled"));
    p.click(QStringLiteral("Undo"));
    CHECK(shot() == before);
    choose_in_line(p, QStringLiteral("Leave them as they are"), line);
    p.wait_until([&] { return p.findings().open() == 0; }, QStringLiteral("they are left"));
    CHECK_FALSE(shot().photos[4].aside);
}

TEST_CASE("a border that is in doubt is said, goes there, and comes back from its file", "[window][sort]")
{
    Person p;
    const auto at = p.folder() / "card";
    Card card(at, "HARB", 1);
    for (int i = 0; i < 14; ++i)
        card.shoot(hand_moved(1, i), 15);
    for (int i = 0; i < 4; ++i) // so few: a shot, or photos of something else?
        card.shoot(hand_moved(2, i), 15);
    for (int i = 0; i < 14; ++i)
        card.shoot(hand_moved(3, i), 15);
    p.bring_in(at);
    p.wait_for_pictures();
    std::vector<app::ToLookAt> borders;
    p.wait_until(
        [&] {
            borders.clear();
            for (const auto& f : p.findings().all())
                if (f.finding.kind == FindingKind::border_unsure)
                    borders.push_back(f);
            return !borders.empty();
        },
        QStringLiteral("a border to look at"));
    CHECK_THAT(borders[0].finding.text, Catch::Contains("Look at this border"));
    press_in_line(p, QStringLiteral("Show"),
                  borders.size() == 1 ? QStringLiteral("Look at this border") : QStringLiteral("borders"));
    CHECK(p.window().viewing().selection().photos() == std::vector{borders[0].photo});
    p.window().session().save(p.folder() / "p.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    CHECK(load_project(p.folder() / "p.frenlo").project == p.window().session().project());
}

TEST_CASE("photos that are gone are found again in another folder", "[window][sort]")
{
    Person p;
    write_run(p.folder() / "s", "s", 4, {64, 48});
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    p.window().session().save(p.folder() / "p.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, QStringLiteral("it is saved"));
    std::filesystem::create_directories(p.folder() / "archive");
    std::filesystem::rename(p.folder() / "s", p.folder() / "archive" / "s");
    p.window().open(p.folder() / "p.frenlo");
    const auto missed = [&] {
        const auto& all = p.findings().all();
        return std::any_of(all.begin(), all.end(), [](const auto& f) { return f.finding.kind == FindingKind::gone; });
    };
    p.wait_until(missed, QStringLiteral("they are missed"));
    p.window().findChild<app::NoticeBar*>()->hide();
    press_in_line(p, QStringLiteral("Find again…"), QStringLiteral("no longer in"));
    p.answer_folder(p.folder() / "archive");
    p.wait_until(
        [&] {
            return p.window().findChild<app::NoticeBar*>()->text().contains(QStringLiteral("4 photos found again"));
        },
        QStringLiteral("they are found"));
    CHECK(p.window().viewing().shot()->photos[0].photo->file == p.folder() / "archive" / "s" / "s_0001.jpg");
    p.wait_until([&] { return p.findings().open() == 0; }, QStringLiteral("nothing is left to look at"));
}

TEST_CASE("a better set is swapped in after its matches were seen", "[window][sort]")
{
    Person p;
    write_run(p.folder() / "s", "s", 4, {64, 48});
    write_run(p.folder() / "better", "s", 3, {128, 96});
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_A, Qt::ControlModifier);
    p.key(Qt::Key_3);
    p.click(QStringLiteral("Swap photos…"));
    p.answer_folder(p.folder() / "better");
    p.wait_until([&] { return p.sees(QStringLiteral("Swap 3 photos")); }, QStringLiteral("the plan is shown"));
    CHECK(p.find<QLabel>(QStringLiteral("What does not match"))->text().contains(QStringLiteral("s_0004.jpg")));
    p.click(QStringLiteral("Swap 3 photos"));
    const Shot& shot = *p.window().viewing().shot();
    CHECK(shot.photos[0].photo->file == p.folder() / "better" / "s_0001.jpg");
    CHECK(shot.photos[3].photo->file == p.folder() / "s" / "s_0004.jpg");
    CHECK(shot.photos[0].hold == Hold(Frames{3}));
    p.click(QStringLiteral("Undo"));
    CHECK(p.window().viewing().shot()->photos[0].photo->file == p.folder() / "s" / "s_0001.jpg");
}

TEST_CASE("files are put in order after the plan was seen, and taken back", "[window][sort]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.click(QStringLiteral("Files in order…"));
    p.type_into(QStringLiteral("Folder for the files"), app::to_qt(p.folder() / "out"));
    p.click(QStringLiteral("Move originals"));
    p.wait_until([&] { return p.sees(QStringLiteral("Move 3 files")); }, QStringLiteral("the plan"));
    CHECK(p.find<QTreeWidget>(QStringLiteral("Which file goes where"))->topLevelItem(2)->text(1) ==
          QStringLiteral("s/s_0003.jpg"));
    p.click(QStringLiteral("Move 3 files"));
    p.wait_until([&] { return p.sees(QStringLiteral("Take it back")); }, QStringLiteral("they are moved"));
    CHECK(std::filesystem::exists(p.folder() / "out" / "s" / "s_0003.jpg"));
    CHECK(p.window().viewing().shot()->photos[2].photo->file == p.folder() / "out" / "s" / "s_0003.jpg");
    p.click(QStringLiteral("Take it back"));
    p.wait_until([&] { return std::filesystem::exists(p.folder() / "s" / "s_0003.jpg"); },
                 QStringLiteral("they are back"));
    p.wait_until([&] { return p.window().viewing().shot()->photos[2].photo->file == p.folder() / "s" / "s_0003.jpg"; },
                 QStringLiteral("the project follows"));
    p.click(QStringLiteral("Back"));
    CHECK(p.sees(QStringLiteral("Files in order…")));
}

TEST_CASE("the photo and the one before blink, one over the other", "[window][sort][picture]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {300, 200});
    p.bring_in(p.folder() / "s");
    p.click_photo(2);
    p.wait_for_pictures();
    auto& view = *p.window().findChild<app::PictureView*>();
    const QImage this_one = view.grab().toImage();
    p.click(QStringLiteral("Blink"));
    p.wait_for_pictures();
    p.wait_until([&] { return view.accessibleDescription() == QStringLiteral("s_0001.jpg"); },
                 QStringLiteral("the one before is shown"));
    CHECK(view.grab().toImage() != this_one);
    p.wait_until([&] { return view.accessibleDescription() == QStringLiteral("s_0002.jpg"); },
                 QStringLiteral("and this one again"));
    p.click(QStringLiteral("Blink"));
    // Held: the key does the same for as long as it is down.
    auto* sheet = p.window().findChild<app::SheetView*>();
    QTest::keyPress(sheet, Qt::Key_C);
    CHECK(view.accessibleDescription() == QStringLiteral("s_0001.jpg"));
    QTest::keyRelease(sheet, Qt::Key_C);
    CHECK(view.accessibleDescription() == QStringLiteral("s_0002.jpg"));
    CHECK(view.grab().toImage() == this_one);
    // At full size, around where the click was.
    QTest::mouseDClick(&view, Qt::LeftButton, {}, view.rect().center());
    p.wait_for_pictures();
    CHECK(view.picture_size() == cv::Size(300, 200));
}

TEST_CASE("transparent photos lie on the backdrop that was chosen", "[window][sort]")
{
    Person p;
    for (int i = 1; i <= 3; ++i)
        write_picture(p.folder() / "s" / ("s_000" + std::to_string(i) + ".png"),
                      cv::Mat(60, 90, CV_8UC4, cv::Scalar(40, 90, 200, 0)));
    p.bring_in(p.folder() / "s");
    p.choose(QStringLiteral("Backdrop"), QStringLiteral("white"));
    const auto picture = render(request_for_photo(*p.window().viewing().shot(), PhotoIndex(0), {90, 60}), Originals());
    REQUIRE(picture);
    CHECK(picture->at<cv::Vec3b>(30, 45) == cv::Vec3b(255, 255, 255));
    p.click(QStringLiteral("Undo"));
    CHECK_FALSE(p.window().viewing().shot()->backdrop);
    TempFolder opaque;
    write_run(opaque / "o", "o", 2);
    p.window().session().start({}, {});
    p.bring_in(opaque / "o");
    CHECK_FALSE(p.sees(QStringLiteral("Backdrop")));
}

TEST_CASE("very many photos are on the Sheet before all are looked at, and come in one step", "[window][sort]")
{
    Person p;
    write_jpeg(p.folder() / "x.jpg", painted({16, 12}, 1));
    const std::string bytes = read_bytes(p.folder() / "x.jpg");
    constexpr int many = 1300;
    for (int i = 1; i <= many; ++i)
        write_bytes(p.folder() / "s" / ("s_" + std::to_string(10'000 + i) + ".jpg"), bytes);
    std::vector<std::size_t> arrived;
    QObject::connect(&p.window().session(), &app::Session::changed, &p.window(), [&] {
        if (!p.window().session().is_empty())
            arrived.push_back(p.window().viewing().shot() ? p.window().viewing().shot()->photos.size() : 0);
    });
    p.bring_in(p.folder() / "s");
    REQUIRE_FALSE(arrived.empty());
    CHECK(arrived.front() == 300);
    CHECK(p.window().viewing().shot()->photos.size() == many);
    p.click(QStringLiteral("Undo"));
    CHECK(p.window().session().is_empty());
}

}
