#include "app/steps/layers/layers_bench.h"

#include "app/picture/player.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/widgets/swatch.h"
#include "app/widgets/value_field.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

/// What a number of a layer is called, and in which unit it is seen.
template <class T>
struct NumberField
{
    double T::*value;
    const char* name;
    const char* tip;
    const char* unit;
    double least, most, neutral, scale, step;
    int decimals;
};

constexpr std::array place_table{
    NumberField<LayerKey>{&LayerKey::x, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "across"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "Of its middle, share of the frame's width"),
                          "%", -1000, 1000, 50, 100, 0.5, 1},
    NumberField<LayerKey>{&LayerKey::y, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "down"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "Of its middle, share of the frame's height"),
                          "%", -1000, 1000, 50, 100, 0.5, 1},
    NumberField<LayerKey>{&LayerKey::size, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "size"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "At 100 % it just fits inside the frame"), "%",
                          0.1, 10'000, 100, 100, 1, 1},
    NumberField<LayerKey>{
        &LayerKey::turn, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "turn"),
        QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "Clockwise. Above 360 it goes round more than once between keys"),
        "°", -36'000, 36'000, 0, 1, 1, 1},
    NumberField<LayerKey>{&LayerKey::opacity, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "opacity"),
                          QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "How much of it covers what lies below"), "%",
                          0, 100, 100, 100, 5, 0},
};
constexpr std::array shadow_table{
    NumberField<LayerShadow>{&LayerShadow::degrees, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "towards"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "Where it falls: 0 to the right, 90 down"),
                             "°", -360, 360, 60, 1, 5, 0},
    NumberField<LayerShadow>{&LayerShadow::distance, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "far"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "Of the frame's height"), "%", 0, 100, 1.5,
                             100, 0.25, 2},
    NumberField<LayerShadow>{&LayerShadow::softness, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "soft"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "Of its edge, of the frame's height"), "%",
                             0, 50, 1, 100, 0.25, 2},
    NumberField<LayerShadow>{&LayerShadow::strength, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "strong"),
                             QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "How dark it is"), "%", 0, 100, 50, 100, 5,
                             0},
};
constexpr std::array colour_table{
    NumberField<ColourOut>{&ColourOut::tolerance, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "take more"),
                           QT_TRANSLATE_NOOP("frenlo::app::LayersBench",
                                             "More where the backdrop is uneven or noisy: what is nearly it goes, too"),
                           "%", 0, 45, 6, 100, 1, 0},
    NumberField<ColourOut>{
        &ColourOut::solid, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "keep more"),
        QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "More where the figure has holes: what is nearly solid is solid"),
        "%", 0, 45, 5, 100, 1, 0},
    NumberField<ColourOut>{&ColourOut::spill, QT_TRANSLATE_NOOP("frenlo::app::LayersBench", "clean edges"),
                           QT_TRANSLATE_NOOP("frenlo::app::LayersBench",
                                             "Takes the backdrop's tint from the figure, where its light fell on it"),
                           "%", 0, 100, 100, 100, 5, 0},
};

template <class T>
ValueField* number_field(const NumberField<T>& f)
{
    return new ValueField({LayersBench::tr(f.name), LayersBench::tr(f.tip), QString::fromUtf8(f.unit), f.least, f.most,
                           f.neutral, f.step, f.decimals, false});
}

