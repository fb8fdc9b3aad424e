#include "app/steps/shoot/shoot_bench.h"

#include "app/steps/shoot/camera_part.h"
#include "app/steps/shoot/series_part.h"
#include "app/steps/shoot/take_part.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/widgets/page_stack.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace frenlo::app {

ShootBench::ShootBench(Session& session, Viewing& viewing, ShootController& controller, CameraDesk& desk,
                       LiveView& view, Reference& reference, TakeKey& key, QWidget* parent)
    : QWidget(parent), desk_(desk), notice_(app::notice()), state_(secondary({})), pages_(new PageStack),
      take_(new TakePart(session, viewing, controller, *notice_)), series_(new SeriesPart(controller, desk, *notice_)),
      camera_(new CameraPart(desk)), guides_(new GuidesPart(controller, view, reference, key))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 8);
    column->setSpacing(gap);
    auto* head = new QHBoxLayout;
    head->setSpacing(6);
    for (const QString& name : {tr("Take"), tr("Camera"), tr("Guides and paths")}) {
        QPushButton* b = tool(name);
        b->setCheckable(true);
        connect(b, &QPushButton::clicked, this, [this, page = int(tabs_.size())] { show_page(page); });
        head->addWidget(b);
        tabs_.push_back(b);
    }
    head->addStretch();
    state_->setAccessibleName(tr("What is being done"));
    head->addWidget(state_);
    column->addLayout(head);
    pages_->addWidget(side_by_side(take_, series_));
    pages_->addWidget(camera_);
    pages_->addWidget(guides_);
    column->addWidget(scrolled(pages_), 1);
    column->addWidget(notice_);
    connect(&controller, &ShootController::changed, this, &ShootBench::refresh);
    connect(&desk, &CameraDesk::state_changed, this, &ShootBench::refresh);
    connect(&desk, &CameraDesk::settings_changed, series_, &SeriesPart::refresh);
    connect(&desk, &CameraDesk::told, this, &ShootBench::add_told);
    connect(&view, &LiveView::drawn, guides_, &GuidesPart::take_drawn);
    connect(&view, &LiveView::path_changed, &controller, &ShootController::change_path);
    connect(pages_, &QStackedWidget::currentChanged, this, [this](int page) { show_page(page); });
    show_page(0);
    refresh();
}

void ShootBench::add_told(const QString& what)
{
    series_->add_told(what);
}

void ShootBench::show_page(int page)
{
    pages_->setCurrentIndex(page);
    for (std::size_t i = 0; i < tabs_.size(); ++i)
        tabs_[i]->setChecked(int(i) == page);
}

void ShootBench::refresh()
{
    take_->refresh();
    series_->refresh();
    guides_->refresh();
    state_->setText(desk_.in_series() ? tr("a series runs") : desk_.taking() ? tr("taking …") : QString());
}

}
