#include "app/widgets/layouts.h"

#include "app/theme/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QStyle>

namespace frenlo::app {

QWidget* side_by_side(QWidget* left, QWidget* right)
{
    auto* page = new QWidget;
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(wide_gap);
    row->addWidget(left, 1);
    row->addWidget(right, 1);
    return page;
}

QLabel* heading(const QString& text)
{
    auto* label = new QLabel(text);
    make_heading(label);
    return label;
}

QLabel* secondary(const QString& text)
{
    auto* label = new QLabel(text);
    make_secondary(label);
    return label;
}

QPushButton* tool(const QString& text, const QString& tip)
{
    auto* button = new QPushButton(text);
    button->setFocusPolicy(Qt::TabFocus);
    button->setToolTip(tip);
    return button;
}

QLineEdit* field(const QString& name, const QString& tip, int width)
{
    auto* line = new QLineEdit;
    line->setAccessibleName(name);
    line->setToolTip(tip);
    line->setFixedWidth(width);
    QObject::connect(line, &QLineEdit::textEdited, line, [line] { mark_wrong(line, false); });
    return line;
}

QLabel* notice()
{
    auto* label = new QLabel;
    make_notice(label);
    label->setWordWrap(true);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    label->hide();
    return label;
}

void say(QLabel* notice, const QString& text)
{
    QString sentence = text;
    if (!sentence.isEmpty())
        sentence[0] = sentence[0].toUpper();
    notice->setText(sentence.isEmpty() ? sentence : look_at_this(sentence));
    notice->setVisible(!text.isEmpty());
}

void mark_wrong(QWidget* field, bool wrong)
{
    field->setProperty("wrong", wrong);
    field->style()->unpolish(field);
    field->style()->polish(field);
}

}