constexpr int row_gap = 4;

}

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
      text_(new QPlainTextEdit), name_(field(tr("Name of the layer"), {}, 120)),
      from_(field(tr("First frame"), tr("The layer is there from this frame on"), 52)),
      to_(field(tr("Last frame"), tr("And to this one; empty: to the end"), 52)),
      side_(choice(tr("Over or behind the photos"), {tr("over the photos"), tr("behind the photos")},
                   tr("Behind: seen where the photos are transparent, or where a colour was taken out of them"))),
      hold_(choice(tr("What it keeps its place in"), {tr("stays in the frame"), tr("stays on the scene")},
                   tr("On the scene it goes with the photos when they are cropped or drift"))),
      end_(choice(tr("When its shot ends"),
                  {tr("then holds its last photo"), tr("then goes round"), tr("then is gone")})),
      key_here_(tool(tr("Set a key here"),
                     tr("Keeps where the layer is at this frame; between keys it moves, and what you change at another "
                        "frame becomes a key there"))),
      key_back_(tool(QStringLiteral("←"), tr("To the key before"))),
      key_on_(tool(QStringLiteral("→"), tr("To the next key"))), key_gone_(tool(tr("Remove the key"))),
      ease_(choice(tr("How it moves on from this key"),
                   {tr("evenly"), tr("slow at first"), tr("slow at last"), tr("slow at both ends")})),
      way_(choice(tr("Its way"), {tr("straight"), tr("curved")}, tr("Curved: through its keys without corners"))),
      again_(choice(tr("After its last key"), {tr("then stays"), tr("then again"), tr("then back and forth")},
                    tr("Again: from its first key, for ever; an exact turn loops"))),
      blend_(choice(tr("Blend"), {tr("covers"), tr("adds its light"), tr("darkens"), tr("lightens")},
                    tr("How layer and picture become one, in linear light: covers (over), adds (light upon light), "
                       "darkens (multiply), lightens (screen)"))),
      edge_(new ValueField({tr("soft edge"), tr("How far in from its edge it comes in, of the frame's height"),
                            QStringLiteral("%"), 0, 50, 0, 0.5, 1, false})),
      shadow_(new QCheckBox(tr("casts one"))), matte_(new QComboBox),
      pick_(tool(tr("Take a colour out"), tr("Click on a blue, green or other even backdrop in the picture: it becomes "
                                             "transparent, and what lies behind shows"))),
      keep_(tool(tr("Keep the colour"))), pen_colour_button_(tool(tr("Colour…"))),
      unstroke_(tool(tr("Take the last stroke away"))),
      pen_width_(new ValueField(
          {tr("width"), tr("Of the pen, of the frame's height"), QStringLiteral("%"), 0.05, 30, 1, 0.1, 2, false})),
      onion_(new QCheckBox(tr("show the ones before and after"))), held_(new QSpinBox)
{
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    whole->addWidget(scroll);
    auto* inside = new QWidget;
    scroll->setWidget(inside);
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(14, 4, 14, 4);
    column->setSpacing(row_gap);
    column->addWidget(list_part());
    empty_->setWordWrap(true);
    column->addWidget(empty_);
    auto* text = one_row({text_});
    text_->setAccessibleName(tr("Text of the layer"));
    text_->setFixedHeight(46);
    text_->setMinimumWidth(320);
    connect(text_, &QPlainTextEdit::textChanged, this, [this] {
        if (text_->hasFocus())
            controller_.set_text(text_->toPlainText());
    });
    pages_ = {{Page::pen, tr("Pen"), pen_part()},          {Page::text, tr("Text"), text},
              {Page::place, tr("Place"), place_part()},    {Page::keys, tr("Keys"), keys_part()},
              {Page::when, tr("When"), when_part()},       {Page::look, tr("Look"), look_part()},
              {Page::shadow, tr("Shadow"), shadow_part()}, {Page::colour, tr("Colour"), colour_part()}};
    auto* choose = new QHBoxLayout;
    choose->setSpacing(6);
    for (OfPage& page : pages_) {
        page.button = tool(page.name);
        page.button->setCheckable(true);
        choose->addWidget(page.button);
        connect(page.button, &QPushButton::clicked, this, [this, which = page.page] {
            page_ = which;
            refresh();
        });
    }
    choose->addStretch();
    column->addLayout(choose);
    for (const OfPage& page : pages_)
        column->addWidget(page.rows);
    column->addStretch(1);
    connect(&controller_, &LayersController::changed, this, &LayersBench::refresh);
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
        page_ = Page::text;
        refresh();
        text_->setFocus();
        text_->selectAll();
    });
    connect(draw, &QPushButton::clicked, this, [this] {
        controller_.add_drawing();
        page_ = Page::pen;
        take_hand(LayerHand::free);
    });
    connect(add_film_, &QPushButton::clicked, this, &LayersBench::fill_films);
    connect(up_, &QPushButton::clicked, this, [this] { controller_.move(1); });
    connect(down_, &QPushButton::clicked, this, [this] { controller_.move(-1); });
    connect(remove_, &QPushButton::clicked, &controller_, &LayersController::remove);
    connect(lock_, &QPushButton::clicked, this, [this](bool on) {
        change(on ? tr("Lock the layer") : tr("Unlock the layer"), [&](Layer& l) { l.locked = on; });
    });
    connect(go_, &QPushButton::clicked, this, [this] {
        if (const auto l = controller_.layer(); l && l->shot)
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

void LayersBench::change(const QString& name, const std::function<void(Layer&)>& how)
{
    controller_.begin_change();
    controller_.change(how, name);
}

QWidget* LayersBench::when_part()
{
    for (QLineEdit* line : {from_, to_})
        connect(line, &QLineEdit::editingFinished, this, &LayersBench::take_frames);
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        if (name_->isModified() && !name_->text().trimmed().isEmpty())
            change(tr("Name the layer"), [&](Layer& l) { l.name = name_->text().trimmed().toStdString(); });
        name_->setModified(false);
    });
    connect(side_, &QComboBox::activated, this,
            [this](int which) { change(tr("Move the layer"), [&](Layer& l) { l.behind = which == 1; }); });
    connect(hold_, &QComboBox::activated, this, [this](int which) {
        change(tr("Set what the layer stays in"), [&](Layer& l) { l.on_scene = which == 1; });
    });
    connect(end_, &QComboBox::activated, this, [this](int which) {
        change(tr("Set the end of the layer's shot"), [&](Layer& l) { l.film_end = FilmEnd(which); });
    });
    return rows_of({one_row({secondary(tr("from frame")), from_, secondary(tr("to")), to_, end_}),
                    one_row({side_, hold_, secondary(tr("called")), name_})});
}

