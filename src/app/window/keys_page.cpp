#include "app/window/keys_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QTextDocument>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

KeysPage::KeysPage(const std::vector<KeyHelp>& keys, QWidget* parent)
    : QDialog(parent), search_(field(tr("Search the keys"), tr("A key, or a word of what it does"), 260)),
      nothing_(secondary(tr("No key does that. Help > Where is …? finds every control.")))
{
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Keys"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(24, 16, 24, 16);
    search_->setPlaceholderText(tr("a key, or a word"));
    auto* print_button = tool(tr("Print…"));
    column->addLayout(line_of({search_, print_button}));
    auto* table = new QWidget;
    auto* grid = new QGridLayout(table);
    grid->setContentsMargins(0, 8, 0, 0);
    grid->setHorizontalSpacing(wide_gap * 2);
    grid->setVerticalSpacing(6);
    for (const KeyHelp& help : keys) {
        const Line line{help, heading(help.keys), new QLabel(help.what)};
        const auto row = int(lines_.size());
        line.what->setWordWrap(true);
        grid->addWidget(line.key, row, 0, Qt::AlignTop);
        grid->addWidget(line.what, row, 1);
        lines_.push_back(line);
    }
    grid->setRowStretch(int(lines_.size()), 1);
    grid->setColumnStretch(1, 1);
    column->addWidget(nothing_);
    column->addWidget(scrolled(table), 1);
    nothing_->hide();
    resize(720, 640);
    connect(search_, &QLineEdit::textChanged, this, &KeysPage::search);
    connect(print_button, &QPushButton::clicked, this, &KeysPage::print);
}

void KeysPage::search(const QString& words)
{
    const QStringList wanted = words.split(QLatin1Char(' '), Qt::SkipEmptyParts);
    bool some = false;
    for (const Line& line : lines_) {
        const bool shown = std::all_of(wanted.begin(), wanted.end(), [&](const QString& word) {
            return line.help.keys.contains(word, Qt::CaseInsensitive) ||
                   line.help.what.contains(word, Qt::CaseInsensitive);
        });
        line.key->setVisible(shown);
        line.what->setVisible(shown);
        some = some || shown;
    }
    nothing_->setVisible(!some);
}

QString KeysPage::as_table() const
{
    QString rows;
    for (const Line& line : lines_)
        rows += QStringLiteral("<tr><td><b>%1</b>&nbsp;&nbsp;</td><td>%2</td></tr>")
                    .arg(line.help.keys.toHtmlEscaped(), line.help.what.toHtmlEscaped());
    return QStringLiteral("<h3>%1</h3><table cellspacing=\"3\">%2</table>")
        .arg(tr("Keys of Frenlo").toHtmlEscaped(), rows);
}

void KeysPage::print()
{
    QPrinter printer;
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    QTextDocument document;
    document.setHtml(as_table());
    document.print(&printer);
}

}
