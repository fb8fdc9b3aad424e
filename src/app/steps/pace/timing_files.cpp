#include "app/steps/pace/timing_files.h"

#include "core/base/atomic_file.h"
#include "core/interchange/dopesheet.h"
#include "core/interchange/timing_file.h"

#include <QFileDialog>
#include <QGuiApplication>
#include <QPdfWriter>
#include <QPrintDialog>
#include <QPrinter>
#include <QTextCursor>
#include <QTextDocument>
#include <QTextTable>

#include <filesystem>
#include <system_error>

namespace frenlo::app {

TimingFiles::TimingFiles(Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing)
{
}

void TimingFiles::lay_out(QTextDocument& document) const
{
    const Project& project = session_.project();
    const Shot& shot = *viewing_.shot();
    const auto lines = dopesheet(project, viewing_.shot_index());
    QFont font = QGuiApplication::font();
    font.setPointSizeF(9);
    document.setDefaultFont(font);
    QTextCursor cursor(&document);
    QTextCharFormat bold;
    bold.setFontWeight(QFont::DemiBold);
    cursor.insertText(QString::fromStdString(shot.name), bold);
    cursor.insertText(QStringLiteral(" · ") + tr("%1 fps · %2")
                                                  .arg(QString::fromStdString(project.delivered_at.text()),
                                                       viewing_.length_text(viewing_.film_frames())));
    QTextTableFormat format;
    format.setHeaderRowCount(1); // again on each page
    format.setBorderStyle(QTextFrameFormat::BorderStyle_Solid);
    format.setBorder(0.5);
    format.setCellPadding(2);
    format.setBorderCollapse(true);
    const QStringList heading{tr("Frame"), tr("Feet"), tr("Hold"), tr("Photo"), tr("File"), tr("Mark"), tr("Words")};
    QTextTable* table = cursor.insertTable(int(lines.size()) + 1, int(heading.size()), format);
    const auto put = [&](int row, int column, const QString& text, const QTextCharFormat& how = {}) {
        table->cellAt(row, column).firstCursorPosition().insertText(text, how);
    };
    for (int c = 0; c < heading.size(); ++c)
        put(0, c, heading[c], bold);
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const DopesheetLine& line = lines[i];
        const int row = int(i) + 1;
        put(row, 0, QString::number(line.begin.value + 1));
        put(row, 1, QString::fromStdString(feet_and_frames(line.begin.value)));
        put(row, 2, QString::number(line.frames));
        put(row, 3, QString::number(line.photo.value + 1));
        put(row, 4, QString::fromStdString(line.file));
        put(row, 5, line.marked ? QStringLiteral("×") : QString());
        put(row, 6, QString::fromStdString(line.words));
    }
}

void TimingFiles::write(const QString& name)
{
    if (!viewing_.shot())
        return;
    const std::filesystem::path file = from_qt(name);
    try {
        if (file.extension() == ".pdf") {
            if (viewing_.on_reel())
                throw Failure({"a dopesheet is of a shot", file, "Choose a shot, or write the Reel as .otio or .edl"});
            QTextDocument document;
            lay_out(document);
            AtomicFile target(file);
            {
                QPdfWriter pdf(to_qt(target.path()));
                pdf.setTitle(QString::fromStdString(viewing_.shot()->name));
                document.print(&pdf);
            }
            if (std::error_code unread; std::filesystem::file_size(target.path(), unread) == 0 || unread)
                throw Failure({"nothing could be written", file, "Look whether there is room on the disk"});
            target.commit();
        } else {
            write_timing(session_.project(), viewing_.on_reel() ? std::nullopt : std::optional(viewing_.shot_index()),
                         file,
                         true); // the dialog has asked
        }
        Q_EMIT written(name);
    } catch (const Failure& failure) {
        Q_EMIT failed(QString::fromStdString(failure.problem().text()));
    }
}

void TimingFiles::read_holds(const QString& name)
{
    if (viewing_.shot() && !viewing_.on_reel())
        session_.apply([&](const Project& p) { return frenlo::read_holds(p, viewing_.shot_index(), from_qt(name)); },
                       tr("Read holds from a table"));
}

void TimingFiles::ask_where_to_write(QWidget* beside)
{
    QString chosen;
    const QStringList kinds{tr("Dopesheet, to print (*.pdf)"), tr("Dopesheet, a table (*.csv)"),
                            tr("OpenTimelineIO (*.otio)"), tr("Edit list, CMX 3600 (*.edl)")};
    QString file =
        QFileDialog::getSaveFileName(beside, tr("Write the timing"), {}, kinds.join(QStringLiteral(";;")), &chosen);
    if (file.isEmpty())
        return;
    if (from_qt(file).extension().empty())
        file += chosen.mid(chosen.indexOf(QStringLiteral("(*")) + 2, 5).remove(QLatin1Char(')'));
    write(file);
}

void TimingFiles::ask_what_to_read(QWidget* beside)
{
    const QString file = QFileDialog::getOpenFileName(beside, tr("Read holds"), {}, tr("Tables (*.csv)"));
    if (!file.isEmpty())
        read_holds(file);
}

void TimingFiles::print(QWidget* beside)
{
    if (!viewing_.shot() || viewing_.on_reel())
        return;
    QPrinter printer;
    QPrintDialog dialog(&printer, beside);
    if (dialog.exec() != QDialog::Accepted)
        return;
    QTextDocument document;
    lay_out(document);
    document.print(&printer);
}

}