void LayersBench::take_frames()
{
    if (!from_->isModified() && !to_->isModified())
        return;
    bool from_ok = false, to_ok = false;
    const std::int64_t from = from_->text().toLongLong(&from_ok);
    const bool to_end = to_->text().trimmed().isEmpty();
    const std::int64_t to = to_->text().toLongLong(&to_ok);
    from_ok = from_ok && from >= 1;
    to_ok = to_end || (to_ok && to >= from);
    mark_wrong(from_, !from_ok);
    mark_wrong(to_, !to_ok);
    if (!from_ok || !to_ok)
        return;
    from_->setModified(false);
    to_->setModified(false);
    const Rate rate = controller_.project().delivered_at;
    change(tr("Set the layer's frames"), [&](Layer& l) {
        l.begin = length_of(from - 1, rate);
        l.end = to_end ? std::nullopt : std::optional(length_of(to, rate));
    });
}

QWidget* LayersBench::place_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    for (const auto& f : place_table) {
        auto* value = number_field(f);
        place_.push_back(value);
        connect(value, &ValueField::begun, &controller_, &LayersController::begin_change);
        connect(value, &ValueField::edited, this, [this, &f](double v) {
            controller_.change_place([&](LayerKey& k) { k.*f.value = v / f.scale; }, tr("Place the layer"));
        });
    }
    column->addWidget(one_row({place_[0], place_[1], place_[2]}));
    column->addWidget(one_row({place_[3], place_[4]}));
    return part;
}

