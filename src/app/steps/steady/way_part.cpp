#include "app/steps/steady/way_part.h"

#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/steps/steady/steady_values.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>

namespace frenlo::app {

namespace {

QString name_of(const ShotPhoto& p)
{
    return QString::fromStdString(shown_name(*p.photo));
}

}

namespace {

/// Cells that less than seven tenths of the tries trusted.
std::vector<Hatched> not_trusted(const TrustMap& map)
{
    std::vector<Hatched> cells;
    for (int row = 0; row < map.rows; ++row)
        for (int column = 0; column < map.columns; ++column)
            if (const auto tenths = map.tenths[std::size_t(row) * std::size_t(map.columns) + std::size_t(column)];
                tenths < 7)
                cells.push_back({map.cell(column, row), tenths < 0});
    return cells;
}

}

WayPart::WayPart(Session& session, Viewing& viewing, SteadyController& steady_controller, PictureView& picture,
                 QLabel& notice, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), steady_controller_(steady_controller), picture_(picture),
      notice_(notice),
      still_(
          tool(tr("Hold still"), tr("All photos lie on a reference photo: from a tripod, or by hand from one place"))),
      smooth_(tool(tr("Smooth path"), tr("The camera went somewhere: its way stays, the steps go"))),
      movement_(new QComboBox), reference_(new QLabel),
      this_one_(tool(tr("Use this photo"), tr("The photo under the player stays where it is, the others come to it"))),
      strength_(field(tr("Strength of the smoothing"),
                      tr("Movements that take less time than this are taken out: 1 s, 24 f"), 56)),
      lost_(field(tr("Most that is lost"),
                  tr("The share of the picture that may be cropped away; photos are moved less where it would be more"),
                  56)),
      target_(tool(tr("Follow…"), tr("Draw a box around what is to stay where it is in the film"))),
      no_target_(tool(tr("Follow nothing"), tr("The film goes along the path again"))), region_(new RegionRow(picture)),
      propose_(tool(tr("Suggest"), tr("Measure where it stayed still when it was measured last"))),
      trusted_(
          tool(tr("Trust"),
               tr("Hatch what was not trusted when it was measured: it moved by itself, or could not be followed"))),
      measure_(tool({}, tr("Find how each photo moved"))),
      as_shot_(tool(tr("Undo steadying"), tr("The photos lie as they were shot again; what was measured goes"))),
      progress_(new QProgressBar), reference_label_(secondary(tr("Reference"))),
      strength_label_(secondary(tr("Strength"))), still_row_(still_row()), smooth_row_(smooth_row())
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(gap);
    grid->setVerticalSpacing(6);
    grid->setColumnStretch(1, 1);
    movement_->setAccessibleName(tr("Photos moved by"));
    for (const auto& [name, movement] :
         {std::pair(tr("shift"), Movement::shift), std::pair(tr("shift and turn"), Movement::turn),
          std::pair(tr("shift, turn and size"), Movement::similar),
          std::pair(tr("perspective"), Movement::perspective)})
        movement_->addItem(name, int(movement));
    movement_->setCurrentIndex(int(Movement::similar));
    movement_->setToolTip(tr("What the camera may have done between photos; on a tripod mostly shift and turn"));
    for (QPushButton* b : {still_, smooth_, trusted_, target_})
        b->setCheckable(true);
    grid->addWidget(one_row({still_, smooth_}), 0, 0, 1, 2);
    grid->addWidget(secondary(tr("Moved by")), 1, 0);
    grid->addWidget(one_row({movement_}), 1, 1);
    grid->addWidget(reference_label_, 2, 0);
    grid->addWidget(still_row_, 2, 1);
    grid->addWidget(strength_label_, 3, 0);
    grid->addWidget(smooth_row_, 3, 1);
    grid->addWidget(secondary(tr("Measure")), 4, 0);
    region_->put({propose_, trusted_, region_->words()});
    grid->addWidget(region_, 4, 1);
    make_primary(measure_);
    progress_->setAccessibleName(tr("Progress of measuring"));
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    auto* go = new QHBoxLayout;
    go->setSpacing(gap);
    for (QWidget* w : std::initializer_list<QWidget*>{measure_, as_shot_})
        go->addWidget(w);
    go->addWidget(progress_, 1);
    go->addStretch();
    grid->addLayout(go, 6, 0, 1, 2);
    grid->setRowStretch(7, 1);

