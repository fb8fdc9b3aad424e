#include "app/steps/pace/flow_part.h"

#include "app/steps/pace/between_row.h"
#include "app/widgets/layouts.h"
#include "app/widgets/value_field.h"

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

FlowPart::FlowPart(Viewing& viewing, PaceController& pace_controller, InBetweenSearch& search, Tapping& tapping,
                   TimingFiles& files, QWidget* parent)
    : QWidget(parent), viewing_(viewing), pace_controller_(pace_controller), search_(search), tapping_(tapping),
      files_(files), between_(new BetweenRow), made_(secondary({})),
      check_(tool(tr("Check the in-betweens"), tr("Looks where movement could not be followed, so that the photos were "
                                                  "only mixed"))),
      next_(tool(tr("Next"))), found_(secondary({})), which_(secondary({})),
      here_(
          choice(tr("How this photo becomes the next"), {tr("as the shot does"), tr("repeat"), tr("mix"), tr("motion")},
                 tr("Of the selected photos, or of the one under the player: an in-between that went wrong is refused "
                    "here"))),
      twice_(tool(tr("2 times"), tr("Twice as long, with in-betweens"))),
      four_times_(tool(tr("4 times"), tr("Four times as long, with in-betweens"))),
      as_taken_(tool(tr("Hold as taken"), tr("Each photo is held as its share of the time until the next was "
                                             "taken: a changed interval is not seen. The length stays"))),
      tap_(tool(tr("Tap holds"), tr("From the photo under the player on: Space at each moment when the next one is to "
                                    "begin, Esc ends it. The sound under the shot is heard"))),
      vary_(tool(tr("Vary holds"), tr("Some holds a little longer, others as much shorter, as by hand; again: other "
                                      "ones. The length stays"))),
      by_(new QSpinBox), joint_(new QSpinBox), joint_note_(secondary({})),
      shutter_(
          new ValueField({tr("shutter"),
                          tr("Blurs what moves, as if the shutter stayed open on the way to the next picture: 180° "
                             "is half of it. Each picture is worked out when it is shown"),
                          QStringLiteral("°"), 0, full_turn, 0, 15, 0, false})),
      write_(tool(tr("Write…"), tr("A dopesheet as PDF or table, or an edit list for other programs"))),
      read_(tool(tr("Read holds…"), tr("From a table with the columns hold, and photo or file"))),
      print_(tool(tr("Print…"), tr("The dopesheet")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    column->addWidget(one_row({heading(tr("Between the photos")), made_}));
    column->addWidget(between_);
    column->addWidget(one_row({check_, next_}));
    column->addWidget(found_);
    column->addWidget(one_row({which_, here_}));
    column->addWidget(one_row({secondary(tr("Lengthen")), twice_, four_times_, tap_}));
    by_->setRange(1, 12);
    by_->setSuffix(tr(" f"));
    by_->setAccessibleName(tr("Vary by frames"));
    column->addWidget(one_row({as_taken_, vary_, by_}));
    joint_->setRange(0, most_joint);
    joint_->setSuffix(tr(" f"));
    joint_->setSpecialValueText(tr("none"));
    joint_->setAccessibleName(tr("Mix over the joint"));
    joint_->setToolTip(
        tr("So many of the last frames become what the kept range leaves out before it: the loop goes round "
           "without a seam"));
    joint_row_ = one_row({secondary(tr("Mix over the joint")), joint_, joint_note_});
    column->addWidget(joint_row_);
    connect(joint_, &QSpinBox::valueChanged, &pace_controller, &PaceController::set_joint);
    column->addWidget(one_row({secondary(tr("Blur what moves")), shutter_}));
    connect(shutter_, &ValueField::begun, this, [this] { ++gesture_; });
    connect(shutter_, &ValueField::edited, this,
            [this](double degrees) { pace_controller_.set_shutter(degrees, gesture_); });
    column->addWidget(one_row({secondary(tr("Dopesheet")), write_, read_, print_}));
    column->addStretch(1);
    found_->setAccessibleName(tr("What was found between the photos"));
    connect(between_, &BetweenRow::chosen, &pace_controller, &PaceController::set_between);
    connect(check_, &QPushButton::clicked, this, [this] { search_.running() ? search_.stop() : search_.look(); });
    connect(next_, &QPushButton::clicked, &search, &InBetweenSearch::go_to_next);
    connect(&search, &InBetweenSearch::changed, this, &FlowPart::refresh_search);
    connect(here_, &QComboBox::activated, this, [this](int which) {
        pace_controller_.set_to_next(chosen(), which == 0 ? std::nullopt : std::optional(Between(which - 1)));
    });
    connect(twice_, &QPushButton::clicked, this, [this] { pace_controller_.make_longer(2); });
    connect(four_times_, &QPushButton::clicked, this, [this] { pace_controller_.make_longer(4); });
    connect(write_, &QPushButton::clicked, this, [this] { files_.ask_where_to_write(this); });
    connect(read_, &QPushButton::clicked, this, [this] { files_.ask_what_to_read(this); });
    connect(print_, &QPushButton::clicked, this, [this] { files_.print(this); });
    connect(tap_, &QPushButton::clicked, this, [this] { tapping_.running() ? tapping_.end() : tapping_.start(); });
    connect(&tapping, &Tapping::changed, this, &FlowPart::refresh_tapping);
    connect(as_taken_, &QPushButton::clicked, &pace_controller, &PaceController::hold_as_taken);
    connect(vary_, &QPushButton::clicked, this, [this] { pace_controller_.vary_holds(by_->value(), ++seed_); });
}

std::vector<PhotoIndex> FlowPart::chosen() const
{
    auto photos = viewing_.selection().photos();
    const Schedule& schedule = viewing_.schedule();
    if (photos.empty() && schedule.frames() > 0) // of an in-between the one that it comes from
        photos.push_back(schedule.shares_at(viewing_.playhead()).front().photo);
    return photos;
}

void FlowPart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    const Between way = shot->pacing.between;
    between_->show_way(way);
    const auto moments = viewing_.film() ? viewing_.schedule().moments() : std::vector<Moment>();
    std::int64_t made = 0;
    for (const Moment& m : moments)
        if (m.shares.size() > 1)
            made += m.end - m.begin;
    made_->setText(way == Between::repeat ? tr("every frame is a photo")
                   : made == 0            ? tr("every frame is a photo: the holds are whole frames")
                   : way == Between::mix  ? tr("╱ %n frame(s) mixed", nullptr, int(made))
                                          : tr("╱ %n in-between(s)", nullptr, int(made)));
    refresh_joint(*shot);
    shutter_->show_value(shot->pacing.shutter * full_turn);
    follow_playhead();
    refresh_search();
}

