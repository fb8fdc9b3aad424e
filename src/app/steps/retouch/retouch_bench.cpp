#include "app/steps/retouch/retouch_bench.h"

#include "app/picture/keep_tool.h"
#include "app/picture/player.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/widgets/value_field.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

RetouchBench::RetouchBench(Viewing& viewing, RetouchController& controller, PictureView& picture, Player& player,
                           QWidget* parent)
    : QWidget(parent), viewing_(viewing), controller_(controller), picture_(picture), player_(player),
      brush_(new ValueField({tr("brush"), tr("Half of its width, of the photo's width"), QStringLiteral("%"), 0.05, 30,
                             1, 0.1, 2, false})),
      from_(choice(
          tr("What heals"), {tr("heals a spot from around it"), tr("takes a support out by the clean plate")},
          tr("A spot is healed from where the same photo looks alike: specks and small things. A support, a wire or a "
             "rod or a hand, is replaced by the scene as it is without it"))),
      outlines_(new QCheckBox(tr("show outlines"))),
      dust_(tool(tr("Find dust"), tr("Looks for specks that are in the same place of photo after photo, and heals "
                                     "them all"))),
      make_plate_(tool(tr("Make the clean plate"),
                       tr("What stays when everything that moves is gone: the middle of all photos, lined up. It lies "
                          "among the photos, set aside"))),
      use_plate_(tool(tr("Use this photo"), tr("The photo under the player is the clean plate"))),
      see_plate_(tool(tr("Look at it"))), no_plate_(tool(tr("Use none"))), plate_(secondary({})), notes_(notice()),
      what_(secondary(tr("Brush once over what should not be there: it is healed in every photo, and goes with the "
                         "scene when the shot is held still."))),
      spot_text_(secondary({})), heal_from_(tool({})), switch_(tool({})), remove_(tool(tr("Take it away"))),
      here_too_(
          tool(tr("Place it here too"), tr("It moves evenly from one such photo to the next: drag it to where it is "
                                           "here"))),
      follow_(tool(tr("Follow what is under it"), tr("Goes with a thing that moves, from photo to photo; drag it where "
                                                     "it is wrong, and follow again"))),
      only_here_(tool(tr("Only in these photos"), tr("In the selected photos, or in this one"))),
      all_photos_(tool(tr("In all photos"))), stop_(tool(tr("Stop"))),
      size_(new ValueField({tr("size"), tr("Half of its width, of the photo's width"), QStringLiteral("%"), 0.02, 100,
                            1, 0.1, 2, false})),
      soft_(new ValueField({tr("soft edge"), tr("How far it reaches beyond, of its size"), QStringLiteral("%"), 0, 400,
                            40, 5, 0, false})),
      progress_(new QProgressBar), progress_text_(secondary({}))
{
    auto* column = scrolled_column(this);
    column->setContentsMargins(14, 8, 14, 8);
    column->setSpacing(6);
    what_->setWordWrap(true);
    column->addWidget(what_);
    column->addWidget(named_row(tr("Heal"), {brush_, from_, outlines_}));
    column->addWidget(named_row(tr("Plate"), {make_plate_, use_plate_, see_plate_, no_plate_, plate_}));
    column->addWidget(named_row(tr("Dust"), {dust_}));
    spot_rows_ = rows_of({named_row(tr("In hand"), {spot_text_, heal_from_, switch_, remove_}),
                          named_row({}, {size_, soft_}), named_row({}, {here_too_, follow_, only_here_, all_photos_})});
    column->addWidget(spot_rows_);
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setFixedWidth(160);
    progress_->setAccessibleName(tr("Progress of retouching"));
    progress_row_ = named_row({}, {progress_, progress_text_, stop_});
    column->addWidget(progress_row_);
    column->addWidget(notes_);
    column->addStretch(1);
    outlines_->setChecked(true);
    brush_->show_value(1);
    connect_all();
}

