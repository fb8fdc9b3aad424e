#include "app/steps/pace/order_part.h"

#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>

namespace frenlo::app {

namespace {

QSpinBox* number(const QString& name, int most)
{
    auto* box = new QSpinBox;
    box->setRange(1, most);
    box->setAccessibleName(name);
    box->setFixedWidth(62);
    box->setKeyboardTracking(false);
    return box;
}

}

OrderPart::OrderPart(Session& session, Viewing& viewing, PaceController& pace_controller, Thinning& thinning,
                     QLabel& notice, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), pace_controller_(pace_controller), thinning_(thinning),
      notice_(notice), backwards_(tool(tr("Backwards"), tr("Play the photos from the last to the first"))),
      there_and_back_(tool(tr("There and back"), tr("After the last photo the way back to the first"))),
      turning_(new QComboBox), times_(number(tr("Times"), most_times)),
      at_least_(field(tr("At least"),
                      tr("As many more times as it takes to last this long: 4 s, 96 f; empty is no more"), 64)),
      times_words_(secondary({})), keep_every_(number(tr("Keep every"), 1'000)), marks_(secondary({})),
      at_each_(number(tr("Photos at each mark"), 999)),
      at_marks_(tool(tr("Set aside"), tr("Set so many photos aside from each mark on, the marked one included"))),
      look_(tool({})), found_(secondary({})), select_(tool(tr("Select"), tr("Select what was found, to look at it"))),
      aside_(tool(tr("Set aside"), tr("Set what was found aside; X on the Sheet of Sort brings it back"))),
      steps_(secondary({})), next_step_(tool(tr("Next"), tr("Selects the two photos of the next one"))),
      fill_(tool(tr("Make in-betweens"),
                 tr("In-betweens there and nowhere else; a photo of one frame before them gets two"))),
      part_(tool(tr("Selection backwards"),
                 tr("The selected photos are played from the last to the first, the others as before")))
{
    auto* column = new QGridLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setHorizontalSpacing(gap);
    column->setVerticalSpacing(7);
    column->setColumnStretch(0, 1);
    column->addWidget(heading(tr("Order and repeats")), 0, 0);
    for (QPushButton* b : {backwards_, there_and_back_, part_})
        b->setCheckable(true);
    turning_->setAccessibleName(tr("Turning photos"));
    turning_->addItem(tr("A B C B"), int(Return::once));
    turning_->addItem(tr("A B C B A"), int(Return::to_first));
    turning_->addItem(tr("A B C C B A"), int(Return::twice));
    turning_->setToolTip(tr("The turning photos once, which loops evenly; once and ending on the first; or twice"));
    column->addLayout(line_of({backwards_, there_and_back_, turning_, part_}), 1, 0);
    column->addLayout(line_of({times_, secondary(tr("times, or at least")), at_least_, times_words_}), 2, 0);
    column->addWidget(heading(tr("Thin out")), 3, 0);
    column->addLayout(line_of({secondary(tr("Keep every")), keep_every_, secondary(tr("photo"))}), 4, 0);
    column->addWidget(marks_row(), 5, 0);
    column->addLayout(line_of({look_, found_, select_, aside_}), 6, 0);
    steps_row_ = one_row({steps_, next_step_, fill_});
    column->addWidget(steps_row_, 7, 0);
    column->setRowStretch(8, 1);
    steps_->setAccessibleName(tr("Steps that are too large"));
    next_step_->setAccessibleName(tr("Next step that is too large"));
    connect(next_step_, &QPushButton::clicked, &thinning, &Thinning::go_to_next_step);
    connect(fill_, &QPushButton::clicked, &thinning, &Thinning::fill_steps);
    connect(part_, &QPushButton::clicked, this,
            [this](bool on) { pace_controller_.set_part_backwards(viewing_.selection().photos(), on); });
    connect(&viewing, &Viewing::selection_changed, this, &OrderPart::refresh_part);
    found_->setAccessibleName(tr("Photos without movement"));
    times_words_->setAccessibleName(tr("How often it plays"));
    connect(backwards_, &QPushButton::clicked, &pace_controller, &PaceController::set_backwards);
    connect(there_and_back_, &QPushButton::clicked, this, [this](bool on) {
        pace_controller_.set_there_and_back(on ? Return(turning_->currentData().toInt()) : Return::none);
    });
    connect(turning_, &QComboBox::activated, this,
            [this] { pace_controller_.set_there_and_back(Return(turning_->currentData().toInt())); });
    connect(times_, &QSpinBox::valueChanged, this, &OrderPart::take_times);
    connect(at_least_, &QLineEdit::returnPressed, this, &OrderPart::take_times);
    connect(keep_every_, &QSpinBox::valueChanged, &pace_controller, &PaceController::set_keep_every);
    connect(look_, &QPushButton::clicked, this, [this] { thinning_.running() ? thinning_.stop() : thinning_.look(); });
    connect(select_, &QPushButton::clicked, &thinning, &Thinning::select_found);
    connect(aside_, &QPushButton::clicked, &thinning, &Thinning::set_found_aside);
    connect(&thinning, &Thinning::changed, this, &OrderPart::refresh_thinning);
    connect(&thinning, &Thinning::progress, this, [this](int done, int of) {
        if (thinning_.running())
            found_->setText(tr("%1 of %2").arg(done).arg(of));
    });
    refresh_thinning();
}

QWidget* OrderPart::marks_row()
{
    auto* row = new QWidget;
    auto* layout = line_of({marks_, at_each_, secondary(tr("at each")), at_marks_});
    QPushButton* clear = tool(tr("Clear"), tr("Take the marks away"));
    layout->insertWidget(4, clear);
    row->setLayout(layout);
    at_each_->setValue(2);
    marks_->setAccessibleName(tr("Marks"));
    at_marks_->setAccessibleName(tr("Set aside at marks"));
    aside_->setAccessibleName(tr("Set aside what does not move"));
    connect(at_marks_, &QPushButton::clicked, this, [this] { pace_controller_.set_aside_at_marks(at_each_->value()); });
    connect(clear, &QPushButton::clicked, &pace_controller_, &PaceController::clear_marks);
    return row;
}

void OrderPart::take_times()
{
    const bool none = at_least_->text().trimmed().isEmpty();
    const auto length = none ? std::nullopt : parse_length(at_least_->text(), session_.project().delivered_at);
    mark_wrong(at_least_, !none && !length);
    if (none || length)
        pace_controller_.set_times(times_->value(), length);
    else
        say(&notice_, tr("“%1” is not a length. 4 s and 96 f are.").arg(at_least_->text()));
}

void OrderPart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    const Pacing& pacing = shot->pacing;
    backwards_->setChecked(pacing.backwards);
    there_and_back_->setChecked(pacing.there_and_back != Return::none);
    turning_->setVisible(pacing.there_and_back != Return::none);
    if (pacing.there_and_back != Return::none)
        turning_->setCurrentIndex(turning_->findData(int(pacing.there_and_back)));
    const QSignalBlocker quiet_times(times_);
    const QSignalBlocker quiet_keep(keep_every_);
    times_->setValue(pacing.times);
    keep_every_->setValue(pacing.keep_every);
    if (!at_least_->hasFocus() || !at_least_->property("wrong").toBool())
        at_least_->setText(pacing.at_least ? QString::fromStdString(shown_hold(*pacing.at_least)) : QString());
    at_least_->setPlaceholderText(tr("4 s"));
    times_words_->setText(pacing.at_least ? tr("= %n time(s)", nullptr, int(viewing_.timeline().passes)) : QString());
    const auto marks = int(marked_photos(*shot).size());
    marks_->setText(marks > 0 ? tr("%n mark(s):", nullptr, marks) : tr("M marks:"));
    at_marks_->setEnabled(marks > 0);
    refresh_part();
}

/// Whether what is selected is played backwards.
void OrderPart::refresh_part()
{
    const Shot* shot = viewing_.shot();
    const auto photos = shot ? viewing_.selection().photos() : std::vector<PhotoIndex>();
    part_->setEnabled(photos.size() > 1);
    part_->setChecked(!photos.empty() && std::all_of(photos.begin(), photos.end(), [&](PhotoIndex p) {
        return p.at() < shot->photos.size() && shot->photos[p.at()].backwards;
    }));
}

void OrderPart::refresh_thinning()
{
    const bool running = thinning_.running(), looked = thinning_.looked();
    look_->setText(running ? tr("Stop looking") : tr("Find stumbles"));
    look_->setToolTip(tr("Photos in which nothing moved, and steps that are too large for those about them"));
    const auto too_far = int(thinning_.too_far().size());
    steps_row_->setVisible(looked && too_far > 0);
    steps_->setText(tr("%n step(s) too large", nullptr, too_far));
    const auto found = int(thinning_.found().size());
    look_->setVisible(!looked);
    found_->setText(looked ? found > 0 ? tr("%n photo(s) without movement", nullptr, found) : tr("every photo moves")
                           : QString());
    select_->setVisible(looked && found > 0);
    aside_->setVisible(looked && found > 0);
}

}
