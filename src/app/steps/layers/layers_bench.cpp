#include "app/steps/layers/layers_bench.h"

#include "app/picture/keep_tool.h"
#include "app/picture/player.h"
#include "app/steps/layers/colour_page.h"
#include "app/steps/layers/pen_page.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QFileDialog>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

namespace frenlo::app {

LayersBench::LayersBench(Session& session, Viewing& viewing, LayersController& controller, PictureView& picture,
                         Player& player, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), controller_(controller), picture_(picture),
      player_(player), list_(new LayerList(viewing, controller)),
      add_film_(tool(tr("Add a shot…"), tr("Another shot of the project, with its own holds, as a layer"))),
      up_(tool(tr("Move up"), tr("Over the layer above it"))),
      down_(tool(tr("Move down"), tr("Below the layer under it"))),
      lock_(tool(tr("Lock it"), tr("Hands and fields leave it alone until it is unlocked"))),
      remove_(tool(tr("Take it away"))), go_(tool(tr("Go to its shot"), tr("To its photos, their tone and holds"))),
      empty_(secondary(tr("A layer lies over the photos: a picture, text, another shot, or what you draw. It is there "
                          "from one frame to another, and moves through keys."))),
      pen_(new PenPage(controller)), colour_(new ColourPage(controller)), text_(text_page(controller)),
      place_(place_page(controller)), page_(place_)
{
    auto* column = scrolled_column(this);
    column->setContentsMargins(14, 4, 14, 4);
    column->setSpacing(4);
    column->addWidget(list_part());
    empty_->setWordWrap(true);
    column->addWidget(empty_);
    auto* choose = new QHBoxLayout;
    choose->setSpacing(6);
    column->addLayout(choose);
    for (LayerPage* page :
         std::initializer_list<LayerPage*>{pen_, text_, place_, keys_page(controller), when_page(controller),
                                           look_page(controller), shadow_page(controller), colour_}) {
        auto* button = tool(page->name());
        button->setCheckable(true);
        choose->addWidget(button);
        column->addWidget(page);
        pages_.emplace_back(page, button);
        connect(button, &QPushButton::clicked, this, [this, page] { open_page(page); });
    }
    choose->addStretch();
    column->addStretch(1);
    connect(pen_, &PenPage::changed, this, &LayersBench::show_tool);
    connect(colour_, &ColourPage::pick, this, [this](bool on) {
        picking_ = on;
        show_tool();
    });
    connect(&controller_, &LayersController::changed, this, &LayersBench::refresh);
    connect(&viewing_, &Viewing::playhead_changed, this, &LayersBench::follow_playhead);
    connect(&player_, &Player::state_changed, this, &LayersBench::show_tool);
}

QWidget* LayersBench::list_part()
{
    auto* part = new QWidget;
    auto* row = new QHBoxLayout(part);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(gap);
    list_->setFixedHeight(104);
    row->addWidget(list_, 1);
    auto* add = new QVBoxLayout;
    add->setSpacing(4);
    auto* picture = tool(tr("Add a picture…"), tr("With its transparency, fitted inside the frame"));
    auto* text = tool(tr("Add text"), tr("Letters over the photos; the page Card has their typeface and colour"));
    auto* draw = tool(tr("Draw"), tr("A layer to draw on by hand, photo by photo, with a mouse or a tablet"));
    add->addLayout(line_of({picture, text}));
    add->addLayout(line_of({add_film_, draw}));
    add->addLayout(line_of({up_, down_, lock_}));
    add->addLayout(line_of({remove_, go_}));
    add->addStretch();
    row->addLayout(add);
    lock_->setCheckable(true);
    connect(picture, &QPushButton::clicked, this, &LayersBench::add_picture);
    connect(text, &QPushButton::clicked, this, [this] {
        controller_.add_text(tr("Text"));
        open_page(text_);
        text_->setFocus();
    });
    connect(draw, &QPushButton::clicked, this, [this] {
        controller_.add_drawing();
        open_page(pen_);
    });
    connect(add_film_, &QPushButton::clicked, this, &LayersBench::fill_films);
    connect(up_, &QPushButton::clicked, this, [this] { controller_.move(1); });
    connect(down_, &QPushButton::clicked, this, [this] { controller_.move(-1); });
    connect(remove_, &QPushButton::clicked, &controller_, &LayersController::remove);
    connect(lock_, &QPushButton::clicked, this, [this](bool on) {
        controller_.begin_change();
        controller_.change([&](Layer& l) { l.locked = on; }, on ? tr("Lock the layer") : tr("Unlock the layer"));
    });
    connect(go_, &QPushButton::clicked, this, [this] {
        if (const Layer* l = controller_.layer(); l && l->shot)
            Q_EMIT show_shot(*l->shot);
    });
    return part;
}

void LayersBench::add_picture()
{
    const QString file = QFileDialog::getOpenFileName(this, tr("Add a picture"));
    if (!file.isEmpty())
        controller_.add_picture(from_qt(file));
}

void LayersBench::fill_films()
{
    auto* menu = new QMenu(add_film_);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const ShotPtr& s : session_.project().shots)
        if (controller_.home().shot != s->id && s->parts.empty())
            connect(menu->addAction(QString::fromStdString(s->name)), &QAction::triggered, this,
                    [this, id = s->id] { controller_.add_film(id); });
    if (menu->isEmpty())
        menu->addAction(tr("There is no other shot"))->setEnabled(false);
    menu->popup(add_film_->mapToGlobal(QPoint(0, add_film_->height())));
}

