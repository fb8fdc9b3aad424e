#include "app/steps/frame/frame_bench.h"

#include "app/picture/keep_tool.h"
#include "app/picture/player.h"
#include "app/steps/frame/frame_row.h"
#include "app/steps/frame/level_part.h"
#include "app/steps/frame/looks_part.h"
#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"
#include "app/widgets/value_field.h"
#include "core/picture/picture.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo::app {

namespace {

constexpr std::array offered_shapes{"as-photos", "16:9", "4:5", "1:1", "9:16", "3:2", "4:3", "2.39:1"};

QString shown_shape(const char* text)
{
    const auto shape = parse_shape(text);
    return shape && shape->as_photos() ? FrameBench::tr("as photos") : QString::fromLatin1(text);
}

}

FrameBench::FrameBench(Background& background, Session& session, Viewing& viewing, FrameController& frame_controller,
                       PictureView& picture, Player& player, PreviewStore& store, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), frame_controller_(frame_controller), picture_(picture),
      player_(player), note_(secondary({})),
      boxes_(tool(tr("Boxes"), tr("What is kept, and views, on the whole picture; off: the film as it will be"))),
      others_(tool(tr("Copy to…"), tr("Dress other shots like this one"))),
      as_shot_(tool(tr("Undress"), tr("No shape, no views, no looks: the frame as shot"))),
      also_(tool(tr("Also for"), tr("Dresses the shot for another shape beside this one, with a crop and views of its "
                                    "own; Export takes the one that fits"))),
      dresses_(
          choice(tr("Dressed for"), {}, tr("The shot is dressed for several shapes; this one is seen and changed"))),
      own_shape_(field(tr("Own shape"), tr("A ratio of sides, 5:3, or a size in pixels, 1080x1350"), 82)),
      fill_(tool(tr("fills it"), tr("The photo fills the frame; what does not fit is cut"))),
      inside_(tool(tr("lies inside"), tr("All of the photo is seen, with bars beside it"))), beyond_(new QComboBox),
      other_way_(tool(tr("Turn round"), tr("Drift the other way: the last view becomes the first"))),
      none_(tool(tr("None"))), drop_(tool(tr("Take away"), tr("The view in hand goes"))), ease_(new QComboBox),
      level_(new LevelPart(background, viewing, frame_controller, store)),
      looks_(new LooksPart(viewing, frame_controller))
{
    auto* column = scrolled_column(this);
    column->setContentsMargins(14, 2, 14, 2);
    column->setSpacing(row_gap);
    column->addWidget(shape_part());
    column->addWidget(dresses_part());
    column->addWidget(photo_part());
    column->addWidget(level_);
    column->addWidget(drift_part());
    column->addWidget(looks_);
    column->addStretch(1);
    connect(boxes_, &QPushButton::toggled, this, &FrameBench::show_tool);
    connect(others_, &QPushButton::clicked, this, &FrameBench::fill_menu);
    connect(as_shot_, &QPushButton::clicked, &frame_controller_, &FrameController::as_shot);
    connect(&frame_controller_, &FrameController::changed, this, &FrameBench::refresh);
    connect(&player_, &Player::state_changed, this, &FrameBench::show_tool);
    connect(level_, &LevelPart::failed, this, &FrameBench::failed);
    connect(level_, &LevelPart::draw_level, this, [this] {
        boxes_->setChecked(true);
        if (tool_)
            tool_->begin_level_line();
    });
    boxes_->setChecked(true);
}

QWidget* FrameBench::shape_part()
{
    auto* holder = new QWidget;
    auto* row = frame_row(holder, tr("Shape"));
    for (const char* text : offered_shapes) {
        auto* b = tool(shown_shape(text));
        b->setCheckable(true);
        shapes_.push_back(b);
        row->addWidget(b);
        connect(b, &QPushButton::clicked, this, [this, text] {
            frame_controller_.begin_change();
            frame_controller_.change(
                [&](Framing& f) {
                    f.shape = *parse_shape(text);
                    f.crop.reset(); // of another shape
                },
                tr("Set the shape"));
        });
    }
    own_shape_->setPlaceholderText(tr("own"));
    row->addWidget(own_shape_);
    connect(own_shape_, &QLineEdit::editingFinished, this, &FrameBench::take_own_shape);
    return holder;
}

