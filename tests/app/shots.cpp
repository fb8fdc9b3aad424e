// Renews docs/screenshots/: one picture of each main view, made from the demo.
#include "app/steps/flicker/light_strip.h"
#include "app/theme/theme.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/steady/steady_values.h"
#include "demo/demo.h"
#include "tests/app/person.h"

#include <QDir>
#include <QTranslator>

#include <iostream>

using namespace frenlo;

namespace {

void take_all(const QString& to, const std::filesystem::path& demo)
{
    test::Person p;
    const auto shot = [&](const char* name) {
        p.wait_for_pictures();
        p.save_picture(to + QLatin1Char('/') + QLatin1String(name) + QStringLiteral(".png"));
    };
    shot("start");
    p.bring_in(demo::card_folder(demo.parent_path()));
    p.wait_for_pictures();
    p.click_photo(4);
    shot("sort");
    p.click(QStringLiteral("Make 3 shots"));
    p.click(QStringLiteral("Files in order…"));
    p.type_into(QStringLiteral("Folder for the files"), QStringLiteral("/home/you/films/harbour"));
    shot("sort-files");
    p.window().session().start({}, {});
    p.window().open(demo);
    p.wait_until([&] { return !p.window().session().is_empty(); }, QStringLiteral("the demo opens"));
    p.click(QStringLiteral("Pace"));
    p.click_photo(11);
    p.click_photo(16, Qt::ShiftModifier);
    p.key(Qt::Key_4);
    p.key(Qt::Key_G);
    shot("pace");
    p.key(Qt::Key_G);
    p.click(QStringLiteral("Range and order"));
    p.click_photo(6);
    p.key(Qt::Key_BracketLeft);
    p.click_photo(44);
    p.key(Qt::Key_BracketRight);
    p.type_into(QStringLiteral("Length of the range"), QStringLiteral("3 s"));
    p.click_photo(20);
    p.key(Qt::Key_M);
    p.key(Qt::Key_Escape);
    shot("pace-range");
    p.window().session().undo();
    p.window().session().undo();
    p.window().session().undo();
    p.window().session().undo();
    p.click(QStringLiteral("Holds and rate"));
    p.type_into(QStringLiteral("Delivered at"), QStringLiteral("30"));
    shot("pace-rate");
    p.click(QStringLiteral("Leave the rate as it is"));
    p.click(QStringLiteral("Steady"));
    p.click(QStringLiteral("Hold the photos still"));
    p.wait_until([&] { return p.window().viewing().shot()->steps.has<Steadying>(); }, QStringLiteral("it is measured"),
                 120'000);
    p.click_photo(31);
    shot("steady");
    p.click(QStringLiteral("Photo by photo"));
    p.click(QStringLiteral("Split"));
    shot("steady-photo");
    p.click(QStringLiteral("Split"));
    p.click(QStringLiteral("Whole shot"));
    p.click(QStringLiteral("Outside"));
    p.drag_on_picture({0.42, 0.37}, {0.78, 0.72});
    shot("steady-region");
    p.click(QStringLiteral("Outside"));
    p.window().session().undo();
    p.window().viewing().set_shot(ShotIndex(2));
    p.click(QStringLiteral("Smooth path"));
    p.click(QStringLiteral("Smooth the path"));
    p.wait_until([&] { return p.window().viewing().shot()->steps.has<Steadying>(); }, QStringLiteral("it is measured"),
                 120'000);
    p.click_photo(40);
    shot("steady-walk");
    p.window().viewing().set_shot(ShotIndex(1));
    p.click(QStringLiteral("Light"));
    p.click(QStringLiteral("Remove flicker"));
    p.wait_until([&] { return p.window().viewing().shot()->steps.has<Deflicker>(); }, QStringLiteral("it is evened"),
                 120'000);
    p.click_photo(30);
    shot("light");
    p.click(QStringLiteral("Strip"));
    p.click(QStringLiteral("Split"));
    p.wait_until([&] { return !p.window().findChild<app::LightStrip*>()->strip().photos.empty(); },
                 QStringLiteral("the strip"));
    shot("light-strip");
    p.click(QStringLiteral("Split"));
    p.window().viewing().set_shot(ShotIndex(0));
    p.click(QStringLiteral("Export"));
    const QString film = app::to_qt(p.folder() / "Paper ferry.mp4");
    p.type_into(QStringLiteral("File"), film);
    p.wait_until([&] { return p.find(QStringLiteral("Export the film"))->isEnabled(); },
                 QStringLiteral("it can be exported"));
    shot("export");
    p.window().viewing().set_step("pace");
    p.window().viewing().set_shot(ShotIndex(1));
    app::apply_theme(*qApp, app::ThemeName::dim_room);
    shot("pace-dim-room");
}

}

int main(int argc, char** argv)
{
    QApplication application(argc, argv);
    if (argc != 3) {
        std::cerr << "usage: frenlo-shots PICTURES_FOLDER DEMO_PROJECT\n";
        return 2;
    }
    QTranslator plurals;
    if (plurals.load(QStringLiteral(":/translations/frenlo_en.qm")))
        QApplication::installTranslator(&plurals);
    app::apply_theme(application, app::ThemeName::paper);
    try {
        QDir().mkpath(QString::fromLocal8Bit(argv[1]));
        take_all(QString::fromLocal8Bit(argv[1]), std::filesystem::absolute(argv[2]));
        return 0;
    } catch (const std::exception& e) {
        std::cerr << "frenlo-shots: " << e.what() << '\n';
        return 1;
    }
}
