#include "core/source/clip_pixels.h"
#include "core/source/clip_stream.h"
#include "core/source/decoders.h"
#include "core/source/moving_file.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <list>

namespace frenlo {

namespace {

class ClipReader : public MovingFile
{
public:
    explicit ClipReader(std::filesystem::path file) : stream_(std::move(file)) {}
    ClipReader(std::string_view bytes, std::filesystem::path file) : stream_(bytes, std::move(file)) {}

    [[nodiscard]] cv::Size size() const override { return stream_.size(); }
    [[nodiscard]] bool alpha() const override { return stream_.alpha() || shows_through_; }
    [[nodiscard]] int orientation() const override { return stream_.orientation(); }
    [[nodiscard]] std::optional<CaptureTime> captured() const override { return stream_.captured(); }
    PictureTimes times() override;
    DecodedPhoto picture(const WhichPicture& which) override;
    DecodedPhoto following() override;

private:
    void keep(const DecodedFrame& decoded);
    [[nodiscard]] AVStream& av() const { return stream_.stream(); }
    [[nodiscard]] Seconds seconds(std::int64_t pts) const
    {
        return {Fraction(pts) * Fraction(av().time_base.num, av().time_base.den)};
    }
    DecodedFrame by_stamp(std::int64_t pts);
    DecodedFrame by_number(std::int64_t number);
    PictureTimes counted_times();
    DecodedPhoto handed_out(const DecodedFrame& decoded);
    [[nodiscard]] std::optional<Rate> even_rate(const std::vector<std::int64_t>& pts) const;

