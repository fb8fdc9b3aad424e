#include "app/steps/shoot/shoot_tools.h"

#include "app/theme/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/layouts.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>

#include <array>
#include <cmath>

namespace frenlo::app {

namespace {

struct Choice
{
    const char* name;
    LiveLook::Over over;
    int photos;
};
const std::array choices{
    Choice{QT_TRANSLATE_NOOP("frenlo::app::ShootTools", "Live alone"), LiveLook::Over::nothing, 1},
    Choice{QT_TRANSLATE_NOOP("frenlo::app::ShootTools", "Onion skin, 1 back"), LiveLook::Over::seen_through, 1},
    Choice{QT_TRANSLATE_NOOP("frenlo::app::ShootTools", "Onion skin, 2 back"), LiveLook::Over::seen_through, 2},
    Choice{QT_TRANSLATE_NOOP("frenlo::app::ShootTools", "Onion skin, 3 back"), LiveLook::Over::seen_through, 3},
    Choice{QT_TRANSLATE_NOOP("frenlo::app::ShootTools", "What differs"), LiveLook::Over::difference, 1},
    Choice{QT_TRANSLATE_NOOP("frenlo::app::ShootTools", "Blink"), LiveLook::Over::blink, 1},
    Choice{QT_TRANSLATE_NOOP("frenlo::app::ShootTools", "The last photo"), LiveLook::Over::last_photo, 1}};

}

ShootTools::ShootTools(ShootController& controller, CameraDesk& desk, LiveView& view, QWidget* parent)
    : QWidget(parent), controller_(controller), desk_(desk), view_(view), take_(new QPushButton(tr("Take photo"))),
      retake_(tool(tr("Retake"))), aside_(tool(tr("Set aside"), tr("The last photo stays, out of the film"))),
      live_(tool(tr("Live"), tr("The live picture, or the photo under the player"))),
      play_(tool(tr("Play"), tr("The last photos as they are held, and the live picture as the next, round and round "
                                "(Space)"))),
      over_(choice(tr("What is seen with the live picture"), {},
                   tr("How the last photos are compared with the live picture (G goes through them)"))),
      strength_(new QSlider(Qt::Horizontal)), clock_(new QLabel)
{
    auto* row = new FlowLayout(this, true);
    row->setContentsMargins(10, 6, 10, 6);
    row->setSpacing(5);
    make_primary(take_);
    take_->setFocusPolicy(Qt::TabFocus);
    for (QPushButton* b : {live_, play_})
        b->setCheckable(true);
    live_->setAccessibleName(tr("Show the live picture"));
    strength_->setRange(5, 100);
    strength_->setFixedWidth(60);
    strength_->setAccessibleName(tr("Strength of what is seen with it"));
    strength_->setToolTip(tr("How strongly it is seen"));
    for (QWidget* w : std::initializer_list<QWidget*>{take_, retake_, aside_, live_, play_, over_, strength_})
        row->addWidget(w);
    clock_->setStyleSheet(QStringLiteral("font-size: 17px; font-weight: 600;"));
    clock_->setAccessibleName(tr("Where the next photo begins"));
    clock_->setToolTip(tr("Where the next photo begins in its film"));
    row->addWidget(clock_);

    connect(take_, &QPushButton::clicked, this, [this] { desk_.in_series() ? desk_.stop() : controller_.take(); });
    connect(retake_, &QPushButton::clicked, &controller, &ShootController::retake);
    connect(aside_, &QPushButton::clicked, &controller, &ShootController::set_last_aside);
    connect(live_, &QPushButton::clicked, this, &ShootTools::live_wanted);
    connect(play_, &QPushButton::clicked, this, &ShootTools::play_wanted);
    for (const Choice& one : choices)
        over_->addItem(tr(one.name));
    connect(over_, &QComboBox::activated, this, &ShootTools::choose);
    connect(strength_, &QSlider::valueChanged, this, [this](int value) {
        LiveLook look = view_.look();
        look.strength = value / 100.0;
        view_.set_look(look);
    });
    connect(&view, &LiveView::look_changed, this, &ShootTools::refresh_look);
    connect(&controller, &ShootController::changed, this, &ShootTools::refresh);
    connect(&desk, &CameraDesk::state_changed, this, &ShootTools::refresh);
    set_key(QString());
    set_live(true);
    refresh();
    refresh_look();
}

void ShootTools::set_key(const QString& key)
{
    key_ = key;
    take_->setToolTip(key.isEmpty() ? tr("Take a photo") : tr("Take a photo (%1)").arg(key));
    retake_->setToolTip(tr("Takes the selected photo anew, or the last one; the old one is set aside"));
}

void ShootTools::set_live(bool on)
{
    live_->setChecked(on);
    play_->setChecked(view_.playing());
    for (QWidget* w : std::initializer_list<QWidget*>{over_, strength_})
        w->setEnabled(on);
}

void ShootTools::choose(int index)
{
    LiveLook look = view_.look();
    look.over = choices.at(std::size_t(index)).over;
    if (look.over == LiveLook::Over::seen_through)
        look.photos = choices.at(std::size_t(index)).photos;
    view_.set_look(look);
}

void ShootTools::choose_next()
{
    choose((over_->currentIndex() + 1) % over_->count());
}

void ShootTools::refresh_look()
{
    const LiveLook& look = view_.look();
    for (std::size_t i = 0; i < choices.size(); ++i)
        if (choices[i].over == look.over &&
            (look.over != LiveLook::Over::seen_through || choices[i].photos == look.photos))
            over_->setCurrentIndex(int(i));
    strength_->setVisible(look.over == LiveLook::Over::seen_through || look.over == LiveLook::Over::difference);
    const QSignalBlocker quiet(strength_);
    strength_->setValue(int(std::lround(look.strength * 100)));
}

void ShootTools::refresh()
{
    const NextPhoto next = controller_.next();
    take_->setText(desk_.in_series() ? tr("Stop") : tr("Take photo"));
    take_->setEnabled(desk_.is_open() && (!desk_.taking() || desk_.in_series()));
    const bool can = desk_.is_open() && !desk_.taking() && next.shot && last_taken(*next.shot);
    retake_->setEnabled(can);
    aside_->setEnabled(next.shot && last_taken(*next.shot));
    play_->setEnabled(!next.before.empty());
    clock_->setText(tr("%1 s").arg(next.seconds, 0, 'f', 2));
}

}
