#include "core/steps/frame/framing.h"

#include "core/picture/picture.h"
#include "core/steps/frame/looks.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace frenlo {

namespace {

/// How wide a box of this shape about this point may be, shares of the width, before a corner is beyond.
double widest_about(cv::Point2d middle, cv::Size2d undressed, double ratio, const Transform& as_it_was)
{
    const auto inside = [&](double width) {
        for (const double x : {-0.5, 0.5})
            for (const double y : {-0.5, 0.5}) {
                const cv::Point2d at = moved(as_it_was, middle + cv::Point2d(x * width, y * width / ratio));
                if (!(at.x >= 0) || !(at.y >= 0) || !(at.x <= undressed.width) || !(at.y <= undressed.height))
                    return false;
            }
        return true;
    };
    double low = 0, high = undressed.width * 2;
    for (int i = 0; i < 40; ++i)
        (inside((low + high) / 2) ? low : high) = (low + high) / 2;
    return low;
}

cv::Rect2d largest_upright_box(cv::Size2d undressed, double ratio, double straighten, double uprights)
{
    const Transform as_it_was = out_of_upright(straighten, uprights, undressed);
    const auto widest = [&](double down) {
        return widest_about({undressed.width / 2, undressed.height * (0.5 + down)}, undressed, ratio, as_it_was);
    };
    double low = -0.4, high = 0.4; // one place is best: the free part is convex
    for (int i = 0; i < 40; ++i) {
        const double a = low + (high - low) / 3, b = high - (high - low) / 3;
        (widest(a) < widest(b) ? low : high) = widest(a) < widest(b) ? a : b;
    }
    const double down = 0.5 + (low + high) / 2, width = widest(down - 0.5);
    const double x = width / undressed.width, y = width / ratio / undressed.height;
    return {(1 - x) / 2, down - y / 2, x, y};
}

}

cv::Rect2d largest_box(cv::Size2d undressed, double ratio, double straighten, double uprights)
{
    if (uprights != 0)
        return largest_upright_box(undressed, ratio, straighten, uprights);
    const double a = std::abs(straighten) * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    // Both corners of a box of width w and height w / ratio, turned, stay within half of each side.
    const double width = std::min(undressed.width / (c + s / ratio), undressed.height / (s + c / ratio));
    const double x = width / undressed.width, y = width / ratio / undressed.height;
    return {(1 - x) / 2, (1 - y) / 2, x, y};
}

namespace {

/// What is kept of the undressed frame: its crop, or as much of its middle as the shape has.
cv::Rect2d kept_box(const Framing& f, cv::Size undressed)
{
    if (f.crop && !f.crop->empty())
        return *f.crop;
    const double own = double(undressed.width) / double(undressed.height);
    const double ratio = f.shape.as_photos() || f.fit == FrameFit::inside ? own : f.shape.value();
    return largest_box(undressed, ratio, f.straighten, f.uprights);
}

bool moves(const Shot& shot)
{
    return !views_of(shot).empty();
}

bool changes_view(const Framing& f)
{
    return !f.shape.as_photos() || f.crop || f.straighten != 0 || f.uprights != 0 || f.fit == FrameFit::inside;
}

/// The film's passes through its photos, each with the views on its way: from first to last frame.
struct Piece
{
    std::int64_t begin = 0, end = 0;
    std::vector<DriftKnot> knots{};
};

/// A film that starts again jumps; one that goes back does not.
std::vector<Piece> pieces_of(const Shot& shot, const Schedule& schedule)
{
    std::vector<Piece> pieces;
    const auto spans = schedule.spans();
    if (spans.empty())
        return pieces;
    const PhotoIndex first = spans.front().photo;
    const bool returns = shot.pacing.there_and_back != Return::none;
    for (std::size_t i = 0; i < spans.size(); ++i) {
        const bool again = i > 0 && spans[i].photo == first && spans[i - 1].photo != first && !returns;
        if (pieces.empty() || again)
            pieces.push_back({spans[i].begin.value, spans[i].end.value});
        Piece& piece = pieces.back();
        piece.end = spans[i].end.value;
        const bool goes_on = i > 0 && !again && spans[i - 1].photo == spans[i].photo;
        if (const DriftView* v = goes_on ? nullptr : view_of(shot.photos[spans[i].photo.at()]);
            v && (piece.knots.empty() || double(spans[i].begin.value) > piece.knots.back().frame))
            piece.knots.push_back({double(spans[i].begin.value), *v});
        // The movement lasts to the end: the view of the last photo is reached with its last frame.
        const bool last = i + 1 == spans.size() || (spans[i + 1].photo == first && !returns);
        if (last && piece.knots.size() > 1 && piece.knots.back().frame == double(spans[i].begin.value))
            piece.knots.back().frame = double(spans[i].end.value - 1);
    }
    return pieces;
}

/// What the view is at each frame.
std::function<FrameView(FrameIndex)> course_of(const Shot& shot, const Schedule& schedule, cv::Size undressed)
{
    const Framing f = framing_of(shot);
    const FrameView still = still_view(f, undressed);
    struct Way
    {
        std::int64_t end;
        DriftPath path;
    };
    std::vector<Way> ways;
    for (const Piece& p : pieces_of(shot, schedule)) {
        const std::vector<DriftKnot> none{{double(p.begin), {still.box, still.turn}}};
        ways.push_back({p.end, DriftPath(p.knots.empty() ? none : p.knots, f.ease, f.ease_strength)});
    }
    const bool drifts = moves(shot) && !ways.empty();
    return [still, drifts, ways = std::move(ways)](FrameIndex frame) {
        FrameView view = still;
        if (!drifts)
            return view;
        auto way = ways.begin();
        while (way + 1 != ways.end() && frame.value >= way->end)
            ++way;
        const DriftView now = way->path.at(double(frame.value));
        view.box = now.box;
        view.turn = now.turn;
        view.whole_frame = true;
        return view;
    };
}

}

