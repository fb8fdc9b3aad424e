#include "app/bench/pace/pace_bench.h"

#include "app/bench/layouts.h"
#include "app/theme/theme.h"
#include "core/base/text.h"
#include "core/document/edits.h"
#include "core/timing/timecode.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <optional>

namespace frenlo::app {

namespace {

QString rate_text(Rate rate)
{
    return QObject::tr("%1 fps").arg(QString::fromStdString(rate.text()));
}

std::optional<Rate> rate_in(const QComboBox* box)
{
    QString text = box->currentText();
    text.remove(QStringLiteral("fps"));
    return parse_rate(text.toStdString());
}

QComboBox* rate_box(const QString& name)
{
    auto* box = new QComboBox;
    box->setEditable(true);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->setAccessibleName(name);
    box->setMinimumWidth(132);
    return box;
}

}

PaceBench::PaceBench(Session& session, Viewing& viewing, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), hold_heading_(heading({})), hold_(new QLineEdit),
      hold_length_(secondary({})), delivered_(rate_box(tr("Delivered at"))), paced_(rate_box(tr("Paced at"))),
      result_(new QLabel), between_(notice())
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(12);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(wide_gap);
    halves->addWidget(hold_part(), 1);
    halves->addWidget(rate_part(), 1);
    column->addLayout(halves);
    column->addWidget(between_);
    column->addStretch();
    connect(&viewing, &Viewing::shot_changed, this, &PaceBench::refresh);
    connect(&viewing, &Viewing::selection_changed, this, &PaceBench::refresh);
    refresh();
}

QWidget* PaceBench::hold_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(gap);
    column->addWidget(hold_heading_);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    for (const int n : {1, 2, 3, 4, 6}) {
        QPushButton* b = tool(QString::number(n), tr("Hold for %n frame(s)", nullptr, n));
        b->setAccessibleName(tr("Hold for %n frame(s)", nullptr, n));
        b->setCheckable(true);
        b->setFixedWidth(32);
        connect(b, &QPushButton::clicked, this, [this, n] { set_hold_of_chosen(Frames{n}); });
        holds_.emplace_back(n, b);
        row->addWidget(b);
    }
    hold_->setAccessibleName(tr("Hold"));
    hold_->setToolTip(tr("Frames or seconds: 2 f, 0.15 s, 1/6 s, 12.5 fps"));
    hold_->setFixedWidth(72);
    row->addWidget(hold_);
    row->addStretch();
    column->addLayout(row);
    column->addWidget(hold_length_);
    column->addWidget(secondary(tr("Keys 1 to 9 set the hold in frames.")));
    column->addStretch();
    connect(hold_, &QLineEdit::returnPressed, this, &PaceBench::take_hold_field);
    connect(hold_, &QLineEdit::textEdited, this, [this] { mark_wrong(hold_, false); });
    return part;
}

QWidget* PaceBench::rate_part()
{
    auto* part = new QWidget;
    auto* grid = new QGridLayout(part);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(12);
    grid->setVerticalSpacing(gap);
    grid->setColumnStretch(1, 1);
    grid->addWidget(heading(tr("Frame rate")), 0, 0, 1, 2);
    grid->addWidget(secondary(tr("Delivered at")), 1, 0);
    grid->addWidget(delivered_, 1, 1, Qt::AlignLeft);
    grid->addWidget(secondary(tr("Paced at")), 2, 0);
    grid->addWidget(paced_, 2, 1, Qt::AlignLeft);
    grid->addWidget(secondary(tr("This shot")), 3, 0, Qt::AlignTop);
    result_->setAccessibleName(tr("Length of the shot"));
    grid->addWidget(result_, 3, 1);
    for (const Rate r : usual_rates())
        delivered_->addItem(rate_text(r));
    paced_->addItem(tr("as delivered"));
    for (const Rate r : usual_rates())
        paced_->addItem(rate_text(r));
    delivered_->setToolTip(tr("The frame rate of the file. Shots paced as delivered keep the frames of each photo."));
    paced_->setToolTip(tr("The rate in which this shot's holds were thought. It then keeps its clock time."));
    for (QComboBox* box : {delivered_, paced_})
        connect(box->lineEdit(), &QLineEdit::textEdited, box, [box] { mark_wrong(box->lineEdit(), false); });
    connect(delivered_, &QComboBox::activated, this, &PaceBench::take_delivered);
    connect(delivered_->lineEdit(), &QLineEdit::returnPressed, this, &PaceBench::take_delivered);
    connect(paced_, &QComboBox::activated, this, &PaceBench::take_paced);
    connect(paced_->lineEdit(), &QLineEdit::returnPressed, this, &PaceBench::take_paced);
    return part;
}

