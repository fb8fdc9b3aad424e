#include "app/steps/tone/anchor_row.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/steps/tone/tone_blend.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

AnchorRow::AnchorRow(Viewing& viewing, ToneController& tone_controller, QWidget* parent)
    : QWidget(parent), viewing_(viewing), tone_controller_(tone_controller), state_(secondary({})),

      menu_(tool(tr("Anchors"), tr("Photos that are worth being toned by hand, and what is done about this one"))),
      both_(tool(tr("Two anchors"), tr("Shows this photo beside another anchor photo; both follow every control"))),
      between_(secondary(tr("Between anchors"))),
      by_time_(tool(tr("over time"), tr("Tone goes smoothly from one anchor photo to the next"))),
      by_light_(tool(tr("with the light"), tr("Tone follows how bright each photo is: one dark and one bright anchor "
                                              "serve all passing clouds")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    state_->setAccessibleName(tr("Anchor photos"));
    state_->setWordWrap(true);
    column->addWidget(state_);
    auto* second = new QHBoxLayout;
    second->setSpacing(6);
    second->addWidget(between_);
    for (QPushButton* b : {by_time_, by_light_, both_}) {
        b->setCheckable(true);
        second->addWidget(b);
    }
    second->addStretch();
    column->addLayout(second);
    both_->setChecked(true);
    auto* menu = new QMenu(menu_);
    connect(menu, &QMenu::aboutToShow, this, &AnchorRow::fill_menu);
    menu_->setMenu(menu);
    make_menu_button(menu_);
    connect(by_time_, &QPushButton::clicked, this, [this] { tone_controller_.set_blend(ToneBlend::time); });
    connect(by_light_, &QPushButton::clicked, this, [this] {
        tone_controller_.measuring() ? tone_controller_.stop() : tone_controller_.set_blend(ToneBlend::light);
    });
    connect(both_, &QPushButton::clicked, this, &AnchorRow::show_both_changed);
}

bool AnchorRow::both_shown() const
{
    return both_->isChecked();
}

void AnchorRow::fill_menu()
{
    QMenu* menu = menu_->menu();
    menu->clear();
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    const auto name = [](AnchorSuggestion::Why why) {
        switch (why) {
        case AnchorSuggestion::Why::first:
            return tr("the first");
        case AnchorSuggestion::Why::last:
            return tr("the last");
        case AnchorSuggestion::Why::darkest:
            return tr("the darkest");
        case AnchorSuggestion::Why::brightest:
            return tr("the brightest");
        }
        return QString();
    };
    for (const AnchorSuggestion& s : suggested_anchors(*shot))
        menu->addAction(tr("Go to photo %1, %2").arg(s.photo.value + 1).arg(name(s.why)), this,
                        [this, photo = s.photo] { Q_EMIT photo_chosen(photo); });
    if (tone_light_missing(*shot) > 0)
        menu->addAction(tr("Measure which are darkest and brightest"), &tone_controller_,
                        &ToneController::measure_light);
    const PhotoIndex here = viewing_.shown_photo();
    const bool anchor = here.value >= 0 && anchor_of(shot->photos[here.at()]);
    const std::size_t anchors = anchors_of(*shot).size();
    menu->addSeparator();
    QAction* drop = menu->addAction(tr("Photo %1 is no anchor any more").arg(here.value + 1), &tone_controller_,
                                    &ToneController::drop_anchor);
    drop->setEnabled(anchor && anchors > 1);
    QAction* one = menu->addAction(tr("Tone of photo %1 for all photos").arg(here.value + 1), &tone_controller_,
                                   &ToneController::same_for_all);
    one->setEnabled(anchors > 1);
}

QString AnchorRow::state_text(const Shot& shot, PhotoIndex photo) const
{
    const auto anchors = anchors_of(shot);
    const auto number = [](PhotoIndex p) { return p.value + 1; };
    if (tone_controller_.measuring())
        return tr("Measuring the light of the photos");
    if (anchors.empty())
        return toning_of(shot) && !toning_of(shot)->tone.nothing()
                   ? tr("One tone for all photos. A change here makes photo %1 an anchor").arg(number(photo))
                   : tr("As shot. What is set on one photo holds for the whole shot");
    const bool here = anchor_of(shot.photos[photo.at()]) != nullptr;
    if (anchors.size() == 1)
        return here ? tr("Photo %1 is toned by hand; its tone holds for all").arg(number(photo))
                    : tr("Tone of photo %1. A change here makes photo %2 a second anchor, and tone is blended")
                          .arg(number(anchors.front()))
                          .arg(number(photo));
    const auto at = std::lower_bound(anchors.begin(), anchors.end(), photo);
    const auto place = int(at - anchors.begin());
    if (here)
        return tr("Anchor %1 of %2").arg(place + 1).arg(anchors.size());
    if (at == anchors.begin() || at == anchors.end())
        return tr("As anchor photo %1").arg(number(at == anchors.begin() ? anchors.front() : anchors.back()));
    return tr("Between anchor photos %1 and %2").arg(number(*(at - 1))).arg(number(*at));
}

void AnchorRow::refresh()
{
    const Shot* shot = viewing_.shot();
    const PhotoIndex photo = viewing_.shown_photo();
    if (!shot || photo.value < 0)
        return;
    const std::size_t anchors = anchors_of(*shot).size();
    const bool light = shot->steps.get<Toning>().blend == ToneBlend::light, measuring = tone_controller_.measuring();
    state_->setText(light && !measuring && anchors > 1 && tone_light_missing(*shot) > 0
                        ? look_at_this(tr("The light changed since it was measured. Choose “with the light” again"))
                        : state_text(*shot, photo));
    for (QWidget* w : std::initializer_list<QWidget*>{between_, by_time_, by_light_, both_})
        w->setVisible(anchors > 1);
    by_time_->setChecked(!light);
    by_light_->setChecked(light);
    by_light_->setText(measuring ? tr("Stop measuring") : tr("with the light"));
}

}
