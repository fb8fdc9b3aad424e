#include "core/steps/tone/tone_stage.h"

#include "core/base/wide_loops.h"
#include "core/steps/tone/local_contrast.h"
#include "core/steps/tone/tone_curve.h"
#include "core/steps/tone/white_balance.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <limits>
#include <optional>
#include <vector>

namespace frenlo {

namespace {

constexpr float red = 0.2126F, green = 0.7152F, blue = 0.0722F;

/// What luminance is multiplied by, as straight pieces, 128 in each doubling of light, found by the bits of the number.
class Ratios
{
public:
    explicit Ratios(const ToneCurve& curve) : base_(pieces), slope_(pieces)
    {
        const auto light = [](std::size_t i) {
            return double(std::bit_cast<float>(first + (std::int32_t(i) << step_bits)));
        };
        const auto ratio = [&](double y) {
            const double in = std::log2(y / middle_grey);
            return std::exp2(curve(in) - in);
        };
        for (std::size_t i = 0; i < pieces; ++i) {
            const double low = light(i), high = light(i + 1), a = ratio(low), b = ratio(high);
            slope_[i] = float((b - a) / (high - low));
            base_[i] = float(a - (b - a) / (high - low) * low);
        }
        base_.front() = float(ratio(darkest)); // and of all that is darker
        slope_.front() = 0;
    }

    static constexpr float darkest = 1.0F / 65'536, brightest = 255.0F;
    static constexpr std::int32_t first = std::bit_cast<std::int32_t>(darkest);
    static constexpr int step_bits = 16;
    [[nodiscard]] const float* base() const { return base_.data(); }
    [[nodiscard]] const float* slope() const { return slope_.data(); }

private:
    static constexpr std::size_t pieces =
        std::size_t((std::bit_cast<std::int32_t>(brightest) - first) >> step_bits) + 1;
    std::vector<float> base_, slope_;
};

/// Some pixels of a row, by colour.
constexpr int some = 128;
struct Pixels
{
    alignas(32) std::array<float, some> b, g, r, gain;
};

/// What is done to all pixels alike.
struct Recipe
{
    std::optional<std::array<float, 9>> balance; ///< B, G, R rows
    bool gains = false;                          ///< each pixel has one
    float exposure = 1;                          ///< where the curve is straight
    std::optional<Ratios> ratios;
    float chroma = 1;
};

[[gnu::always_inline]] inline void balance(const std::array<float, 9> m, Pixels& p)
{
    for (int i = 0; i < some; ++i) {
        const float b = p.b[i], g = p.g[i], r = p.r[i];
        p.b[i] = m[0] * b + m[1] * g + m[2] * r;
        p.g[i] = m[3] * b + m[4] * g + m[5] * r;
        p.r[i] = m[6] * b + m[7] * g + m[8] * r;
    }
}

[[gnu::always_inline]] inline void follow_curve(const Recipe& how, Pixels& p)
{
    const float* __restrict base = how.ratios->base(), * __restrict slope = how.ratios->slope();
    float* __restrict b = p.b.data(), * __restrict g = p.g.data(), * __restrict r = p.r.data();
    const float* __restrict gain = p.gain.data();
    for (int i = 0; i < some; ++i) {
        const float scale = gain[i], y = (blue * b[i] + green * g[i] + red * r[i]) * scale;
        float v = y > Ratios::darkest ? y : Ratios::darkest; // what is no number is dark
        v = v < Ratios::brightest ? v : Ratios::brightest;
        const std::int32_t piece = (std::bit_cast<std::int32_t>(v) - Ratios::first) >> Ratios::step_bits;
        const float by = (base[piece] + slope[piece] * v) * scale;
        b[i] *= by;
        g[i] *= by;
        r[i] *= by;
    }
}

[[gnu::always_inline]] inline void multiply(float by, Pixels& p)
{
    for (int i = 0; i < some; ++i) {
        const float all = by * p.gain[i];
        p.b[i] *= all;
        p.g[i] *= all;
        p.r[i] *= all;
    }
}

/// Chroma, and what a screen cannot show.
[[gnu::always_inline]] inline void finish_colours(float chroma, Pixels& p)
{
    constexpr float little = 1e-9F;
    const float more = chroma > 1 ? chroma - 1 : 0;
    for (int i = 0; i < some; ++i) {
        const float b = p.b[i], g = p.g[i], r = p.r[i], y = blue * b + green * g + red * r;
        float most = b > g ? b : g, least = b < g ? b : g;
        most = most > r ? most : r;
        least = least < r ? least : r;
        const float above = 1 - y > little ? 1 - y : little, below = y > little ? y : little;
        const float up = (most - y) / above, down = (y - least) / below; // 1: at the edge
        const float out = up > down ? up : down;
        float by = chroma / (1 + more * out);
        const float high = up * by;
        by /= high > 1 ? high : 1;
        const float grey = y < 1 ? y : 1;
        p.b[i] = grey + (b - y) * by;
        p.g[i] = grey + (g - y) * by;
        p.r[i] = grey + (r - y) * by;
    }
}

[[gnu::always_inline]] inline void tone_all(const Recipe& how, Pixels& p)
{
    if (how.balance)
        balance(*how.balance, p);
    if (how.ratios)
        follow_curve(how, p);
    else if (how.exposure != 1 || how.gains)
        multiply(how.exposure, p);
    finish_colours(how.chroma, p);
}
FRENLO_WIDE void tone_wide(const Recipe& how, Pixels& p)
{
    tone_all(how, p);
}
void tone_plain(const Recipe& how, Pixels& p)
{
    tone_all(how, p);
}

/// Factors over the photo, in rows: corners and local contrast.
class Gains
{
public:
    Gains(const Tone& tone, const StagePhoto& photo)
        : across_(photo.to_photo(0, 0)), left_(photo.to_photo(0, 2)), down_(photo.to_photo(1, 1)),
          top_(photo.to_photo(1, 2))
    {
        const double wide = photo.size.width * across_, high = photo.size.height * down_;
        // Half the diagonal is 1: of the whole photo, whatever part of it this is.
        const double w = photo.size.width / wide, h = photo.size.height / high, half = std::hypot(w, h) / 2;
        x_reach_ = float(w / half);
        y_reach_ = float(h / half);
        lift_ = float(std::exp2(tone.corners / 2) - 1);
        if (tone.local_contrast != 0 && photo.overview) {
            factors_ = tones_standing_out(photo.overview());
            for (float& f : factors_)
                f = float(std::exp2(f * tone.local_contrast / 100));
        }
        row_.create(1, std::max(1, factors_.cols));
    }
    [[nodiscard]] bool nothing() const { return lift_ == 0 && factors_.empty(); }

