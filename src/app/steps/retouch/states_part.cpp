#include "app/steps/retouch/states_part.h"

#include "app/widgets/layouts.h"

#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QTreeWidget>
#include <QVBoxLayout>

#include <unordered_map>

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
    connect(&viewing, &Viewing::playhead_changed, this, &StatesPart::refresh_here);
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

/// "1 to 12, 25 to 36", for each state.
std::map<StateId, QStringList> StatesPart::photos_in() const
{
    const Shot& shot = *controller_.shot();
    std::map<StateId, QStringList> runs;
    std::vector<std::optional<StateId>> states; // in one pass: a state goes on until another one begins
    std::unordered_map<PhotoId, std::optional<StateId>> begins;
    for (const StateSwitch& s : shot.steps.get<States>().switches)
        begins[s.photo] = s.state;
    std::optional<StateId> now;
    for (const ShotPhoto& p : shot.photos) {
        if (const auto at = begins.find(p.id); at != begins.end())
            now = at->second;
        states.push_back(now);
    }
    for (std::size_t i = 0, end = 0; i < states.size(); i = end) {
        for (end = i; end < states.size() && states[end] == states[i];)
            ++end;
        if (states[i])
            runs[*states[i]] << (end == i + 1 ? QString::number(end) : tr("%1 to %2").arg(i + 1).arg(end));
    }
    return runs;
}

void StatesPart::fill_list()
{
    const QSignalBlocker quiet(list_);
    const auto states = controller_.states();
    const auto hand = controller_.state();
    set_lines(*list_, states.size());
    const auto photos = photos_in();
    ids_.clear();
    for (std::size_t i = 0; i < states.size(); ++i) {
        ids_.push_back(states[i].id);
        QTreeWidgetItem* item = list_->topLevelItem(int(i));
        item->setFlags(item->flags() | Qt::ItemIsEditable);
        item->setText(0, QString::fromStdString(states[i].name));
        const auto in_it = photos.find(states[i].id);
        item->setText(1, in_it == photos.end() ? tr("none yet") : in_it->second.join(QStringLiteral(", ")));
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
    refresh_here();
}

/// Where the player is.
void StatesPart::refresh_here()
{
    const Shot* shot = controller_.shot();
    if (!shot || !isVisible())
        return;
    const auto here = controller_.here().value >= 0 ? state_at(*shot, controller_.here()) : std::nullopt;
    const State* state = here ? find_state(*shot, *here) : nullptr;
    here_->setText(state ? tr("in %1").arg(QString::fromStdString(state->name)) : tr("in no state"));
    none_->setVisible(state != nullptr);
}

}
