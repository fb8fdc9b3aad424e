#include "app/steps/card/card_bench.h"

#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"
#include "app/widgets/swatch.h"
#include "app/widgets/value_field.h"
#include "core/cards/card_layout.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {

QString shown_preset(const char* name)
{
    const std::string_view n = name;
    return n == "title"     ? CardBench::tr("Title")
           : n == "chapter" ? CardBench::tr("Chapter")
                            : CardBench::tr("Closing list");
}

}

CardBench::CardBench(Session& session, Viewing& viewing, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), pages_(new QStackedWidget), where_(new QComboBox),
      text_(new QPlainTextEdit), typeface_(new QComboBox), bold_(new QCheckBox(tr("bold"))), align_(new QComboBox),
      move_(new QComboBox), length_(field(tr("Length"), tr("How long the card lasts: 4 s, 96 f"), 72)),
      colour_(tool(tr("Letters…"))), backdrop_(tool(tr("Backdrop…"))),
      below_(tool(tr("Below…"), tr("A second colour that the backdrop goes over into towards the bottom")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 8);
    column->addLayout(new_card_row());
    column->addWidget(pages_);
    pages_->addWidget(about_page());
    pages_->addWidget(card_page());
    connect(&viewing, &Viewing::shot_changed, this, &CardBench::refresh);
    refresh();
}

QHBoxLayout* CardBench::new_card_row()
{
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    row->addWidget(heading(tr("A new card")));
    for (const CardPreset& preset : card_presets()) {
        auto* b = tool(shown_preset(preset.name));
        row->addWidget(b);
        connect(b, &QPushButton::clicked, this, [this, &preset] { add(preset); });
    }
    where_->addItems({tr("before this shot"), tr("after this shot"), tr("at the very end")});
    where_->setAccessibleName(tr("Where the card goes"));
    row->addWidget(where_);
    row->addStretch();
    return row;
}

QWidget* CardBench::about_page()
{
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    auto* what = secondary(tr("A card is a shot of its own: lines of text on a backdrop. It lies on the Sheet with "
                              "its hold, and takes the shape of your shots."));
    what->setWordWrap(true);
    column->addWidget(what);
    column->addStretch();
    return page;
}

QWidget* CardBench::card_page()
{
    auto* page = new QWidget;
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(wide_gap);
    text_->setAccessibleName(tr("Text of the card"));
    text_->setTabChangesFocus(false); // it parts two columns
    text_->setPlaceholderText(tr("Lines of text; a tab parts two columns"));
    row->addWidget(text_, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(6);
    const auto line = [right](std::initializer_list<QWidget*> widgets) {
        auto* l = new QHBoxLayout;
        l->setSpacing(6);
        for (QWidget* w : widgets)
            l->addWidget(w);
        l->addStretch();
        right->addLayout(l);
    };
    typeface_->setAccessibleName(tr("Typeface"));
    typeface_->setMaximumWidth(190);
    align_->addItems({tr("left"), tr("middle"), tr("right")});
    align_->setAccessibleName(tr("Where the lines stand"));
    move_->addItems({tr("stays"), tr("rolls up"), tr("crosses")});
    move_->setAccessibleName(tr("How the card moves"));
    size_ = new ValueField(
        {tr("size"), tr("Of the letters, of the frame's height"), QStringLiteral("%"), 0.5, 80, 8, 0.5, 1, false});
    place_ = new ValueField(
        {tr("place"), tr("Middle of the text, down the frame"), QStringLiteral("%"), 0, 100, 50, 1, 0, false});
    spacing_ =
        new ValueField({tr("between lines"), tr("Of a line's size"), QStringLiteral("%"), -50, 300, 30, 5, 0, false});
    line({typeface_, bold_, align_});
    line({size_, place_});
    line({spacing_, move_});
    line({colour_, backdrop_, below_});
    line({secondary(tr("lasts")), length_});
    right->addStretch();
    row->addLayout(right);

    connect(text_, &QPlainTextEdit::textChanged, this,
            [this] { change([&](TextCard& c) { c.text = text_->toPlainText().toStdString(); }, tr("Set the text")); });
    connect(typeface_, &QComboBox::activated, this, [this](int which) {
        ++gesture_;
        change([&](TextCard& c) { c.typeface = which == 0 ? std::string() : typeface_->currentText().toStdString(); },
               tr("Set the typeface"));
    });
    connect(bold_, &QCheckBox::clicked, this, [this](bool on) {
        ++gesture_;
        change([&](TextCard& c) { c.bold = on; }, tr("Bold"));
    });
    connect(align_, &QComboBox::activated, this, [this](int which) {
        ++gesture_;
        change([&](TextCard& c) { c.align = CardAlign(which); }, tr("Set where lines stand"));
    });
    connect(move_, &QComboBox::activated, this, [this](int which) {
        ++gesture_;
        change([&](TextCard& c) { c.move = CardMove(which); }, tr("Set how the card moves"));
    });
    struct Number
    {
        ValueField* field;
        double TextCard::*value;
    };
    for (const Number& n :
         {Number{size_, &TextCard::size}, Number{place_, &TextCard::place}, Number{spacing_, &TextCard::spacing}}) {
        connect(n.field, &ValueField::begun, this, [this] { ++gesture_; });
        connect(n.field, &ValueField::edited, this,
                [this, n](double value) { change([&](TextCard& c) { c.*n.value = value; }, tr("Set the card")); });
    }
    connect(length_, &QLineEdit::editingFinished, this, [this] {
        const auto length = parse_length(length_->text(), session_.project().delivered_at);
        mark_wrong(length_, !length);
        if (length)
            session_.apply([&](const Project& p) { return set_card_length(p, viewing_.shot_index(), *length); },
                           tr("Set the card's length"));
    });
    const auto card = [this] { return *text_card_of(*viewing_.shot()); };
    connect(colour_, &QPushButton::clicked, this, [this, card] {
        ask_colour(card().colour, tr("Colour of the letters"), [](TextCard& c, Backdrop to) { c.colour = to; });
    });
    connect(backdrop_, &QPushButton::clicked, this, [this, card] {
        ask_colour(card().backdrop, tr("Backdrop"), [](TextCard& c, Backdrop to) { c.backdrop = to; });
    });
    connect(below_, &QPushButton::clicked, this, [this, card] {
        ask_colour(card().below.value_or(card().backdrop), tr("Towards the bottom"),
                   [](TextCard& c, Backdrop to) { c.below = to == c.backdrop ? std::nullopt : std::optional(to); });
    });
    return page;
}

void CardBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
}

