#include "app/steps/pace/pace_bench.h"

#include "app/steps/pace/flow_part.h"
#include "app/steps/pace/hold_part.h"
#include "app/steps/pace/order_part.h"
#include "app/steps/pace/range_part.h"
#include "app/steps/pace/rate_part.h"
#include "app/steps/pace/speed_part.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/widgets/page_stack.h"
#include "app/work/lengths.h"
#include "core/base/text.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {

constexpr int flow_page = 2;

}

PaceBench::PaceBench(Session& session, Viewing& viewing, PaceController& pace_controller, Thinning& thinning,
                     LoopSearch& loops, InBetweenSearch& in_betweens, Tapping& tapping, TimingFiles& files,
                     QWidget* parent)
    : QWidget(parent), viewing_(viewing), notice_(notice()), whole_(secondary({})),
      first_page_(tool(tr("Holds and rate"))), second_page_(tool(tr("Range and order"))), third_page_(tool(tr("Flow"))),
      pages_(new PageStack), hold_(new HoldPart(session, viewing, pace_controller, *notice_)),
      rate_(new RatePart(session, viewing, pace_controller, *notice_)),
      range_(new RangePart(session, viewing, pace_controller, loops, *notice_)),
      order_(new OrderPart(session, viewing, pace_controller, thinning, *notice_)),
      flow_(new FlowPart(viewing, pace_controller, in_betweens, tapping, files)),
      speed_(new SpeedPart(viewing, pace_controller))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 8);
    column->setSpacing(gap);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    for (QPushButton* b : {first_page_, second_page_, third_page_}) {
        b->setCheckable(true);
        head->addWidget(b);
    }
    head->addStretch();
    whole_->setAccessibleName(tr("Length of the film"));
    head->addWidget(whole_);
    column->addLayout(head);
    pages_->addWidget(side_by_side(hold_, rate_));
    pages_->addWidget(side_by_side(range_, order_));
    pages_->addWidget(side_by_side(flow_, speed_));
    column->addWidget(scrolled(pages_), 1);
    column->addWidget(notice_);
    connect(first_page_, &QPushButton::clicked, this, [this] { show_page(0); });
    connect(second_page_, &QPushButton::clicked, this, [this] { show_page(1); });
    connect(third_page_, &QPushButton::clicked, this, [this] { show_page(2); });
    connect(&viewing, &Viewing::playhead_changed, this, [this] {
        if (flow_->isVisible())
            flow_->follow_playhead();
    });
    for (const auto signal : {&Viewing::shot_changed, &Viewing::selection_changed})
        connect(&viewing, signal, this, &PaceBench::refresh);
    connect(rate_, &RatePart::resolved, this, &PaceBench::resolved);
    connect(pages_, &QStackedWidget::currentChanged, this, [this](int page) { show_page(page); });
    show_page(0);
    refresh();
}

void PaceBench::show_page(int page)
{
    pages_->setCurrentIndex(page);
    if (page == flow_page)
        refresh();
    first_page_->setChecked(page == 0);
    second_page_->setChecked(page == 1);
    third_page_->setChecked(page == 2);
}

void PaceBench::refresh()
{
    const Shot* shot = viewing_.shot();
    setEnabled(shot != nullptr);
    if (!shot)
        return;
    hold_->refresh();
    rate_->refresh();
    range_->refresh();
    order_->refresh();
    if (pages_->currentIndex() == flow_page) { // it looks at every frame
        flow_->refresh();
        speed_->refresh();
    }
    whole_->setText(tr("%n photo(s)", nullptr, int(viewing_.timeline().photos)) + QStringLiteral(" · ") +
                    length_in_full(viewing_.film_frames(), viewing_.schedule().rate()));
    refresh_lost(*shot);
}

void PaceBench::refresh_lost(const Shot& shot)
{
    const auto lost = viewing_.schedule().between_frames();
    if (lost.empty()) {
        say(notice_, {});
        return;
    }
    const QString first = QString::fromStdString(shown_name(*shot.photos[lost.front().at()].photo));
    say(notice_,
        lost.size() == 1
            ? tr("%1 is held for less than a frame, falls between two frames and will not be seen.").arg(first)
            : tr("%1 photos, from %2 on, fall between two frames and will not be seen. Hold them longer, mix, or "
                 "deliver at a higher rate.")
                  .arg(lost.size())
                  .arg(first));
}

}
