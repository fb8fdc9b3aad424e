#include "app/picture/transport.h"

#include "app/picture/picture_view.h"
#include "app/theme/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/layouts.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace frenlo::app {

Transport::Transport(Viewing& viewing, Player& player, PictureView& picture, QWidget* parent)
    : QWidget(parent), viewing_(viewing), player_(player), picture_(picture), play_(new QPushButton(tr("Play"))),
      loop_(tool(tr("Loop"), tr("Go on at the start after the last frame"))),
      range_(tool(tr("Range"), tr("Play only what lies between the brackets"))),
      onion_(tool(tr("Onion skin"), tr("Photos before and after this one, seen through it (G)"))),
      speed_(new QComboBox), clock_(new QLabel), total_(new QLabel), rate_(new QLabel)
{
    auto* row = new FlowLayout(this, true);
    row->setContentsMargins(8, 6, 8, 6);
    row->setSpacing(2);
    QPushButton* back = tool(tr("←"), tr("One frame back (,)"));
    QPushButton* on = tool(tr("→"), tr("One frame on (.)"));
    for (QPushButton* b : {back, on})
        b->setFixedWidth(30);
    back->setAccessibleName(tr("One frame back"));
    on->setAccessibleName(tr("One frame on"));
    play_->setToolTip(tr("Play or stop (Space)"));
    play_->setFocusPolicy(Qt::TabFocus);
    make_primary(play_);
    play_->setMinimumWidth(56);
    for (QPushButton* b : {loop_, range_, onion_})
        b->setCheckable(true);
    speed_->setAccessibleName(tr("Speed of the player"));
    speed_->setToolTip(tr("How fast it plays here; the film stays as it is"));
    speed_->setFocusPolicy(Qt::TabFocus);
    speed_->setFixedWidth(74);
    speed_->addItem(tr("full"), 1);
    speed_->addItem(tr("half"), 2);
    speed_->addItem(tr("quarter"), 4);
    QPushButton* more = tool(QString(), tr("How many photos, how strong"));
    more->setAccessibleName(tr("Set the onion skin"));
    more->setFixedWidth(26);
    make_menu_button(more);
    more->setMenu(make_onion_menu(picture, more));
    for (QWidget* w : std::initializer_list<QWidget*>{back, play_, on, loop_, range_, speed_, onion_})
        row->addWidget(w);
    row->addWidget(more);
    clock_->setStyleSheet(QStringLiteral("font-size: 17px; font-weight: 600;"));
    clock_->setAccessibleName(tr("Clock"));
    total_->setAccessibleName(tr("Length of the page"));
    rate_->setAccessibleName(tr("Frame rate reached"));
    make_secondary(total_);
    make_secondary(rate_);
    // What is reached says as much as it can at once: the line stays as wide, and so does the Sheet.
    rate_->setMinimumWidth(rate_->fontMetrics().horizontalAdvance(tr("%1 fps").arg(QStringLiteral("23.976"))));
    rate_->setToolTip(tr("Frames a second in the film; while it plays, those that are seen"));
    rate_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    auto* times = new QWidget;
    auto* beside = new QHBoxLayout(times);
    beside->setContentsMargins(0, 0, 0, 0);
    beside->setSpacing(3);
    for (QLabel* label : {clock_, total_, rate_})
        beside->addWidget(label);
    row->addWidget(times);

    connect(back, &QPushButton::clicked, &viewing, [&viewing] { viewing.step_frames(-1); });
    connect(on, &QPushButton::clicked, &viewing, [&viewing] { viewing.step_frames(1); });
    connect(play_, &QPushButton::clicked, &player, &Player::toggle);
    connect(loop_, &QPushButton::clicked, &player, &Player::set_loop);
    connect(range_, &QPushButton::clicked, &player, &Player::set_range_only);
    connect(speed_, &QComboBox::activated, &player,
            [this] { player_.set_speed(Fraction(1, speed_->currentData().toInt())); });
    connect(onion_, &QPushButton::clicked, &picture, [&picture](bool wanted) {
        OnionSkin skin = picture.onion_skin();
        skin.on = wanted;
        picture.set_onion_skin(skin);
    });
    connect(&picture, &PictureView::onion_skin_changed, this, &Transport::refresh_onion);
    connect(&player, &Player::state_changed, this, &Transport::refresh);
    for (const auto signal : {&Viewing::playhead_changed, &Viewing::shot_changed, &Viewing::counting_changed})
        connect(&viewing, signal, this, &Transport::refresh);
    rate_timer_.setInterval(250);
    connect(&rate_timer_, &QTimer::timeout, this, &Transport::refresh);
    refresh();
    refresh_onion();
}

void Transport::refresh_onion()
{
    onion_->setChecked(picture_.onion_skin().on);
}

void Transport::refresh()
{
    const Schedule& schedule = viewing_.schedule();
    play_->setText(player_.playing() ? tr("Stop") : tr("Play"));
    play_->setEnabled(schedule.frames() > 0);
    loop_->setChecked(player_.loops());
    range_->setChecked(player_.range_only());
    // A range that is the whole page is none.
    range_->setEnabled(viewing_.film_frames() > 0 && viewing_.film_frames() < schedule.frames());
    clock_->setText(viewing_.length_text(viewing_.playhead().value));
    total_->setText(tr("of %1").arg(viewing_.length_text(schedule.frames())));
    const QString rate = QString::fromStdString(schedule.rate().text());
    if (const auto reached = player_.reached())
        rate_->setText(tr("%1 fps").arg(*reached, 0, 'f', 1));
    else
        rate_->setText(tr("%1 fps").arg(rate));
    if (player_.playing() != rate_timer_.isActive())
        player_.playing() ? rate_timer_.start() : rate_timer_.stop();
}

}
