#include "app/theme/theme.h"
#include "app/window/main_window.h"
#include "app/work/desktop.h"
#include "core/base/folders.h"
#include "core/base/picture_memory.h"
#include "core/source/preview_store.h"
#include "demo/demo.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QIcon>
#include <QSettings>
#include <QTimer>
#include <QTranslator>

int main(int argc, char** argv)
{
    // The memory of pictures is used again: they are made over and over at the same sizes, for the screen and for
    // films.
    frenlo::PictureMemory memory;
    cv::Mat::setDefaultAllocator(&memory);
    QApplication application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("frenlo"));
    QApplication::setOrganizationName(QStringLiteral("frenlo"));
    QApplication::setApplicationVersion(QStringLiteral(FRENLO_VERSION));
    QApplication::setDesktopFileName(QStringLiteral("frenlo"));
    QApplication::setWindowIcon(QIcon(QStringLiteral(":/icons/frenlo.svg")));

    QCommandLineParser parser;
    parser.setApplicationDescription(QCoreApplication::translate("main", "From photos to a film or a loop."));
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption demo(QStringLiteral("demo"), QCoreApplication::translate("main", "Open the demo."));
    parser.addOption(demo);
    const QCommandLineOption picture(
        QStringLiteral("picture"),
        QCoreApplication::translate("main", "Write a picture of the window when all is shown, and end."),
        QStringLiteral("file"));
    parser.addOption(picture);
    parser.addPositionalArgument(QStringLiteral("what"),
                                 QCoreApplication::translate("main", "A project, or folders of photos."),
                                 QStringLiteral("[what…]"));
    parser.process(application);

    QTranslator plurals;
    if (plurals.load(QStringLiteral(":/translations/frenlo_en.qm")))
        QApplication::installTranslator(&plurals);
    QSettings settings;
    const frenlo::app::Settings kept(settings);
    frenlo::app::note_desktop_palette();
    frenlo::app::apply_theme(application, kept.theme());
    const std::filesystem::path previews = kept.previews();
    frenlo::app::MainWindow window({previews.empty() ? frenlo::PreviewStore::usual_folder() : previews,
                                    frenlo::RecoverySlot::usual_folder(), frenlo::demo::usual_demo_folder(),
                                    frenlo::usual_filing_folder(), frenlo::data_folder() / "kept"},
                                   settings);
    window.show();
    std::vector<std::filesystem::path> places;
    for (const QString& what : parser.positionalArguments())
        places.push_back(frenlo::app::from_qt(what));
    if (parser.isSet(demo))
        window.show_demo();
    else
        window.take_in(places);
    QTimer look; // for scripts and machines without a screen
    int calm = 0;
    if (parser.isSet(picture)) {
        QObject::connect(&look, &QTimer::timeout, &window, [&] {
            calm = window.at_rest() ? calm + 1 : 0;
            if (calm < 5)
                return;
            const bool written = window.grab().save(parser.value(picture));
            QApplication::exit(written ? 0 : 3);
        });
        look.start(200);
    }
    return QApplication::exec();
}
