#include "app/bench/steady/steady_bench.h"

#include "app/bench/layouts.h"
#include "app/bench/steady/motion_plot.h"
#include "app/theme/theme.h"
#include "core/base/text.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>

#include <cmath>

namespace frenlo::app {

namespace {

QString name_of(const ShotPhoto& p)
{
    return QString::fromStdString(shown_path(p.photo->file.filename()));
}

}

SteadyBench::SteadyBench(Session& session, Viewing& viewing, Steadier& steadier, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), steadier_(steadier), movement_(new QComboBox), reference_(new QLabel),
      this_one_(tool(tr("Hold to this photo"), tr("The photo under the player stays where it is, the others come to it"))),
      measure_(tool({}, tr("Find how each photo moved against the reference photo"))), progress_(new QProgressBar),
      inside_all_(tool(tr("Inside all photos"), tr("The largest box that every photo fills"))),
      whole_(tool(tr("Whole frame"), tr("All of the reference photo; where a photo does not reach, its edge goes on"))), frame_(secondary({})),
      as_shot_(tool(tr("As shot again"), tr("What was measured goes"))), state_(secondary({})), photo_(secondary({})),
      nudge_(tool(tr("Move by hand"), tr("Arrow keys move this photo by 0.1 px, with Shift by 1 px, while it blinks against the reference photo"))),
      doubts_heading_(heading({})), doubts_(new QListWidget), plot_(new MotionPlot)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(14, 12, 14, 10);
    row->setSpacing(wide_gap);
    row->addWidget(measuring_part(), 1);
    row->addWidget(looking_part(), 1);
    connect(&viewing, &Viewing::shot_changed, this, &SteadyBench::refresh);
    connect(&viewing, &Viewing::playhead_changed, this, &SteadyBench::refresh_photo);
    connect(&steadier, &Steadier::changed, this, &SteadyBench::refresh);
    connect(&steadier, &Steadier::progress, this, [this](double fraction) { progress_->setValue(int(fraction * 1000)); });
    refresh();
}

QWidget* SteadyBench::measuring_part()
{
    auto* part = new QWidget;
    auto* grid = new QGridLayout(part);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(gap);
    grid->setVerticalSpacing(7);
    grid->setColumnStretch(1, 1);
    grid->addWidget(heading(tr("Hold still")), 0, 0, 1, 2);
    movement_->setAccessibleName(tr("Photos moved by"));
    for (const auto& [name, movement] : {std::pair(tr("shift"), Movement::shift), std::pair(tr("shift and turn"), Movement::turn),
                                         std::pair(tr("shift, turn and size"), Movement::similar), std::pair(tr("perspective"), Movement::perspective)})
        movement_->addItem(name, int(movement));
    movement_->setCurrentIndex(2);
    movement_->setToolTip(tr("What the camera may have done between photos; on a tripod mostly shift and turn"));
    grid->addWidget(secondary(tr("Moved by")), 1, 0);
    grid->addWidget(movement_, 1, 1, Qt::AlignLeft);
    grid->addWidget(secondary(tr("Reference")), 2, 0);
    auto* reference = new QHBoxLayout;
    reference->setSpacing(gap);
    reference_->setAccessibleName(tr("Reference photo"));
    reference->addWidget(reference_);
    reference->addWidget(this_one_);
    reference->addStretch();
    grid->addLayout(reference, 2, 1);
    auto* go = new QHBoxLayout;
    go->setSpacing(gap);
    make_primary(measure_);
    progress_->setAccessibleName(tr("Progress of measuring"));
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    go->addWidget(measure_);
    go->addWidget(as_shot_);
    go->addWidget(progress_, 1);
    go->addStretch();
    grid->addLayout(go, 3, 0, 1, 2);
    grid->addWidget(secondary(tr("Frame")), 4, 0);
    auto* crop = new QHBoxLayout;
    crop->setSpacing(6);
    for (QPushButton* b : {inside_all_, whole_}) {
        b->setCheckable(true);
        crop->addWidget(b);
    }
    crop->addStretch();
    grid->addLayout(crop, 4, 1);
    frame_->setAccessibleName(tr("Frame of the film"));
    frame_->setWordWrap(true);
    grid->addWidget(frame_, 5, 1);
    grid->setRowStretch(6, 1);
    connect(measure_, &QPushButton::clicked, this, [this] {
        if (steadier_.running()) {
            steadier_.stop();
            return;
        }
        progress_->setValue(0);
        const Shot* shot = viewing_.shot();
        steadier_.measure(movement(), shot && shot->steady ? reference_photo(*shot) : std::nullopt);
    });
    connect(this_one_, &QPushButton::clicked, this, [this] { steadier_.measure(movement(), viewing_.shown_photo()); });
    connect(as_shot_, &QPushButton::clicked, &steadier_, &Steadier::as_shot);
    connect(inside_all_, &QPushButton::clicked, this, [this] { steadier_.set_crop(true), refresh(); });
    connect(whole_, &QPushButton::clicked, this, [this] { steadier_.set_crop(false), refresh(); });
    return part;
}

