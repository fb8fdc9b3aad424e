#include "core/export/gif_code.h"

#include <algorithm>
#include <array>
#include <span>

namespace frenlo {

namespace {

constexpr int most_codes = 4096, most_bits = 12, none = -1;

/// Codes of changing width, in blocks of at most 255 bytes.
class CodeWriter
{
public:
    explicit CodeWriter(int bits) { out_.push_back(char(bits)); }

    void put(int code, int width)
    {
        held_ |= std::uint32_t(code) << bits_;
        for (bits_ += width; bits_ >= 8; bits_ -= 8, held_ >>= 8U)
            put_byte(char(held_ & 0xffU));
    }

    std::string end()
    {
        if (bits_ > 0)
            put_byte(char(held_ & 0xffU));
        end_block();
        out_.push_back('\0');
        return std::move(out_);
    }

private:
    void put_byte(char byte)
    {
        block_.push_back(byte);
        if (block_.size() == 255)
            end_block();
    }
    void end_block()
    {
        if (block_.empty())
            return;
        out_.push_back(char(block_.size()));
        out_ += block_;
        block_.clear();
    }

    std::string out_, block_;
    std::uint32_t held_ = 0;
    int bits_ = 0;
};

/// The runs that have a code, as a tree: a run's node is its last pixel, what goes before it its parent. Small enough
/// to stay near the processor: it is asked several times a pixel.
class Runs
{
public:
    explicit Runs(int bits) : clear_(1 << bits) { forget(); }

    void forget()
    {
        for (int i = 0; i < clear_; ++i)
            nodes_[std::size_t(i)] = {none, 1, std::uint8_t(i), std::uint8_t(i)};
        next_ = clear_ + 2;
    }

    struct Node
    {
        std::int16_t parent = none;
        std::int16_t length = 1;
        std::uint8_t colour = 0, first = 0;
        std::int16_t child = none,
                     sibling = none; ///< the run that is this one and a pixel more; another of the parent's
    };
    [[nodiscard]] const Node& operator[](int code) const { return nodes_[std::size_t(code)]; }
    [[nodiscard]] int next() const { return next_; }
    [[nodiscard]] bool full() const { return next_ == most_codes; }

    /// As the reader does: the next code is that run and one pixel more.
    void add(int run, std::uint8_t colour)
    {
        Node& of = nodes_[std::size_t(run)];
        nodes_[std::size_t(next_)] = {std::int16_t(run), std::int16_t(of.length + 1), colour, of.first, none, of.child};
        of.child = std::int16_t(next_++);
    }

private:
    std::array<Node, most_codes> nodes_;
    int clear_;
    int next_ = 0;
};

class Coder
{
public:
    Coder(const WantedPixels& wanted, const ColourDistances& distances, float tolerance, int bits,
          std::vector<std::uint8_t>& written)
        : wanted_(wanted), clear_(1 << bits), bits_(bits), runs_(bits), codes_(bits), written_(written)
    {
        off_.assign(std::size_t(256) * 256, too_far);
        for (std::size_t a = 0; a < 256; ++a) {
            float* off = &off_[a * 256];
            off[a] = 0;
            if (a >= distances.colours || a == wanted.through || tolerance <= 0)
                continue;
            for (std::size_t b = 0; b < distances.colours; ++b)
                if (const float d = distances(std::uint8_t(a), std::uint8_t(b)); b != a && d <= tolerance) {
                    off[b] = d * d;
                    near_[a].push_back(std::uint8_t(b));
                }
        }
    }

    std::string run()
    {
        leave_long_runs();
        codes_.put(clear_, bits_ + 1);
        int width = bits_ + 1;
        int before = none;
        for (std::size_t at = 0; at < wanted_.colours.size();) {
            const int code = longest(at, before);
            codes_.put(code, width);
            if (before != none && !runs_.full()) {
                // A code that is only now defined begins with what the one before began with.
                runs_.add(before, code < runs_.next() ? runs_[code].first : runs_[before].first);
                if (runs_.next() == 1 << width && width < most_bits)
                    ++width;
            }
            write_run(code, at);
            at += std::size_t(runs_[code].length);
            before = code;
            if (runs_.full() && at < wanted_.colours.size()) {
                codes_.put(clear_, width);
                runs_.forget();
                width = bits_ + 1;
                before = none;
            }
        }
        codes_.put(clear_ + 1, width);
        return codes_.end();
    }

private:
    /// What may stay over several pixels is always written the same way: else there were as many ways to write it as
    /// there are subsets, and no run would come again.
    void leave_long_runs()
    {
        constexpr std::size_t long_enough = 4;
        want_.assign(wanted_.colours.begin(), wanted_.colours.end());
        for (std::size_t at = 0; at < want_.size();) {
            std::size_t end = at;
            while (end < want_.size() && wanted_.may_stay[end] != 0)
                ++end;
            if (end - at >= long_enough)
                std::fill(want_.begin() + std::ptrdiff_t(at), want_.begin() + std::ptrdiff_t(end), wanted_.through);
            at = end + 1;
        }
    }

