#include "app/steps/pace/hold_part.h"

#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace frenlo::app {

HoldPart::HoldPart(Session& session, Viewing& viewing, PaceController& pace_controller, QLabel& notice, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), pace_controller_(pace_controller), notice_(notice),
      heading_(heading({})),
      all_photos_(tool(tr("All photos"), tr("Nothing is selected any more, so that what is set holds for all (Esc)"))),
      hold_(field(tr("Hold"), tr("Frames or seconds: 2 f, 0.15 s, 1/6 s, 12.5 fps; 0 is not shown"), 76)),
      hold_length_(secondary({})), together_(field(tr("Total length"), tr("What these photos last: 4 s, 96 f"), 64)),
      speed_(
          field(tr("Speed"), tr("100 % is as it is, 200 % twice as fast; the holds are divided, exact in total"), 64)),
      first_(field(tr("Hold of the film's first photo"),
                   tr("How long the film stays on its first photo, once: 12 f, 1 s; empty is its own hold"), 64)),
      last_(field(tr("Hold of the film's last photo"),
                  tr("How long the film stays on its last photo, once: 12 f, 1 s; empty is its own hold"), 64))
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(gap);
    grid->setVerticalSpacing(7);
    auto* top = new QHBoxLayout;
    top->setSpacing(gap);
    top->addWidget(heading_);
    top->addWidget(all_photos_);
    top->addStretch();
    QSizePolicy keeps_place = all_photos_->sizePolicy();
    keeps_place.setRetainSizeWhenHidden(true);
    all_photos_->setSizePolicy(keeps_place);
    grid->addLayout(top, 0, 0, 1, 2);
    connect(all_photos_, &QPushButton::clicked, this, [this] { viewing_.set_selection({}); });
    auto* row = line_of({}, 5);
    for (const int n : {1, 2, 3, 4, 6}) {
        QPushButton* b = tool(QString::number(n), n <= 3 ? tr("Hold for %n frame(s)", nullptr, n) +
                                                               tr(": on %1").arg(n == 1   ? tr("ones")
                                                                                 : n == 2 ? tr("twos")
                                                                                          : tr("threes"))
                                                         : tr("Hold for %n frame(s)", nullptr, n));
        b->setAccessibleName(tr("Hold for %n frame(s)", nullptr, n));
        b->setCheckable(true);
        b->setFixedWidth(30);
        connect(b, &QPushButton::clicked, this, [this, n] {
            pace_controller_.set_hold(Frames{n});
            refresh(); // a button that was pressed again stays down
        });
        holds_.emplace_back(n, b);
        row->addWidget(b);
    }
    row->addWidget(hold_);
    row->addWidget(hold_length_);
    grid->addLayout(row, 1, 0, 1, 2);
    const auto line = [&](int number, const QString& label, std::initializer_list<QWidget*> widgets) {
        QLabel* name = secondary(label);
        grid->addWidget(name, number, 0);
        grid->addLayout(line_of(widgets, 5), number, 1);
        return name;
    };
    QPushButton* evenly = tool(tr("Even holds"), tr("Equal holds of whole frames, the remainder spread evenly"));
    QPushButton* shares = tool(tr("Scale holds"), tr("Longer holds stay longer; exact in total"));
    together_label_ = line(2, tr("Total length"), {together_, evenly, shares});
    line(3, tr("Speed"), {speed_, secondary(tr("of what it is now"))});
    line(4, tr("First photo"), {first_, secondary(tr("last photo")), last_});
    grid->setColumnStretch(1, 1);
    grid->setRowStretch(5, 1);
    connect(hold_, &QLineEdit::returnPressed, this, &HoldPart::take_hold);
    connect(together_, &QLineEdit::returnPressed, this, [this] { take_together(true); });
    connect(evenly, &QPushButton::clicked, this, [this] { take_together(true); });
    connect(shares, &QPushButton::clicked, this, [this] { take_together(false); });
    connect(speed_, &QLineEdit::returnPressed, this, &HoldPart::take_speed);
    connect(first_, &QLineEdit::returnPressed, this, [this] { take_end(first_, true); });
    connect(last_, &QLineEdit::returnPressed, this, [this] { take_end(last_, false); });
}

void HoldPart::take_hold()
{
    const auto hold = parse_hold(hold_->text().toStdString());
    mark_wrong(hold_, !hold);
    if (hold)
        pace_controller_.set_hold(*hold);
    else
        say(&notice_, tr("“%1” is not a hold. 2 f, 0.15 s, 1/6 s and 12.5 fps are.").arg(hold_->text()));
}

void HoldPart::take_together(bool evenly)
{
    const auto length = parse_length(together_->text(), session_.project().delivered_at);
    mark_wrong(together_, !length);
    if (!length)
        say(&notice_, tr("“%1” is not a length. 4 s and 96 f are.").arg(together_->text()));
    else
        evenly ? pace_controller_.spread(*length) : pace_controller_.fit(*length);
}

void HoldPart::take_speed()
{
    QString text = speed_->text();
    const auto percent = parse_fraction(text.remove(QLatin1Char('%')).toStdString());
    const bool fits = percent && *percent >= Fraction(1, 100) && *percent <= Fraction(100'000);
    mark_wrong(speed_, !fits);
    if (!fits) {
        say(&notice_, tr("“%1” is not a speed. 50 % and 200 % are.").arg(speed_->text()));
        return;
    }
    pace_controller_.speed(*percent / Fraction(100));
    speed_->clear();
}

void HoldPart::take_end(QLineEdit* end, bool first)
{
    const bool none = end->text().trimmed().isEmpty();
    const auto hold = none ? std::nullopt : parse_hold(end->text().toStdString());
    mark_wrong(end, !none && !hold);
    if (!none && !hold)
        say(&notice_, tr("“%1” is not a hold. 2 f, 0.15 s, 1/6 s and 12.5 fps are.").arg(end->text()));
    else
        first ? pace_controller_.set_first_hold(hold) : pace_controller_.set_last_hold(hold);
}

void HoldPart::refresh_hold(const Shot& shot)
{
    const auto photos = viewing_.chosen_or_all();
    all_photos_->setVisible(!viewing_.selection().empty());
    heading_->setText(viewing_.selection().empty() ? tr("Hold for all %n photo(s)", nullptr, int(photos.size()))
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
    hold_length_->setText(
        same ? tr("= %1 s").arg(length_of(*same, pacing_rate(session_.project(), shot)).value.approx(), 0, 'f', 3)
             : QString());
}

void HoldPart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    refresh_hold(*shot);
    together_label_->setText(pace_controller_.length_is_of_range() ? tr("Kept length") : tr("Total length"));
    const auto length = pace_controller_.length_of_chosen();
    if (!together_->hasFocus())
        together_->setText(length ? QString::fromStdString(shown_seconds(*length)) : QString());
    speed_->setPlaceholderText(tr("100 %"));
    const auto end = [](QLineEdit* line, const std::optional<Hold>& hold) {
        if (!line->hasFocus() || !line->property("wrong").toBool())
            line->setText(hold ? QString::fromStdString(shown_hold(*hold)) : QString());
        line->setPlaceholderText(tr("as held"));
    };
    end(first_, shot->pacing.first_hold);
    end(last_, shot->pacing.last_hold);
}

}