void LayersBench::open_page(LayerPage* page)
{
    page_ = page;
    refresh();
}

void LayersBench::nudge(int x, int y)
{
    if (tool_)
        tool_->nudge(x, y);
}

void LayersBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
}

void LayersBench::hideEvent(QHideEvent* event)
{
    QWidget::hideEvent(event);
    tool_.reset();
}

/// While it stands still; what plays is the film.
void LayersBench::show_tool()
{
    const Layer* layer = controller_.layer();
    const bool wanted = isVisible() && !player_.playing() && viewing_.shot() && (layer || picking_);
    LayersTool* on_picture = keep_tool(tool_, picture_, wanted, [this] {
        auto made = std::make_unique<LayersTool>(viewing_, controller_);
        connect(made.get(), &LayersTool::picked, this, [this](QPointF at) {
            picking_ = false;
            show_tool();
            Q_EMIT pick_colour(at);
        });
        return made;
    });
    colour_->show_picking(picking_);
    if (!on_picture)
        return;
    const bool drawing = layer && !layer->shot;
    pen_->equip(*on_picture);
    on_picture->set_hand(picking_ ? LayerHand::pick : drawing ? pen_->hand() : LayerHand::place);
    picture_.set_tool(on_picture);
}

/// Only what is seen.
void LayersBench::refresh()
{
    setEnabled(viewing_.shot() != nullptr);
    if (!viewing_.shot() || !isVisible())
        return;
    list_->fill();
    const Layer* layer = controller_.layer();
    empty_->setVisible(!layer);
    go_->setVisible(layer && layer->shot);
    for (QPushButton* b : {up_, down_, lock_, remove_})
        b->setVisible(layer != nullptr);
    if (layer) {
        const auto all = controller_.layers();
        up_->setEnabled(all.back().id != layer->id);
        down_->setEnabled(all.front().id != layer->id);
        lock_->setChecked(layer->locked);
        remove_->setEnabled(!layer->locked);
    }
    refresh_pages(layer);
    show_tool();
}

void LayersBench::refresh_pages(const Layer* layer)
{
    LayerPage* seen = page_->applies(layer) ? page_ : nullptr;
    for (const auto& [page, button] : pages_)
        if (!seen && page->applies(layer)) // of another kind of layer
            seen = page;
    for (const auto& [page, button] : pages_) {
        button->setVisible(page->applies(layer));
        button->setChecked(page == seen);
        page->setVisible(page == seen);
        page->setEnabled(!layer || !layer->locked || page->whatever_is_locked());
    }
    if (seen)
        seen->refresh(layer);
}

/// Each frame that plays comes by here.
void LayersBench::follow_playhead()
{
    const Layer* layer = isVisible() ? controller_.layer() : nullptr;
    if (!layer)
        return;
    for (const auto& [page, button] : pages_)
        if (page->isVisible())
            page->follow_playhead(layer);
}

}
