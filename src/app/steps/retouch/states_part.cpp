#include "app/steps/retouch/states_part.h"

#include "app/widgets/layouts.h"

#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace frenlo::app {

StatesPart::StatesPart(Viewing& viewing, AreasController& controller, QWidget* parent)
    : QWidget(parent), controller_(controller),
      list_(line_list(tr("List of states"), {tr("State"), tr("photos")}, tr("Double-click to give it another name"))),
      what_(secondary(tr("A state is a finished version of the same photos: by day, by lamplight. What is set for the "
                         "shot holds in all of them; on top of it each has a tone of its own (Light, Tone), areas and "
                         "spots."))),
      here_(secondary({})), add_(tool(tr("Add a state"))), remove_(tool(tr("Take the state away"))),
      switch_(tool(tr("This state from here on"), tr("From the photo under the player on the film is in it, until "
                                                     "another one begins"))),
      none_(tool(tr("No state from here on"))),
      more_(tool(tr("Photos once more in it"),
                 tr("The selected photos, or all, come once more at the end of the shot, in this state, with all that "
                    "was measured on them")))
{
    auto* column = scrolled_column(this);
    column->setContentsMargins(14, 6, 14, 6);
    column->setSpacing(6);
    list_->setFixedHeight(86);
    what_->setWordWrap(true);
    column->addWidget(what_);
    column->addWidget(list_);
    column->addWidget(one_row({add_, remove_, more_}));
    column->addWidget(named_row(tr("Photo"), {here_, switch_, none_}));
    column->addStretch(1);
    connect(&controller_, &AreasController::changed, this, &StatesPart::refresh);
    connect(&viewing, &Viewing::playhead_changed, this, &StatesPart::refresh);
    connect(add_, &QPushButton::clicked, &controller_, &AreasController::add_state);
    connect(remove_, &QPushButton::clicked, &controller_, &AreasController::remove_state);
    connect(more_, &QPushButton::clicked, &controller_, &AreasController::once_more);
    connect(switch_, &QPushButton::clicked, this, [this] {
        if (const auto state = controller_.state())
            controller_.switch_here(state->id);
    });
    connect(none_, &QPushButton::clicked, this, [this] { controller_.switch_here(std::nullopt); });
    connect(list_, &QTreeWidget::currentItemChanged, this, [this] {
        if (const auto line = chosen_line(*list_); line && *line < ids_.size())
            controller_.choose_state(ids_[*line]);
    });
    connect(list_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int column_changed) {
        const int row = list_->indexOfTopLevelItem(item);
        if (column_changed == 0 && row >= 0 && std::size_t(row) < ids_.size())
            controller_.rename_state(ids_[std::size_t(row)], item->text(0));
    });
}

void StatesPart::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
}

/// "1 to 12, 25 to 36"
QString StatesPart::photos_in(StateId state) const
{
    const Shot& shot = *controller_.shot();
    QStringList runs;
    for (std::size_t i = 0; i < shot.photos.size();) {
        std::size_t end = i;
        while (end < shot.photos.size() && state_at(shot, PhotoIndex(std::int64_t(end))) == state)
            ++end;
        if (end > i)
            runs << (end == i + 1 ? QString::number(end) : tr("%1 to %2").arg(i + 1).arg(end));
        i = std::max(end, i + 1);
    }
    return runs.isEmpty() ? tr("none yet") : runs.join(QStringLiteral(", "));
}

void StatesPart::fill_list()
{
    const QSignalBlocker quiet(list_);
    const auto states = controller_.states();
    const auto hand = controller_.state();
    set_lines(*list_, states.size());
    ids_.clear();
    for (std::size_t i = 0; i < states.size(); ++i) {
        ids_.push_back(states[i].id);
        QTreeWidgetItem* item = list_->topLevelItem(int(i));
        item->setFlags(item->flags() | Qt::ItemIsEditable);
        item->setText(0, QString::fromStdString(states[i].name));
        item->setText(1, photos_in(states[i].id));
        if (hand && hand->id == states[i].id)
            list_->setCurrentItem(item);
    }
}

/// Only what is seen.
void StatesPart::refresh()
{
    const Shot* shot = controller_.shot();
    setEnabled(shot != nullptr);
    if (!shot || !isVisible())
        return;
    const bool some = !controller_.states().empty(), hand = controller_.state().has_value();
    what_->setVisible(!some);
    list_->setVisible(some);
    fill_list();
    for (QPushButton* b : {remove_, switch_, more_})
        b->setVisible(hand);
    const auto here = controller_.here().value >= 0 ? state_at(*shot, controller_.here()) : std::nullopt;
    const State* state = here ? find_state(*shot, *here) : nullptr;
    here_->setText(state ? tr("in %1").arg(QString::fromStdString(state->name)) : tr("in no state"));
    none_->setVisible(state != nullptr);
}

}
