#include "app/bench/steady/steady_bench.h"

#include "app/bench/layouts.h"
#include "app/bench/steady/crop_part.h"
#include "app/bench/steady/photo_part.h"
#include "app/bench/steady/way_part.h"
#include "app/theme/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace frenlo::app {

SteadyBench::SteadyBench(Session& session, Viewing& viewing, Steadier& steadier, PictureView& picture, QWidget* parent)
    : QWidget(parent), viewing_(viewing), notice_(notice()), first_page_(tool(tr("Whole shot"))), second_page_(tool(tr("Photo by photo"))),
      state_(secondary({})), pages_(new QStackedWidget), way_(new WayPart(session, viewing, steadier, picture, *notice_)),
      crop_(new CropPart(viewing, steadier)), photo_(new PhotoPart(viewing, steadier, picture)), look_(new LookPart(viewing, picture))
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
    pages_->addWidget(side_by_side(way_, crop_));
    pages_->addWidget(side_by_side(photo_, look_));
    column->addWidget(pages_, 1);
    column->addWidget(notice_);
    connect(first_page_, &QPushButton::clicked, this, [this] { show_page(0); });
    connect(second_page_, &QPushButton::clicked, this, [this] { show_page(1); });
    connect(&viewing, &Viewing::shot_changed, this, &SteadyBench::refresh);
    connect(&viewing, &Viewing::playhead_changed, this, &SteadyBench::refresh_photo);
    connect(&steadier, &Steadier::changed, this, &SteadyBench::refresh);
    connect(crop_, &CropPart::photo_chosen, this, [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
    connect(look_, &LookPart::photo_chosen, this, [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
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
    second_page_->setText(doubtful.empty() ? tr("Photo by photo") : look_at_this(tr("Photo by photo: %n", nullptr, int(doubtful.size()))));
    state_->setText(!shot->steady ? tr("as shot")
                                  : tr("moved ≤ %1 px · left ≤ %2 px").arg(most_moved_px(*shot), 0, 'f', 1).arg(most_left_px(*shot), 0, 'f', 2));
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
