#include "core/export/animated_gif.h"

#include "core/export/format.h"
#include "core/export/gif_code.h"
#include "core/export/gif_colouring.h"
#include "core/export/gif_palette.h"

#include <tbb/task_group.h>

#include <algorithm>
#include <cmath>
#include <deque>
#include <exception>
#include <fstream>
#include <memory>
#include <mutex>
#include <optional>
#include <utility>

namespace frenlo {

namespace {

constexpr int whole_quality = 100;
/// Of 255: what a pixel may be off before it is drawn again, and by how much a longer run may differ, for a quality.
double stay_of(int quality)
{
    return (whole_quality - quality) * 0.06;
}
float tolerance_of(int quality)
{
    return float(whole_quality - quality) * 0.04F;
}

void put_16(std::string& out, std::int64_t v)
{
    out.push_back(char(v & 0xff));
    out.push_back(char(v >> 8 & 0xff));
}

/// GIF89a, for ever (looping application extension). One palette for all pictures is chosen in a first pass.
class LoopSink : public FrameSink
{
public:
    explicit LoopSink(const Writing& w)
        : file_(w.file->target()), out_(w.file->path(), std::ios::binary | std::ios::trunc), size_(w.size),
          timing_(loop_timing(w.runs)), preset_(*w.preset), alpha_(w.alpha), kept_(w.palette),
          chooser_(palette_size(), dark_colours())
    {
    }

    ~LoopSink() noexcept override // its work reads the members
    {
        coding_.cancel();
        coding_.wait(); // throws nothing: what fails is kept for await()
    }
    LoopSink(const LoopSink&) = delete;
    LoopSink& operator=(const LoopSink&) = delete;

    [[nodiscard]] int passes() const override { return one_for_all() && !is_kept() ? 2 : 1; }

    void begin_pass(int pass) override
    {
        next_ = 0;
        span_ = 0;
        looking_ = pass + 1 < passes();
        if (looking_)
            return;
        if (one_for_all())
            take_palette();
        else
            bits_ = bits_for(palette_size() + 1);
        std::string head = "GIF89a";
        put_16(head, size_.width);
        put_16(head, size_.height);
        head.push_back(char(0x70 | (one_for_all() ? 0x80 | (bits_ - 1) : 0)));
        head += std::string(2, '\0'); // backdrop, square pixels
        if (one_for_all())
            head += palette_bytes();
        head += std::string("\x21\xff\x0bNETSCAPE2.0\x03\x01\0\0\0", 19);
        put(head);
    }

    void write(const PreparedPicture& picture, FrameIndex /*begin*/, FrameIndex /*end*/, const Job& job) override
    {
        job.check();
        const std::size_t span = span_++;
        if (next_ == timing_.delays.size() || timing_.delays[next_].span != span)
            return; // left out: too short
        const LoopDelay& delay = timing_.delays[next_++];
        if (looking_ || !one_for_all())
            chooser_.look_at(picture.picture);
        if (looking_)
            return;
        if (!one_for_all())
            take_palette();
        Coloured made{colouring_->colour(picture.picture), delay};
        constexpr int most_waiting = 8;
        if (!one_for_all()) {
            made.palette = palette_bytes();
            screen_.emplace(size_, colouring_->through(), alpha_);
        }
        code_meanwhile(std::move(made));
        if (++since_awaited_ == most_waiting || !one_for_all()) {
            await();
            since_awaited_ = 0;
        }
    }

    void finish() override
    {
        await();
        put(";");
        if (kept_ && one_for_all())
            *kept_ = {size_, palette_size(), dark_colours() == DarkColours::count, colouring_->palette()};
        out_.close();
        if (!out_)
            fail();
    }

private:
    [[nodiscard]] bool one_for_all() const { return preset_.palette == Palette::one_for_all; }
    /// Where little is left as it was from picture to picture, dark gradients come out in finer steps and nothing is
    /// lost for it: SSIM 0.965 in place of 0.942 of a dark film, 0.0004 less at most of others. With more left,
    /// light colours show first what is.
    [[nodiscard]] DarkColours dark_colours() const
    {
        constexpr int nearly_all_kept = 85;
        return preset_.quality >= nearly_all_kept ? DarkColours::count : DarkColours::as_seen;
    }
    [[nodiscard]] int palette_size() const { return std::clamp(preset_.colours, 4, 256) - 1; } ///< and no colour
    static int bits_for(int entries)
    {
        int bits = 2;
        while (1 << bits < entries)
            ++bits;
        return bits;
    }

    /// Whether the same pictures were given so many colours before.
    [[nodiscard]] bool is_kept() const
    {
        return kept_ && kept_->size == size_ && kept_->wished == palette_size() &&
               kept_->dark_count == (dark_colours() == DarkColours::count);
    }

    void take_palette()
    {
        std::vector<cv::Vec3b> colours = one_for_all() && is_kept() ? kept_->colours : chooser_.choose();
        if (one_for_all())
            bits_ = bits_for(int(colours.size()) + 1);
        // Another palette for each picture: what is on the screen is in none of it, so all of it is drawn.
        colouring_.emplace(std::move(colours), preset_.dither, stay_of(preset_.quality), alpha_);
        if (one_for_all())
            screen_.emplace(size_, colouring_->through(), alpha_);
    }

    [[nodiscard]] std::string palette_bytes() const
    {
        std::string bytes;
        for (const cv::Vec3b& c : colouring_->palette())
            for (const int channel : {2, 1, 0})
                bytes.push_back(char(c[channel]));
        bytes.resize(std::size_t(3) << unsigned(bits_), '\0');
        return bytes;
    }

