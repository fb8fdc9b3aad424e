#include "app/steps/retouch/areas_part.h"

#include "app/picture/keep_tool.h"
#include "app/picture/player.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/widgets/value_field.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace frenlo::app {

AreasPart::AreasPart(Viewing& viewing, AreasController& controller, PictureView& picture, Player& player,
                     QWidget* parent)
    : QWidget(parent), viewing_(viewing), controller_(controller), picture_(picture), player_(player),
      list_(line_list(tr("List of areas"), {tr("Area"), tr("where and when")},
                      tr("The lowest first; the tick switches an area on and off"))),
      outline_(tool(tr("Outline an area"), tr("Draw round it on the picture"))),
      brush_area_(tool(tr("Brush an area"), tr("Brush over it on the picture"))),
      all_(tool(tr("All of the picture"), tr("An area that is everything: to show the clean plate in all of it, with "
                                             "other areas over it"))),
      things_(
          tool(tr("Find what appears"),
               tr("Things that come from photo to photo before the clean plate: each becomes an area from its photo "
                  "on, and all else comes from the plate, so that nothing flickers around them"))),
      remove_(tool(tr("Take the area away"))),
      brush_(new ValueField({tr("brush"), tr("Half of its width, of the picture's width"), QStringLiteral("%"), 0.1, 50,
                             3, 0.5, 1, false})),
      soft_(new ValueField({tr("soft edge"),
                            tr("How far it reaches to both sides of the outline, of the picture's "
                               "width"),
                            QStringLiteral("%"), 0, 50, 1, 0.2, 1, false})),
      shows_(
          choice(tr("What the area shows"),
                 {tr("shows the photo itself"), tr("shows the clean plate"), tr("shows this photo in all of them")},
                 tr("The photo itself, in which its tone and retouching hold; the clean plate; or, always, the photo "
                    "that is under the player now"))),
      side_(choice(tr("Which side of the outline"), {tr("inside its outline"), tr("outside its outline")})),
      state_(choice(tr("In which state"), {}, tr("It is there only while photos are in this state"))),
      from_here_(tool(tr("From this photo on"), tr("It comes in at the photo under the player"))),
      until_here_(tool(tr("Until this photo"), tr("It goes after the photo under the player"))),
      all_photos_(tool(tr("Area in all photos"))),
      here_too_(tool(tr("Place the area here too"), tr("It moves evenly from one such photo to the next: drag it to "
                                                       "where it is here"))),
      empty_(secondary(tr("An area is a part of the picture, held to the scene: Light, Tone can tone it by itself, a "
                          "spot can be limited to it, and it can show the clean plate or another photo."))),
      notes_(notice()), where_(secondary({}))
{
    auto* column = scrolled_column(this);
    column->setContentsMargins(14, 6, 14, 6);
    column->setSpacing(6);
    list_->setMinimumHeight(58);
    list_->setMaximumHeight(240);
    list_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    for (QPushButton* b : {outline_, brush_area_})
        b->setCheckable(true);
    empty_->setWordWrap(true);
    column->addWidget(empty_);
    column->addWidget(one_row({outline_, brush_area_, brush_, all_, things_}));
    column->addWidget(list_, 4);
    hand_rows_ = rows_of({named_row(tr("In hand"), {shows_, side_, remove_}), named_row({}, {soft_, state_, here_too_}),
                          named_row({}, {where_, from_here_, until_here_, all_photos_})});
    column->addWidget(hand_rows_);
    column->addWidget(notes_);
    column->addStretch(1);
    brush_->show_value(3);
    connect_all();
}

void AreasPart::connect_all()
{
    connect(&controller_, &AreasController::changed, this, &AreasPart::refresh);
    connect(&viewing_, &Viewing::playhead_changed, this, &AreasPart::refresh_hand);
    connect(&player_, &Player::state_changed, this, &AreasPart::show_tool);
    connect(outline_, &QPushButton::clicked, this,
            [this](bool on) { draw(on ? AreaTool::Hand::outlines : AreaTool::Hand::takes); });
    connect(brush_area_, &QPushButton::clicked, this,
            [this](bool on) { draw(on ? AreaTool::Hand::brushes : AreaTool::Hand::takes); });
    connect(brush_, &ValueField::edited, this, [this](double v) {
        brush_->show_value(v);
        show_tool();
    });
    connect(all_, &QPushButton::clicked, this, [this] { controller_.add({}, 0); });
    connect(things_, &QPushButton::clicked, this,
            [this] { controller_.running() ? controller_.stop() : controller_.find_things(); });
    connect(remove_, &QPushButton::clicked, &controller_, &AreasController::remove);
    connect(shows_, &QComboBox::activated, this, [this](int at) { controller_.shows(AreaShows(at)); });
    connect(side_, &QComboBox::activated, this, [this](int at) {
        controller_.begin_change();
        controller_.change([&](Area& a) { a.outside = at == 1; }, tr("Change the side of an area"));
    });
    connect(state_, &QComboBox::activated, this, [this](int at) {
        const auto states = controller_.states();
        const auto state =
            at > 0 && std::size_t(at) <= states.size() ? std::optional(states[std::size_t(at) - 1].id) : std::nullopt;
        controller_.begin_change();
        controller_.change([&](Area& a) { a.state = state; }, tr("Limit an area to a state"));
    });
    connect(soft_, &ValueField::begun, &controller_, &AreasController::begin_change);
    connect(soft_, &ValueField::edited, this,
            [this](double v) { controller_.change([&](Area& a) { a.soft = v / 100; }, tr("Soften an area")); });
    connect(from_here_, &QPushButton::clicked, &controller_, &AreasController::from_here);
    connect(until_here_, &QPushButton::clicked, &controller_, &AreasController::until_here);
    connect(all_photos_, &QPushButton::clicked, &controller_, &AreasController::in_all_photos);
    connect(here_too_, &QPushButton::clicked, &controller_, &AreasController::place_here_too);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this] {
        if (const auto line = chosen_line(*list_); line && *line < ids_.size())
            controller_.choose(ids_[*line]);
    });
    connect(list_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column) {
        const int row = list_->indexOfTopLevelItem(item);
        if (column != 0 || row < 0 || std::size_t(row) >= ids_.size())
            return;
        controller_.choose(ids_[std::size_t(row)]);
        controller_.begin_change();
        controller_.change(
            [&](Area& a) {
                a.on = item->checkState(0) == Qt::Checked;
                a.name = item->text(0).trimmed().toStdString();
            },
            tr("Change an area"));
    });
}

