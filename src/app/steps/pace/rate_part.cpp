#include "app/steps/pace/rate_part.h"

#include "app/steps/pace/between_row.h"
#include "app/steps/pace/cadence_view.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/work/lengths.h"
#include "core/steps/pace/even_rate.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

namespace frenlo::app {

namespace {

QString rate_text(Rate rate)
{
    return QObject::tr("%1 fps").arg(QString::fromStdString(rate.text()));
}

std::optional<Rate> rate_in(const QComboBox* box)
{
    QString text = box->currentText();
    return parse_rate(text.remove(QStringLiteral("fps")).toStdString());
}

QComboBox* rate_box(const QString& name)
{
    auto* box = new QComboBox;
    box->setEditable(true);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->setAccessibleName(name);
    box->lineEdit()->setAccessibleName(name);
    box->setMinimumWidth(124);
    box->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    QObject::connect(box->lineEdit(), &QLineEdit::textEdited, box, [box] { mark_wrong(box->lineEdit(), false); });
    return box;
}

}

namespace {

/// So that all fields stand in one line, on whichever page.
int widest_label(const QWidget& where)
{
    return where.fontMetrics().horizontalAdvance(RatePart::tr("Between photos"));
}

}

RatePart::RatePart(Session& session, Viewing& viewing, PaceController& pace_controller, QLabel& notice, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), pace_controller_(pace_controller), notice_(notice),
      delivered_(rate_box(tr("Delivered at"))), pages_(new QStackedWidget), paced_(rate_box(tr("Paced at"))),
      between_(new BetweenRow), cadence_(new CadenceView), cadence_words_(secondary({})), even_(tool({})),
      question_(secondary({})), same_photos_(tool(tr("Same photos per frame"))), same_photos_result_(secondary({})),
      same_time_(tool(tr("Same clock time"))), same_time_result_(secondary({}))
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(7);
    grid->setColumnStretch(1, 1);
    grid->setColumnMinimumWidth(0, widest_label(*this));
    grid->addWidget(heading(tr("Frame rate")), 0, 0, 1, 2);
    grid->setRowMinimumHeight(0, even_->sizeHint().height()); // level with what stands beside it, which has a button
    grid->addWidget(secondary(tr("Delivered at")), 1, 0);
    grid->addWidget(delivered_, 1, 1, Qt::AlignLeft);
    pages_->addWidget(make_usual());
    pages_->addWidget(make_choice());
    grid->addWidget(pages_, 2, 0, 1, 2);
    grid->setRowStretch(3, 1);
    for (const Rate r : usual_rates())
        delivered_->addItem(rate_text(r));
    paced_->addItem(tr("as delivered"));
    for (const Rate r : usual_rates())
        paced_->addItem(rate_text(r));
    delivered_->setToolTip(tr("The frame rate of the file"));
    paced_->setToolTip(tr("The rate in which this shot's holds were thought"));
    connect(delivered_, &QComboBox::activated, this, &RatePart::ask_delivered);
    connect(delivered_->lineEdit(), &QLineEdit::returnPressed, this, &RatePart::ask_delivered);
    connect(paced_, &QComboBox::activated, this, &RatePart::take_paced);
    connect(paced_->lineEdit(), &QLineEdit::returnPressed, this, &RatePart::take_paced);
    connect(between_, &BetweenRow::chosen, this, [this](Between way) { pace_controller_.set_between(way), refresh(); });
}

QWidget* RatePart::make_usual()
{
    auto* page = new QWidget;
    auto* grid = new QGridLayout(page);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(7);
    grid->setColumnStretch(1, 1);
    grid->setColumnMinimumWidth(0, widest_label(*this));
    grid->addWidget(secondary(tr("Paced at")), 0, 0);
    grid->addWidget(paced_, 0, 1, Qt::AlignLeft);
    grid->addWidget(secondary(tr("Between photos")), 1, 0);
    grid->addWidget(between_, 1, 1);
    grid->addWidget(secondary(tr("Cadence")), 2, 0);
    grid->addWidget(cadence_, 2, 1);
    grid->addWidget(cadence_words_, 3, 1);
    grid->addWidget(even_, 4, 1, Qt::AlignLeft);
    grid->setRowStretch(5, 1);
    even_->setAccessibleName(tr("Deliver so that holds are even"));
    even_->setToolTip(tr("The film lasts as long, and every photo stays for whole frames"));
    connect(even_, &QPushButton::clicked, this, [this] {
        if (even_at_)
            pace_controller_.deliver_at(*even_at_, RateIntent::same_clock_time);
    });
    cadence_words_->setAccessibleName(tr("Cadence in words"));
    return page;
}