QWidget* SteadyBench::looking_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading(tr("This photo")));
    photo_->setAccessibleName(tr("How this photo lies"));
    photo_->setWordWrap(true);
    column->addWidget(photo_);
    nudge_->setCheckable(true);
    column->addWidget(nudge_, 0, Qt::AlignLeft);
    connect(nudge_, &QPushButton::toggled, &steadier_, &Steadier::set_nudging);
    connect(&steadier_, &Steadier::nudging_changed, this, [this] { nudge_->setChecked(steadier_.nudging()); });
    column->addWidget(doubts_heading_);
    doubts_->setAccessibleName(tr("Photos to look at"));
    doubts_->setFrameShape(QFrame::NoFrame);
    doubts_->setMaximumHeight(72);
    column->addWidget(doubts_);
    state_->setWordWrap(true);
    state_->setAccessibleName(tr("What was measured"));
    column->addWidget(state_);
    column->addWidget(plot_, 2);
    connect(plot_, &MotionPlot::photo_chosen, this, [this](PhotoIndex photo) { Q_EMIT show_photo(viewing_.shot_index(), photo); });
    const auto go = [this](const QListWidgetItem* item) {
        Q_EMIT show_photo(viewing_.shot_index(), PhotoIndex(item->data(Qt::UserRole).toLongLong()));
    };
    connect(doubts_, &QListWidget::itemClicked, this, go);
    connect(doubts_, &QListWidget::itemActivated, this, go);
    return part;
}

Movement SteadyBench::movement() const
{
    return Movement(movement_->currentData().toInt());
}

void SteadyBench::fill_doubts(const Shot& shot)
{
    const auto doubtful = doubtful_photos(shot);
    doubts_->clear();
    for (const PhotoIndex p : doubtful) {
        auto* item = new QListWidgetItem(look_at_this(tr("%1: %2").arg(name_of(shot.photos[p.at()]),
                                                                     QString::fromStdString(shot.photos[p.at()].alignment->doubt))));
        item->setData(Qt::UserRole, qlonglong(p.value));
        doubts_->addItem(item);
    }
    doubts_heading_->setText(tr("%n photo(s) to look at", nullptr, int(doubtful.size())));
    doubts_heading_->setVisible(!doubtful.empty());
    doubts_->setVisible(!doubtful.empty());
}

void SteadyBench::refresh_frame(const Shot& shot)
{
    inside_all_->setChecked(shot.steady && shot.steady->cropped);
    whole_->setChecked(shot.steady && !shot.steady->cropped);
    for (QPushButton* b : {inside_all_, whole_})
        b->setEnabled(shot.steady.has_value());
    const auto reference = reference_photo(shot);
    if (!shot.steady || !reference) {
        frame_->setText(tr("measured first, then cropped"));
        return;
    }
    const cv::Size all = seen_size(shot.photos[reference->at()]);
    const cv::Rect& f = shot.steady->frame;
    const double lost = 100 * (1 - double(f.area()) / std::max(1, all.area()));
    frame_->setText(tr("%1 × %2 of %3 × %4; %5 % of the picture is lost").arg(f.width).arg(f.height).arg(all.width).arg(all.height).arg(lost, 0, 'f', 1));
}

void SteadyBench::refresh_photo()
{
    const Shot* shot = viewing_.shot();
    const PhotoIndex photo = viewing_.schedule().frames() > 0 ? viewing_.schedule().photo_at(viewing_.playhead()) : PhotoIndex(-1);
    if (!isVisible() || !shot || photo.value < 0) {
        photo_->clear();
        nudge_->setEnabled(false);
        return;
    }
    nudge_->setEnabled(steadier_.can_nudge());
    if (plot_->isVisible())
        plot_->show_place(photo);
    const ShotPhoto& p = shot->photos[photo.at()];
    if (!p.alignment) {
        photo_->setText(tr("%1 is as shot.").arg(name_of(p)));
        return;
    }
    const Motion m = motion_of(p.alignment->from_reference, seen_size(p));
    photo_->setText(tr("%1: shifted by %2, %3 px, turned by %4°, size %5 %; misses %6 px, %7 % of the points agree")
                        .arg(name_of(p))
                        .arg(m.shift.x, 0, 'f', 1)
                        .arg(m.shift.y, 0, 'f', 1)
                        .arg(m.turn_degrees, 0, 'f', 2)
                        .arg(m.size * 100, 0, 'f', 2)
                        .arg(p.alignment->residual_px, 0, 'f', 2)
                        .arg(p.alignment->inliers * 100, 0, 'f', 0));
}

void SteadyBench::refresh()
{
    const Shot* shot = viewing_.shot();
    setEnabled(shot != nullptr);
    if (!shot)
        return;
    const bool running = steadier_.running(), measured = shot->steady.has_value();
    if (measured && !running)
        movement_->setCurrentIndex(movement_->findData(int(shot->steady->movement)));
    measure_->setText(running ? tr("Stop") : measured ? tr("Measure again") : tr("Hold the photos still"));
    progress_->setVisible(running);
    as_shot_->setVisible(measured && !running);
    this_one_->setEnabled(!running);
    movement_->setEnabled(!running);
    const auto reference = measured ? reference_photo(*shot) : std::nullopt;
    reference_->setText(reference ? name_of(shot->photos[reference->at()]) : tr("the best is chosen"));
    refresh_frame(*shot);
    fill_doubts(*shot);
    plot_->setVisible(measured);
    if (measured)
        plot_->show_shot(*shot);
    if (running)
        state_->setText(tr("Measuring; you can go on working."));
    else
        state_->setText(tr("Every photo is compared with one of them and lined up on it. What moves in the picture is left "
                           "out of account. Hold B to see a photo as shot."));
    state_->setVisible(running || !measured);
    refresh_photo();
}

}