    static constexpr float too_far = 1e9F;

    struct Candidate
    {
        int code;
        float off; ///< sum of squares
    };
    [[nodiscard]] bool may_be_through(std::size_t at) const
    {
        return wanted_.may_stay[at] != 0 && want_[at] != wanted_.through;
    }
    /// By how much a colour there is off, squared; too_far: it will not do. What stays is written as it is or not at
    /// all: taken for another colour again and again, it would wander off.
    [[nodiscard]] float off(std::size_t at, std::uint8_t colour) const
    {
        if (wanted_.may_stay[at] != 0)
            return colour == want_[at] || colour == wanted_.through ? 0 : too_far;
        return off_[std::size_t(want_[at]) << 8U | colour];
    }
    [[nodiscard]] bool will_do(std::size_t at, std::uint8_t colour) const { return off(at, colour) < too_far; }

    /// The code of the longest known run that will do from here on; of equally long ones the truest.
    int longest(std::size_t at, int before)
    {
        constexpr std::size_t most_followed = 12;
        const std::size_t left = wanted_.colours.size() - at;
        now_.clear();
        now_.push_back({want_[at], 0});
        if (wanted_.may_stay[at] == 0)
            for (const std::uint8_t n : near_[want_[at]])
                now_.push_back({n, off_[std::size_t(want_[at]) << 8U | n]});
        else if (may_be_through(at))
            now_.push_back({wanted_.through, 0});
        int best = want_[at];
        for (std::size_t length = 1; length < left; ++length) {
            later_.clear();
            for (const Candidate& c : now_)
                for (int longer = runs_[c.code].child; longer != none; longer = runs_[longer].sibling)
                    if (const float o = off(at + length, runs_[longer].colour); o < too_far)
                        later_.push_back({longer, c.off + o});
            if (later_.empty())
                break;
            const auto truer = [](const Candidate& a, const Candidate& b) { return a.off < b.off; };
            if (later_.size() > most_followed) {
                std::nth_element(later_.begin(), later_.begin() + most_followed, later_.end(), truer);
                later_.resize(most_followed);
            }
            best = std::min_element(later_.begin(), later_.end(), truer)->code;
            now_.swap(later_);
        }
        if (before != none && !runs_.full() && is_before_and_its_first(at, before) &&
            runs_[before].length + 1 > runs_[best].length)
            return runs_.next();
        return best;
    }

    /// The run before once more and its first pixel: the code that this very code defines.
    [[nodiscard]] bool is_before_and_its_first(std::size_t at, int before) const
    {
        const auto length = std::size_t(runs_[before].length);
        if (at + length >= wanted_.colours.size() || !will_do(at + length, runs_[before].first))
            return false;
        std::size_t i = at + length;
        for (int node = before; node >= 0; node = runs_[node].parent)
            if (!will_do(--i, runs_[node].colour))
                return false;
        return true;
    }

    void write_run(int code, std::size_t at)
    {
        std::size_t i = at + std::size_t(runs_[code].length);
        for (int node = code; node >= 0; node = runs_[node].parent)
            written_[--i] = runs_[node].colour;
    }

    const WantedPixels& wanted_;
    int clear_, bits_;
    Runs runs_;
    CodeWriter codes_;
    std::vector<std::uint8_t>& written_;
    std::vector<std::uint8_t> want_;
    std::array<std::vector<std::uint8_t>, 256> near_; ///< what will do for a colour, other than itself
    std::vector<float> off_;                          ///< squares, row by row of what is wanted
    std::vector<Candidate> now_, later_;
};

}

std::string lzw_codes(const WantedPixels& wanted, const ColourDistances& distances, float tolerance, int bits,
                      std::vector<std::uint8_t>& written)
{
    written.resize(wanted.colours.size());
    return Coder(wanted, distances, tolerance, bits, written).run();
}

}
