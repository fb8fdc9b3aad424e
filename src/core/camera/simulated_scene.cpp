#include "core/camera/simulated_scene.h"

#include "core/source/transfer.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cairo.h>
#include <cmath>
#include <memory>
#include <numbers>

namespace frenlo {

namespace {

using Point = cv::Point2d;

constexpr double radians = std::numbers::pi / 180;

struct Limb
{
    Pose::Joint joint;
    std::optional<Pose::Joint> hangs_on; ///< the part at whose end it begins; none: at the body
    Point at;                            ///< where it begins, on the body that stands upright, from the hips
    double length;
    double width;
};

constexpr double shoulder = -0.20;

/// In the order in which they lie over each other.
const std::array<Limb, 9>& limbs()
{
    static const std::array<Limb, 9> all{
        Limb{Pose::left_arm, {}, {0.045, shoulder}, 0.10, 0.030},
        Limb{Pose::left_hand, Pose::left_arm, {}, 0.10, 0.026},
        Limb{Pose::left_leg, {}, {0.026, 0.01}, 0.13, 0.042},
        Limb{Pose::left_foot, Pose::left_leg, {}, 0.13, 0.034},
        Limb{Pose::right_leg, {}, {-0.026, 0.01}, 0.13, 0.042},
        Limb{Pose::right_foot, Pose::right_leg, {}, 0.13, 0.034},
        Limb{Pose::head, {}, {0, -0.235}, 0.09, 0.085},
        Limb{Pose::right_arm, {}, {-0.045, shoulder}, 0.10, 0.030},
        Limb{Pose::right_hand, Pose::right_arm, {}, 0.10, 0.026},
    };
    return all;
}

const Limb* limb_of(Pose::Joint joint)
{
    for (const Limb& l : limbs())
        if (l.joint == joint)
            return &l;
    return nullptr;
}

Point turned(Point p, double degrees)
{
    const double c = std::cos(degrees * radians), s = std::sin(degrees * radians);
    return {p.x * c - p.y * s, p.x * s + p.y * c};
}

/// Of what a limb hangs on, and all that hang above it.
double angle_of(const Pose& pose, Pose::Joint joint)
{
    const Limb* l = limb_of(joint);
    const double own = pose.degrees[joint];
    if (!l)
        return own;
    return own + angle_of(pose, l->hangs_on.value_or(Pose::body));
}

Point begin_of(const Pose& pose, const Limb& l)
{
    return l.hangs_on ? end_of(pose, *l.hangs_on) : pose.hips + turned(l.at, pose.degrees[Pose::body]);
}

struct ReleaseCairo
{
    void operator()(cairo_t* c) const { cairo_destroy(c); }
    void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
    void operator()(cairo_pattern_t* p) const { cairo_pattern_destroy(p); }
};
template <class T>
using OwnCairo = std::unique_ptr<T, ReleaseCairo>;

struct Ink
{
    double r, g, b;
};

void use(cairo_t* c, const Ink& ink)
{
    cairo_set_source_rgb(c, ink.r, ink.g, ink.b);
}

/// The room: a wall of boards, a shelf with three jars, a bench that it stands on.
void draw_room(cairo_t* c, double width)
{
    const OwnCairo<cairo_pattern_t> wall(cairo_pattern_create_linear(0, 0, width, 0.75));
    cairo_pattern_add_color_stop_rgb(wall.get(), 0, 0.56, 0.60, 0.57);
    cairo_pattern_add_color_stop_rgb(wall.get(), 1, 0.36, 0.42, 0.43);
    cairo_set_source(c, wall.get());
    cairo_paint(c);
    use(c, {0.30, 0.36, 0.37});
    for (double x = 0.11; x < width; x += 0.19) {
        cairo_rectangle(c, x, 0, 0.004, 0.9);
        cairo_fill(c);
    }
    use(c, {0.45, 0.33, 0.22});
    cairo_rectangle(c, width - 0.62, 0.30, 0.50, 0.025);
    cairo_fill(c);
    const std::array<Ink, 3> jars{Ink{0.62, 0.25, 0.16}, Ink{0.78, 0.68, 0.40}, Ink{0.22, 0.38, 0.47}};
    for (std::size_t i = 0; i < jars.size(); ++i) {
        use(c, jars[i]);
        const double x = width - 0.56 + 0.15 * double(i), tall = 0.10 + 0.02 * double(i % 2);
        cairo_rectangle(c, x, 0.30 - tall, 0.08, tall);
        cairo_fill(c);
        use(c, {0.85, 0.84, 0.80});
        cairo_rectangle(c, x + 0.012, 0.30 - tall * 0.7, 0.056, tall * 0.3);
        cairo_fill(c);
    }
    const OwnCairo<cairo_pattern_t> bench(cairo_pattern_create_linear(0, 0.80, 0, 1));
    cairo_pattern_add_color_stop_rgb(bench.get(), 0, 0.58, 0.45, 0.31);
    cairo_pattern_add_color_stop_rgb(bench.get(), 1, 0.36, 0.27, 0.19);
    cairo_set_source(c, bench.get());
    cairo_rectangle(c, 0, 0.80, width, 0.20);
    cairo_fill(c);
    use(c, {0.44, 0.33, 0.22}); // grain, so that there is something to see sharp
    cairo_set_line_width(c, 0.002);
    for (int i = 0; i < 9; ++i) {
        const double y = 0.815 + 0.02 * i;
        cairo_move_to(c, 0, y);
        cairo_curve_to(c, width * 0.3, y + 0.012 * ((i % 3) - 1), width * 0.6, y - 0.01 * (i % 2), width, y + 0.004);
        cairo_stroke(c);
    }
}

void draw_limb(cairo_t* c, Point from, Point to, double width, const Ink& ink)
{
    cairo_set_line_cap(c, CAIRO_LINE_CAP_ROUND);
    use(c, {ink.r * 0.55, ink.g * 0.55, ink.b * 0.55});
    cairo_set_line_width(c, width);
    cairo_move_to(c, from.x, from.y);
    cairo_line_to(c, to.x, to.y);
    cairo_stroke(c);
    use(c, ink);
    cairo_set_line_width(c, width * 0.76);
    cairo_move_to(c, from.x - width * 0.05, from.y - width * 0.05);
    cairo_line_to(c, to.x - width * 0.05, to.y - width * 0.05);
    cairo_stroke(c);
}

void draw_can(cairo_t* c, Point hand)
{
    use(c, {0.24, 0.45, 0.42});
    cairo_rectangle(c, hand.x - 0.045, hand.y + 0.015, 0.075, 0.075);
    cairo_fill(c);
    cairo_set_line_width(c, 0.012);
    cairo_move_to(c, hand.x + 0.03, hand.y + 0.075);
    cairo_line_to(c, hand.x + 0.085, hand.y + 0.02);
    cairo_stroke(c);
    use(c, {0.72, 0.62, 0.30});
    cairo_set_line_width(c, 0.008);
    cairo_arc(c, hand.x - 0.008, hand.y + 0.018, 0.028, std::numbers::pi, 0);
    cairo_stroke(c);
}

void draw_body(cairo_t* c, const Pose& pose)
{
    cairo_save(c);
    cairo_translate(c, pose.hips.x, pose.hips.y);
    cairo_rotate(c, pose.degrees[Pose::body] * radians);
    use(c, {0.16, 0.27, 0.36});
    cairo_move_to(c, -0.058, shoulder - 0.035);
    cairo_line_to(c, 0.058, shoulder - 0.035);
    cairo_line_to(c, 0.050, 0.035);
    cairo_line_to(c, -0.050, 0.035);
    cairo_close_path(c);
    cairo_fill(c);
    use(c, {0.72, 0.40, 0.20}); // an apron
    cairo_rectangle(c, -0.036, shoulder + 0.07, 0.072, 0.17);
    cairo_fill(c);
    use(c, {0.85, 0.78, 0.55});
    for (const double y : {shoulder - 0.005, shoulder + 0.03}) {
        cairo_arc(c, 0, y, 0.007, 0, 2 * std::numbers::pi);
        cairo_fill(c);
    }
    cairo_restore(c);
}

void draw_head(cairo_t* c, const Pose& pose, const Limb& l)
{
    const Point at = begin_of(pose, l);
    cairo_save(c);
    cairo_translate(c, at.x, at.y);
    cairo_rotate(c, angle_of(pose, Pose::head) * radians);
    use(c, {0.83, 0.66, 0.52});
    cairo_rectangle(c, -0.042, -0.085, 0.084, 0.085);
    cairo_fill(c);
    use(c, {0.33, 0.38, 0.40}); // a tin hat
    cairo_rectangle(c, -0.055, -0.098, 0.11, 0.02);
    cairo_fill(c);
    cairo_rectangle(c, -0.03, -0.125, 0.06, 0.03);
    cairo_fill(c);
    use(c, {0.12, 0.12, 0.12});
    for (const double x : {-0.018, 0.018}) {
        cairo_arc(c, x, -0.052, 0.006, 0, 2 * std::numbers::pi);
        cairo_fill(c);
    }
    cairo_set_line_width(c, 0.004);
    cairo_arc(c, 0, -0.032, 0.016, 0.3, std::numbers::pi - 0.3);
    cairo_stroke(c);
    cairo_restore(c);
}

void draw_figure(cairo_t* c, const Pose& pose)
{
    const OwnCairo<cairo_pattern_t> shadow(cairo_pattern_create_radial(pose.hips.x, 0, 0.01, pose.hips.x, 0, 0.14));
    cairo_pattern_add_color_stop_rgba(shadow.get(), 0, 0.1, 0.07, 0.04, 0.55);
    cairo_pattern_add_color_stop_rgba(shadow.get(), 1, 0.1, 0.07, 0.04, 0);
    cairo_save(c);
    cairo_translate(c, 0.03, 0.875);
    cairo_scale(c, 1, 0.2);
    cairo_set_source(c, shadow.get());
    cairo_arc(c, pose.hips.x, 0, 0.14, 0, 2 * std::numbers::pi);
    cairo_fill(c);
    cairo_restore(c);
    bool body = false;
    for (const Limb& l : limbs()) {
        if (l.joint == Pose::head) {
            draw_body(c, pose);
            body = true;
            draw_head(c, pose, l);
            continue;
        }
        const bool leg = l.joint >= Pose::left_leg;
        const Ink ink = leg ? Ink{0.35, 0.30, 0.28} : body ? Ink{0.20, 0.34, 0.44} : Ink{0.14, 0.23, 0.31};
        draw_limb(c, begin_of(pose, l), end_of(pose, l.joint), l.width, ink);
        if (l.joint == Pose::left_foot || l.joint == Pose::right_foot) {
            const Point at = end_of(pose, l.joint);
            draw_limb(c, at, at + Point(0.03, 0.004), 0.026, {0.18, 0.14, 0.12});
        }
        if (l.joint == Pose::right_hand)
            draw_can(c, end_of(pose, l.joint));
    }
}

}

cv::Point2d end_of(const Pose& pose, Pose::Joint joint)
{
    const Limb* l = limb_of(joint);
    if (!l)
        return pose.hips;
    const double way = joint == Pose::head ? -l->length : l->length;
    return begin_of(pose, *l) + turned({0, way}, angle_of(pose, joint));
}

std::optional<Pose::Joint> part_at(const Pose& pose, cv::Point2d place)
{
    const auto distance = [&](Point a, Point b) {
        const Point way = b - a;
        const double t = std::clamp((place - a).dot(way) / std::max(1e-9, way.dot(way)), 0.0, 1.0);
        return cv::norm(place - (a + t * way));
    };
    constexpr double near = 0.03;
    std::optional<Pose::Joint> found;
    double best = near;
    for (const Limb& l : limbs()) {
        const double d = distance(begin_of(pose, l), end_of(pose, l.joint)) - l.width / 2 + 0.005;
        if (d < best) {
            best = d;
            found = l.joint;
        }
    }
    if (!found && distance(pose.hips, pose.hips + turned({0, shoulder}, pose.degrees[Pose::body])) < 0.06)
        found = Pose::body;
    return found;
}

Pose pulled(const Pose& pose, Pose::Joint part, cv::Point2d to)
{
    Pose p = pose;
    const Limb* l = limb_of(part);
    if (!l) {
        p.hips = {std::clamp(to.x, 0.1, 1.7), std::clamp(to.y, 0.3, 0.75)};
        return p;
    }
    const Point way = part == Pose::head ? begin_of(pose, *l) - to : to - begin_of(pose, *l);
    if (cv::norm(way) < 1e-4)
        return p;
    const double wanted = std::atan2(-way.x, way.y) / radians;
    p.degrees[part] += std::remainder(wanted - angle_of(pose, part), 360.0);
    return p;
}

Pose walking_pose(int photo)
{
    constexpr int there = 24;
    const double at = double(photo % (2 * there));
    const bool back = at >= there;
    const double step = 2 * std::numbers::pi * photo / 8.0;
    const double swing = std::sin(step);
    Pose p;
    p.hips = {0.45 + 0.9 * (back ? 2 * there - at : at) / there, 0.60 - 0.008 * std::cos(2 * step)};
    p.degrees = {3 * std::sin(step / 2), -4 * swing,  24 * swing,           10 + 8 * swing, -24 * swing,
                 -30 + 8 * swing,        -22 * swing, 14 * (1 - swing) / 2, 22 * swing,     14 * (1 + swing) / 2};
    return p;
}

cv::Mat draw_scene(const Pose& pose, cv::Size size)
{
    cv::Mat coded(size, CV_8UC4);
    {
        const OwnCairo<cairo_surface_t> surface(cairo_image_surface_create_for_data(
            coded.data, CAIRO_FORMAT_RGB24, size.width, size.height, int(coded.step)));
        const OwnCairo<cairo_t> c(cairo_create(surface.get()));
        cairo_scale(c.get(), size.height, size.height);
        draw_room(c.get(), double(size.width) / size.height);
        draw_figure(c.get(), pose);
        cairo_surface_flush(surface.get());
    }
    cv::Mat colours, linear;
    cv::cvtColor(coded, colours, cv::COLOR_BGRA2BGR);
    const cv::Mat table(std::vector<float>(linear_table<std::uint8_t>()), true);
    cv::LUT(colours, table, linear);
    return linear;
}

}
