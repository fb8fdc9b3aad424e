#include "core/timing/schedule.h"

#include <boost/multiprecision/cpp_int.hpp>

#include <algorithm>

namespace frenlo {

namespace {

using Exact = boost::multiprecision::cpp_rational;
using Whole = boost::multiprecision::cpp_int;

Exact exact(Fraction f)
{
    return Exact(f.num(), f.den());
}

/// The running total of the holds. Frames and seconds are summed apart: frames, the usual case, stay small whole
/// numbers, and only holds in seconds, whose denominators may be anything a person types, need unbounded ones.
class RunningTotal {
public:
    RunningTotal(Rate paced_at, Rate delivered_at)
        : frame_ratio_(delivered_at.value() / paced_at.value()), rate_(exact(delivered_at.value()))
    {}

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
        const Exact total = delivered_ + Exact(paced_frames_) * exact(frame_ratio_) + Exact(1, 2);
        const Whole whole = numerator(total) / denominator(total); // nothing here is negative: truncation is floor
        return FrameIndex(whole.convert_to<std::int64_t>());
    }

private:
    Fraction frame_ratio_;
    Exact rate_;
    std::int64_t paced_frames_ = 0;
    Exact delivered_ = 0;
};

bool above_zero(const Hold& hold)
{
    if (const auto* f = std::get_if<Frames>(&hold))
        return f->count > 0;
    return std::get<Seconds>(hold).value > Fraction(0);
}

}

Schedule::Schedule(std::span<const HeldPhoto> photos, Rate paced_at, Rate delivered_at) : rate_(delivered_at)
{
    spans_.reserve(photos.size());
    RunningTotal total(paced_at, delivered_at);
    FrameIndex begin;
    for (const auto& [photo, hold] : photos) {
        total.add(hold);
        const FrameIndex end = total.rounded();
        spans_.push_back({photo, begin, end});
        if (begin == end && above_zero(hold))
            between_.push_back(photo);
        begin = end;
    }
}

std::size_t Schedule::span_at(FrameIndex frame) const
{
    // The first span that ends after the frame; empty spans end at their begin and are passed over.
    const auto it = std::upper_bound(spans_.begin(), spans_.end(), frame,
                                     [](FrameIndex f, const FrameSpan& s) { return f < s.end; });
    return static_cast<std::size_t>(it - spans_.begin());
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
