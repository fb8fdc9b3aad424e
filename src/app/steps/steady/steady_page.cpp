#include "app/steps/steady/steady_page.h"

#include "app/picture/picture_view.h"
#include "app/steps/steady/steady_bench.h"
#include "core/source/photo_source.h"
#include "core/steps/steady/first_look.h"

#include <QPainter>

#include <array>

namespace frenlo::app {

SteadyPage::SteadyPage(const Services& s)
    : look_(s.background, Rank::prepare), store_(s.store), viewing_(s.viewing), picture_(s.picture),
      controller_(s.background, s.session, s.viewing),
      bench_(new SteadyBench(s.session, s.viewing, controller_, s.picture))
{
    connect(bench_, &SteadyBench::show_photo, this, &SteadyPage::show_photo);
    connect(&controller_, &SteadyController::failed, this, &SteadyPage::told);
    connect(&controller_, &SteadyController::nudging_changed, this, [this] {
        picture_.set_blinking(controller_.nudging());
        Q_EMIT keys_to_sheet();
    });
}

QWidget* SteadyPage::bench()
{
    return bench_;
}

RouteState SteadyPage::route_state() const
{
    const Shot& shot = *viewing_.shot();
    if (!steadying_of(shot))
        return {tr("as shot")};
    const auto doubtful = int(doubtful_photos(shot).size());
    return {doubtful > 0 ? tr("%n photo(s) to look at", nullptr, doubtful)
                         : tr("moved ≤ %1 px").arg(most_moved_px(shot), 0, 'f', 1),
            doubtful == 0, doubtful > 0};
}

void SteadyPage::suggest(const ShotPtr& shot, const std::function<void(const QString& question)>& question)
{
    look_.forget();
    look_.start(
        {shot->id, "steady"}, [shot, &store = store_](const Job& job) { return moves_by(*shot, Previews(store), job); },
        [shot, question](double px) {
            constexpr double still = 1.5; // pixels of a photo: less is what a look can't tell from nothing
            if (px < still)
                return;
            const QString by = QString::number(px, 'f', 0);
            question(shot->kind == ShotKind::walked ? tr("It moves by up to %1 px: smooth its path?").arg(by)
                                                    : tr("It moves by up to %1 px: hold it still?").arg(by));
        });
}

StepKey SteadyPage::nudge_key(const QKeySequence& keys, cv::Point2d by_px, double degrees)
{
    StepKey key;
    key.keys = {keys};
    key.on_sheet = [this, by_px, degrees](bool again) {
        if (controller_.nudging())
            controller_.nudge(by_px, degrees, !again);
        return controller_.nudging();
    };
    return key;
}

std::vector<StepKey> SteadyPage::keys()
{
    constexpr double px = 0.1, degrees = 0.01;
    struct Way
    {
        Qt::Key key;
        cv::Point2d direction;
        double turn;
    };
    const std::array ways{Way{Qt::Key_Left, {-px, 0}, 0},        Way{Qt::Key_Right, {px, 0}, 0},
                          Way{Qt::Key_Up, {0, -px}, 0},          Way{Qt::Key_Down, {0, px}, 0},
                          Way{Qt::Key_PageUp, {0, 0}, -degrees}, Way{Qt::Key_PageDown, {0, 0}, degrees}};
    std::vector<StepKey> keys;
    for (const Way& way : ways) {
        keys.push_back(nudge_key(way.key, way.direction, way.turn));
        keys.push_back(nudge_key(Qt::SHIFT | way.key, way.direction * 10, way.turn * 10));
    }
    return keys;
}

std::vector<KeyHelp> SteadyPage::key_help() const
{
    return {
        {tr("Arrow keys, with Shift"), tr("in Steady, moving by hand: the photo by 0.1 px, by 1 px; Esc ends it")},
        {tr("Page Up, Page Down, with Shift"), tr("in Steady, moving by hand: the photo is turned by 0.01°, by 0.1°")}};
}

bool SteadyPage::end_what_goes_on()
{
    if (controller_.nudging())
        controller_.set_nudging(false);
    else if (picture_.comparing() != Compare::off)
        picture_.set_comparing(Compare::off);
    else
        return false;
    return true;
}

PhotoIndex SteadyPage::compared_photo() const
{
    if (viewing_.schedule().frames() == 0)
        return PhotoIndex(-1);
    if (const auto reference = reference_photo(*viewing_.shot()))
        return *reference;
    const std::size_t here = viewing_.schedule().span_at(viewing_.playhead());
    return here > 0 ? viewing_.schedule().spans()[here - 1].photo : PhotoIndex(-1);
}

QString SteadyPage::compared_name() const
{
    return viewing_.shot() && !reference_photo(*viewing_.shot()) ? tr("the one before") : tr("the reference photo");
}

QString SteadyPage::as_shot_text() const
{
    return viewing_.shot() && steadying_of(*viewing_.shot()) ? tr("as shot, with the crop") : QString();
}

/// What of the photo is in the film: the crop's corners as this photo sees them.
void SteadyPage::paint_over_as_shot(QPainter& painter, const QRectF& where, const ShotPhoto& photo) const
{
    if (!viewing_.shot() || !steadying_of(*viewing_.shot()) || !alignment_of(photo))
        return;
    const cv::Rect& crop = steadying_of(*viewing_.shot())->crop;
    const cv::Size size = seen_size(photo);
    const cv::Point2d tl(crop.x - 0.5, crop.y - 0.5), br(crop.br().x - 0.5, crop.br().y - 0.5);
    QPolygonF outline;
    for (const cv::Point2d& corner : {tl, cv::Point2d(br.x, tl.y), br, cv::Point2d(tl.x, br.y)}) {
        const cv::Point2d p = moved(alignment_of(photo)->from_film, corner);
        outline << QPointF(where.left() + (p.x + 0.5) / size.width * where.width(),
                           where.top() + (p.y + 0.5) / size.height * where.height());
    }
    painter.setBrush(Qt::NoBrush);
    for (const auto& [colour, width] : {std::pair(QColor(Qt::black), 3.0), std::pair(QColor(Qt::white), 1.2)}) {
        painter.setPen(QPen(colour, width));
        painter.drawPolygon(outline);
    }
}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Hold still", "align stabilise stabilize register lock tripod"},
                           WhereWords{"Smooth path", "stabilise stabilize walk hyperlapse gimbal shake"},
                           WhereWords{"Shape of the crop", "crop trim border black edges"},
                           WhereWords{"Strength of the smoothing", "smoothness"},
                           WhereWords{"By points", "track markers manual align"},
                           WhereWords{"Undo steadying", "remove stabilisation"}};

}

const StepModule& steady_module()
{
    static const StepModule module{
        {"steady"},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Steady"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<SteadyPage>(s); },
        words};
    return module;
}

}