QWidget* LayersBench::keys_part()
{
    connect(key_here_, &QPushButton::clicked, &controller_, &LayersController::new_key_here);
    connect(key_gone_, &QPushButton::clicked, &controller_, &LayersController::remove_key_here);
    connect(key_back_, &QPushButton::clicked, this, [this] { go_to_key(-1); });
    connect(key_on_, &QPushButton::clicked, this, [this] { go_to_key(1); });
    connect(ease_, &QComboBox::activated, this, [this](int which) {
        controller_.begin_change();
        controller_.change_place([&](LayerKey& k) { k.ease = Ease(which); }, tr("Set the ease"));
    });
    connect(way_, &QComboBox::activated, this,
            [this](int which) { change(tr("Set the layer's way"), [&](Layer& l) { l.curved = which == 1; }); });
    connect(again_, &QComboBox::activated, this, [this](int which) {
        change(tr("Repeat the movement"), [&](Layer& l) { l.movement_end = MovementEnd(which); });
    });
    return rows_of({one_row({key_here_, key_back_, key_on_, key_gone_}), one_row({ease_, way_, again_})});
}

void LayersBench::go_to_key(int by)
{
    const auto keys = controller_.key_frames();
    const FrameIndex now = viewing_.playhead();
    std::optional<FrameIndex> to;
    for (const FrameIndex k : keys)
        if (by > 0 ? k > now && (!to || k < *to) : k < now && (!to || k > *to))
            to = k;
    if (to)
        viewing_.set_playhead(*to);
}

QWidget* LayersBench::look_part()
{
    connect(blend_, &QComboBox::activated, this,
            [this](int which) { change(tr("Set the blend"), [&](Layer& l) { l.blend = Blend(which); }); });
    connect(edge_, &ValueField::begun, &controller_, &LayersController::begin_change);
    connect(edge_, &ValueField::edited, this,
            [this](double v) { controller_.change([&](Layer& l) { l.soft_edge = v / 100; }, tr("Soften the edge")); });
    matte_->setAccessibleName(tr("What of it shows"));
    matte_->setToolTip(tr("Another layer can decide what of this one shows; it may be switched off itself"));
    matte_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    connect(matte_, &QComboBox::activated, this, &LayersBench::take_matte);
    return rows_of({one_row({blend_, edge_}), one_row({matte_})});
}

QWidget* LayersBench::shadow_part()
{
    shadow_->setAccessibleName(tr("Shadow"));
    connect(shadow_, &QCheckBox::clicked, this, [this](bool on) {
        change(tr("Set the shadow"),
               [&](Layer& l) { l.shadow = on ? std::optional(l.shadow.value_or(LayerShadow())) : std::nullopt; });
    });
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    for (const auto& f : shadow_table) {
        auto* value = number_field(f);
        shadow_fields_.push_back(value);
        connect(value, &ValueField::begun, &controller_, &LayersController::begin_change);
        connect(value, &ValueField::edited, this, [this, &f](double v) {
            controller_.change(
                [&](Layer& l) {
                    if (l.shadow)
                        (*l.shadow).*f.value = v / f.scale;
                },
                tr("Set the shadow"));
        });
    }
    column->addWidget(one_row({shadow_, shadow_fields_[0], shadow_fields_[1]}));
    shadow_more_ = one_row({shadow_fields_[2], shadow_fields_[3]});
    column->addWidget(shadow_more_);
    return part;
}

void LayersBench::take_matte(int which)
{
    const auto id = matte_->itemData(which).toULongLong();
    const int how = matte_->itemData(which, Qt::UserRole + 1).toInt();
    change(tr("Set what of the layer shows"), [&](Layer& l) {
        l.matte.reset();
        if (id != 0)
            l.matte = LayerMatte{LayerId{id}, how < 2 ? MatteOf::alpha : MatteOf::brightness, how % 2 == 1};
    });
}