void RetouchBench::connect_all()
{
    connect(&controller_, &RetouchController::changed, this, &RetouchBench::refresh);
    connect(&player_, &Player::state_changed, this, &RetouchBench::show_tool);
    connect(brush_, &ValueField::edited, this, [this](double v) {
        brush_->show_value(v);
        show_tool();
    });
    connect(from_, &QComboBox::activated, this, &RetouchBench::show_tool);
    connect(outlines_, &QCheckBox::toggled, this, [this](bool on) {
        if (tool_)
            tool_->set_outlines_shown(on);
    });
    connect(dust_, &QPushButton::clicked, &controller_, &RetouchController::find_dust);
    connect(make_plate_, &QPushButton::clicked, &controller_, &RetouchController::make_plate);
    connect(use_plate_, &QPushButton::clicked, &controller_, &RetouchController::use_as_plate);
    connect(no_plate_, &QPushButton::clicked, &controller_, &RetouchController::no_plate);
    see_plate_->setCheckable(true);
    connect(see_plate_, &QPushButton::clicked, this, &RetouchBench::show_tool);
    connect(stop_, &QPushButton::clicked, &controller_, &RetouchController::stop);
    connect(remove_, &QPushButton::clicked, &controller_, &RetouchController::remove);
    connect(here_too_, &QPushButton::clicked, &controller_, &RetouchController::place_here_too);
    connect(follow_, &QPushButton::clicked, &controller_, &RetouchController::follow);
    connect(only_here_, &QPushButton::clicked, &controller_, &RetouchController::only_here);
    connect(all_photos_, &QPushButton::clicked, this, [this] {
        controller_.begin_change();
        controller_.change(
            [](Spot& s) {
                s.first.reset();
                s.last.reset();
            },
            tr("Heal in all photos"));
    });
    connect(heal_from_, &QPushButton::clicked, this, [this] {
        controller_.begin_change();
        controller_.change([](Spot& s) { s.from = s.from == HealFrom::plate ? HealFrom::around : HealFrom::plate; },
                           tr("Change what heals it"));
        controller_.find_sources_again();
    });
    connect(switch_, &QPushButton::clicked, this, [this] {
        controller_.begin_change();
        controller_.change([](Spot& s) { s.on = !s.on; }, tr("Switch a spot"));
    });
    for (ValueField* f : {size_, soft_})
        connect(f, &ValueField::begun, &controller_, &RetouchController::begin_change);
    connect(size_, &ValueField::edited, this,
            [this](double v) { controller_.change([&](Spot& s) { s.radius = v / 100; }, tr("Size a spot")); });
    connect(soft_, &ValueField::edited, this,
            [this](double v) { controller_.change([&](Spot& s) { s.soft = v / 100; }, tr("Soften a spot")); });
}

HealFrom RetouchBench::brush_from() const
{
    return from_->currentIndex() == 1 ? HealFrom::plate : HealFrom::around;
}

void RetouchBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
    show_tool();
}

void RetouchBench::hideEvent(QHideEvent* event)
{
    QWidget::hideEvent(event);
    tool_.reset();
}

void RetouchBench::show_tool()
{
    const bool wanted = isVisible() && !player_.playing() && controller_.shot();
    RetouchTool* brush =
        keep_tool(tool_, picture_, wanted, [this] { return std::make_unique<RetouchTool>(viewing_, controller_); });
    if (!brush)
        return;
    brush->set_brush(brush_->value() / 100, brush_from());
    brush->set_outlines_shown(outlines_->isChecked());
    brush->show_photo(see_plate_->isChecked() ? plate_of(*controller_.shot()) : std::nullopt);
    if (picture_.tool() != brush)
        picture_.set_tool(brush);
}

QString RetouchBench::photos_text(const Spot& spot) const
{
    const Shot& shot = *controller_.shot();
    if (!spot.first && !spot.last)
        return tr("in all photos");
    const auto [begin, end] = range_of(spot, shot);
    return end - begin == 1 ? tr("in photo %1").arg(begin + 1) : tr("in photos %1 to %2").arg(begin + 1).arg(end);
}

/// Only what is seen.
void RetouchBench::refresh()
{
    const Shot* shot = controller_.shot();
    setEnabled(shot != nullptr);
    if (!shot || !isVisible())
        return;
    const auto spots = controller_.spots();
    what_->setVisible(spots.empty());
    const auto plate = plate_of(*shot);
    plate_->setText(
        !plate ? tr("none yet")
        : shot->photos[plate->at()].steps.has<MadePlate>()
            ? tr("made of %n photo(s)", nullptr, int(shot->photos[plate->at()].steps.get<MadePlate>().photos))
            : QString::fromStdString(shown_name(*shot->photos[plate->at()].photo)));
    see_plate_->setVisible(plate.has_value());
    if (!plate)
        see_plate_->setChecked(false);
    no_plate_->setVisible(plate.has_value());
    const bool running = controller_.running();
    for (QPushButton* b : {dust_, make_plate_, follow_})
        b->setEnabled(!running);
    progress_row_->setVisible(running);
    progress_->setValue(int(controller_.fraction() * 1000));
    progress_text_->setText(controller_.progress_text());
    QStringList notes;
    for (const std::string& note : retouch_notes(*shot))
        notes << QString::fromStdString(note);
    say(notes_, notes.join(QStringLiteral(". ")));
    refresh_spot(controller_.spot());
    show_tool();
}

void RetouchBench::refresh_spot(const std::optional<Spot>& spot)
{
    spot_rows_->setVisible(spot.has_value());
    if (!spot)
        return;
    const bool plate = spot->from == HealFrom::plate;
    spot_text_->setText((plate ? tr("support, %1") : tr("spot, %1")).arg(photos_text(*spot)));
    heal_from_->setText(plate ? tr("Heal from around it") : tr("Heal from the plate"));
    switch_->setText(spot->on ? tr("Switch it off") : tr("Switch it on"));
    size_->show_value(spot->radius * 100);
    soft_->show_value(spot->soft * 100);
    here_too_->setVisible(!spot->on_photo);
    follow_->setVisible(!spot->on_photo);
    all_photos_->setVisible(spot->first || spot->last);
}

}