void FrameBench::fill_also_menu()
{
    QMenu* menu = also_->menu();
    menu->clear();
    const Shot* shot = viewing_.shot();
    if (!shot)
        return;
    const FilmShape now = framing_of(*shot).shape;
    const auto beside = shapes_beside(*shot);
    for (const char* text : offered_shapes)
        if (const auto shape = parse_shape(text);
            shape && *shape != now && std::find(beside.begin(), beside.end(), *shape) == beside.end())
            menu->addAction(shown_shape(text), &frame_controller_,
                            [this, shape = *shape] { frame_controller_.dress_for(shape); });
    if (beside.empty())
        return;
    menu->addSeparator();
    menu->addAction(tr("No longer for %1").arg(shown_shape(shape_text(now).c_str())), &frame_controller_,
                    [this, now] { frame_controller_.drop_shape(now); });
}

/// The shape in hand first: seen only where there are several.
void FrameBench::refresh_dresses(const Shot& shot)
{
    std::vector<FilmShape> shapes{framing_of(shot).shape};
    for (const FilmShape& shape : shapes_beside(shot))
        shapes.push_back(shape);
    if (shapes == dressed_for_)
        return;
    dressed_for_ = shapes;
    const QSignalBlocker quiet(dresses_);
    dresses_->clear();
    for (const FilmShape& shape : shapes) {
        const std::string text = shape_text(shape);
        dresses_->addItem(tr("for %1").arg(shown_shape(text.c_str())), QString::fromStdString(text));
    }
    dresses_->setCurrentIndex(0);
}

QWidget* FrameBench::dresses_part()
{
    auto* holder = new QWidget;
    auto* row = frame_row(holder, tr("Dressed"));
    row->addWidget(dresses_);
    row->addWidget(also_);
    auto* menu = new QMenu(also_);
    connect(menu, &QMenu::aboutToShow, this, &FrameBench::fill_also_menu);
    also_->setMenu(menu);
    make_menu_button(also_);
    connect(dresses_, &QComboBox::activated, this, [this](int at) {
        if (const auto shape = parse_shape(dresses_->itemData(at).toString().toStdString()))
            frame_controller_.dress_for(*shape);
    });
    return holder;
}

QWidget* FrameBench::photo_part()
{
    auto* holder = new QWidget;
    auto* row = frame_row(holder, tr("Photo"));
    for (QPushButton* b : {fill_, inside_}) {
        b->setCheckable(true);
        row->addWidget(b);
    }
    const auto set_fit = [this](FrameFit fit) {
        frame_controller_.begin_change();
        frame_controller_.change([&](Framing& f) { f.fit = fit; }, tr("Set how the photo fits"));
    };
    connect(fill_, &QPushButton::clicked, this, [set_fit] { set_fit(FrameFit::fill); });
    connect(inside_, &QPushButton::clicked, this, [set_fit] { set_fit(FrameFit::inside); });
    beyond_->addItems({tr("on the backdrop"), tr("on itself, blurred")});
    beyond_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    beyond_->setToolTip(tr("What is seen beside the photo"));
    beyond_->setAccessibleName(tr("Beside the photo"));
    row->addWidget(beyond_);
    connect(beyond_, &QComboBox::activated, this, [this](int which) {
        frame_controller_.begin_change();
        frame_controller_.change([&](Framing& f) { f.beyond = Beyond(which); }, tr("Set what is beside the photo"));
    });
    row->addWidget(note_);
    row->addWidget(boxes_);
    row->addWidget(others_);
    row->addWidget(as_shot_);
    boxes_->setCheckable(true);
    return holder;
}