/// It takes photos from before the kept range.
void FlowPart::refresh_joint(const Shot& shot)
{
    const QSignalBlocker quiet(joint_);
    joint_->setValue(shot.pacing.joint);
    const bool range = shot.pacing.kept.has_value(), back = shot.pacing.there_and_back != Return::none;
    joint_row_->setVisible(range || shot.pacing.joint > 0);
    joint_->setEnabled(!back);
    joint_note_->setText(back ? tr("not with a way back")
                         : viewing_.timeline().kept_begin.value == 0 && shot.pacing.joint > 0
                             ? tr("nothing lies before it")
                             : QString());
}

void FlowPart::follow_playhead()
{
    const Shot* shot = viewing_.shot();
    const auto photos = shot ? chosen() : std::vector<PhotoIndex>();
    here_->setEnabled(!photos.empty());
    if (!shot || photos.empty())
        return;
    which_->setText(photos.size() == 1 ? tr("After photo %1").arg(photos.front().value + 1)
                                       : tr("After %n photo(s)", nullptr, int(photos.size())));
    const auto& to_next = shot->photos[photos.front().at()].to_next;
    const QSignalBlocker quiet(here_);
    here_->setCurrentIndex(to_next ? 1 + int(*to_next) : 0);
}

void FlowPart::refresh_tapping()
{
    tap_->setText(tapping_.running() ? tr("Space taps: %1").arg(tapping_.taps()) : tr("Tap holds"));
    tap_->setAccessibleName(tr("Tap holds"));
}

void FlowPart::refresh_search()
{
    const Shot* shot = viewing_.shot();
    const bool motion = shot && shot->pacing.between == Between::motion;
    check_->setVisible(motion);
    check_->setText(search_.running() ? tr("Stop") : tr("Check the in-betweens"));
    next_->setVisible(motion && search_.found() && !search_.running());
    found_->setVisible(motion && !search_.text().isEmpty());
    found_->setText(search_.text());
}

}