void CardBench::add(const CardPreset& preset)
{
    const auto here = viewing_.shot_index().at();
    const auto count = session_.project().shots.size();
    const std::size_t at = where_->currentIndex() == 0 ? here : where_->currentIndex() == 1 ? here + 1 : count;
    const auto index = ShotIndex(std::int64_t(std::min(at, count)));
    session_.apply(
        [&](const Project& p) {
            return add_card(p, preset.card, shown_preset(preset.name).toStdString(), preset.length, index);
        },
        tr("New card"));
    viewing_.set_shot(index);
}

void CardBench::change(const std::function<void(TextCard&)>& how, const QString& name)
{
    if (!viewing_.shot() || !text_card_of(*viewing_.shot()))
        return;
    session_.apply([&](const Project& p) { return change_card(p, viewing_.shot_index(), how); }, name, gesture_);
}

void CardBench::ask_colour(const Backdrop& now, const QString& title,
                           const std::function<void(TextCard&, Backdrop)>& take)
{
    auto* dialog = new QColorDialog(qt_colour(now), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(title);
    connect(dialog, &QColorDialog::colorSelected, this, [this, take, title](const QColor& c) {
        ++gesture_;
        change([&](TextCard& card) { take(card, own_colour(c)); }, title);
    });
    dialog->open();
}

/// Only what is seen.
void CardBench::refresh()
{
    const Shot* shot = viewing_.shot();
    const TextCard* card = shot ? text_card_of(*shot) : nullptr;
    setEnabled(shot != nullptr);
    pages_->setCurrentIndex(card ? 1 : 0);
    if (!card || !isVisible())
        return;
    const QSignalBlocker q1(text_), q2(typeface_), q3(align_), q4(move_);
    if (typeface_->count() == 0) // not at the start: all fonts of the machine are looked at
        for (const std::string& name : typefaces())
            typeface_->addItem(QString::fromStdString(name));
    if (const QString text = QString::fromStdString(card->text); text_->toPlainText() != text)
        text_->setPlainText(text);
    typeface_->setCurrentIndex(
        card->typeface.empty() ? 0 : std::max(0, typeface_->findText(QString::fromStdString(card->typeface))));
    bold_->setChecked(card->bold);
    align_->setCurrentIndex(int(card->align));
    move_->setCurrentIndex(int(card->move));
    size_->show_value(card->size);
    place_->show_value(card->place);
    place_->setVisible(card->move != CardMove::roll);
    spacing_->show_value(card->spacing);
    if (!length_->hasFocus())
        length_->setText(QString::fromStdString(shown_seconds(card_length(session_.project(), *shot))));
    colour_->setIcon(swatch(card->colour));
    backdrop_->setIcon(swatch(card->backdrop));
    below_->setIcon(swatch(card->below.value_or(card->backdrop)));
}

}
