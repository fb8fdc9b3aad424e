#include "app/picture/transport.h"

#include "app/theme/theme.h"
#include "core/timing/timecode.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace frenlo::app {

Transport::Transport(Viewing& viewing, Player& player, QWidget* parent)
    : QWidget(parent), viewing_(viewing), player_(player), play_(new QPushButton(tr("Play"))),
      loop_(new QPushButton(tr("Loop"))), clock_(new QLabel), total_(new QLabel), rate_(new QLabel)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(12, 6, 12, 6);
    row->setSpacing(gap);
    auto* back = new QPushButton(tr("← frame"));
    auto* on = new QPushButton(tr("frame →"));
    back->setToolTip(tr("One frame back (,)"));
    on->setToolTip(tr("One frame on (.)"));
    play_->setToolTip(tr("Play or stop (Space)"));
    loop_->setToolTip(tr("Go on at the start after the last frame"));
    make_primary(play_);
    play_->setMinimumWidth(64);
    loop_->setCheckable(true);
    for (QPushButton* b : {back, play_, on, loop_}) {
        b->setFocusPolicy(Qt::TabFocus);
        row->addWidget(b);
    }
    row->addStretch();
    QFont big = clock_->font();
    big.setPixelSize(19);
    big.setWeight(QFont::DemiBold);
    clock_->setFont(big);
    clock_->setStyleSheet(QStringLiteral("font-size: 19px; font-weight: 600;"));
    clock_->setAccessibleName(tr("Clock"));
    rate_->setAccessibleName(tr("Frame rate reached"));
    make_secondary(total_);
    make_secondary(rate_);
    rate_->setMinimumWidth(96);
    rate_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    row->addWidget(clock_);
    row->addWidget(total_);
    row->addWidget(rate_);

    connect(back, &QPushButton::clicked, &viewing, [&viewing] { viewing.step_frames(-1); });
    connect(on, &QPushButton::clicked, &viewing, [&viewing] { viewing.step_frames(1); });
    connect(play_, &QPushButton::clicked, &player, &Player::toggle);
    connect(loop_, &QPushButton::clicked, &player, &Player::set_loop);
    connect(&player, &Player::state_changed, this, &Transport::refresh);
    connect(&viewing, &Viewing::playhead_changed, this, &Transport::refresh);
    connect(&viewing, &Viewing::shot_changed, this, &Transport::refresh);
    rate_timer_.setInterval(250);
    connect(&rate_timer_, &QTimer::timeout, this, &Transport::refresh);
    refresh();
}

void Transport::refresh()
{
    const Schedule& schedule = viewing_.schedule();
    play_->setText(player_.playing() ? tr("Stop") : tr("Play"));
    play_->setEnabled(schedule.frames() > 0);
    loop_->setChecked(player_.loops());
    clock_->setText(QString::fromStdString(clock_text(viewing_.playhead().value, schedule.rate())));
    total_->setText(tr("of %1").arg(QString::fromStdString(clock_text(schedule.frames(), schedule.rate()))));
    const QString rate = QString::fromStdString(schedule.rate().text());
    if (const auto reached = player_.reached())
        rate_->setText(tr("%1 / %2 fps").arg(*reached, 0, 'f', 1).arg(rate));
    else
        rate_->setText(tr("%1 fps").arg(rate));
    if (player_.playing() != rate_timer_.isActive())
        player_.playing() ? rate_timer_.start() : rate_timer_.stop();
}

}
