#include "app/theme/theme.h"
#include "tests/support/test_runner.h"

#include <QApplication>
#include <QStandardPaths>
#include <QTranslator>

int main(int argc, char** argv)
{
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    QStandardPaths::setTestModeEnabled(true);
    QTranslator plurals;
    if (plurals.load(QStringLiteral(":/translations/frenlo_en.qm")))
        QApplication::installTranslator(&plurals);
    frenlo::app::apply_theme(application, frenlo::app::ThemeName::paper);
    return frenlo::run_tests(argc, argv);
}
