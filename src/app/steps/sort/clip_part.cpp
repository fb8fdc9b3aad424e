#include "app/steps/sort/clip_part.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QSignalBlocker>

#include <cmath>

namespace frenlo::app {

ClipPart::ClipPart(Background& background, Session& session, Viewing& viewing, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), reading_(background, Rank::measure), way_(new QComboBox),
      value_(new QDoubleSpinBox), average_(new QCheckBox(tr("average the rest"))), about_(secondary({}))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(gap);
    row->addWidget(new QLabel(tr("Take from the clip")));
    way_->addItems({tr("every picture"), tr("one in"), tr("one every"), tr("what makes it faster")});
    way_->setAccessibleName(tr("Take from the clip"));
    way_->setToolTip(tr("Which pictures of the clip become photos. Those that stay keep what was done to them"));
    value_->setAccessibleName(tr("How many"));
    value_->setKeyboardTracking(false);
    average_->setToolTip(
        tr("Each photo is the mean light of the pictures up to the next one, as a long shutter sees it"));
    row->addWidget(way_);
    row->addWidget(value_);
    row->addWidget(average_);
    row->addStretch();
    row->addWidget(about_);
    connect(way_, &QComboBox::activated, this, [this](int way) {
        shown_.way = TakeWay(way);
        show_values(shown_);
        take();
    });
    connect(value_, &QDoubleSpinBox::valueChanged, this, &ClipPart::take);
    connect(average_, &QCheckBox::toggled, this, &ClipPart::take);
    connect(&viewing, &Viewing::shot_changed, this, &ClipPart::refresh);
    connect(&reading_, &Task::failed, this, &ClipPart::failed);
    refresh();
}

void ClipPart::refresh()
{
    const Shot* shot = viewing_.shot();
    const PhotoPtr file = shot ? clip_of(*shot) : nullptr;
    setVisible(file != nullptr);
    if (!file)
        return;
    const auto* kept = shot->steps.find<ShotClip>();
    show_values(kept ? kept->taking : ClipTaking());
    about_->setText(tr("of %1").arg(QLocale().toString(qlonglong(file->pictures))));
}

void ClipPart::show_values(const ClipTaking& taking)
{
    shown_ = taking;
    const QSignalBlocker q1(way_), q2(value_), q3(average_);
    way_->setCurrentIndex(int(taking.way));
    value_->setVisible(taking.way != TakeWay::all);
    average_->setVisible(taking.way != TakeWay::all);
    average_->setChecked(taking.average);
    value_->setDecimals(taking.way == TakeWay::every ? 0 : taking.way == TakeWay::interval ? 3 : 2);
    switch (taking.way) {
    case TakeWay::all:
        break;
    case TakeWay::every:
        value_->setRange(1, double(most_taken_apart));
        value_->setSuffix(tr(" pictures"));
        value_->setValue(double(taking.every));
        break;
    case TakeWay::interval:
        value_->setRange(0.001, 86'400);
        value_->setSuffix(tr(" s of the clip"));
        value_->setValue(taking.interval.value.approx());
        break;
    case TakeWay::speed:
        value_->setRange(1, double(fastest_clip));
        value_->setSuffix(tr(" times as fast"));
        value_->setValue(taking.speed.approx());
        break;
    }
}

ClipTaking ClipPart::entered() const
{
    ClipTaking t = shown_;
    t.way = TakeWay(way_->currentIndex());
    t.average = average_->isChecked() && t.way != TakeWay::all;
    const auto thousandths = Fraction(std::llround(value_->value() * 1000), 1000);
    if (t.way == TakeWay::every)
        t.every = std::llround(value_->value());
    else if (t.way == TakeWay::interval && std::abs(value_->value() - t.interval.value.approx()) > 5e-4)
        t.interval = {thousandths};
    else if (t.way == TakeWay::speed && std::abs(value_->value() - t.speed.approx()) > 5e-3)
        t.speed = thousandths;
    return t;
}

void ClipPart::take()
{
    const Shot* shot = viewing_.shot();
    const PhotoPtr file = shot ? clip_of(*shot) : nullptr;
    if (!file)
        return;
    const ClipTaking taking = entered();
    const ShotId id = shot->id;
    if (clip_ && clip_->file->file == file->file && clip_->file->modified_ns == file->modified_ns)
        return apply(*clip_, id, taking);
    reading_.start(
        {id, "sort"},
        [file](const Job&) {
            const Inspected now = inspect(file->file);
            if (!now.times)
                throw Failure(now.finding ? Problem{now.finding->text, {}, ""}
                                          : Problem{"the clip cannot be read", file->file, "Find it again first"});
            return FoundClip{now.photo, now.times};
        },
        [this, id, taking](const FoundClip& clip) {
            clip_ = clip;
            apply(clip, id, taking);
        });
}

void ClipPart::apply(const FoundClip& clip, ShotId shot, const ClipTaking& taking)
{
    session_.apply(
        [&](const Project& p) {
            const auto at = p.find_shot(shot);
            return at ? take_anew(p, *at, clip, taking) : p;
        },
        tr("Take from the clip"));
}

}