QWidget* LayersBench::colour_part()
{
    pick_->setCheckable(true);
    connect(pick_, &QPushButton::clicked, this,
            [this](bool on) { take_hand(on ? LayerHand::pick : LayerHand::place); });
    connect(keep_, &QPushButton::clicked, this, [this] {
        controller_.begin_change();
        controller_.set_colour_out(std::nullopt, tr("Keep the colour"));
    });
    for (const auto& f : colour_table) {
        auto* value = number_field(f);
        colour_fields_.push_back(value);
        connect(value, &ValueField::begun, &controller_, &LayersController::begin_change);
        connect(value, &ValueField::edited, this, [this, &f](double v) {
            if (auto out = controller_.colour_out()) {
                (*out).*f.value = v / f.scale;
                controller_.set_colour_out(out, tr("Take a colour out"));
            }
        });
    }
    return rows_of({one_row({pick_, keep_}), one_row({colour_fields_[0], colour_fields_[1], colour_fields_[2]})});
}

QWidget* LayersBench::pen_part()
{
    const std::array<std::tuple<LayerHand, QString, QString>, 4> hands{
        {{LayerHand::free, tr("Draw freely"), tr("A line as the hand goes")},
         {LayerHand::straight, tr("Draw straight"), tr("A straight line")},
         {LayerHand::filled, tr("Fill a shape"), tr("Draw round it; it is closed by itself")},
         {LayerHand::erase, tr("Rub out"), tr("Takes away what was drawn")}}};
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    for (const auto& [hand, name, tip] : hands) {
        auto* b = tool(name, tip);
        b->setCheckable(true);
        pens_.push_back(b);
        connect(b, &QPushButton::clicked, this, [this, h = hand] { take_hand(h); });
    }
    column->addWidget(one_row({pens_[0], pens_[1], pens_[2], pens_[3]}));
    connect(pen_colour_button_, &QPushButton::clicked, this, [this] {
        const QColor chosen = QColorDialog::getColor(qt_colour(pen_colour_), this, tr("Colour of the pen"));
        if (chosen.isValid())
            pen_colour_ = own_colour(chosen);
        refresh();
    });
    connect(pen_width_, &ValueField::edited, this, [this](double v) {
        pen_width_->show_value(v);
        if (tool_)
            tool_->set_pen(pen_colour_, v / 100);
    });
    pen_width_->show_value(1);
    onion_->setChecked(true);
    connect(onion_, &QCheckBox::toggled, this, [this](bool on) {
        if (tool_)
            tool_->set_onion(on);
    });
    connect(unstroke_, &QPushButton::clicked, &controller_, &LayersController::remove_last_stroke);
    held_->setRange(1, 9999);
    held_->setAccessibleName(tr("Photos that this drawing lies over"));
    held_->setToolTip(tr("From the photo it was drawn on; the next drawing takes its place"));
    connect(held_, &QSpinBox::valueChanged, this, [this](int photos) { controller_.hold_drawing(photos); });
    column->addWidget(one_row({pen_colour_button_, pen_width_, onion_}));
    column->addWidget(one_row({secondary(tr("lies over")), held_, secondary(tr("photo(s)")), unstroke_}));
    return part;
}

void LayersBench::take_hand(LayerHand hand)
{
    hand_ = hand;
    show_tool();
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
    show_tool();
}

void LayersBench::hideEvent(QHideEvent* event)
{
    QWidget::hideEvent(event);
    tool_.reset();
}

/// While it stands still; what plays is the film.
void LayersBench::show_tool()
{
    const auto layer = controller_.layer();
    const bool wanted = isVisible() && !player_.playing() && viewing_.shot() && (layer || hand_ == LayerHand::pick);
    if (!wanted) {
        if (tool_ && picture_.tool() == tool_.get())
            picture_.set_tool(nullptr);
        tool_.reset();
        return;
    }
    if (!tool_) {
        tool_ = std::make_unique<LayersTool>(viewing_, controller_);
        connect(tool_.get(), &LayersTool::picked, this, [this](QPointF at) {
            take_hand(LayerHand::place);
            Q_EMIT pick_colour(at);
        });
    }
    const bool drawing = layer && !layer->shot;
    LayerHand hand = hand_;
    if (hand != LayerHand::pick)
        hand = drawing ? (hand == LayerHand::place ? LayerHand::free : hand) : LayerHand::place;
    if (tool_->hand() != hand)
        tool_->set_hand(hand);
    tool_->set_pen(pen_colour_, pen_width_->value() / 100);
    if (picture_.tool() != tool_.get())
        picture_.set_tool(tool_.get());
}

