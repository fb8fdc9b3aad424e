#include "app/steps/sort/sort_tools.h"

#include "app/picture/picture_view.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QHBoxLayout>
#include <QPushButton>

namespace frenlo::app {

SortTools::SortTools(Session& session, Viewing& viewing, SortController& sort_controller, PictureView& picture,
                     QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), sort_controller_(sort_controller),
      first_(tool(tr("[ First"), tr("This photo is the first of its shot ([)"))),
      last_(tool(tr("Last ]"), tr("This photo is the last of its shot (])"))),
      aside_(tool(tr("Set aside"), tr("Keep the selected photos in the project, out of the film (X)"))),
      split_(tool(tr("Split"), tr("Another shot starts with this photo"))),
      join_(tool(tr("Join"), tr("With the next shot"))),
      blink_(tool(tr("Blink"), tr("This photo and the one before, one over the other (hold C for the one before)"))),
      make_(tool({}, tr("Each piece between brackets becomes a shot; the rest is set aside")))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 6, 12, 6);
    row->setSpacing(6);
    first_->setAccessibleName(tr("First of shot"));
    last_->setAccessibleName(tr("Last of shot"));
    make_primary(make_);
    blink_->setCheckable(true);
    for (QPushButton* b : {first_, last_, aside_, split_, join_, blink_})
        row->addWidget(b);
    row->addStretch();
    row->addWidget(make_);
    connect(first_, &QPushButton::clicked, &sort_controller, [&sort_controller] { sort_controller.first_here(); });
    connect(last_, &QPushButton::clicked, &sort_controller, [&sort_controller] { sort_controller.last_here(); });
    connect(aside_, &QPushButton::clicked, &sort_controller, &SortController::toggle_aside);
    connect(split_, &QPushButton::clicked, &sort_controller, &SortController::split);
    connect(join_, &QPushButton::clicked, &sort_controller, &SortController::join);
    connect(blink_, &QPushButton::toggled, &picture, &PictureView::set_blinking);
    connect(&picture, &PictureView::comparing_changed, this,
            [this, &picture] { blink_->setChecked(picture.blinking()); });
    connect(make_, &QPushButton::clicked, &sort_controller, &SortController::make_shots);
    connect(&viewing, &Viewing::shot_changed, this, &SortTools::refresh);
    connect(&viewing, &Viewing::selection_changed, this, &SortTools::refresh);
    connect(&viewing, &Viewing::step_changed, this, [this] {
        if (!viewing_.is_step("sort"))
            blink_->setChecked(false);
    });
    refresh();
}

void SortTools::refresh()
{
    const Shot* shot = viewing_.shot();
    const bool any = shot && !shot->photos.empty();
    const bool chosen = any && !viewing_.selection().empty();
    for (QPushButton* b : {first_, last_, aside_})
        b->setEnabled(chosen);
    aside_->setText(sort_controller_.all_chosen_are_aside() ? tr("Bring back") : tr("Set aside"));
    split_->setEnabled(chosen && sort_controller_.can_split());
    join_->setEnabled(sort_controller_.can_join());
    blink_->setEnabled(any && viewing_.selection().current().value > 0);
    make_->setVisible(shot && !shot->parts.empty());
    if (shot)
        make_->setText(tr("Make %n shot(s)", nullptr, int(shot->parts.size())));
}

}
