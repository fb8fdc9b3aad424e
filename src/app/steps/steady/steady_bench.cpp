#include "app/steps/steady/steady_bench.h"

#include "app/steps/steady/crop_part.h"
#include "app/steps/steady/photo_part.h"
#include "app/steps/steady/way_part.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/steps/steady/steady_values.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace frenlo::app {

SteadyBench::SteadyBench(Session& session, Viewing& viewing, SteadyController& steady_controller, PictureView& picture,
                         QWidget* parent)
    : QWidget(parent), viewing_(viewing), notice_(notice()), first_page_(tool(tr("Whole shot"))),
      second_page_(tool(tr("Photo by photo"))), state_(secondary({})), pages_(new QStackedWidget),
      way_(new WayPart(session, viewing, steady_controller, picture, *notice_)),
      crop_(new CropPart(viewing, steady_controller)), photo_(new PhotoPart(viewing, steady_controller, picture)),
      look_(new LookPart(viewing, picture))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 8);
    column->setSpacing(gap);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    for (QPushButton* b : {first_page_, second_page_}) {
        b->setCheckable(true);
        head->addWidget(b);
    }
    head->addStretch();
    second_page_->setAccessibleName(tr("Photo by photo"));
    state_->setAccessibleName(tr("What was measured"));
    head->addWidget(state_);
    column->addLayout(head);
    pages_->addWidget(side_by_side(scrolled(way_), crop_));
    pages_->addWidget(side_by_side(photo_, look_));
    column->addWidget(pages_, 1);
    column->addWidget(notice_);
    connect(first_page_, &QPushButton::clicked, this, [this] { show_page(0); });
    connect(second_page_, &QPushButton::clicked, this, [this] { show_page(1); });
    connect(&viewing, &Viewing::shot_changed, this, &SteadyBench::refresh);
    connect(&viewing, &Viewing::playhead_changed, this, &SteadyBench::refresh_photo);
    connect(&steady_controller, &SteadyController::changed, this, &SteadyBench::refresh);
    connect(crop_, &CropPart::photo_chosen, this,
            [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
    connect(look_, &LookPart::photo_chosen, this,
            [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
    show_page(0);
}

void SteadyBench::show_page(int page)
{
    pages_->setCurrentIndex(page);
    first_page_->setChecked(page == 0);
    second_page_->setChecked(page == 1);
    refresh();
}

void SteadyBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
}

/// Only what is seen: with thousands of photos it takes its time.
void SteadyBench::refresh()
{
    const Shot* shot = viewing_.shot();
    setEnabled(shot != nullptr);
    if (!shot || !isVisible())
        return;
    say(notice_, {});
    if (pages_->currentIndex() == 0) {
        way_->refresh();
        crop_->refresh();
    } else {
        look_->refresh();
    }
    const auto doubtful = doubtful_photos(*shot);
    second_page_->setText(doubtful.empty() ? tr("Photo by photo")
                                           : look_at_this(tr("Photo by photo: %n", nullptr, int(doubtful.size()))));
    state_->setText(!steadying_of(*shot) ? tr("as shot")
                                         : tr("moved ≤ %1 px · left ≤ %2 px")
                                               .arg(most_moved_px(*shot), 0, 'f', 1)
                                               .arg(most_left_px(*shot), 0, 'f', 2));
    refresh_photo();
}

void SteadyBench::refresh_photo()
{
    if (!isVisible())
        return;
    if (pages_->currentIndex() == 0)
        crop_->refresh_place();
    else
        photo_->refresh();
}

}
