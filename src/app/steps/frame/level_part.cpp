#include "app/steps/frame/level_part.h"

#include "app/steps/frame/frame_row.h"
#include "app/widgets/value_field.h"
#include "core/picture/picture.h"
#include "core/source/photo_source.h"
#include "core/steps/frame/level.h"

#include <QPushButton>
#include <QVBoxLayout>

#include <array>
#include <cmath>
#include <type_traits>

namespace frenlo::app {

LevelPart::LevelPart(Background& background, Viewing& viewing, FrameController& frame_controller, PreviewStore& store,
                     QWidget* parent)
    : QWidget(parent), background_(background), viewing_(viewing), frame_controller_(frame_controller), store_(store)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(row_gap);
    column->addWidget(level_row());
    column->addWidget(upright_row());
}

QWidget* LevelPart::level_row()
{
    auto* holder = new QWidget;
    auto* row = frame_row(holder, tr("Level"));
    straighten_ =
        new ValueField({tr("turn"), tr("Turns the photos clockwise"), QStringLiteral("°"), -45, 45, 0, 0.1, 1});
    auto* draw = tool(tr("Draw level"), tr("Draw on the picture along what should be level or upright"));
    auto* find = tool(tr("Find level"), tr("From the long lines of this photo"));
    for (QWidget* w : std::initializer_list<QWidget*>{straighten_, draw, find})
        row->addWidget(w);
    connect(straighten_, &ValueField::begun, &frame_controller_, &FrameController::begin_change);
    connect(straighten_, &ValueField::edited, this, [this](double value) {
        frame_controller_.change([&](Framing& f) { f.straighten = value; }, tr("Straighten"));
    });
    connect(draw, &QPushButton::clicked, this, &LevelPart::draw_level);
    connect(find, &QPushButton::clicked, this, &LevelPart::find_level_line);
    return holder;
}

QWidget* LevelPart::upright_row()
{
    auto* holder = new QWidget;
    auto* row = frame_row(holder, tr("Upright"));
    uprights_ = new ValueField(
        {tr("lean"),
         tr("Draws the top apart, where walls lean together because the camera looked up; below 0 together"),
         QStringLiteral("%"), uprights_limits.low * 100, uprights_limits.high * 100, 0, 0.5, 1});
    auto* find = tool(tr("Find uprights"), tr("The turn, too, from the long upright lines of this photo"));
    row->addWidget(uprights_);
    row->addWidget(find);
    add_lens(*row);
    connect(uprights_, &ValueField::begun, &frame_controller_, &FrameController::begin_change);
    connect(uprights_, &ValueField::edited, this, [this](double percent) {
        frame_controller_.change([&](Framing& f) { f.uprights = percent / 100; }, tr("Make upright"));
    });
    connect(find, &QPushButton::clicked, this, &LevelPart::find_upright_lines);
    return holder;
}

void LevelPart::add_lens(FlowLayout& row)
{
    row.addWidget(heading(tr("Lens")));
    const QString tip = tr("Straightens what the lens bent: below 0 lines that bulge outwards, above 0 inwards. Of all "
                           "photos of the shot; set it before Steady measures");
    constexpr int decimals = 3;
    k1_ = new ValueField({QStringLiteral("k1"), tip, {}, lens_k1_limits.low, lens_k1_limits.high, 0, 0.005, decimals});
    k2_ = new ValueField({QStringLiteral("k2"),
                          tr("The same, more towards the corners"),
                          {},
                          lens_k2_limits.low,
                          lens_k2_limits.high,
                          0,
                          0.005,
                          decimals});
    for (ValueField* field : {k1_, k2_}) {
        row.addWidget(field);
        connect(field, &ValueField::begun, &frame_controller_, &FrameController::begin_change);
        connect(field, &ValueField::edited, this, [this, field](double value) {
            Lens lens = lens_of(*viewing_.shot());
            (field == k1_ ? lens.k1 : lens.k2) = value;
            if (can_be_taken_out(lens))
                frame_controller_.set_lens(lens);
            else
                Q_EMIT failed(tr("Such a lens lays parts of the photo over each other. Take a smaller k1 or k2."));
            refresh(*viewing_.shot());
        });
    }
}

void LevelPart::refresh(const Shot& shot)
{
    const Framing f = framing_of(shot);
    straighten_->show_value(f.straighten);
    uprights_->show_value(f.uprights * 100);
    const Lens lens = lens_of(shot);
    k1_->show_value(lens.k1);
    k2_->show_value(lens.k2);
}

std::optional<FrameRequest> LevelPart::picture_here() const
{
    const Shot* shot = viewing_.shot();
    const PhotoIndex photo = viewing_.shown_photo();
    if (!shot || photo.value < 0)
        return std::nullopt;
    constexpr int side = 1024;
    return request_for_shares(*shot, std::array{Share{photo}}, fitted(undressed_size(*shot), {side, side}));
}

/// Looks for something in the photo that is looked at, in the background, and does what it says; or says that there is
/// nothing.
template <class Find, class Take>
void LevelPart::look_for(Find search, Take take, const QString& nothing)
{
    const auto request = picture_here();
    if (!request)
        return;
    background_.run(
        this,
        [search, request = *request, &store = store_] {
            const auto picture = frenlo::render(request, Previews(store));
            return picture ? search(*picture) : std::invoke_result_t<Find, const cv::Mat&>();
        },
        [this, take, nothing](const std::invoke_result_t<Find, const cv::Mat&>& found) {
            if (found)
                take(*found);
            else
                Q_EMIT failed(nothing);
        },
        Rank::measure);
}

void LevelPart::find_level_line()
{
    look_for(
        find_level,
        [this](double turn) {
            frame_controller_.begin_change();
            frame_controller_.change([&](Framing& f) { f.straighten = std::round(turn * 100) / 100; },
                                     tr("Straighten"));
        },
        tr("This photo has too few long lines that agree. Draw along one of them."));
}

void LevelPart::find_upright_lines()
{
    look_for(
        find_uprights, [this](const Upright& upright) { frame_controller_.make_upright(upright); },
        tr("This photo has too few long upright lines that agree. Set how far by hand."));
}

}