    /// A picture on its way into the file.
    struct Coloured
    {
        ColouredPicture picture;
        LoopDelay delay;
        std::string palette{}; ///< its own; none where there is one for all
    };

    /// While the next one is coloured. One after another: each by what the screen shows after the one before.
    void code_meanwhile(Coloured&& coloured)
    {
        const std::lock_guard lock(mutex_);
        to_code_.push_back(std::move(coloured));
        if (std::exchange(is_coding_, true))
            return;
        coding_.run([this] {
            try {
                while (auto next = take_next())
                    code(*next);
            } catch (...) {
                failed_ = std::current_exception();
            }
        });
    }

    std::optional<Coloured> take_next()
    {
        const std::lock_guard lock(mutex_);
        if (to_code_.empty()) {
            is_coding_ = false;
            return std::nullopt;
        }
        std::optional<Coloured> next(std::move(to_code_.front()));
        to_code_.pop_front();
        return next;
    }

    /// Until all is in the file. Throws what went wrong.
    void await()
    {
        coding_.wait();
        if (failed_)
            std::rethrow_exception(std::exchange(failed_, nullptr));
    }

    void code(Coloured& coloured)
    {
        screen_->meet(coloured.picture);
        std::vector<std::uint8_t> written;
        const ColouredPicture& p = coloured.picture;
        const std::string codes = lzw_codes({p.colours, p.may_stay, colouring_->through()}, colouring_->distances(),
                                            one_for_all() ? tolerance_of(preset_.quality) : 0, bits_, written);
        screen_->show(p, written);
        // Once, and again where the delay is longer than one picture can say: what is drawn twice is seen as once.
        for (std::int64_t at = coloured.delay.begin; at < coloured.delay.end; at += longest_loop_delay)
            put_picture(coloured, codes, std::min(coloured.delay.end - at, longest_loop_delay));
    }

    void put_picture(const Coloured& coloured, const std::string& codes, std::int64_t delay)
    {
        constexpr int stays = 1 << 2, goes = 2 << 2, has_through = 1;
        std::string head("\x21\xf9\x04", 3);
        head.push_back(char((alpha_ ? goes : stays) | has_through));
        put_16(head, delay);
        head.push_back(char(colouring_->through()));
        head += std::string("\0\x2c", 2);
        const cv::Rect& part = coloured.picture.part;
        for (const int v : {part.x, part.y, part.width, part.height})
            put_16(head, v);
        head.push_back(char(one_for_all() ? 0 : 0x80 | (bits_ - 1)));
        put(head + coloured.palette + codes);
    }

    void put(const std::string& bytes)
    {
        out_.write(bytes.data(), std::streamsize(bytes.size()));
        if (!out_)
            fail();
    }
    [[noreturn]] void fail() const
    {
        throw Failure({"the loop cannot be written", file_, "Make room on the disk or choose another folder"});
    }

    std::filesystem::path file_; ///< its final name
    std::ofstream out_;
    cv::Size size_;
    LoopTiming timing_;
    Preset preset_;
    bool alpha_;
    KeptPalette* kept_;
    PaletteChooser chooser_;
    std::optional<LoopColouring> colouring_;
    int bits_ = 8;
    bool looking_ = false;
    std::size_t span_ = 0; ///< of the next picture written
    std::size_t next_ = 0; ///< delay of the next picture that is not left out
    std::optional<LoopScreen> screen_;
    int since_awaited_ = 0; ///< pictures
    std::mutex mutex_;
    std::deque<Coloured> to_code_; ///< behind the mutex, with the next
    bool is_coding_ = false;
    std::exception_ptr failed_;
    // Its own: it outlives the work on pictures that it is begun from.
    tbb::task_group_context context_{tbb::task_group_context::isolated};
    tbb::task_group coding_{context_};
};

}

LoopTiming loop_timing(std::span<const FrameRange> spans)
{
    constexpr std::int64_t shortest = 2;
    LoopTiming timing;
    std::int64_t begin = 0;
    for (std::size_t i = 0; i < spans.size(); ++i) {
        const std::int64_t end = spans[i].end.value;
        if (end - begin < shortest) {
            ++timing.left_out;
            continue;
        }
        timing.delays.push_back({i, begin, end});
        begin = end;
    }
    if (!timing.delays.empty()) // time of pictures left out at the end goes to the last one shown
        timing.delays.back().end = spans.back().end.value;
    return timing;
}

std::int64_t LoopTiming::pictures() const
{
    std::int64_t n = 0;
    for (const LoopDelay& d : delays)
        n += (d.end - d.begin + longest_loop_delay - 1) / longest_loop_delay;
    return n;
}

Format animated_gif()
{
    return {.key = "gif",
            .name = "GIF",
            .kind = Format::Kind::loop,
            .endings = {".gif"},
            .alpha = true,
            .quality = true,
            .colours = true,
            .clock = Rate(100),
            .most_side = 65'535,
            .bytes =
                [](const Preset& p, const Amount& a) {
                    return a.pixels * double(a.pictures) * 0.04 * std::log2(p.colours) *
                               std::exp2((p.quality - 75) / 30.0) +
                           2'000;
                },
            .writer = [](const Writing& w) -> std::unique_ptr<FrameSink> { return std::make_unique<LoopSink>(w); }};
}

}