/// Only what is seen.
void LayersBench::refresh()
{
    setEnabled(viewing_.shot() != nullptr);
    if (!viewing_.shot() || !isVisible())
        return;
    list_->fill();
    const auto layer = controller_.layer();
    empty_->setVisible(!layer);
    for (QWidget* w : std::initializer_list<QWidget*>{go_, end_})
        w->setVisible(layer && layer->shot);
    for (QPushButton* b : {up_, down_, lock_, remove_})
        b->setVisible(layer.has_value());
    const auto text = controller_.text();
    if (text && text_->toPlainText() != *text) {
        const QSignalBlocker quiet(text_);
        text_->setPlainText(*text);
    }
    refresh_colour(layer);
    if (layer)
        refresh_layer(*layer);
    refresh_pages(layer);
    show_tool();
}

/// Whether there is something to be set there.
bool LayersBench::has(Page page, const std::optional<Layer>& layer) const
{
    switch (page) {
    case Page::pen:
        return layer && !layer->shot;
    case Page::text:
        return controller_.text().has_value();
    case Page::colour:
        return controller_.colour_home().has_value() && !controller_.text();
    case Page::place:
    case Page::keys:
    case Page::when:
    case Page::look:
    case Page::shadow:
        break;
    }
    return layer.has_value();
}

void LayersBench::refresh_pages(const std::optional<Layer>& layer)
{
    Page seen = page_;
    if (!has(seen, layer)) // of another kind of layer
        for (const OfPage& page : pages_)
            if (has(page.page, layer)) {
                seen = page.page;
                break;
            }
    for (const OfPage& page : pages_) {
        page.button->setVisible(has(page.page, layer));
        page.button->setChecked(page.page == seen);
        page.rows->setVisible(page.page == seen && has(page.page, layer));
        page.rows->setEnabled(!layer || !layer->locked || page.page == Page::colour);
    }
}

void LayersBench::refresh_layer(const Layer& layer)
{
    const auto all = controller_.layers();
    up_->setEnabled(all.back().id != layer.id);
    down_->setEnabled(all.front().id != layer.id);
    lock_->setChecked(layer.locked);
    remove_->setEnabled(!layer.locked);
    const Rate rate = controller_.project().delivered_at;
    show_text(name_, QString::fromStdString(layer.name));
    show_text(from_, QString::number((layer.begin.value * rate.value()).rounded() + 1));
    show_text(to_, layer.end ? QString::number((layer.end->value * rate.value()).rounded()) : QString());
    to_->setPlaceholderText(tr("end"));
    const QSignalBlocker q1(side_), q2(hold_), q3(end_), q4(blend_), q5(way_), q6(again_);
    side_->setCurrentIndex(layer.behind ? 1 : 0);
    hold_->setCurrentIndex(layer.on_scene ? 1 : 0);
    hold_->setVisible(!viewing_.on_reel());
    end_->setCurrentIndex(int(layer.film_end));
    blend_->setCurrentIndex(int(layer.blend));
    way_->setCurrentIndex(layer.curved ? 1 : 0);
    again_->setCurrentIndex(int(layer.movement_end));
    edge_->show_value(layer.soft_edge * 100);
    shadow_->setChecked(layer.shadow.has_value());
    for (std::size_t i = 0; i < shadow_fields_.size(); ++i) {
        shadow_fields_[i]->setVisible(layer.shadow.has_value());
        if (layer.shadow)
            shadow_fields_[i]->show_value((*layer.shadow).*shadow_table.at(i).value * shadow_table.at(i).scale);
    }
    shadow_more_->setVisible(layer.shadow.has_value());
    refresh_place(layer);
    refresh_matte(layer);
    if (!layer.shot)
        refresh_pen(layer);
}