QWidget* RatePart::make_choice()
{
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    column->addWidget(question_);
    QPushButton* not_now = tool(tr("Leave the rate as it is"));
    for (const auto& [button, result] :
         {std::pair(same_photos_, same_photos_result_), std::pair(same_time_, same_time_result_)}) {
        column->addWidget(button, 0, Qt::AlignLeft);
        column->addWidget(result);
        column->addSpacing(4);
    }
    column->addWidget(not_now, 0, Qt::AlignLeft);
    column->addStretch();
    for (QLabel* l : {same_photos_result_, same_time_result_})
        l->setWordWrap(true);
    same_photos_result_->setAccessibleName(tr("Result with the same photos per frame"));
    same_time_result_->setAccessibleName(tr("Result with the same clock time"));
    same_photos_->setToolTip(tr("Every frame shows what it shows now; the film gets shorter or longer"));
    same_time_->setToolTip(tr("The film lasts as long as now; frames are repeated or left out"));
    connect(same_photos_, &QPushButton::clicked, this, [this] { answer(RateIntent::same_photos_per_frame); });
    connect(same_time_, &QPushButton::clicked, this, [this] { answer(RateIntent::same_clock_time); });
    connect(not_now, &QPushButton::clicked, this, &RatePart::leave);
    return page;
}

void RatePart::ask_delivered()
{
    const auto rate = rate_in(delivered_);
    mark_wrong(delivered_->lineEdit(), !rate);
    if (!rate) {
        say(&notice_, tr("“%1” is not a frame rate. 24, 23.976 and 30000/1001 are.").arg(delivered_->currentText()));
        return;
    }
    if (*rate == session_.project().delivered_at) {
        leave();
        return;
    }
    asked_ = rate;
    question_->setText(tr("From %1 to %2:").arg(rate_text(session_.project().delivered_at), rate_text(*rate)));
    show_result(same_photos_, same_photos_result_, RateIntent::same_photos_per_frame);
    show_result(same_time_, same_time_result_, RateIntent::same_clock_time);
    pages_->setCurrentIndex(1);
    same_photos_->setFocus();
}

/// What this shot would be, computed by doing it.
void RatePart::show_result(QPushButton* button, QLabel* result, RateIntent intent)
{
    try {
        const Project then = frenlo::deliver_at(session_.project(), *asked_, intent);
        const Shot& shot = then.shot(viewing_.shot_index());
        const Schedule schedule = schedule_of(then, shot);
        QString text = length_in_full(schedule.frames(), schedule.rate());
        if (intent == RateIntent::same_clock_time && shot.pacing.between == Between::mix)
            text += tr(" · mixed in between");
        else if (intent == RateIntent::same_clock_time && shot.pacing.between == Between::motion)
            text += tr(" · with in-betweens");
        else if (intent == RateIntent::same_clock_time)
            text += QStringLiteral(" · ") + cadence_words(cadence(pacing_rate(then, shot), then.delivered_at));
        if (const auto lost = schedule.between_frames().size(); lost > 0)
            text += tr(" · %n photo(s) not seen", nullptr, int(lost));
        result->setText(text);
        button->setEnabled(true);
    } catch (const Failure& f) {
        result->setText(QString::fromStdString(f.problem().text()));
        button->setEnabled(false);
    }
}

void RatePart::answer(RateIntent intent)
{
    if (const auto rate = std::exchange(asked_, std::nullopt))
        pace_controller_.deliver_at(*rate, intent);
    leave();
}

void RatePart::leave()
{
    asked_.reset();
    pages_->setCurrentIndex(0);
    refresh();
    Q_EMIT resolved();
}

void RatePart::take_paced()
{
    const bool as_delivered = paced_->currentText() == paced_->itemText(0);
    const auto rate = as_delivered ? std::nullopt : rate_in(paced_);
    mark_wrong(paced_->lineEdit(), !as_delivered && !rate);
    if (as_delivered || rate)
        pace_controller_.set_paced_at(rate);
    else
        say(&notice_, tr("“%1” is not a frame rate. 24, 23.976 and 30000/1001 are.").arg(paced_->currentText()));
}

void RatePart::refresh()
{
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    if (asked_) { // the question stands; its results follow what changes meanwhile
        show_result(same_photos_, same_photos_result_, RateIntent::same_photos_per_frame);
        show_result(same_time_, same_time_result_, RateIntent::same_clock_time);
        return;
    }
    const QSignalBlocker quiet_delivered(delivered_);
    const QSignalBlocker quiet_paced(paced_);
    const Project& project = session_.project();
    delivered_->setCurrentText(rate_text(project.delivered_at));
    paced_->setCurrentText(shot->pacing.paced_at ? rate_text(*shot->pacing.paced_at) : paced_->itemText(0));
    mark_wrong(delivered_->lineEdit(), false);
    mark_wrong(paced_->lineEdit(), false);
    between_->show_way(shot->pacing.between);
    const Cadence c = cadence(pacing_rate(project, *shot), project.delivered_at);
    cadence_->show_cadence(c);
    even_at_ = even_rate(project, *shot);
    even_->setVisible(even_at_.has_value());
    if (even_at_)
        even_->setText(tr("Deliver evenly at %1").arg(rate_text(*even_at_)));
    cadence_words_->setText(even_at_ && c.paced == c.delivered        ? tr("holds differ by a frame")
                            : c.paced == c.delivered                  ? cadence_words(c)
                            : shot->pacing.between == Between::mix    ? tr("mixed by their share of each frame's time")
                            : shot->pacing.between == Between::motion ? tr("carried on from photo to photo")
                                                                      : cadence_words(c));
}

}