    connect(still_, &QPushButton::clicked, this, [this] { set_way(SteadyWay::still); });
    connect(smooth_, &QPushButton::clicked, this, [this] { set_way(SteadyWay::smooth); });
    connect(this_one_, &QPushButton::clicked, this, [this] { measure(viewing_.shown_photo()); });
    for (QLineEdit* f : {strength_, lost_})
        connect(f, &QLineEdit::returnPressed, this, &WayPart::take_smoothing);
    connect(target_, &QPushButton::clicked, this, [this] { draw(RegionTool::Use::target, target_); });
    connect(no_target_, &QPushButton::clicked, &steady_controller, &SteadyController::forget_target);
    connect(region_, &RegionRow::began, this, [this] {
        tool_.reset();
        refresh_drawing();
    });
    connect(region_, &RegionRow::drawn, &steady_controller, &SteadyController::set_region);
    connect(trusted_, &QPushButton::clicked, this, [this] { draw(RegionTool::Use::only_show, trusted_); });
    connect(propose_, &QPushButton::clicked, this, [this] {
        if (const Shot* shot = viewing_.shot(); shot && steadying_of(*shot))
            steady_controller_.set_region(still_background(steadying_of(*shot)->trusted));
    });
    connect(measure_, &QPushButton::clicked, this, [this] {
        const Shot* shot = viewing_.shot();
        if (steady_controller_.running())
            steady_controller_.stop();
        else
            measure(shot && steadying_of(*shot) ? reference_photo(*shot) : std::nullopt);
    });
    connect(as_shot_, &QPushButton::clicked, &steady_controller, &SteadyController::as_shot);
    connect(&steady_controller, &SteadyController::progress, this,
            [this](double fraction) { progress_->setValue(int(fraction * 1000)); });
    connect(&picture, &PictureView::tool_changed, this, &WayPart::refresh_drawing);
    connect(&viewing, &Viewing::step_changed, this, &WayPart::stop_drawing);
}

QWidget* WayPart::still_row()
{
    reference_->setAccessibleName(tr("Reference photo"));
    return one_row({reference_, this_one_});
}

QWidget* WayPart::smooth_row()
{
    return one_row({strength_, secondary(tr("lose ≤")), lost_, target_, no_target_});
}

Movement WayPart::movement() const
{
    return Movement(movement_->currentData().toInt());
}

void WayPart::set_way(SteadyWay way)
{
    if (way != way_) // a walk turns the camera in all directions
        movement_->setCurrentIndex(int(way == SteadyWay::smooth ? Movement::perspective : Movement::similar));
    way_ = way;
    refresh();
}

void WayPart::measure(std::optional<PhotoIndex> reference)
{
    stop_drawing();
    progress_->setValue(0);
    SteadyPlan plan;
    plan.way = way_;
    plan.movement = movement();
    plan.reference = reference;
    if (const Shot* shot = viewing_.shot(); shot && steadying_of(*shot))
        plan.smoothing = steadying_of(*shot)->smoothing;
    steady_controller_.measure(plan);
}

void WayPart::take_smoothing()
{
    const auto strength = parse_length(strength_->text(), session_.project().delivered_at);
    const auto lost = parse_share(lost_->text(), 0.9);
    mark_wrong(strength_, !strength);
    mark_wrong(lost_, !lost);
    if (!strength)
        say(&notice_, tr("“%1” is not a length. 1 s and 24 f are.").arg(strength_->text()));
    else if (!lost)
        say(&notice_, tr("“%1” is not a share. 0 % to 90 % are.").arg(lost_->text()));
    else
        steady_controller_.set_smoothing({strength->value.approx(), *lost});
}