QWidget* FrameBench::drift_part()
{
    auto* holder = new QWidget;
    auto* column = new QVBoxLayout(holder);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    auto* first = new QWidget;
    view_row_ = frame_row(first, tr("Drift"));
    auto* fresh = tool(tr("New view here"), tr("A box at this photo, which the film drifts to"));
    view_row_->addWidget(fresh);
    view_row_->addWidget(drop_);
    column->addWidget(first);
    auto* second = new QWidget;
    drift_more_ = second;
    auto* row = frame_row(second, {});
    view_size_ = new ValueField(
        {tr("size"), tr("Width of the view in hand, of the photo's"), QStringLiteral("%"), 1, 400, 100, 1, 0, false});
    view_turn_ =
        new ValueField({tr("turn"), tr("Of the view in hand, clockwise"), QStringLiteral("°"), -180, 180, 0, 0.5, 1});
    row->addWidget(view_size_);
    row->addWidget(view_turn_);
    ease_->addItems({tr("evenly"), tr("slow at first"), tr("slow at last"), tr("slow at both ends")});
    ease_->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    ease_->setAccessibleName(tr("How the drift begins and ends"));
    row->addWidget(ease_);
    for (QPushButton* b : {other_way_, none_})
        row->addWidget(b);
    column->addWidget(second);
    connect(fresh, &QPushButton::clicked, &frame_controller_, &FrameController::new_view_here);
    other_way_->setAccessibleName(tr("Drift the other way"));
    connect(other_way_, &QPushButton::clicked, &frame_controller_, &FrameController::turn_drift_round);
    connect(none_, &QPushButton::clicked, &frame_controller_, &FrameController::drop_views);
    connect(drop_, &QPushButton::clicked, this, [this] {
        if (const auto v = frame_controller_.view_in_hand())
            frame_controller_.drop_view(*v);
    });
    connect(ease_, &QComboBox::activated, this, [this](int which) {
        frame_controller_.begin_change();
        frame_controller_.change([&](Framing& f) { f.ease = Ease(which); }, tr("Set the ease"));
    });
    const auto change_view = [this](const std::function<void(DriftView&)>& how) {
        const auto v = frame_controller_.view_in_hand();
        if (!v)
            return;
        DriftView view = *view_of(viewing_.shot()->photos[v->at()]);
        how(view);
        frame_controller_.set_view(*v, view);
    };
    for (ValueField* f : {view_size_, view_turn_})
        connect(f, &ValueField::begun, &frame_controller_, &FrameController::begin_change);
    connect(view_size_, &ValueField::edited, this, [change_view](double percent) {
        change_view([&](DriftView& v) {
            const double by = percent / 100 / v.box.width;
            v.box = {v.box.x + v.box.width * (1 - by) / 2, v.box.y + v.box.height * (1 - by) / 2, v.box.width * by,
                     v.box.height * by};
        });
    });
    connect(view_turn_, &ValueField::edited, this,
            [change_view](double degrees) { change_view([&](DriftView& v) { v.turn = degrees; }); });
    return holder;
}

void FrameBench::take_own_shape()
{
    const QString text = own_shape_->text().trimmed();
    if (text.isEmpty() || !own_shape_->isModified())
        return;
    const auto shape = parse_shape(text.toStdString());
    mark_wrong(own_shape_, !shape);
    if (!shape)
        return;
    own_shape_->setModified(false);
    frame_controller_.begin_change();
    frame_controller_.change(
        [&](Framing& f) {
            f.shape = *shape;
            f.crop.reset();
        },
        tr("Set the shape"));
}

void FrameBench::fill_menu()
{
    auto* menu = new QMenu(others_);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    std::vector<ShotId> all;
    for (const ShotPtr& s : session_.project().shots) {
        if (!viewing_.shot() || s->id == viewing_.shot()->id || !s->parts.empty())
            continue;
        all.push_back(s->id);
        connect(menu->addAction(QString::fromStdString(s->name)), &QAction::triggered, this,
                [this, id = s->id] { frame_controller_.copy_to_shots({id}); });
    }
    if (all.size() > 1)
        connect(menu->addAction(tr("All of them")), &QAction::triggered, this,
                [this, all] { frame_controller_.copy_to_shots(all); });
    menu->popup(others_->mapToGlobal(QPoint(0, others_->height())));
}