void LayersBench::refresh_place(const Layer& layer)
{
    const LayerKey now = controller_.place(layer);
    for (std::size_t i = 0; i < place_.size(); ++i)
        place_[i]->show_value(now.*place_table.at(i).value * place_table.at(i).scale);
    const bool moves = layer.keys.size() > 1;
    const Seconds here = controller_.here();
    const auto key =
        std::find_if(layer.keys.begin(), layer.keys.end(), [&](const LayerKey& k) { return k.at == here; });
    for (QWidget* w : std::initializer_list<QWidget*>{key_back_, key_on_, way_, again_})
        w->setVisible(moves);
    key_gone_->setVisible(moves && key != layer.keys.end());
    key_here_->setVisible(!moves || key == layer.keys.end());
    ease_->setVisible(moves && key != layer.keys.end());
    const QSignalBlocker quiet(ease_);
    if (key != layer.keys.end())
        ease_->setCurrentIndex(int(key->ease));
}

void LayersBench::refresh_matte(const Layer& layer)
{
    const QSignalBlocker quiet(matte_);
    matte_->clear();
    matte_->addItem(tr("all of it"), 0ULL);
    for (const Layer& other : controller_.layers()) {
        if (other.id == layer.id)
            continue;
        const QString name = QString::fromStdString(other.name);
        const std::array texts{tr("where “%1” is").arg(name), tr("where “%1” is not").arg(name),
                               tr("where “%1” is bright").arg(name), tr("where “%1” is dark").arg(name)};
        for (std::size_t how = 0; how < texts.size(); ++how) {
            matte_->addItem(texts.at(how), qulonglong(other.id.value));
            matte_->setItemData(matte_->count() - 1, int(how), Qt::UserRole + 1);
            if (layer.matte && layer.matte->layer == other.id &&
                int(how) == int(layer.matte->of) * 2 + int(layer.matte->inverse))
                matte_->setCurrentIndex(matte_->count() - 1);
        }
    }
    matte_->setEnabled(matte_->count() > 1);
}

void LayersBench::refresh_colour(const std::optional<Layer>& layer)
{
    const auto out = controller_.colour_out();
    pick_->setText(layer ? tr("Take a colour out of the layer") : tr("Take a colour out of the photos"));
    pick_->setChecked(hand_ == LayerHand::pick);
    if (out)
        pick_->setIcon(swatch(out->colour));
    else
        pick_->setIcon({});
    keep_->setVisible(out.has_value());
    for (std::size_t i = 0; i < colour_fields_.size(); ++i) {
        colour_fields_[i]->setVisible(out.has_value());
        if (out)
            colour_fields_[i]->show_value((*out).*colour_table.at(i).value * colour_table.at(i).scale);
    }
}

void LayersBench::refresh_pen(const Layer& layer)
{
    const Drawing* d = controller_.drawing_here(layer);
    const QSignalBlocker quiet(held_);
    held_->setEnabled(d != nullptr);
    held_->setValue(d ? int(std::min<std::int64_t>(d->photos, 9999)) : 1);
    unstroke_->setEnabled(d != nullptr);
    pen_colour_button_->setIcon(swatch(pen_colour_));
    const std::array hands{LayerHand::free, LayerHand::straight, LayerHand::filled, LayerHand::erase};
    const LayerHand now = hand_ == LayerHand::place ? LayerHand::free : hand_;
    for (std::size_t i = 0; i < pens_.size(); ++i)
        pens_[i]->setChecked(hands.at(i) == now);
}

}
