#include "app/steps/flicker/deflicker_part.h"

#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/flicker/flicker_kind.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>

#include <algorithm>

namespace frenlo::app {

namespace {

bool says_automatic(const QString& text)
{
    return text.trimmed().startsWith(QObject::tr("auto"), Qt::CaseInsensitive);
}

/// "4 s", "automatic (1.7 s)".
QString window_text(const Deflicker& l)
{
    if (l.window_s > 0)
        return QObject::tr("%1 s").arg(l.window_s, 0, 'g', 4);
    return l.found_window_s > 0 ? QObject::tr("automatic (%1 s)").arg(l.found_window_s, 0, 'g', 2)
                                : QObject::tr("automatic");
}

QCheckBox* check(const QString& text, const QString& tip)
{
    auto* box = new QCheckBox(text);
    box->setToolTip(tip);
    return box;
}

}

DeflickerPart::DeflickerPart(Session& session, Viewing& viewing, FlickerController& flicker_controller,
                             PictureView& picture, QLabel& notice, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), flicker_controller_(flicker_controller), notice_(notice),
      window_(
          field(tr("Changes that stay"),
                tr("Changes of the light that take longer than this stay: 4 s, 96 f. Automatic: as fast as the photos "
                   "themselves say, at each of them, so that a cloud stays and flicker goes"),
                128)),
      strength_(field(tr("How much is evened"), tr("How much of the flicker is taken out: 100 % is all of it"), 56)),
      choices_{
          {{check(tr("Each colour"), tr("Red, green and blue by themselves, for flicker in colour")),
            &Deflicker::each_colour, &Corrected::each_colour},
           {check(
                tr("Darks and lights separately"),
                tr("Where the flicker is more than a plain gain: the camera's contrast changed, or its picture style")),
            &Deflicker::by_tone, &Corrected::by_tone},
           {check(tr("Each area by itself"), tr("Where one side of the picture flickers and the other does not")),
            &Deflicker::by_place, &Corrected::by_place},
           {check(tr("Camera steps"), tr("Take out what changes of shutter time, aperture and sensitivity made, by "
                                         "Exif and refined on the photos; "
                                         "without Exif they are found on the photos")),
            &Deflicker::camera_steps, &Corrected::camera_steps}}},
      moving_(check(tr("Leave out what moves"), tr("What moves through the picture does not count"))),
      again_(tool(tr("Choose from the photos"), tr("The four choices as suits the kind of flicker that was measured"))),
      region_(new RegionRow(picture)),
      even_(tool(tr("Remove flicker"), tr("Measure every photo and take out what flickers"))),
      as_shot_(tool(tr("Undo flicker removal"), tr("The photos have their own light again; what was measured goes"))),
      progress_(new QProgressBar), flicker_(secondary({}))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addLayout(line_of({secondary(tr("Keep changes slower than")), window_}));
    column->addLayout(line_of({secondary(tr("Strength of the removal")), strength_}));
    const auto box = [&](std::size_t n) { return choices_[n].box; };
    column->addLayout(line_of({box(0), box(1)}, wide_gap));
    column->addLayout(line_of({box(2), box(3), again_}, wide_gap));
    for (Choice& c : choices_)
        connect(c.box, &QCheckBox::clicked, this, [this, &c] {
            c.by_hand = true;
            again_->show();
        });
    connect(again_, &QPushButton::clicked, this, &DeflickerPart::choose_again);
    column->addLayout(line_of({secondary(tr("Measure")), region_}));
    column->addLayout(line_of({region_->words(), moving_}, wide_gap));
    make_primary(even_);
    progress_->setAccessibleName(tr("Progress of evening"));
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    auto* go = new QHBoxLayout;
    go->setSpacing(gap);
    go->addWidget(even_);
    go->addWidget(as_shot_);
    go->addWidget(progress_, 1);
    go->addStretch();
    column->addLayout(go);
    flicker_->setAccessibleName(tr("Flicker"));
    flicker_->setWordWrap(true);
    column->addWidget(flicker_);
    column->addStretch(1);
    connect(even_, &QPushButton::clicked, this,
            [this] { flicker_controller_.running() ? flicker_controller_.stop() : even(); });
    connect(as_shot_, &QPushButton::clicked, &flicker_controller_, &FlickerController::as_shot);
    connect(region_, &RegionRow::drawn, &flicker_controller_, &FlickerController::set_region);
    connect(&viewing, &Viewing::step_changed, region_, &RegionRow::stop);
    connect(&flicker_controller, &FlickerController::progress, this,
            [this](double fraction) { progress_->setValue(int(fraction * 1000)); });
    for (QLineEdit* f : {window_, strength_})
        connect(f, &QLineEdit::returnPressed, this, &DeflickerPart::even);
}