FrameView still_view(const Framing& f, cv::Size undressed)
{
    return {.box = kept_box(f, undressed),
            .straighten = f.straighten,
            .uprights = f.uprights,
            .whole_frame = f.fit == FrameFit::fill,
            .beyond = f.beyond};
}

std::optional<cv::Size> dressed_size(const Shot& shot, cv::Size undressed)
{
    const Framing f = framing_of(shot);
    if (!f.shape.pixels.empty())
        return f.shape.pixels;
    if (!changes_view(f) && !moves(shot))
        return std::nullopt;
    cv::Rect2d box = kept_box(f, undressed);
    for (const PhotoIndex v : views_of(shot)) // as large as its largest view
        if (const auto& b = view_of(shot.photos[v.at()])->box; v == views_of(shot).front() || b.area() > box.area())
            box = b;
    double width = box.width * undressed.width, height = box.height * undressed.height;
    const double ratio = f.shape.as_photos() ? width / height : f.shape.value();
    const bool wider = width / height > ratio;
    if (wider == (f.fit == FrameFit::fill)) // cut at the sides, or bars above and below
        width = height * ratio;
    else
        height = width / ratio;
    const double too_large = std::max({1.0, width / most_frame_side, height / most_frame_side});
    return cv::Size(std::max(2, int(std::lround(width / too_large))),
                    std::max(2, int(std::lround(height / too_large))));
}

DressFrame dress_frames(const Shot& shot, const Schedule& schedule, const OtherFilms&)
{
    const Framing f = framing_of(shot);
    if (f.nothing() && !moves(shot))
        return {};
    const cv::Size undressed = undressed_size(shot);
    if (undressed.empty())
        return {};
    const bool seen_otherwise = changes_view(f) || moves(shot);
    return [seen_otherwise, course = course_of(shot, schedule, undressed),
            looks = looks_of(f, shot, schedule)](FrameIndex frame, FrameDress& dress) {
        if (seen_otherwise)
            dress.view = course(frame);
        looks(frame, dress.finish);
    };
}

std::vector<FrameView> views_of_frames(const Shot& shot, const Schedule& schedule)
{
    std::vector<FrameView> views;
    const cv::Size undressed = undressed_size(shot);
    if (undressed.empty())
        return views;
    const auto course = course_of(shot, schedule, undressed);
    for (FrameIndex f(0); f.value < schedule.frames(); ++f)
        views.push_back(course(f));
    return views;
}

double enlargement(const Shot& shot, cv::Size size)
{
    const cv::Size undressed = undressed_size(shot);
    if (undressed.empty())
        return 1;
    const cv::Size film = size.empty() ? film_size(shot) : size;
    const Framing f = framing_of(shot);
    cv::Size2d least = box_size(still_view(f, undressed), undressed);
    const auto views = views_of(shot);
    for (const PhotoIndex v : views) {
        const auto& b = view_of(shot.photos[v.at()])->box;
        const cv::Size2d box(b.width * undressed.width, b.height * undressed.height);
        if (v == views.front() || box.area() < least.area())
            least = box;
    }
    const double wide = film.width / least.width, high = film.height / least.height;
    return f.fit == FrameFit::inside && views.empty() ? std::min(wide, high) : std::max(wide, high);
}

}