    void begin_row(int y)
    {
        at_y_ = float(down_ * y + top_);
        if (factors_.empty())
            return;
        const float place = std::clamp(at_y_ * float(factors_.rows) - 0.5F, 0.0F, float(factors_.rows - 1));
        const int above = std::min(int(place), std::max(0, factors_.rows - 2)),
                  under = std::min(above + 1, factors_.rows - 1);
        const float share = place - float(above);
        for (int x = 0; x < factors_.cols; ++x)
            row_(0, x) = factors_(above, x) + (factors_(under, x) - factors_(above, x)) * share;
    }
    /// Worked out at every fourth pixel: they change little from one to the next.
    void of(int begin, int count, float* gain) const
    {
        constexpr int apart = 4;
        float left = at(begin);
        for (int i = 0; i < count; i += apart) {
            const float right = at(begin + i + apart), slope = (right - left) / apart;
            for (int k = 0; k < apart; ++k)
                gain[i + k] = left + slope * float(k);
            left = right;
        }
    }

private:
    [[nodiscard]] float at(int x) const
    {
        const auto place = float(across_ * x + left_);
        const float dx = (place - 0.5F) * x_reach_, dy = (at_y_ - 0.5F) * y_reach_,
                    root = 1 + lift_ * (dx * dx + dy * dy);
        if (factors_.empty())
            return root * root;
        const float cell = std::clamp(place * float(factors_.cols) - 0.5F, 0.0F, float(factors_.cols - 1));
        const int i = std::min(int(cell), std::max(0, factors_.cols - 2)), next = std::min(i + 1, factors_.cols - 1);
        return root * root * (row_(0, i) + (row_(0, next) - row_(0, i)) * (cell - float(i)));
    }

    double across_, left_, down_, top_; ///< of pixels to shares of the photo
    float x_reach_, y_reach_, lift_, at_y_ = 0;
    cv::Mat1f factors_, row_;
};

class TonedRows
{
public:
    TonedRows(const Tone& tone, const StagePhoto& photo) : gains_(tone, photo)
    {
        const Tone as_shot;
        if (tone.warmth != as_shot.warmth || tone.green_magenta != as_shot.green_magenta) {
            const cv::Matx33d m = white_balance({tone.warmth, tone.green_magenta});
            how_.balance.emplace();
            std::copy(m.val, m.val + 9, how_.balance->begin());
        }
        how_.gains = !gains_.nothing();
        if (const ToneCurve curve(tone); !curve.straight())
            how_.ratios.emplace(curve);
        how_.exposure = float(std::exp2(tone.exposure));
        how_.chroma = float(1 + tone.colour / 100);
        pixels_.gain.fill(1);
    }

    void operator()(int y, int begin, int end, float* bgra)
    {
        if (how_.gains)
            gains_.begin_row(y);
        for (int x = begin; x < end; x += some, bgra += std::ptrdiff_t(4) * some) {
            const int count = std::min(some, end - x);
            if (how_.gains)
                gains_.of(x, count, pixels_.gain.data());
            take(bgra, count);
            (has_wide_vectors() ? tone_wide : tone_plain)(how_, pixels_);
            give(bgra, count);
        }
    }

private:
    /// Of opaque pixels as they are; of others the light that they have, not the part of it that is seen.
    void take(const float* bgra, int count)
    {
        int transparent = 0;
        for (int i = 0; i < count; ++i) {
            const float* p = bgra + std::ptrdiff_t(4) * i;
            pixels_.b[std::size_t(i)] = p[0];
            pixels_.g[std::size_t(i)] = p[1];
            pixels_.r[std::size_t(i)] = p[2];
            transparent |= int(p[3] != 1);
        }
        opaque_ = transparent == 0;
        for (int i = 0; !opaque_ && i < count; ++i) {
            const float a = bgra[std::ptrdiff_t(4) * i + 3], all = a > 0 ? 1 / a : 0;
            for (auto* channel : {&pixels_.b, &pixels_.g, &pixels_.r})
                (*channel)[std::size_t(i)] *= all;
        }
    }
    void give(float* bgra, int count) const
    {
        for (int i = 0; i < count; ++i) {
            float* p = bgra + std::ptrdiff_t(4) * i;
            const float a = opaque_ ? 1.0F : p[3];
            p[0] = pixels_.b[std::size_t(i)] * a;
            p[1] = pixels_.g[std::size_t(i)] * a;
            p[2] = pixels_.r[std::size_t(i)] * a;
        }
    }

    Gains gains_;
    Recipe how_;
    Pixels pixels_{};
    bool opaque_ = true;
};

}

RowStage row_stage(const Tone& tone, const StagePhoto& photo)
{
    if (tone.nothing())
        return [](int, int, int, float*) {};
    return TonedRows(tone, photo);
}

}
