#include "core/time/schedule.h"

#include "core/time/exact.h"

#include <algorithm>
#include <utility>

namespace frenlo {

namespace {

using Whole = boost::multiprecision::cpp_int;

/// Of a frame: a boundary that lies on its edge but for the last bit.
constexpr double nothing = 1e-9;

}

bool is_shown(const Hold& hold)
{
    if (const auto* f = std::get_if<Frames>(&hold))
        return f->count > 0;
    return std::get<Seconds>(hold).value > Fraction(0);
}

std::vector<double> time_of_becoming(std::span<const double> holds)
{
    std::vector<std::size_t> shown;
    for (std::size_t i = 0; i < holds.size(); ++i)
        if (holds[i] > nothing)
            shown.push_back(i);
    std::vector<double> becoming(holds.size(), 0);
    for (std::size_t n = 0; n + 1 < shown.size(); ++n) { // the last one becomes nothing
        const double hold = holds[shown[n]];
        const double beside = std::max(n > 0 ? holds[shown[n - 1]] : 0, holds[shown[n + 1]]);
        becoming[shown[n]] = hold > 2 * beside ? beside : hold;
    }
    return becoming;
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
    for (const HeldPhoto& held : photos) {
        const PhotoIndex photo = held.photo;
        const Hold& hold = held.hold;
        total.add(hold);
        const FrameIndex end = total.rounded();
        spans_.push_back({photo, begin, end});
        if (between != Between::repeat) {
            const Point from = std::exchange(point, total.point());
            exact_.emplace_back(from, point);
        } else if (begin == end && is_shown(hold)) {
            between_.push_back(photo);
        }
        begin = end;
    }
    if (between == Between::mix)
        find_unseen_mixed(photos);
    else if (between == Between::motion)
        find_unseen_moving(photos);
    for (auto& [from, to] : exact_)
        for (Point* p : {&from, &to})
            if (p->whole >= frames())
                *p = {frames(), 0};
}

/// Mixed, only what lies behind the last frame is lost.
void Schedule::find_unseen_mixed(std::span<const HeldPhoto> photos)
{
    for (std::size_t i = 0; i < exact_.size(); ++i)
        if (exact_[i].first.whole >= frames() && is_shown(photos[i].hold))
            between_.push_back(spans_[i].photo);
}

/// Frames show the two photos that their begin lies between: what begins and ends between two frames is lost, if
/// neither is within its time.
void Schedule::find_unseen_moving(std::span<const HeldPhoto> photos)
{
    std::vector<double> holds;
    holds.reserve(exact_.size());
    for (const auto& [from, to] : exact_)
        holds.push_back(double(to.whole - from.whole) + (to.part - from.part));
    becoming_ = time_of_becoming(holds);
    std::optional<std::size_t> before; // that is shown at all
    for (std::size_t i = 0; i < exact_.size(); ++i) {
        if (!is_shown(photos[i].hold))
            continue;
        const auto& [from, to] = exact_[i];
        // Of the frames behind the begin of the one before's becoming this one, or else from its own begin on.
        const double into = before ? becoming_[*before] : 0;
        const double begin = double(from.whole) + from.part, end = double(to.whole) + to.part;
        const double first = into > nothing ? std::floor(begin - into + nothing) + 1 : std::ceil(begin - nothing);
        if (first >= std::min(end - nothing, double(frames())))
            between_.push_back(spans_[i].photo);
        before = i;
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
    if (!becoming_.empty() || !next.becoming_.empty()) {
        both.becoming_.resize(spans_.size());
        both.becoming_.insert(both.becoming_.end(), next.becoming_.begin(), next.becoming_.end());
        both.becoming_.resize(both.spans_.size());
    }
    both.between_.insert(both.between_.end(), next.between_.begin(), next.between_.end());
    for (Joint joint : next.joints_) {
        joint.begin = joint.begin + by;
        joint.end = joint.end + by;
        both.joints_.push_back(std::move(joint));
    }
    return both;
}

std::size_t Schedule::span_at(FrameIndex frame) const
{
    // The first span that ends after the frame; empty spans end at their begin and are passed over.
    const auto it = std::upper_bound(spans_.begin(), spans_.end(), frame,
                                     [](FrameIndex f, const FrameSpan& s) { return f < s.end; });
    return static_cast<std::size_t>(it - spans_.begin());
}

Schedule Schedule::with_joint(const Schedule& before, std::int64_t frames, std::int64_t passes) const
{
    Schedule joined = *this;
    joined.joints_.clear();
    const std::int64_t count = std::max<std::int64_t>(1, passes);
    const std::int64_t most = std::min({frames, before.frames(), this->frames() / count / 2});
    if (most < 1)
        return joined;
    for (std::int64_t pass = 1; pass <= count; ++pass) {
        const FrameIndex end((Fraction(this->frames()) * Fraction(pass, count)).rounded());
        Joint joint{FrameIndex(end.value - most), end, {}};
        for (std::int64_t i = 0; i < most; ++i)
            joint.others.push_back(before.shares_at(FrameIndex(before.frames() - most + i)));
        joined.joints_.push_back(std::move(joint));
    }
    return joined;
}

const Schedule::Joint* Schedule::joint_at(FrameIndex frame) const
{
    const auto at =
        std::upper_bound(joints_.begin(), joints_.end(), frame, [](FrameIndex f, const Joint& j) { return f < j.end; });
    return at != joints_.end() && frame >= at->begin ? &*at : nullptr;
}

std::vector<Share> Schedule::shares_at(FrameIndex frame) const
{
    std::vector<Share> shares = unjoined_at(frame);
    const Joint* joint = joint_at(frame);
    if (!joint)
        return shares;
    const std::int64_t at = frame - joint->begin;
    const double other = double(at + 1) / double(joint->others.size() + 1);
    for (Share& s : shares)
        s.weight *= 1 - other;
    for (const Share& s : joint->others[std::size_t(at)]) {
        const auto same =
            std::find_if(shares.begin(), shares.end(), [&](const Share& t) { return t.photo == s.photo; });
        if (same == shares.end())
            shares.push_back({s.photo, s.weight * other});
        else
            same->weight += s.weight * other;
    }
    return shares;
}

std::vector<Share> Schedule::unjoined_at(FrameIndex frame) const
{
    if (exact_.empty())
        return {{photo_at(frame)}};
    return becoming_.empty() ? mixed_at(frame) : moving_at(frame);
}

std::vector<Share> Schedule::moving_at(FrameIndex frame) const
{
    const auto until = [&](const Point& p) { return double(p.whole - frame.value) + p.part; }; // from its begin on
    const auto here =
        std::partition_point(exact_.begin(), exact_.end(), [&](const auto& e) { return until(e.second) <= nothing; });
    if (here == exact_.end())
        return {{photo_at(frame)}};
    const auto at = std::size_t(here - exact_.begin());
    const double left = until(here->second), becoming = becoming_[at];
    const double way = becoming > nothing ? std::clamp(1 - left / becoming, 0.0, 1.0) : 0;
    auto next = std::next(here);
    while (next != exact_.end() && until(next->second) - left <= nothing)
        ++next;
    const PhotoIndex from = spans_[at].photo;
    if (way <= nothing || next == exact_.end())
        return {{from}};
    const PhotoIndex to = spans_[std::size_t(next - exact_.begin())].photo;
    return from == to ? std::vector<Share>{{from}} : std::vector<Share>{{from, 1 - way}, {to, way}};
}

std::vector<Share> Schedule::mixed_at(FrameIndex frame) const
{
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

FrameRange Schedule::same_about(FrameIndex frame) const
{
    if (exact_.empty() && joints_.empty()) {
        const FrameSpan& span = spans_[span_at(frame)];
        return {span.begin, span.end};
    }
    const auto here = shares_at(frame);
    FrameRange same{frame, frame + 1};
    while (same.begin.value > 0 && shares_at(same.begin - 1) == here)
        same.begin = same.begin - 1;
    while (same.end.value < frames() && shares_at(same.end) == here)
        same.end = same.end + 1;
    return same;
}

std::optional<FrameIndex> Schedule::on_its_way_to(FrameIndex frame) const
{
    const FrameRange here = same_about(frame);
    if (here.end.value >= frames() || shares_at(here.end) == shares_at(frame))
        return std::nullopt;
    const FrameRange next = same_about(here.end);
    std::int64_t beside = next.end - next.begin;
    if (here.begin.value > 0) {
        const FrameRange before = same_about(here.begin - 1);
        beside = std::max(beside, before.end - before.begin);
    }
    return here.end - here.begin > 2 * beside ? std::nullopt : std::optional(here.end);
}

std::vector<Moment> Schedule::moments(FrameIndex begin, FrameIndex end) const
{
    std::vector<Moment> moments;
    if (begin >= end)
        return moments;
    if (exact_.empty() && joints_.empty()) {
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
