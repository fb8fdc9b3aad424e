#include "app/steps/pace/range_part.h"

#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"
#include "app/work/lengths.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>

namespace frenlo::app {

namespace {

/// "125 photos", "5 s", "96 f".
std::optional<std::variant<PhotoCount, Seconds>> parse_extent(QString text, Rate rate)
{
    text = text.trimmed();
    if (const auto photos = text.indexOf(QObject::tr("photo")); photos > 0) {
        bool fits = false;
        const qlonglong count = text.left(photos).trimmed().toLongLong(&fits);
        if (!fits || count < 1)
            return std::nullopt;
        return PhotoCount{count};
    }
    const auto length = parse_length(text, rate);
    if (!length)
        return std::nullopt;
    return *length;
}

}

RangePart::RangePart(Session& session, Viewing& viewing, PaceController& pace_controller, LoopSearch& loops,
                     QLabel& notice, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), pace_controller_(pace_controller), loops_(loops),
      notice_(notice), from_(field(tr("First kept photo"), tr("Number of the photo; key [ on the Sheet"), 56)),
      to_(field(tr("Last kept photo"), tr("Number of the photo; key ] on the Sheet"), 56)),
      all_(tool(tr("Whole shot"), tr("Keep all photos again"))),
      length_(field(tr("Length of the range"),
                    tr("A length that stays while the range is slid: 5 s, 96 f, 125 photos; empty is free"), 92)),
      length_words_(secondary({})), slide_(new QSlider(Qt::Horizontal)),
      version_(tool(tr("Keep as a version of its own"),
                    tr("Another shot of the same photos, with its own range and timing"))),
      loop_(tool(tr("Find a loop"), tr("Looks for a range that goes round: where it begins again is seen least"))),
      loop_words_(secondary({}))
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(gap);
    grid->setVerticalSpacing(7);
    grid->setColumnStretch(1, 1);
    grid->addWidget(heading(tr("Kept range")), 0, 0, 1, 2);
    auto* photos = new QHBoxLayout;
    photos->setSpacing(5);
    for (QWidget* w : std::initializer_list<QWidget*>{from_, secondary(tr("to")), to_, all_})
        photos->addWidget(w);
    photos->addStretch();
    grid->addWidget(secondary(tr("Photos")), 1, 0);
    grid->addLayout(photos, 1, 1);
    auto* length = new QHBoxLayout;
    length->setSpacing(gap);
    length->addWidget(length_);
    length->addWidget(length_words_);
    length->addStretch();
    grid->addWidget(secondary(tr("Length")), 2, 0);
    grid->addLayout(length, 2, 1);
    grid->addWidget(secondary(tr("Slide")), 3, 0);
    grid->addWidget(slide_, 3, 1);
    grid->addLayout(line_of({loop_, loop_words_}), 4, 0, 1, 2);
    grid->addWidget(version_, 5, 0, 1, 2, Qt::AlignLeft);
    grid->setRowStretch(6, 1);
    slide_->setAccessibleName(tr("Slide the range"));
    slide_->setToolTip(
        tr("Along the photos, also while it plays; Alt with the arrow keys on the Sheet, with Shift by ten"));
    connect(from_, &QLineEdit::returnPressed, this, &RangePart::take_photos);
    connect(to_, &QLineEdit::returnPressed, this, &RangePart::take_photos);
    connect(length_, &QLineEdit::returnPressed, this, &RangePart::take_length);
    connect(all_, &QPushButton::clicked, &pace_controller, &PaceController::keep_all);
    connect(version_, &QPushButton::clicked, &pace_controller, &PaceController::keep_as_version);
    connect(loop_, &QPushButton::clicked, this, [this] { loops_.running() ? loops_.stop() : loops_.try_next(); });
    connect(&loops, &LoopSearch::changed, this, &RangePart::refresh);
    connect(slide_, &QSlider::sliderPressed, this, [this] { ++gesture_; });
    connect(slide_, &QSlider::valueChanged, this, &RangePart::slide_to);
}

void RangePart::take_photos()
{
    const auto last = qlonglong(viewing_.shot()->photos.size());
    bool first_fits = false, last_fits = false;
    const qlonglong a = from_->text().toLongLong(&first_fits), b = to_->text().toLongLong(&last_fits);
    first_fits = first_fits && a >= 1 && a <= last;
    last_fits = last_fits && b >= 1 && b <= last && (!first_fits || b >= a);
    mark_wrong(from_, !first_fits);
    mark_wrong(to_, !last_fits);
    if (!first_fits || !last_fits) {
        say(&notice_, tr("The range goes from a photo to a later one; this shot has photos 1 to %1.").arg(last));
        return;
    }
    const KeptRange kept{PhotoIndex(a - 1), PhotoIndex(b)};
    session_.apply([&](const Project& p) { return set_kept(p, viewing_.shot_index(), kept); },
                   tr("Set the kept range"));
}

void RangePart::take_length()
{
    if (length_->text().trimmed().isEmpty()) {
        mark_wrong(length_, false);
        pace_controller_.fix_length(std::nullopt);
        return;
    }
    const auto extent = parse_extent(length_->text(), session_.project().delivered_at);
    mark_wrong(length_, !extent);
    if (extent)
        pace_controller_.fix_length(extent);
    else
        say(&notice_, tr("“%1” is not a length. 5 s, 96 f and 125 photos are.").arg(length_->text()));
}

void RangePart::slide_to(int position)
{
    const SlideRoom room = slide_room(session_.project(), *viewing_.shot());
    if (!slide_->isSliderDown())
        ++gesture_; // a key or a click on the line
    pace_controller_.slide(position - room.back, gesture_);
}

void RangePart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    const Project& project = session_.project();
    const auto& kept = shot->pacing.kept;
    const auto [begin, end] = kept_photos(project, *shot);
    const auto put = [](QLineEdit* line, const QString& text) {
        if (!line->hasFocus() || !line->property("wrong").toBool())
            line->setText(text);
    };
    put(from_, end > begin ? QString::number(begin.value + 1) : QString());
    put(to_, end > begin ? QString::number(end.value) : QString());
    all_->setEnabled(kept.has_value());
    QString fixed;
    if (kept && std::holds_alternative<PhotoCount>(kept->extent))
        fixed = tr("%n photo(s)", nullptr, int(std::get<PhotoCount>(kept->extent).count));
    else if (kept && std::holds_alternative<Seconds>(kept->extent))
        fixed = QString::fromStdString(shown_hold(std::get<Seconds>(kept->extent)));
    put(length_, fixed);
    length_->setPlaceholderText(tr("free"));
    length_words_->setText(fixed.isEmpty() ? tr("5 s, 96 f, 125 photos") : tr("stays while it is slid"));
    const SlideRoom room = slide_room(project, *shot);
    const QSignalBlocker quiet(slide_);
    slide_->setRange(0, int(room.back + room.on));
    slide_->setValue(int(room.back));
    slide_->setEnabled(kept && room.back + room.on > 0);
    version_->setEnabled(kept.has_value());
    loop_->setText(loops_.running() ? tr("Stop") : loops_.found() ? tr("Try the next loop") : tr("Find a loop"));
    loop_words_->setText(loops_.text());
}

}
