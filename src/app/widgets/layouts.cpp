#include "app/widgets/layouts.h"

#include "app/theme/theme.h"
#include "app/widgets/flow_layout.h"

#include <QComboBox>
#include <QEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QStyle>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {

/// Scrolls down, never across: it is as wide as what it holds.
class Scroll : public QScrollArea
{
public:
    explicit Scroll(QWidget* inside)
    {
        setWidgetResizable(true);
        setFrameShape(QFrame::NoFrame);
        setFocusPolicy(Qt::NoFocus); // Tab goes to what it holds, and that scrolls into view
        setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        setWidget(inside);
    }
    [[nodiscard]] QSize minimumSizeHint() const override
    {
        constexpr int two_rows = 64;
        return {widget() ? widget()->minimumSizeHint().width() : 0, two_rows};
    }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override
    {
        if (watched == widget() && event->type() == QEvent::LayoutRequest)
            updateGeometry();
        return QScrollArea::eventFilter(watched, event);
    }
};

}

QWidget* scrolled(QWidget* inside)
{
    return new Scroll(inside);
}

QVBoxLayout* scrolled_column(QWidget* bench)
{
    auto* whole = new QVBoxLayout(bench);
    whole->setContentsMargins(0, 0, 0, 0);
    auto* inside = new QWidget;
    whole->addWidget(scrolled(inside));
    return new QVBoxLayout(inside);
}

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

FlowLayout* line_of(std::initializer_list<QWidget*> widgets, int spacing)
{
    auto* line = new FlowLayout;
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(spacing);
    for (QWidget* w : widgets)
        line->addWidget(w);
    return line;
}

QWidget* one_row(std::initializer_list<QWidget*> widgets)
{
    auto* holder = new QWidget;
    auto* row = line_of(widgets);
    row->setContentsMargins(0, 0, 0, 0);
    holder->setLayout(row);
    return holder;
}

QWidget* named_row(const QString& name, std::initializer_list<QWidget*> widgets)
{
    constexpr int width = 62;
    auto* holder = new QWidget;
    auto* label = heading(name);
    label->setMinimumWidth(width);
    auto* row = line_of(widgets);
    row->insertWidget(0, label);
    row->setContentsMargins(0, 0, 0, 0);
    holder->setLayout(row);
    return holder;
}

QWidget* rows_of(std::initializer_list<QWidget*> rows)
{
    constexpr int row_gap = 4;
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    for (QWidget* row : rows)
        column->addWidget(row);
    return part;
}

QComboBox* choice(const QString& name, const QStringList& items, const QString& tip)
{
    auto* box = new QComboBox;
    box->addItems(items);
    box->setAccessibleName(name);
    box->setToolTip(tip);
    box->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    return box;
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

QTreeWidget* line_list(const QString& name, const QStringList& columns, const QString& tip)
{
    auto* list = new QTreeWidget;
    list->setAccessibleName(name);
    list->setToolTip(tip);
    list->setColumnCount(int(columns.size()));
    list->setHeaderLabels(columns);
    list->setRootIsDecorated(false);
    list->setUniformRowHeights(true);
    list->setFrameShape(QFrame::NoFrame);
    list->header()->setStretchLastSection(false);
    for (int i = 0; i < columns.size(); ++i)
        list->header()->setSectionResizeMode(i, i == 0 ? QHeaderView::Stretch : QHeaderView::ResizeToContents);
    return list;
}

void set_lines(QTreeWidget& list, std::size_t count)
{
    while (list.topLevelItemCount() > int(count))
        delete list.takeTopLevelItem(list.topLevelItemCount() - 1);
    while (list.topLevelItemCount() < int(count))
        (void)new QTreeWidgetItem(&list);
}

std::optional<std::size_t> chosen_line(const QTreeWidget& list)
{
    const int line = list.indexOfTopLevelItem(list.currentItem());
    return line < 0 ? std::nullopt : std::optional(std::size_t(line));
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

void show_text(QLineEdit* field, const QString& text)
{
    if (field->hasFocus() && field->isModified())
        return;
    if (field->text() != text)
        field->setText(text);
    mark_wrong(field, false);
}

void mark_wrong(QWidget* field, bool wrong)
{
    if (field->property("wrong").toBool() == wrong)
        return;
    field->setProperty("wrong", wrong);
    field->style()->unpolish(field);
    field->style()->polish(field);
}

}
