#include "app/steps/flicker/flicker_bench.h"

#include "app/steps/flicker/deflicker_part.h"
#include "app/steps/flicker/looking_part.h"
#include "app/widgets/layouts.h"

#include <QLabel>
#include <QVBoxLayout>

namespace frenlo::app {

FlickerBench::FlickerBench(Session& session, Viewing& viewing, FlickerController& flicker_controller,
                           StripMaker& strips, PictureView& picture, QWidget* parent)
    : QWidget(parent), viewing_(viewing), notice_(notice()),
      deflicker_(new DeflickerPart(session, viewing, flicker_controller, picture, *notice_)),
      looking_(new LookingPart(viewing, flicker_controller, strips, picture))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 4, 14, 4);
    column->addWidget(side_by_side(scrolled(deflicker_), looking_), 1);
    column->addWidget(notice_);
    connect(&viewing, &Viewing::shot_changed, this, &FlickerBench::refresh);
    connect(&viewing, &Viewing::playhead_changed, this, &FlickerBench::refresh_place);
    connect(&flicker_controller, &FlickerController::changed, this, &FlickerBench::refresh);
    connect(looking_, &LookingPart::photo_chosen, this,
            [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
}

void FlickerBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
}

/// Only what is seen: with thousands of photos it takes its time.
void FlickerBench::refresh()
{
    setEnabled(viewing_.shot() != nullptr);
    if (!viewing_.shot() || !isVisible())
        return;
    deflicker_->refresh();
    looking_->refresh();
}

void FlickerBench::refresh_place()
{
    if (!isVisible())
        return;
    deflicker_->refresh_place();
    looking_->refresh_place();
}

}
