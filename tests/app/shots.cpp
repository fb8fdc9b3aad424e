// Renews docs/screenshots/: one picture of each main view, made from the demo.
#include "app/steps/pace/speed_plot.h"
#include "app/steps/shoot/live_view.h"
#include "app/theme/theme.h"
#include "core/camera/simulated_scene.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/retouch/retouch_values.h"
#include "core/steps/steady/steady_values.h"
#include "demo/demo.h"
#include "tests/app/person.h"

#include <QDir>
#include <QPlainTextEdit>
#include <QTranslator>
#include <QTreeWidget>

#include <algorithm>
#include <iostream>
#include <string>
#include <vector>

using namespace frenlo;

namespace {

/// One view after the other, each from the demo as it is opened.
struct Tour
{
    test::Person p{};
    QString to;
    std::filesystem::path demo;

    void shot(const char* name)
    {
        p.wait_for_pictures();
        p.save_picture(to + QLatin1Char('/') + QLatin1String(name) + QStringLiteral(".png"));
    }
    void click(const char* what) { p.click(QString::fromUtf8(what)); }
    void open_demo()
    {
        p.window().session().start({}, {}); // whatever the view before did is gone
        p.window().open(demo);
        p.wait_until([&] { return !p.window().session().is_empty(); }, QStringLiteral("the demo opens"));
    }
    [[nodiscard]] const Shot& shown() { return *p.window().viewing().shot(); }
    template <class Value>
    void wait_for()
    {
        p.wait_until([&] { return shown().steps.has<Value>(); }, QStringLiteral("it is measured"), 120'000);
    }
};

void start(Tour& c)
{
    c.shot("start");
}

/// The demo's last shot is gone on with; TRY: other pages too, for looking at them.
void shoot(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(4));
    c.p.window().viewing().set_step("shoot");
    c.p.wait_until([&] { return c.p.find(QStringLiteral("Take photo"))->isEnabled(); }, QStringLiteral("it opens"));
    c.click("Lock all");
    auto* view = c.p.find<app::LiveView>(QStringLiteral("Live picture"));
    const auto at = [&](double x, double y) {
        const QRectF r = view->place();
        return QPoint(int(r.left() + x * r.width()), int(r.top() + y * r.height()));
    };
    const cv::Point2d hips = Pose{}.hips; // the figure goes to where the path's ring is
    QTest::mousePress(view, Qt::LeftButton, {}, at(hips.x * 9 / 16, hips.y - 0.1));
    for (int i = 1; i <= 8; ++i)
        QTest::mouseMove(view, at(hips.x * 9 / 16 + 0.41 * i / 8, hips.y - 0.1));
    QTest::mouseRelease(view, Qt::LeftButton, {}, at(hips.x * 9 / 16 + 0.41, hips.y - 0.1));
    QTest::qWait(400);
    c.shot("shoot");
    if (!qEnvironmentVariableIsSet("TRY"))
        return;
    c.click("Camera");
    QTest::qWait(300);
    c.shot("try-camera");
    c.click("Guides and paths");
    for (const char* guide : {"Grid", "Rulers", "Clipped", "Histogram", "Magnifier"})
        c.click(guide);
    c.p.choose(QStringLiteral("Shape that stays light"), QStringLiteral("2.39:1"));
    QTest::qWait(500);
    c.shot("try-guides");
}

void sort(Tour& c)
{
    c.p.bring_in(demo::card_folder(c.demo.parent_path()));
    c.p.wait_for_pictures();
    c.p.click_photo(4);
    c.shot("sort");
    c.click("Make 3 shots");
    c.click("Files in order…");
    c.p.type_into(QStringLiteral("Folder for the files"), QStringLiteral("/home/you/films/harbour"));
    c.shot("sort-files");
}

void pace(Tour& c)
{
    c.open_demo();
    c.click("Pace");
    c.p.click_photo(11);
    c.p.click_photo(16, Qt::ShiftModifier);
    c.p.key(Qt::Key_4);
    c.p.key(Qt::Key_G);
    c.shot("pace");
    c.p.key(Qt::Key_G);
    c.click("Range and order");
    c.p.click_photo(6);
    c.p.key(Qt::Key_BracketLeft);
    c.p.click_photo(44);
    c.p.key(Qt::Key_BracketRight);
    c.p.type_into(QStringLiteral("Length of the range"), QStringLiteral("3 s"));
    c.p.click_photo(20);
    c.p.key(Qt::Key_M);
    c.p.key(Qt::Key_Escape);
    c.shot("pace-range");
}

void steady(Tour& c)
{
    c.open_demo();
    c.click("Steady");
    c.click("Hold the photos still");
    c.wait_for<Steadying>();
    c.p.click_photo(31);
    c.shot("steady");
    c.p.window().viewing().set_shot(ShotIndex(2));
    c.click("Smooth path");
    c.click("Smooth the path");
    c.wait_for<Steadying>();
    c.p.click_photo(40);
    c.shot("steady-walk");
}

void flicker(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(1));
    c.click("Light");
    c.click("Remove flicker");
    c.wait_for<Deflicker>();
    c.p.click_photo(30);
    c.shot("light");
}

