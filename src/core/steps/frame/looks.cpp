#include "core/steps/frame/looks.h"

#include "core/source/transfer.h"
#include "core/steps/frame/drift.h"
#include "core/steps/frame/miniature.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

/// Each pixel of a row towards a colour of linear light, premultiplied.
void mix_in(float* row, int pixels, const std::array<float, 4>& colour, float share)
{
    for (int i = 0; i < pixels * 4; ++i)
        row[i] += share * (colour[std::size_t(i) % 4] - row[i]);
}

std::array<float, 4> light_of(const Backdrop& colour)
{
    const auto& linear = linear_table<std::uint8_t>();
    return {linear[colour[2]], linear[colour[1]], linear[colour[0]], 1};
}

}

void frame_stage(const BarsLook& bars, Canvas& frame)
{
    constexpr std::array<float, 4> black{0, 0, 0, 1};
    const double width = frame.cols, height = frame.rows, own = width / height;
    const bool across = bars.shape >= own; // above and below, else at the sides
    const double left = across ? width / bars.shape : height * bars.shape;
    const double bar = (across ? height - left : width - left) / 2 * bars.share;
    const auto covered = [bar](int at, int size) { // of a row or column, the share that is bar
        const double from_start = bar - at, from_end = bar - (size - 1 - at);
        return float(std::clamp(std::max(from_start, from_end), 0.0, 1.0));
    };
    for (int y = 0; y < frame.rows; ++y) {
        auto* row = frame.ptr<float>(y);
        if (across) {
            if (const float share = covered(y, frame.rows); share > 0)
                mix_in(row, frame.cols, black, share);
            continue;
        }
        for (int x = 0; x < frame.cols; ++x)
            if (const float share = covered(x, frame.cols); share > 0)
                mix_in(row + 4 * std::ptrdiff_t(x), 1, black, share);
    }
}

void frame_stage(const FadeLook& fade, Canvas& frame)
{
    const auto colour = light_of(fade.colour);
    tbb::parallel_for(0, frame.rows,
                      [&](int y) { mix_in(frame.ptr<float>(y), frame.cols, colour, float(fade.share)); });
}

void frame_stage(const GrainLook& grain, Canvas& frame)
{
    // As large on the screen at every size: made at a size of its own, and brought to the frame's.
    constexpr int rows = 1080;
    const cv::Size own(std::max(1, int(std::lround(double(rows) * frame.cols / frame.rows))), rows);
    cv::Mat1f noise(own);
    cv::RNG random(std::uint64_t(grain.seed) * 0x9E3779B97F4A7C15ULL + 1);
    random.fill(noise, cv::RNG::NORMAL, 0, 1);
    constexpr double clump = 0.8; // pixels
    cv::GaussianBlur(noise, noise, {}, clump);
    if (noise.size() != frame.size())
        cv::resize(noise, noise, frame.size(), 0, 0, frame.rows < rows ? cv::INTER_AREA : cv::INTER_CUBIC);
    cv::Scalar mean, spread;
    cv::meanStdDev(noise, mean, spread);
    noise = (noise - mean[0]) / std::max(1e-6, spread[0]);
    const float strength = float(grain.strength) * 0.12F; // of encoded light at full strength, where it is strongest
    tbb::parallel_for(0, frame.rows, [&](int y) {
        auto* p = frame.ptr<float>(y);
        const float* n = noise.ptr<float>(y);
        for (int x = 0; x < frame.cols; ++x, p += 4) {
            const float light = std::clamp(0.0722F * p[0] + 0.7152F * p[1] + 0.2126F * p[2], 0.0F, 1.0F);
            const float tone = std::sqrt(light); // near to how bright it looks
            const float gain = 1 + strength * n[x] * 4 * (1 - tone) * (0.25F + tone);
            for (int c = 0; c < 3; ++c)
                p[c] *= std::max(0.0F, gain);
        }
    });
}

namespace {

/// How far a fade or the bars have come in at this frame: from 0 to 1 over so many frames.
double come_in(double frame, double frames)
{
    return frames <= 0 ? 1 : std::clamp(frame / frames, 0.0, 1.0);
}

}

std::function<void(FrameIndex, FrameStages&)> looks_of(const Framing& f, const Shot&, const Schedule& schedule)
{
    const double rate = schedule.rate().value().approx();
    const double fade_in = f.fades.in.value.approx() * rate, fade_out = f.fades.out.value.approx() * rate;
    const double easing = f.bars ? f.bars->easing.value.approx() * rate : 0;
    const auto frames = double(schedule.frames());
    std::vector<PhotoIndex> photos;
    if (f.grain && f.grain->held)
        photos = schedule.photo_of_each_frame();
    return [=, photos = std::move(photos)](FrameIndex frame, FrameStages& stages) {
        const auto at = double(frame.value);
        if (f.miniature)
            stages.set(MiniatureLook{*f.miniature});
        if (f.bars)
            if (const double share =
                    eased(std::min(come_in(at, easing), come_in(frames - 1 - at, easing)), Ease::both, 1);
                share > 0)
                stages.set(BarsLook{f.bars->shape.approx(), share});
        if (f.grain && f.grain->strength > 0)
            stages.set(GrainLook{f.grain->strength,
                                 photos.empty() ? frame.value : -1 - photos[std::size_t(frame.value)].value});
        // The first frame is the colour where it fades in, the last one where it fades out.
        const double shown = std::min(come_in(at, fade_in), come_in(frames - 1 - at, fade_out));
        if (shown < 1)
            stages.set(FadeLook{1 - shown, f.fades.colour});
    };
}

}