void FrameBench::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    refresh();
    show_tool();
}

void FrameBench::hideEvent(QHideEvent* event)
{
    QWidget::hideEvent(event);
    tool_.reset();
}

/// Boxes while it stands still; what plays is the film.
void FrameBench::show_tool()
{
    const bool wanted = boxes_->isChecked() && isVisible() && !player_.playing() && viewing_.shot();
    FrameTool* on_picture = keep_tool(tool_, picture_, wanted, [this] {
        auto made = std::make_unique<FrameTool>(viewing_, frame_controller_);
        connect(made.get(), &FrameTool::levelled, this, [this](double turn) {
            frame_controller_.begin_change();
            frame_controller_.change(
                [&](Framing& f) { f.straighten = std::clamp(turn, straighten_limits.low, straighten_limits.high); },
                tr("Straighten"));
        });
        return made;
    });
    if (on_picture)
        picture_.set_tool(on_picture);
}

/// Only what is seen.
void FrameBench::refresh()
{
    const Shot* shot = viewing_.shot();
    setEnabled(shot != nullptr);
    if (!shot || !isVisible())
        return;
    refresh_dresses(*shot);
    const Framing f = framing_of(*shot);
    bool offered = false;
    for (std::size_t i = 0; i < shapes_.size(); ++i) {
        const bool this_one = f.shape == *parse_shape(offered_shapes.at(i));
        shapes_[i]->setChecked(this_one);
        offered = offered || this_one;
    }
    if (!own_shape_->hasFocus())
        own_shape_->setText(offered ? QString() : QString::fromStdString(shape_text(f.shape)));
    fill_->setChecked(f.fit == FrameFit::fill);
    inside_->setChecked(f.fit == FrameFit::inside);
    const QSignalBlocker q1(beyond_), q2(ease_);
    beyond_->setCurrentIndex(int(f.beyond));
    level_->refresh(*shot);
    ease_->setCurrentIndex(int(f.ease));
    looks_->refresh(*shot);
    as_shot_->setVisible(is_dressed(*shot));
    others_->setVisible(session_.project().shots.size() > 1);
    refresh_views(*shot);
    const cv::Size size = film_size(*shot);
    const double more = enlargement(*shot);
    note_->setToolTip(tr("The film's own size. Above 100 % a view shows more pixels than the photo has"));
    note_->setText(
        more > 1.005
            ? look_at_this(tr("%1 × %2, pixels at %3 %").arg(size.width).arg(size.height).arg(std::lround(more * 100)))
            : tr("%1 × %2").arg(size.width).arg(size.height));
}

void FrameBench::refresh_views(const Shot& shot)
{
    const auto photos = views_of(shot);
    const auto hand = frame_controller_.view_in_hand();
    while (views_.size() > photos.size()) {
        delete views_.back();
        views_.pop_back();
    }
    while (views_.size() < photos.size()) {
        const std::size_t i = views_.size();
        auto* b = tool(tr("View %1").arg(i + 1));
        b->setCheckable(true);
        views_.push_back(b);
        view_row_->insertWidget(int(2 + i), b);
        connect(b, &QPushButton::clicked, this, [this, i] {
            const auto now = views_of(*viewing_.shot());
            if (i < now.size()) {
                frame_controller_.take_in_hand(now[i]);
                Q_EMIT show_photo(viewing_.shot_index(), now[i]);
            }
        });
    }
    for (std::size_t i = 0; i < photos.size(); ++i)
        views_[i]->setChecked(hand == photos[i]);
    for (QWidget* w : std::initializer_list<QWidget*>{drop_, drift_more_})
        w->setVisible(!photos.empty());
    if (!hand)
        return;
    const DriftView& view = *view_of(shot.photos[hand->at()]);
    view_size_->show_value(view.box.width * 100);
    view_turn_->show_value(view.turn);
}

}
