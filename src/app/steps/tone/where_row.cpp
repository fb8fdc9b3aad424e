#include "app/steps/tone/where_row.h"

#include "app/widgets/layouts.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>

#include <algorithm>

namespace frenlo::app {

WhereRow::WhereRow(Viewing& viewing, ToneController& controller, QWidget* parent)
    : QWidget(parent), viewing_(viewing), controller_(controller),
      choice_(choice(tr("What is toned"), {},
                     tr("All of the picture, or on top of that an area or a state (Dress, Retouch)"))),
      note_(secondary({}))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(choice_);
    row->addWidget(note_);
    row->addStretch();
    connect(choice_, &QComboBox::activated, this, [this](int at) {
        if (at >= 0 && std::size_t(at) < places_.size())
            controller_.choose(places_[std::size_t(at)]);
    });
}

void WhereRow::refresh()
{
    const Shot* shot = viewing_.shot();
    std::vector<ToneWhere> places{{}};
    QStringList names{tr("Tone of all of the picture")};
    if (shot) {
        for (const Area& area : shot->steps.get<Areas>().all) {
            places.push_back({area.id, {}});
            names << tr("Tone of area %1").arg(QString::fromStdString(area.name));
        }
        for (const State& state : shot->steps.get<States>().all) {
            places.push_back({{}, state.id});
            names << tr("Tone of state %1").arg(QString::fromStdString(state.name));
        }
    }
    setVisible(places.size() > 1);
    places_ = std::move(places);
    if (names != names_) {
        names_ = names;
        choice_->clear();
        choice_->addItems(names_);
    }
    const auto at = std::find(places_.begin(), places_.end(), controller_.where());
    if (at == places_.end()) { // gone, or of another shot
        controller_.choose({});
        return;
    }
    choice_->setCurrentIndex(int(at - places_.begin()));
    note_->setText(controller_.where().everywhere() || controller_.seen_here() ? QString() : tr("not in this photo"));
}

}