/// A dark and a bright photo toned, and what lies between follows the light.
void tone(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(1));
    c.p.window().viewing().set_step("tone");
    const auto set = [&](const char* field, const char* value) {
        c.p.type_into(QString::fromUtf8(field), QString::fromUtf8(value));
    };
    c.p.click_photo(1);
    set("Exposure", "0.9");
    set("Contrast", "20");
    set("Warmth", "7200");
    c.p.click_photo(97);
    set("Exposure", "-0.3");
    set("Contrast", "30");
    set("Shoulder", "-0.4");
    set("Warmth", "6000");
    c.shot("tone");
}

/// A walked shot in another shape, that drifts from one view to the next.
void dress(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(2));
    c.p.window().viewing().set_step("frame");
    c.p.click_photo(40);
    c.shot("dress");
}

/// Gulls drawn photo by photo, and the title that slides in over the Reel.
void layers(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(0));
    c.p.window().viewing().set_step("layers");
    c.p.click_photo(20);
    c.p.window().viewing().show_reel();
    c.p.window().viewing().set_step("layers");
    c.p.window().viewing().set_playhead(FrameIndex(30));
    c.shot("dress-layers");
}

/// A speck that is healed in all photos, and a mark that goes with the boat.
void retouch(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(0));
    c.p.window().viewing().set_step("retouch");
    c.p.click_photo(12);
    c.p.wait_for_pictures();
    c.p.type_into(QStringLiteral("brush"), QStringLiteral("1.2"));
    c.p.click_on_picture({0.3, 0.16});
    c.p.drag_on_picture({0.62, 0.3}, {0.72, 0.34});
    c.p.wait_until([&] { return retouch_of(c.shown()).spots.size() == 2; }, QStringLiteral("two marks"));
    c.shot("dress-retouch");
}

/// An area that is toned by itself.
void areas(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(1));
    c.p.window().viewing().set_step("retouch");
    c.click("Areas");
    c.p.click_photo(30);
    auto* list = c.p.find<QTreeWidget>(QStringLiteral("List of areas"));
    list->setCurrentItem(list->topLevelItem(0));
    c.shot("dress-areas");
}

void card(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_step("card");
    c.click("Title");
    auto* text = c.p.find<QPlainTextEdit>(QStringLiteral("Text of the card"));
    text->setPlainText(QStringLiteral("The paper ferry\nan afternoon at the harbour"));
    c.shot("card");
}

/// The three shots after one another, with joins and sound.
void reel(Tour& c)
{
    c.open_demo();
    c.click("Reel");
    c.p.window().viewing().set_playhead(FrameIndex(110));
    c.shot("reel");
    c.click("Sound");
    c.p.window().viewing().set_playhead(FrameIndex(200));
    c.shot("reel-sound");
}

void exporting(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_shot(ShotIndex(0)); // not the Reel, which was looked at before
    c.click("Export");
    c.p.type_into(QStringLiteral("File"), app::to_qt(c.demo.parent_path() / "Paper ferry.mp4"));
    c.p.wait_until([&] { return c.p.find(QStringLiteral("Export the film"))->isEnabled(); },
                   QStringLiteral("it can be exported"));
    c.shot("export");
}

void dim_room(Tour& c)
{
    c.open_demo();
    c.p.window().viewing().set_step("pace");
    c.p.window().viewing().set_shot(ShotIndex(1));
    app::apply_theme(*qApp, app::ThemeName::dim_room);
    c.click("Flow");
    c.p.find<app::SpeedPlot>(QStringLiteral("Speed course"))->choose(1);
    c.p.window().viewing().go_to_photo(PhotoIndex(96));
    c.shot("pace-flow");
}

constexpr std::pair<const char*, void (*)(Tour&)> views[] = {
    {"start", start}, {"sort", sort},   {"pace", pace},        {"steady", steady},   {"light", flicker},
    {"tone", tone},   {"dress", dress}, {"layers", layers},    {"retouch", retouch}, {"areas", areas},
    {"card", card},   {"reel", reel},   {"export", exporting}, {"shoot", shoot},     {"dim-room", dim_room}};

}

int main(int argc, char** argv)
{
    QApplication application(argc, argv);
    if (argc < 3) {
        std::cerr << "usage: frenlo-shots PICTURES_FOLDER DEMO_PROJECT [VIEW…]\n";
        return 2;
    }
    QTranslator plurals;
    if (plurals.load(QStringLiteral(":/translations/frenlo_en.qm")))
        QApplication::installTranslator(&plurals);
    app::apply_theme(application, app::ThemeName::paper);
    try {
        QDir().mkpath(QString::fromLocal8Bit(argv[1]));
        const std::vector<std::string> wanted(argv + 3, argv + argc);
        Tour camera{.to = QString::fromLocal8Bit(argv[1]), .demo = std::filesystem::absolute(argv[2])};
        for (const auto& [name, take] : views)
            if (wanted.empty() || std::find(wanted.begin(), wanted.end(), name) != wanted.end())
                take(camera);
        return 0;
    } catch (const std::exception& e) {
        std::cerr << "frenlo-shots: " << e.what() << '\n';
        return 1;
    }
}
