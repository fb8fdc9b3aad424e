#include "app/steps/layers/colour_page.h"

#include "app/widgets/layouts.h"
#include "app/widgets/number_fields.h"
#include "app/widgets/swatch.h"

#include <QPushButton>

namespace frenlo::app {

namespace {

constexpr const char* colour_context = "frenlo::app::ColourPage";
constexpr std::array colour_table{
    NumberField<ColourOut>{&ColourOut::tolerance, QT_TRANSLATE_NOOP("frenlo::app::ColourPage", "take more"),
                           QT_TRANSLATE_NOOP("frenlo::app::ColourPage",
                                             "More where the backdrop is uneven or noisy: what is nearly it goes, too"),
                           "%", 0, 45, 100, 1, 0},
    NumberField<ColourOut>{
        &ColourOut::solid, QT_TRANSLATE_NOOP("frenlo::app::ColourPage", "keep more"),
        QT_TRANSLATE_NOOP("frenlo::app::ColourPage", "More where the figure has holes: what is nearly solid is solid"),
        "%", 0, 45, 100, 1, 0},
    NumberField<ColourOut>{&ColourOut::spill, QT_TRANSLATE_NOOP("frenlo::app::ColourPage", "clean edges"),
                           QT_TRANSLATE_NOOP("frenlo::app::ColourPage",
                                             "Takes the backdrop's tint from the figure, where its light fell on it"),
                           "%", 0, 100, 100, 5, 0},
};

}

ColourPage::ColourPage(LayersController& controller)
    : LayerPage(controller, tr("Colour")),
      pick_(tool(tr("Take a colour out"), tr("Click on a blue, green or other even backdrop in the picture: it becomes "
                                             "transparent, and what lies behind shows"))),
      keep_(tool(tr("Keep the colour"))), fields_(number_fields<ColourOut>(
                                              colour_table, colour_context, [this] { controller_.begin_change(); },
                                              [this](double ColourOut::*member, double value) {
                                                  if (auto out = controller_.colour_out()) {
                                                      (*out).*member = value;
                                                      controller_.set_colour_out(out, tr("Take a colour out"));
                                                  }
                                              }))
{
    pick_->setCheckable(true);
    set_rows({one_row({pick_, keep_}), one_row({fields_[0], fields_[1], fields_[2]})});
    connect(pick_, &QPushButton::clicked, this, &ColourPage::pick);
    connect(keep_, &QPushButton::clicked, this, [this] {
        controller_.begin_change();
        controller_.set_colour_out(std::nullopt, tr("Keep the colour"));
    });
}

void ColourPage::show_picking(bool on)
{
    pick_->setChecked(on);
}

bool ColourPage::applies(const Layer*) const
{
    return controller_.colour_home().has_value() && !controller_.text();
}

void ColourPage::refresh(const Layer* layer)
{
    const auto out = controller_.colour_out();
    pick_->setText(layer ? tr("Take a colour out of the layer") : tr("Take a colour out of the photos"));
    pick_->setIcon(out ? swatch(out->colour) : QIcon());
    keep_->setVisible(out.has_value());
    for (ValueField* f : fields_)
        f->setVisible(out.has_value());
    if (out)
        show_numbers(fields_, colour_table, *out);
}

}
