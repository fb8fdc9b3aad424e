#include "app/steps/steady/crop_part.h"

#include "app/steps/steady/motion_plot.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/steps/steady/steady_values.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <array>

namespace frenlo::app {

namespace {
const std::array<cv::Size, 7> shapes{cv::Size(), {3, 2}, {4, 3}, {16, 9}, {1, 1}, {4, 5}, {9, 16}};
}

CropPart::CropPart(Viewing& viewing, SteadyController& steady_controller, QWidget* parent)
    : QWidget(parent), viewing_(viewing), steady_controller_(steady_controller),
      inside_all_(tool(tr("All photos"), tr("The largest box that every photo fills"))),
      whole_(tool(tr("Extend edges"), tr("Nothing is cropped; where a photo does not reach, its edge goes on"))),
      mirrored_(
          tool(tr("Mirror edges"), tr("Nothing is cropped; where a photo does not reach, it is mirrored at its edge"))),
      shape_(new QComboBox), crop_(secondary({})),
      costliest_(tool({}, tr("Go to the photo that costs most of the picture"))),
      idea_(secondary(
          tr("Every photo is compared with others and lined up. What moves in the picture is left out of account. "
             "Hold B to see a photo as shot."))),
      plot_(new MotionPlot)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    for (QPushButton* b : {inside_all_, whole_, mirrored_})
        b->setCheckable(true);
    auto* first = new QHBoxLayout;
    first->setSpacing(gap);
    first->addWidget(heading(tr("Crop")));
    first->addStretch();
    first->addWidget(secondary(tr("shape")));
    shape_->setAccessibleName(tr("Shape of the crop"));
    for (const cv::Size s : shapes)
        shape_->addItem(s.empty() ? tr("as the photos") : QStringLiteral("%1 : %2").arg(s.width).arg(s.height),
                        QSize(s.width, s.height));
    first->addWidget(shape_);
    column->addLayout(first);
    column->addWidget(one_row({inside_all_, whole_, mirrored_}));
    crop_->setAccessibleName(tr("What the crop leaves"));
    crop_->setWordWrap(true);
    column->addWidget(crop_);
    costliest_->setAccessibleName(tr("The photo that costs most"));
    column->addWidget(costliest_, 0, Qt::AlignLeft);
    idea_->setWordWrap(true);
    column->addWidget(idea_);
    column->addWidget(plot_, 1);
    column->addStretch();
    connect(inside_all_, &QPushButton::clicked, this, [this] { steady_controller_.set_inside_all(true), refresh(); });
    connect(whole_, &QPushButton::clicked, this, [this] { steady_controller_.set_edges(Edges::go_on), refresh(); });
    connect(mirrored_, &QPushButton::clicked, this,
            [this] { steady_controller_.set_edges(Edges::mirrored), refresh(); });
    connect(shape_, &QComboBox::activated, this, [this] {
        const QSize s = shape_->currentData().toSize();
        steady_controller_.set_crop_shape({s.width(), s.height()});
    });
    connect(costliest_, &QPushButton::clicked, this, [this] { Q_EMIT photo_chosen(costliest_photo_); });
    connect(plot_, &MotionPlot::photo_chosen, this, &CropPart::photo_chosen);
}

void CropPart::refresh()
{
    const Shot* shot = viewing_.shot();
    const Steadying* steady = shot && steadying_of(*shot) ? &*steadying_of(*shot) : nullptr;
    inside_all_->setChecked(steady && steady->inside_all);
    whole_->setChecked(steady && !steady->inside_all && steady->edges == Edges::go_on);
    mirrored_->setChecked(steady && !steady->inside_all && steady->edges == Edges::mirrored);
    for (QPushButton* b : {inside_all_, whole_, mirrored_})
        b->setEnabled(steady);
    shape_->setEnabled(steady);
    const cv::Size shape = steady ? steady->shape : cv::Size();
    int at = shape_->findData(QSize(shape.width, shape.height));
    if (at < 0) { // one that was set by the command line
        shape_->addItem(QStringLiteral("%1 : %2").arg(shape.width).arg(shape.height), QSize(shape.width, shape.height));
        at = shape_->count() - 1;
    }
    shape_->setCurrentIndex(at);
    idea_->setVisible(!steady);
    plot_->setVisible(steady);
    costliest_->setVisible(false);
    if (!steady) {
        crop_->setText(tr("measured first, then cropped"));
        return;
    }
    const cv::Rect& c = steady->crop;
    crop_->setText(tr("%1 × %2 · %3 % of the picture is lost")
                       .arg(c.width)
                       .arg(c.height)
                       .arg(100 * lost_to_crop(*shot), 0, 'f', 1));
    if (const auto costly = costliest_photo(*shot)) {
        costliest_photo_ = costly->photo;
        costliest_->setText(tr("%1 costs most: %2 %")
                                .arg(QString::fromStdString(shown_name(*shot->photos[costly->photo.at()].photo)))
                                .arg(100 * costly->share, 0, 'f', 1));
        costliest_->setVisible(true);
    }
    plot_->show_shot(*shot);
}

void CropPart::refresh_place()
{
    if (plot_->isVisible() && viewing_.shown_photo().value >= 0)
        plot_->show_place(viewing_.shown_photo());
}

}