    ClipStream stream_;
    bool by_count_ = stream_.animation(); ///< its frames are told by their number, not by a time
    bool shows_through_ = false;
    std::list<DecodedFrame> kept_; ///< decoded on the way, newest last
    std::optional<DecodedFrame> current_;
};

/// What was decoded on the way to a picture is asked for next, mostly: neighbours are shown together.
void ClipReader::keep(const DecodedFrame& decoded)
{
    constexpr std::size_t most_bytes = 96U << 20;
    kept_.push_back(decoded);
    const std::size_t each =
        std::size_t(std::max(1, decoded.frame->width)) * std::size_t(std::max(1, decoded.frame->height)) * 2;
    while (kept_.size() > std::clamp<std::size_t>(most_bytes / each, 4, 64))
        kept_.pop_front();
}

DecodedFrame ClipReader::by_stamp(std::int64_t pts)
{
    for (const DecodedFrame& d : kept_)
        if (d.pts == pts)
            return d;
    const auto go_on = [&]() -> std::optional<DecodedFrame> {
        while (auto d = stream_.next()) {
            keep(*d);
            if (d->pts == pts)
                return d;
            if (d->pts != AV_NOPTS_VALUE && d->pts > pts)
                return std::nullopt;
        }
        return std::nullopt;
    };
    const auto a_second = std::max<std::int64_t>(1, av_rescale_q(1, {1, 1}, av().time_base));
    if (stream_.last_pts() && *stream_.last_pts() < pts) {
        // A key frame between here and there makes the way shorter.
        const int key = av_index_search_timestamp(&av(), pts, AVSEEK_FLAG_BACKWARD);
        const auto* entry = key >= 0 ? avformat_index_get_entry(&av(), key) : nullptr;
        const bool near =
            entry ? entry->timestamp <= *stream_.last_pts() + a_second / 2 : pts - *stream_.last_pts() <= 2 * a_second;
        if (near)
            if (auto d = go_on())
                return *d;
    }
    // Frames before the key frame that is sought may belong to the one before it: then from further back.
    for (std::int64_t back = 0; back < (std::int64_t(1) << 40); back = back == 0 ? a_second : back * 4) {
        if (!stream_.seek_before(pts - back))
            break;
        auto first = stream_.next();
        if (!first)
            continue;
        keep(*first);
        if (first->pts == pts)
            return *first;
        if (first->pts != AV_NOPTS_VALUE && first->pts < pts) {
            if (auto d = go_on())
                return *d;
            break;
        }
    }
    stream_.start_over();
    if (auto d = go_on())
        return *d;
    clip_failure("this picture of it is damaged or missing", stream_.file());
}

DecodedFrame ClipReader::by_number(std::int64_t number)
{
    for (const DecodedFrame& d : kept_)
        if (d.number == number)
            return d;
    if (number < stream_.next_number())
        stream_.start_over();
    while (auto d = stream_.next()) {
        keep(*d);
        if (d->number == number)
            return *d;
    }
    clip_failure("this picture of it is damaged or missing", stream_.file());
}

/// The file's clock may round: Matroska's to 1/1000 s.
std::optional<Rate> ClipReader::even_rate(const std::vector<std::int64_t>& pts) const
{
    const AVRational base = av().time_base;
    std::vector<Rate> likely(usual_rates().begin(), usual_rates().end());
    for (const AVRational r : {av().r_frame_rate, av().avg_frame_rate})
        if (r.num > 0 && r.den > 0 && r.num <= std::int64_t(1000) * r.den)
            likely.insert(likely.begin(), Rate(Fraction(r.num, r.den)));
    for (const Rate& rate : likely) {
        const double ticks = double(rate.value().den()) / double(rate.value().num()) * base.den / base.num;
        bool all = true;
        for (std::size_t i = 0; i < pts.size() && all; ++i)
            all = std::abs(double(pts[i] - pts.front()) - double(i) * ticks) <= 1;
        if (all)
            return rate;
    }
    return std::nullopt;
}

PictureTimes ClipReader::times()
{
    auto seen = by_count_ ? std::vector<std::pair<std::int64_t, std::int64_t>>() : stream_.frame_times(most_pictures);
    const bool untimed = !seen.empty() && seen.back().first == AV_NOPTS_VALUE;
    stream_.start_over();
    kept_.clear();
    if (by_count_ || untimed) {
        by_count_ = true;
        return counted_times();
    }
    if (seen.empty())
        clip_failure("there is no picture in it", stream_.file());
    std::sort(seen.begin(), seen.end());
    PictureTimes t;
    t.count = std::int64_t(seen.size());
    std::vector<std::int64_t> pts;
    for (const auto& [when, length] : seen) {
        pts.push_back(when);
        t.stamps.push_back(seconds(when).value);
        t.begins.push_back(seconds(when - seen.front().first));
    }
    t.rate = even_rate(pts);
    const auto usual = pts.size() > 1 ? (pts.back() - pts.front()) / std::int64_t(pts.size() - 1) : 0;
    t.end = t.rate && t.count > 1
                ? Seconds{t.begins.back().value + Fraction(1) / t.rate->value()}
                : seconds(pts.back() - pts.front() +
                          (seen.back().second > 0 ? seen.back().second : std::max<std::int64_t>(1, usual)));
    return t;
}

/// Of a picture of four bytes a pixel with alpha in the last: whether it shows through anywhere.
bool shows_through(const AVFrame& f)
{
    for (int y = 0; y < f.height; ++y) {
        const std::uint8_t* row = f.data[0] + std::ptrdiff_t(y) * f.linesize[0];
        for (int x = 0; x < f.width; ++x)
            if (row[4 * std::ptrdiff_t(x) + 3] != 255)
                return true;
    }
    return false;
}

/// Where pictures build on one another, or the file says no times: all of them are decoded once.
PictureTimes ClipReader::counted_times()
{
    PictureTimes t;
    std::vector<std::int64_t> pts;
    std::int64_t last = 0;
    bool through = false;
    while (t.count < most_pictures) {
        const auto d = stream_.next();
        if (!d)
            break;
        ++t.count;
        pts.push_back(d->pts);
        last = d->frame->pkt_duration;
        if (av().codecpar->codec_id == AV_CODEC_ID_GIF && d->frame->format == AV_PIX_FMT_BGRA)
            through = through || shows_through(*d->frame);
    }
    shows_through_ = through; // a GIF's pixels always have room for it
    stream_.start_over();
    if (t.count == 0)
        clip_failure("there is no picture in it that can be decoded", stream_.file());
    const bool timed = std::is_sorted(pts.begin(), pts.end()) && pts.front() != AV_NOPTS_VALUE;
    if (timed && (stream_.animation() || !even_rate(pts))) {
        for (const auto p : pts)
            t.begins.push_back(seconds(p - pts.front()));
        t.end = {t.begins.back().value + seconds(std::max<std::int64_t>(0, last)).value};
        if (last <= 0 && t.count > 1)
            t.end = {t.begins.back().value + (t.begins.back().value - t.begins[t.begins.size() - 2].value)};
        return t;
    }
    const AVRational r = av().avg_frame_rate.num > 0 ? av().avg_frame_rate : av().r_frame_rate;
    t.rate = timed ? even_rate(pts)
             : r.num > 0 && r.den > 0 && r.num <= std::int64_t(1000) * r.den
                 ? std::optional(Rate(Fraction(r.num, r.den)))
                 : std::nullopt;
    if (!t.rate)
        return t;
    for (std::int64_t i = 0; i < t.count; ++i)
        t.begins.push_back(length_of(i, *t.rate));
    t.end = length_of(t.count, *t.rate);
    return t;
}

DecodedPhoto ClipReader::picture(const WhichPicture& which)
{
    if (!which.stamp) {
        by_count_ = true;
        return handed_out(by_number(which.number));
    }
    const Fraction ticks = *which.stamp / Fraction(av().time_base.num, av().time_base.den);
    if (ticks.den() != 1)
        clip_failure("it has changed", stream_.file());
    return handed_out(by_stamp(ticks.num()));
}

DecodedPhoto ClipReader::following()
{
    if (!current_)
        return picture({});
    const auto comes_next = [this](const DecodedFrame& d) {
        return d.run == current_->run && d.number == current_->number + 1;
    };
    if (const auto kept = std::find_if(kept_.begin(), kept_.end(), comes_next); kept != kept_.end())
        return handed_out(*kept);
    if (stream_.run() != current_->run ||
        stream_.next_number() != current_->number + 1) { // a jump lies between: back to it
        kept_.clear();
        current_ = by_count_ ? by_number(current_->number) : by_stamp(current_->pts);
    }
    const auto d = stream_.next();
    if (!d)
        clip_failure("this picture of it is damaged or missing", stream_.file());
    keep(*d);
    return handed_out(*d);
}

DecodedPhoto ClipReader::handed_out(const DecodedFrame& decoded)
{
    current_ = decoded;
    const AVFrame& frame = *decoded.frame;
    DecodedPhoto photo;
    try {
        photo.pixels = clip_pixels(frame);
    } catch (const Failure& failure) {
        throw Failure({failure.problem().what, stream_.file(), failure.problem().remedy});
    }
    photo.colours = SourceColours();
    if (photo.pixels.size() !=
        stream_.size()) // its pixels are not square, or the stream changes its size: all as the first
        cv::resize(photo.pixels, photo.pixels, stream_.size(), 0, 0, cv::INTER_CUBIC);
    if ((frame.flags & AV_FRAME_FLAG_CORRUPT) != 0 || frame.decode_error_flags != 0)
        photo.flaw = "this picture of it is damaged";
    return photo;
}

}

std::unique_ptr<MovingFile> open_clip(const std::filesystem::path& file)
{
    return std::make_unique<ClipReader>(file);
}

std::unique_ptr<MovingFile> open_clip(std::string_view bytes, const std::filesystem::path& file)
{
    return std::make_unique<ClipReader>(bytes, file);
}

}
