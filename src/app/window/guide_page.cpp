#include "app/window/guide_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/command/libraries.h"
#include "core/source/decode.h"

#include <QCoreApplication>
#include <QDialog>
#include <QDir>
#include <QFile>
#include <QLabel>
#include <QRegularExpression>
#include <QTextBrowser>
#include <QtGlobal>
#include <QUrl>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {

/// Where it is installed, seen from the program, or where it is built from.
QString docs_folder()
{
    const QDir program(QCoreApplication::applicationDirPath());
    for (const QString& folder : {program.filePath(QStringLiteral("../share/doc/frenlo")), QStringLiteral(FRENLO_DOCS)})
        if (QFile::exists(folder + QStringLiteral("/guide.md")))
            return QDir::cleanPath(folder);
    return {};
}

}

QWidget* make_guide(QWidget* parent)
{
    auto* page = new QDialog(parent);
    page->setAttribute(Qt::WA_DeleteOnClose);
    page->setWindowTitle(QObject::tr("Guide"));
    page->resize(860, 680);
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    auto* text = new QTextBrowser;
    text->setAccessibleName(QObject::tr("Guide"));
    text->setFrameShape(QFrame::NoFrame);
    text->document()->setDocumentMargin(24);
    const QString folder = docs_folder();
    text->setSearchPaths({folder});
    QFile file(folder + QStringLiteral("/guide.md"));
    if (!folder.isEmpty() && file.open(QIODevice::ReadOnly)) {
        text->document()->setBaseUrl(QUrl::fromLocalFile(folder + QLatin1Char('/')));
        QString words = QString::fromUtf8(file.readAll());
        // Pictures as wide as the page, not as the screen that they were taken of.
        static const QRegularExpression picture(QStringLiteral("!\\[([^\\]]*)\\]\\(([^)]*)\\)"));
        words.replace(picture, QStringLiteral("<img src=\"\\2\" width=\"760\" alt=\"\\1\"/>"));
        text->setMarkdown(words);
    } else {
        text->setPlainText(QObject::tr("The guide is not installed here. It is docs/guide.md in Frenlo's source."));
    }
    column->addWidget(text);
    return page;
}

QWidget* make_about(QWidget* parent)
{
    auto* page = new QDialog(parent);
    page->setAttribute(Qt::WA_DeleteOnClose);
    page->setWindowTitle(QObject::tr("About Frenlo"));
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(24, 20, 24, 20);
    column->setSpacing(gap);
    QString libraries = QStringLiteral("Qt ") + QString::fromLatin1(qVersion());
    for (const auto& [name, version] : libraries_in_use())
        libraries += QStringLiteral(", %1 %2").arg(QString::fromStdString(name), QString::fromStdString(version));
    const auto line = [&](const QString& head, const QString& text) {
        column->addWidget(heading(head));
        auto* label = new QLabel(text);
        label->setWordWrap(true);
        label->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
        label->setMinimumWidth(460);
        column->addWidget(label);
    };
    line(QObject::tr("Frenlo %1").arg(QStringLiteral(FRENLO_VERSION)),
         QObject::tr("From a card of photos to a film or a loop. Your photos are never changed."));
    line(QObject::tr("Licence"),
         QObject::tr("GPL-3.0-or-later. The typeface is made from Inter (OFL 1.1), two icons are "
                     "from Lucide (ISC)."));
    line(QObject::tr("It stands on"), libraries);
    line(QObject::tr("It reads"), QString::fromStdString(readable_formats()));
    line(QObject::tr("This machine"), QString::fromStdString(machine_text()));
    return page;
}

}