void AreasPart::draw(AreaTool::Hand hand)
{
    hand_ = hand;
    outline_->setChecked(hand == AreaTool::Hand::outlines);
    brush_area_->setChecked(hand == AreaTool::Hand::brushes);
    show_tool();
}

void AreasPart::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
    show_tool();
}

void AreasPart::hideEvent(QHideEvent* event)
{
    QWidget::hideEvent(event);
    draw(AreaTool::Hand::takes);
    tool_.reset();
}

void AreasPart::show_tool()
{
    const bool wanted = isVisible() && !player_.playing() && controller_.shot();
    AreaTool* area = keep_tool(tool_, picture_, wanted, [this] {
        auto made = std::make_unique<AreaTool>(controller_);
        connect(made.get(), &AreaTool::drawn, this, [this] { draw(AreaTool::Hand::takes); });
        return made;
    });
    if (!area)
        return;
    area->set_hand(hand_, brush_->value() / 100);
    if (picture_.tool() != area)
        picture_.set_tool(area);
}

QString AreasPart::what_text(const Area& area) const
{
    QString text = QString::fromStdString(photos_text(area, *controller_.shot()));
    if (area.keys.empty())
        text.prepend(tr("all of the picture, "));
    else if (area.outside)
        text.prepend(tr("outside, "));
    if (area.shows == AreaShows::plate)
        text += tr(" · the clean plate");
    if (area.shows == AreaShows::other)
        if (const auto at = area.other ? place_of(*controller_.shot(), *area.other) : std::nullopt)
            text += tr(" · photo %1").arg(*at + 1);
    if (const State* state = area.state ? find_state(*controller_.shot(), *area.state) : nullptr)
        text += tr(" · in %1").arg(QString::fromStdString(state->name));
    return text;
}

void AreasPart::fill_list()
{
    const QSignalBlocker quiet(list_);
    const auto areas = controller_.areas();
    const auto hand = controller_.area();
    set_lines(*list_, areas.size());
    ids_.clear();
    for (std::size_t i = 0; i < areas.size(); ++i) {
        const Area& area = areas[i];
        ids_.push_back(area.id);
        QTreeWidgetItem* item = list_->topLevelItem(int(i));
        item->setFlags(item->flags() | Qt::ItemIsEditable);
        item->setText(0, QString::fromStdString(area.name));
        item->setText(1, what_text(area));
        item->setCheckState(0, area.on ? Qt::Checked : Qt::Unchecked);
        if (hand && hand->id == area.id)
            list_->setCurrentItem(item);
    }
}

/// Only what is seen.
void AreasPart::refresh()
{
    setEnabled(controller_.shot() != nullptr);
    if (!controller_.shot() || !isVisible())
        return;
    const auto areas = controller_.areas();
    empty_->setVisible(areas.empty());
    list_->setVisible(!areas.empty());
    fill_list();
    things_->setText(controller_.running() ? tr("Stop (%1 %)").arg(int(controller_.fraction() * 100))
                                           : tr("Find what appears"));
    QStringList notes;
    for (const std::string& note : area_notes(*controller_.shot()))
        notes << QString::fromStdString(note);
    say(notes_, notes.join(QStringLiteral(". ")));
    refresh_hand();
    show_tool();
}

void AreasPart::refresh_hand()
{
    const auto area = isVisible() && controller_.shot() ? controller_.area() : std::nullopt;
    hand_rows_->setVisible(area.has_value());
    if (!area)
        return;
    shows_->setCurrentIndex(int(area->shows));
    if (area->shows == AreaShows::other && area->other)
        if (const auto at = place_of(*controller_.shot(), *area->other))
            shows_->setItemText(2, tr("shows photo %1").arg(*at + 1));
    if (area->shows != AreaShows::other)
        shows_->setItemText(2, tr("shows this photo in all of them"));
    side_->setCurrentIndex(area->outside ? 1 : 0);
    side_->setVisible(!area->keys.empty());
    here_too_->setVisible(!area->keys.empty());
    soft_->setVisible(!area->keys.empty());
    soft_->show_value(area->soft * 100);
    const auto states = controller_.states();
    QStringList names{tr("in all states")};
    int chosen = 0;
    for (std::size_t i = 0; i < states.size(); ++i) {
        names << tr("only in %1").arg(QString::fromStdString(states[i].name));
        if (area->state == states[i].id)
            chosen = int(i) + 1;
    }
    if (names != state_names_) { // not at every frame that plays
        state_names_ = names;
        state_->clear();
        state_->addItems(names);
    }
    state_->setCurrentIndex(chosen);
    state_->setVisible(!states.empty());
    where_->setText(QString::fromStdString(photos_text(*area, *controller_.shot())));
    all_photos_->setVisible(area->first || area->last);
}

}