void WayPart::draw(RegionTool::Use use, QPushButton* button)
{
    const bool on = button->isChecked();
    stop_drawing();
    if (on) {
        use_ = use;
        tool_ = std::make_unique<RegionTool>(use, RegionTool::Shape::box);
        connect(tool_.get(), &RegionTool::drawn, this, [this](const std::vector<cv::Rect2d>& boxes) {
            const PhotoIndex photo = viewing_.shown_photo();
            tool_.release()->deleteLater(); // it is its own signal
            if (!boxes.empty())
                steady_controller_.follow(photo, boxes.front());
        });
        picture_.set_tool(tool_.get());
    }
    refresh_drawing();
    refresh();
}

void WayPart::stop_drawing()
{
    tool_.reset();
    region_->stop();
    refresh_drawing();
}

void WayPart::refresh_drawing()
{
    const bool drawing = tool_ && picture_.tool() == tool_.get();
    for (const auto& [button, use] :
         {std::pair(target_, RegionTool::Use::target), std::pair(trusted_, RegionTool::Use::only_show)})
        button->setChecked(drawing && use_ == use);
}

void WayPart::refresh_region(const Shot& shot)
{
    const bool measured = steadying_of(shot) && !steadying_of(shot)->trusted.empty();
    propose_->setEnabled(measured);
    trusted_->setEnabled(measured);
    const PhotoIndex photo = viewing_.shown_photo();
    const cv::Size size = photo.value >= 0 ? seen_size(shot.photos[photo.at()]) : cv::Size();
    region_->show(steady_region(shot), size);
    if (tool_)
        tool_->show({}, not_trusted(steadying_of(shot) ? steadying_of(shot)->trusted : TrustMap()),
                    use_ == RegionTool::Use::only_show ? reference_photo(shot) : std::nullopt, size);
}

void WayPart::refresh_smooth(const Shot& shot)
{
    const Smoothing s = steadying_of(shot) ? steadying_of(shot)->smoothing : Smoothing();
    const auto put = [](QLineEdit* line, const QString& text) {
        if (!line->hasFocus() || !line->property("wrong").toBool())
            line->setText(text);
    };
    put(strength_, tr("%1 s").arg(s.strength_s, 0, 'g', 4));
    put(lost_, tr("%1 %").arg(s.most_lost * 100, 0, 'g', 4));
    const bool walked = steadying_of(shot) && steadying_of(shot)->way == SteadyWay::smooth;
    for (QWidget* w : std::initializer_list<QWidget*>{strength_, lost_, target_})
        w->setEnabled(walked && !steady_controller_.running());
    no_target_->setVisible(follows_target(shot));
    target_->setVisible(!follows_target(shot));
}

void WayPart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot || viewing_.on_reel())
        return;
    const ShotPtr now = viewing_.edited_shot();
    const bool running = steady_controller_.running(), measured = shot->steps.has<Steadying>();
    if (now != seen_ && !running) { // what was measured is what is shown
        seen_ = now;
        if (measured) {
            way_ = steadying_of(*shot)->way;
            movement_->setCurrentIndex(movement_->findData(int(steadying_of(*shot)->movement)));
        }
    }
    still_->setChecked(way_ == SteadyWay::still);
    smooth_->setChecked(way_ == SteadyWay::smooth);
    still_row_->setVisible(way_ == SteadyWay::still);
    smooth_row_->setVisible(way_ == SteadyWay::smooth);
    reference_label_->setVisible(way_ == SteadyWay::still);
    strength_label_->setVisible(way_ == SteadyWay::smooth);
    const bool again = measured && steadying_of(*shot)->way == way_;
    measure_->setText(running                    ? tr("Stop")
                      : again                    ? tr("Measure again")
                      : way_ == SteadyWay::still ? tr("Hold the photos still")
                                                 : tr("Smooth the path"));
    progress_->setVisible(running);
    as_shot_->setVisible(measured && !running);
    for (QWidget* w : std::initializer_list<QWidget*>{this_one_, movement_, still_, smooth_})
        w->setEnabled(!running);
    const auto reference = measured ? reference_photo(*shot) : std::nullopt;
    reference_->setText(reference ? name_of(shot->photos[reference->at()]) : tr("the best is chosen"));
    refresh_region(*shot);
    refresh_smooth(*shot);
}

}