void PaceBench::set_hold_of_chosen(Hold hold)
{
    if (!viewing_.shot())
        return;
    const auto photos = viewing_.chosen_or_all();
    session_.apply([&](const Project& p) { return set_hold(p, viewing_.shot_index(), photos, hold); }, tr("Set hold"));
    refresh(); // a button that was pressed again stays down
}

void PaceBench::take_hold_field()
{
    const auto hold = parse_hold(hold_->text().toStdString());
    mark_wrong(hold_, !hold);
    if (hold)
        set_hold_of_chosen(*hold);
    else
        say(between_, tr("“%1” is not a hold. 2 f, 0.15 s, 1/6 s and 12.5 fps are.").arg(hold_->text()));
}

void PaceBench::take_delivered()
{
    const auto rate = rate_in(delivered_);
    mark_wrong(delivered_->lineEdit(), !rate);
    if (rate)
        session_.apply([&](const Project& p) { return set_delivered_at(p, *rate); }, tr("Set the delivery rate"));
    else
        say(between_, tr("“%1” is not a frame rate. 24, 23.976 and 30000/1001 are.").arg(delivered_->currentText()));
}

void PaceBench::take_paced()
{
    const bool as_delivered = paced_->currentText() == paced_->itemText(0);
    const auto rate = as_delivered ? std::nullopt : rate_in(paced_);
    mark_wrong(paced_->lineEdit(), !as_delivered && !rate);
    if (as_delivered || rate)
        session_.apply([&](const Project& p) { return set_paced_at(p, viewing_.shot_index(), rate); },
                       tr("Set the pacing rate"));
    else
        say(between_, tr("“%1” is not a frame rate. 24, 23.976 and 30000/1001 are.").arg(paced_->currentText()));
}

void PaceBench::refresh_hold(const Shot& shot)
{
    const auto photos = viewing_.chosen_or_all();
    const bool all = viewing_.selection().empty();
    hold_heading_->setText(all ? tr("Hold for all %n photo(s)", nullptr, int(photos.size()))
                               : tr("Hold for %n selected photo(s)", nullptr, int(photos.size())));
    std::optional<Hold> same;
    bool mixed = false;
    for (const PhotoIndex p : photos) {
        const Hold& h = shot.photos[p.at()].hold;
        mixed = mixed || (same && *same != h);
        same = h;
    }
    if (mixed)
        same.reset();
    for (const auto& [n, button] : holds_)
        button->setChecked(same && *same == Hold(Frames{n}));
    if (!hold_->hasFocus() || !hold_->property("wrong").toBool())
        hold_->setText(same ? QString::fromStdString(shown_hold(*same)) : QString());
    hold_->setPlaceholderText(mixed ? tr("different") : QString());
    const Rate paced = shot.paced_at.value_or(session_.project().delivered_at);
    hold_length_->setText(
        same ? tr("= %1 s a photo").arg(length_of(*same, paced).value.approx(), 0, 'f', 3) : QString());
}

void PaceBench::refresh()
{
    const Shot* shot = viewing_.shot();
    setEnabled(shot != nullptr);
    if (!shot)
        return;
    refresh_hold(*shot);
    const QSignalBlocker quiet_delivered(delivered_);
    const QSignalBlocker quiet_paced(paced_);
    delivered_->setCurrentText(rate_text(session_.project().delivered_at));
    paced_->setCurrentText(shot->paced_at ? rate_text(*shot->paced_at) : paced_->itemText(0));
    mark_wrong(delivered_->lineEdit(), false);
    mark_wrong(paced_->lineEdit(), false);

    const Schedule& schedule = viewing_.schedule();
    result_->setText(tr("%n photo(s)", nullptr, int(photos_in_film(*shot))) +
                     tr(" · %1 frames · %2")
                         .arg(schedule.frames())
                         .arg(QString::fromStdString(shown_seconds(schedule.length()))));
    const auto lost = schedule.between_frames();
    if (lost.empty()) {
        say(between_, {});
        return;
    }
    const QString first = QString::fromStdString(shown_path(shot->photos[lost.front().at()].photo->file.filename()));
    say(between_, lost.size() == 1
                      ? tr("%1 is held for less than a frame, falls between two frames and will not be seen.").arg(first)
                      : tr("%1 photos, from %2 on, fall between two frames and will not be seen. Hold them longer or "
                           "deliver at a higher rate.")
                            .arg(lost.size())
                            .arg(first));
}

}
