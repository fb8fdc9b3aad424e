#include "app/steps/steady/photo_part.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/steps/steady/steady_values.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {

enum Against
{
    reference_photo_itself,
    photo_before,
    photo_after
};

}

PhotoPart::PhotoPart(Viewing& viewing, SteadyController& steady_controller, PictureView& picture, QWidget* parent)
    : QWidget(parent), viewing_(viewing), steady_controller_(steady_controller), picture_(picture),
      lies_(secondary({})),
      nudge_(tool(tr("Move by hand"), tr("Arrow keys move this photo by 0.1 px, with Shift by 1 px; Page Up and Page "
                                         "Down turn it by 0.01°, with Shift by 0.1°; "
                                         "it blinks against the reference photo"))),
      points_(tool(tr("By points"), tr("Click a point on the other photo, then the same on this one; two or more"))),
      take_points_(tool({})), against_(new QComboBox), movement_(new QComboBox),
      align_(tool(tr("Align"), tr("Measure this photo alone, against that one"))),
      as_shot_(tool(tr("Leave as shot"), tr("This photo stays as the camera saw it; it is no longer in doubt")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading(tr("This photo")));
    lies_->setAccessibleName(tr("How this photo lies"));
    lies_->setWordWrap(true);
    column->addWidget(lies_);
    against_->setAccessibleName(tr("Photo to align to"));
    for (const auto& [name, value] :
         {std::pair(tr("the reference"), reference_photo_itself), std::pair(tr("the one before"), photo_before),
          std::pair(tr("the next one"), photo_after)})
        against_->addItem(name, int(value));
    movement_->setAccessibleName(tr("This photo moved by"));
    for (const auto& [name, movement] :
         {std::pair(tr("shift"), Movement::shift), std::pair(tr("shift and turn"), Movement::turn),
          std::pair(tr("… and size"), Movement::similar), std::pair(tr("perspective"), Movement::perspective)})
        movement_->addItem(name, int(movement));
    movement_->setCurrentIndex(int(Movement::similar));
    column->addLayout(line_of({secondary(tr("Align to")), against_, secondary(tr("by")), movement_}));
    take_points_->setAccessibleName(tr("Take the points"));
    column->addLayout(line_of({align_, points_, take_points_}));
    column->addLayout(line_of({nudge_, as_shot_}));
    column->addStretch();
    nudge_->setCheckable(true);
    points_->setCheckable(true);
    connect(nudge_, &QPushButton::toggled, &steady_controller, &SteadyController::set_nudging);
    connect(&steady_controller, &SteadyController::nudging_changed, this,
            [this] { nudge_->setChecked(steady_controller_.nudging()); });
    connect(align_, &QPushButton::clicked, this,
            [this] { steady_controller_.align(here(), other(), Movement(movement_->currentData().toInt())); });
    connect(as_shot_, &QPushButton::clicked, this, [this] { steady_controller_.leave_as_shot(here()); });
    connect(points_, &QPushButton::clicked, this, &PhotoPart::set_points);
    connect(&picture, &PictureView::tool_changed, this, &PhotoPart::refresh_points);
    connect(take_points_, &QPushButton::clicked, this, &PhotoPart::take_points);
    connect(against_, &QComboBox::currentIndexChanged, this, &PhotoPart::refresh);
}

PhotoIndex PhotoPart::here() const
{
    return viewing_.shot() && viewing_.schedule().frames() > 0 ? viewing_.schedule().photo_at(viewing_.playhead())
                                                               : PhotoIndex(-1);
}

PhotoIndex PhotoPart::other() const
{
    const Shot* shot = viewing_.shot();
    if (!shot || here().value < 0)
        return PhotoIndex(-1);
    const int choice = against_->currentData().toInt();
    if (choice == reference_photo_itself)
        return reference_photo(*shot).value_or(PhotoIndex(-1));
    const int step = choice == photo_before ? -1 : 1;
    const auto shown = in_film(*shot);
    for (std::int64_t i = here().value + step; i >= 0 && i < std::int64_t(shown.size()); i += step)
        if (shown[std::size_t(i)] && alignment_of(shot->photos[std::size_t(i)]))
            return PhotoIndex(i);
    return PhotoIndex(-1);
}

void PhotoPart::set_points(bool on)
{
    tool_.reset();
    const Shot* shot = viewing_.shot();
    if (on && shot && other().value >= 0) {
        points_of_ = here();
        tool_ = std::make_unique<PointsTool>(here(), seen_size(shot->photos[here().at()]), other(),
                                             seen_size(shot->photos[other().at()]));
        connect(tool_.get(), &PictureTool::changed, this, &PhotoPart::refresh_points);
        picture_.set_tool(tool_.get());
    }
    refresh_points();
}

void PhotoPart::take_points()
{
    if (!tool_)
        return;
    const auto pairs = tool_->pairs();
    const PhotoIndex to = other();
    tool_.reset();
    steady_controller_.align_by_points(points_of_, to, pairs);
    refresh_points();
}

void PhotoPart::refresh_points()
{
    const bool pointing = tool_ && picture_.tool() == tool_.get();
    const int pairs = pointing ? int(tool_->pairs().size()) : 0;
    points_->setChecked(pointing);
    take_points_->setVisible(pairs > 0);
    take_points_->setText(tr("Take %n point(s)", nullptr, pairs));
}

void PhotoPart::refresh()
{
    const Shot* shot = viewing_.shot();
    const PhotoIndex photo = here();
    if (tool_ && photo != points_of_)
        tool_.reset(); // they were of another photo
    const ShotPhoto* p = shot && photo.value >= 0 ? &shot->photos[photo.at()] : nullptr;
    const Alignment* a = p && steadying_of(*shot) && alignment_of(*p) ? &*alignment_of(*p) : nullptr;
    const bool can = a && !a->reference && !steady_controller_.running();
    const bool still = shot && steadying_of(*shot) && steadying_of(*shot)->way == SteadyWay::still;
    if (!still && against_->currentData().toInt() == reference_photo_itself)
        against_->setCurrentIndex(photo_before);
    for (QWidget* w : std::initializer_list<QWidget*>{nudge_, as_shot_, movement_, against_})
        w->setEnabled(can);
    for (QPushButton* b : {align_, points_})
        b->setEnabled(can && other().value >= 0 && other() != photo);
    refresh_points();
    if (!p) {
        lies_->clear();
        return;
    }
    const QString name = QString::fromStdString(shown_name(*p->photo));
    if (!a) {
        lies_->setText(tr("%1 is as shot.").arg(name));
        return;
    }
    const Motion m = motion_of(a->from_film, steadying_of(*shot)->size);
    QString text =
        tr("%1: shifted by %2, %3 px, turned by %4°, size %5 %; misses %6 px, %7 % of the points agree; left: %8 px")
            .arg(name)
            .arg(m.shift.x, 0, 'f', 1)
            .arg(m.shift.y, 0, 'f', 1)
            .arg(m.turn_degrees, 0, 'f', 2)
            .arg(m.size * 100, 0, 'f', 2)
            .arg(a->residual_px, 0, 'f', 2)
            .arg(a->inliers * 100, 0, 'f', 0)
            .arg(a->left_px, 0, 'f', 2);
    if (a->reference)
        text = tr("%1 is the reference photo: the others lie on it.").arg(name);
    lies_->setText(text);
}

}
