#include "core/time/schedule.h"

#include <boost/multiprecision/cpp_int.hpp>

#include <algorithm>
#include <utility>

namespace frenlo {

namespace {

using Exact = boost::multiprecision::cpp_rational;
using Whole = boost::multiprecision::cpp_int;

Exact exact(Fraction f)
{
    return Exact(f.num(), f.den());
}

}

bool is_shown(const Hold& hold)
{
    if (const auto* f = std::get_if<Frames>(&hold))
        return f->count > 0;
    return std::get<Seconds>(hold).value > Fraction(0);
}

/// The running total of the holds. Frames and seconds are summed apart: frames, the usual case, stay small whole
/// numbers, and only holds in seconds, whose denominators may be anything a person types, need unbounded ones.
class Schedule::RunningTotal
{
public:
    RunningTotal(Rate paced_at, Rate delivered_at)
        : frame_ratio_(delivered_at.value() / paced_at.value()), rate_(exact(delivered_at.value()))
    {
    }

    void add(const Hold& hold)
    {
        if (const auto* f = std::get_if<Frames>(&hold))
            paced_frames_ += f->count;
        else
            delivered_ += exact(std::get<Seconds>(hold).value) * rate_;
    }

    /// In frames of the delivery rate.
    [[nodiscard]] FrameIndex rounded() const
    {
        if (delivered_.is_zero())
            return FrameIndex((Fraction(paced_frames_) * frame_ratio_).rounded());
        return FrameIndex(floor_of(total() + Exact(1, 2)));
    }

    /// The same, not rounded.
    [[nodiscard]] Point point() const
    {
        if (delivered_.is_zero()) {
            const Fraction frames = Fraction(paced_frames_) * frame_ratio_;
            return {frames.floor(), (frames - Fraction(frames.floor())).approx()};
        }
        const Exact frames = total();
        const std::int64_t whole = floor_of(frames);
        return {whole, static_cast<double>(Exact(frames - Exact(whole)))};
    }

private:
    [[nodiscard]] Exact total() const { return delivered_ + Exact(paced_frames_) * exact(frame_ratio_); }
    static std::int64_t floor_of(const Exact& frames)
    {
        const Whole whole = numerator(frames) / denominator(frames); // nothing here is negative: truncation is floor
        return whole.convert_to<std::int64_t>();
    }

    Fraction frame_ratio_;
    Exact rate_;
    std::int64_t paced_frames_ = 0;
    Exact delivered_ = 0;
};

Schedule::Schedule(std::span<const HeldPhoto> photos, Rate paced_at, Rate delivered_at, Between between)
    : rate_(delivered_at)
{
    spans_.reserve(photos.size());
    RunningTotal total(paced_at, delivered_at);
    FrameIndex begin;
    Point point;
    for (const auto& [photo, hold] : photos) {
        total.add(hold);
        const FrameIndex end = total.rounded();
        spans_.push_back({photo, begin, end});
        if (between == Between::mix) {
            const Point from = std::exchange(point, total.point());
            exact_.emplace_back(from, point);
        } else if (begin == end && is_shown(hold)) {
            between_.push_back(photo);
        }
        begin = end;
    }
    for (std::size_t i = 0; i < exact_.size(); ++i) { // mixed, only what lies behind the last frame is lost
        auto& [from, to] = exact_[i];
        if (from.whole >= frames() && is_shown(photos[i].hold))
            between_.push_back(spans_[i].photo);
        for (Point* p : {&from, &to})
            if (p->whole >= frames())
                *p = {frames(), 0};
    }
}

Schedule Schedule::followed_by(const Schedule& next) const
{
    Schedule both = *this;
    const std::int64_t by = frames();
    for (FrameSpan s : next.spans_) {
        s.begin = s.begin + by;
        s.end = s.end + by;
        both.spans_.push_back(s);
    }
    const auto exact_of = [](const Schedule& s) {
        if (!s.exact_.empty())
            return s.exact_;
        std::vector<std::pair<Point, Point>> on_frames;
        for (const FrameSpan& span : s.spans_)
            on_frames.emplace_back(Point{span.begin.value, 0}, Point{span.end.value, 0});
        return on_frames;
    };
    if (!exact_.empty() || !next.exact_.empty()) {
        both.exact_ = exact_of(*this);
        for (auto [from, to] : exact_of(next)) {
            from.whole += by;
            to.whole += by;
            both.exact_.emplace_back(from, to);
        }
    }
    both.between_.insert(both.between_.end(), next.between_.begin(), next.between_.end());
    return both;
}

std::size_t Schedule::span_at(FrameIndex frame) const
{
    // The first span that ends after the frame; empty spans end at their begin and are passed over.
    const auto it = std::upper_bound(spans_.begin(), spans_.end(), frame,
                                     [](FrameIndex f, const FrameSpan& s) { return f < s.end; });
    return static_cast<std::size_t>(it - spans_.begin());
}

std::vector<Share> Schedule::shares_at(FrameIndex frame) const
{
    if (exact_.empty())
        return {{photo_at(frame)}};
    constexpr double nothing = 1e-9; // a boundary that lies on the frame's edge but for the last bit
    const auto into = [&](const Point& p) {
        return double(p.whole - frame.value) + p.part;
    }; // frames after this one's begin
    auto at =
        std::partition_point(exact_.begin(), exact_.end(), [&](const auto& e) { return into(e.second) <= nothing; });
    std::vector<Share> shares;
    double sum = 0;
    for (; at != exact_.end() && into(at->first) < 1 - nothing; ++at) {
        const double weight = std::min(1.0, into(at->second)) - std::max(0.0, into(at->first));
        if (weight <= nothing)
            continue;
        const PhotoIndex photo = spans_[std::size_t(at - exact_.begin())].photo;
        sum += weight;
        if (!shares.empty() && shares.back().photo == photo)
            shares.back().weight += weight;
        else
            shares.push_back({photo, weight});
    }
    if (shares.empty())
        return {{photo_at(frame)}};
    for (Share& s : shares) // the film's last frame may be longer than its last photo
        s.weight = shares.size() == 1 ? 1 : s.weight / sum;
    return shares;
}

std::vector<Moment> Schedule::moments(FrameIndex begin, FrameIndex end) const
{
    std::vector<Moment> moments;
    if (begin >= end)
        return moments;
    if (exact_.empty()) {
        for (std::size_t i = span_at(begin); i < spans_.size() && spans_[i].begin < end; ++i)
            if (spans_[i].frames() > 0)
                moments.push_back(
                    {std::max(begin, spans_[i].begin), std::min(end, spans_[i].end), {{spans_[i].photo}}});
        return moments;
    }
    for (FrameIndex f = begin; f < end; ++f) {
        auto shares = shares_at(f);
        if (!moments.empty() && moments.back().shares == shares)
            moments.back().end = f + 1;
        else
            moments.push_back({f, f + 1, std::move(shares)});
    }
    return moments;
}

std::optional<std::size_t> Schedule::span_of(PhotoIndex photo) const
{
    const auto it = std::find_if(spans_.begin(), spans_.end(), [&](const FrameSpan& s) { return s.photo == photo; });
    if (it == spans_.end())
        return std::nullopt;
    return static_cast<std::size_t>(it - spans_.begin());
}

std::vector<PhotoIndex> Schedule::photo_of_each_frame() const
{
    std::vector<PhotoIndex> photos;
    photos.reserve(static_cast<std::size_t>(frames()));
    for (const auto& s : spans_)
        photos.insert(photos.end(), static_cast<std::size_t>(s.frames()), s.photo);
    return photos;
}

}
