#include "app/widgets/region_row.h"

#include "app/widgets/flow_layout.h"
#include "app/widgets/layouts.h"

#include <QLabel>
#include <QPushButton>

namespace frenlo::app {

RegionRow::RegionRow(PictureView& picture, QWidget* parent)
    : QWidget(parent), picture_(picture),
      look_at_(tool(tr("Inside"),
                    tr("Draw a box inside which is measured, as around a still background; the rest does not count"))),
      leave_out_(tool(tr("Outside"), tr("Draw a box that does not count, as around what moves by itself"))),
      brush_(tool(tr("Brush"), tr("Draw with a brush instead of boxes"))),
      everywhere_(tool(tr("All"), tr("Measure all of the photo again"))), words_(secondary({}))
{
    auto* row = new FlowLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    for (QPushButton* b : {look_at_, leave_out_, brush_, everywhere_})
        row->addWidget(b);
    words_->setAccessibleName(tr("Where is measured"));
    for (QPushButton* b : {look_at_, leave_out_, brush_})
        b->setCheckable(true);
    connect(look_at_, &QPushButton::clicked, this, [this] { draw(RegionTool::Use::look_at, look_at_); });
    connect(leave_out_, &QPushButton::clicked, this, [this] { draw(RegionTool::Use::leave_out, leave_out_); });
    connect(brush_, &QPushButton::clicked, this, [this] {
        if (tool_ && picture_.tool() == tool_.get()) // goes on with the other shape
            draw(use_, use_ == RegionTool::Use::look_at ? look_at_ : leave_out_);
    });
    connect(&picture, &PictureView::tool_changed, this, &RegionRow::refresh);
    connect(everywhere_, &QPushButton::clicked, this, [this] { Q_EMIT drawn({}); });
}

void RegionRow::put(const std::vector<QWidget*>& tools)
{
    for (QWidget* w : tools)
        layout()->addWidget(w);
}

void RegionRow::draw(RegionTool::Use use, QPushButton* button)
{
    const bool on = button->isChecked();
    Q_EMIT began();
    tool_.reset();
    if (on) {
        use_ = use;
        tool_ =
            std::make_unique<RegionTool>(use, brush_->isChecked() ? RegionTool::Shape::brush : RegionTool::Shape::box);
        tool_->show(region_, {}, std::nullopt, photo_);
        connect(tool_.get(), &RegionTool::drawn, this, &RegionRow::add);
        picture_.set_tool(tool_.get());
    }
    refresh();
}

void RegionRow::add(const std::vector<cv::Rect2d>& boxes)
{
    Region region = region_;
    auto& list = use_ == RegionTool::Use::look_at ? region.look_at : region.leave_out;
    list.insert(list.end(), boxes.begin(), boxes.end());
    Q_EMIT drawn(region);
}

void RegionRow::stop()
{
    tool_.reset();
    refresh();
}

void RegionRow::show(const Region& region, cv::Size photo)
{
    region_ = region;
    photo_ = photo;
    if (tool_)
        tool_->show(region, {}, std::nullopt, photo);
    refresh();
}

void RegionRow::refresh()
{
    const bool drawing = tool_ && picture_.tool() == tool_.get();
    look_at_->setChecked(drawing && use_ == RegionTool::Use::look_at);
    leave_out_->setChecked(drawing && use_ == RegionTool::Use::leave_out);
    const auto& [look_at, leave_out] = region_;
    const bool all = look_at.empty() && leave_out.empty();
    everywhere_->setEnabled(!all);
    words_->setText(all                 ? tr("whole photo")
                    : leave_out.empty() ? tr("inside a part")
                    : look_at.empty()   ? tr("all but a part")
                                        : tr("part of a part"));
}

}