void DeflickerPart::even()
{
    const auto window =
        says_automatic(window_->text()) ? Seconds{} : parse_length(window_->text(), session_.project().delivered_at);
    const auto strength = parse_share(strength_->text());
    mark_wrong(window_, !window);
    mark_wrong(strength_, !strength);
    say(&notice_, {});
    if (!window) {
        say(&notice_, tr("“%1” is not a length. 4 s, 96 f and automatic are.").arg(window_->text()));
    } else if (!strength) {
        say(&notice_, tr("“%1” is not a share. 0 % to 100 % are.").arg(strength_->text()));
    } else {
        Deflicker deflicker;
        deflicker.window_s = window->value.approx();
        deflicker.strength = *strength;
        for (const Choice& c : choices_)
            if (c.by_hand)
                deflicker.*c.wish = c.box->isChecked();
        deflicker.leave_out_moving = moving_->isChecked();
        progress_->setValue(0);
        region_->stop();
        flicker_controller_.even(deflicker);
    }
}

void DeflickerPart::show_choices(const Deflicker& l)
{
    for (Choice& c : choices_) {
        c.by_hand = (l.*c.wish).has_value();
        c.box->setChecked((l.*c.wish).value_or(l.corrected.*c.done));
    }
    moving_->setChecked(l.leave_out_moving);
    again_->setVisible(std::any_of(choices_.begin(), choices_.end(), [](const Choice& c) { return c.by_hand; }));
}

void DeflickerPart::choose_again()
{
    Deflicker l = seen_ ? seen_->steps.get<Deflicker>() : Deflicker();
    for (const Choice& c : choices_)
        l.*c.wish = std::nullopt;
    l.corrected = what_suits(l.kind);
    l.leave_out_moving = moving_->isChecked();
    show_choices(l);
}

QString DeflickerPart::figures(const Deflicker& l) const
{
    const auto stops = [](double s) { return QString::number(s, 'f', 3); };
    constexpr double worth_it = 0.03; // stops
    QString text = l.kind.size > 0 ? QString::fromStdString(told(l.kind)) + QStringLiteral("\n") : QString();
    text += tr("Flicker %1 stop, before and after").arg(flicker_text(l));
    if (l.corrected.each_colour || l.after.by_colour > worth_it)
        text += tr(" · in colour %1 → %2").arg(stops(l.before.by_colour), stops(l.after.by_colour));
    if (l.corrected.by_place || l.after.by_place > worth_it)
        text += tr(" · from place to place %1 → %2").arg(stops(l.before.by_place), stops(l.after.by_place));
    if (l.corrected.by_tone || l.after.by_tone > worth_it)
        text += tr(" · darks against lights %1 → %2").arg(stops(l.before.by_tone), stops(l.after.by_tone));
    return text;
}

void DeflickerPart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot || viewing_.on_reel())
        return;
    const bool running = flicker_controller_.running(), measured = shot->steps.has<Deflicker>();
    const ShotPtr now = viewing_.edited_shot();
    if (now != seen_ && !running) {
        const bool same_light =
            seen_ &&
            deflicker_of(*seen_) == deflicker_of(*now); // what is being chosen stays when something else changes
        seen_ = now;
        if (!same_light) {
            const Deflicker l = shot->steps.get<Deflicker>();
            window_->setText(window_text(l));
            strength_->setText(tr("%1 %").arg(l.strength * 100, 0, 'g', 4));
            show_choices(l);
        }
    }
    for (QWidget* w : std::initializer_list<QWidget*>{window_, strength_, region_})
        w->setEnabled(!running);
    for (const Choice& c : choices_)
        c.box->setEnabled(!running);
    moving_->setEnabled(!running);
    again_->setEnabled(!running);
    even_->setText(running ? tr("Stop") : measured ? tr("Remove flicker again") : tr("Remove flicker"));
    as_shot_->setVisible(measured && !running);
    progress_->setVisible(running);
    flicker_->setText(measured ? figures(*deflicker_of(*shot))
                               : tr("What all parts of the picture share from photo to photo is flicker; what moves in "
                                    "it, and slow changes "
                                    "of the light, are not. Hold B to see a photo as shot."));
    refresh_place();
}

void DeflickerPart::refresh_place()
{
    const Shot* shot = viewing_.shot();
    const PhotoIndex photo = viewing_.shown_photo();
    if (shot && photo.value >= 0)
        region_->show(light_region_on(*shot, photo), seen_size(shot->photos[photo.at()]));
}

}
