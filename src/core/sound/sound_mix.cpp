#include "core/sound/sound_mix.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace frenlo {

namespace {

/// Where a loop's end goes over into its start: no click, and too short to be heard as two.
constexpr std::int64_t seam = sound_rate / 50;

}

/// One sound: its samples counted from where it begins in the Reel.
class SoundMix::Voice
{
public:
    explicit Voice(const Sound& sound)
        : sound_(sound), at_(sample_at(sound.at)), length_(sample_at(sound.until()) - at_),
          begin_(sample_at(sound.begin)), own_(std::max<std::int64_t>(1, sample_at(sound.end) - begin_)),
          fade_in_(sample_at(sound.fade_in)), fade_out_(sample_at(sound.fade_out)),
          gain_(float(std::pow(10.0, sound.level_db / 20)))
    {
    }

    /// Adds what of it lies at these positions of the Reel. Throws Failure, Stopped.
    void add(std::int64_t at, std::span<float> out, const Job& job)
    {
        const std::int64_t begin = std::max(at, at_);
        const std::int64_t end = std::min(at + std::int64_t(out.size()) / sound_sides, at_ + length_);
        if (begin >= end)
            return;
        pairs_.assign(std::size_t(end - begin) * sound_sides, 0.0F);
        sound_.lasts ? go_round(begin - at_, job) : once(begin - at_, job);
        for (std::int64_t i = 0; i < end - begin; ++i) {
            const float g = gain_ * fade(begin - at_ + i);
            for (int side = 0; side < sound_sides; ++side)
                out[std::size_t((begin - at + i) * sound_sides + side)] +=
                    g * pairs_[std::size_t(i * sound_sides + side)];
        }
    }

    [[nodiscard]] const Sound& sound() const { return sound_; }

private:
    /// As long as it is at its own tempo.
    [[nodiscard]] std::int64_t period() const
    {
        return std::max<std::int64_t>(1, (Fraction(own_) / sound_.tempo).rounded());
    }

    /// What is kept of the file, from this place of it on; nothing outside of it.
    void of_kept(std::int64_t from, std::span<float> out, const Job& job)
    {
        std::fill(out.begin(), out.end(), 0.0F);
        const std::int64_t begin = std::max<std::int64_t>(from, 0);
        const std::int64_t end = std::min(from + std::int64_t(out.size()) / sound_sides, period());
        if (begin >= end)
            return;
        const auto part = out.subspan(std::size_t(begin - from) * sound_sides, std::size_t(end - begin) * sound_sides);
        if (sound_.tempo == Fraction(1)) {
            reader().read(begin_ + begin, part);
            return;
        }
        if (!stretched_) {
            std::vector<float> all(std::size_t(own_) * sound_sides);
            reader().read(begin_, all);
            stretched_ = at_tempo(all, sound_.tempo, job);
        }
        std::copy_n(stretched_->begin() + begin * sound_sides, part.size(), part.begin());
    }

    void once(std::int64_t from, const Job& job) { of_kept(from, pairs_, job); }

    /// Again and again, each end faded into the next start.
    void go_round(std::int64_t from, const Job& job)
    {
        const std::int64_t over = std::min(seam, period() / 4), turn = period() - over;
        const auto pairs = std::int64_t(pairs_.size()) / sound_sides;
        for (std::int64_t done = 0; done < pairs;) {
            const std::int64_t round = (from + done) / turn, along = (from + done) % turn;
            const std::int64_t n = std::min(pairs - done, turn - along);
            const auto part = std::span(pairs_).subspan(std::size_t(done) * sound_sides, std::size_t(n) * sound_sides);
            of_kept(along, part, job);
            if (round > 0 && along < over) {
                ending_.assign(std::size_t(std::min(n, over - along)) * sound_sides, 0.0F);
                of_kept(turn + along, ending_, job);
                for (std::size_t i = 0; i < ending_.size(); ++i) {
                    const std::size_t pair = i / sound_sides;
                    const float share = (float(along) + float(pair) + 0.5F) / float(over);
                    part[i] = share * part[i] + (1 - share) * ending_[i];
                }
            }
            done += n;
        }
    }

    [[nodiscard]] float fade(std::int64_t at) const
    {
        float share = 1;
        if (at < fade_in_)
            share = (float(at) + 0.5F) / float(fade_in_);
        if (const std::int64_t left = length_ - 1 - at; left < fade_out_)
            share *= (float(left) + 0.5F) / float(fade_out_);
        return share;
    }

    SoundReader& reader()
    {
        if (!reader_)
            reader_.emplace(sound_.file);
        return *reader_;
    }

    Sound sound_;
    std::int64_t at_, length_, begin_, own_, fade_in_, fade_out_;
    float gain_;
    std::optional<SoundReader> reader_;
    std::optional<std::vector<float>> stretched_;
    std::vector<float> pairs_, ending_;
};

SoundMix::SoundMix(const Soundtrack& track)
{
    for (const Sound& sound : track.sounds)
        if (!sound.muted)
            voices_.push_back(std::make_unique<Voice>(sound));
}

SoundMix::~SoundMix() = default;
SoundMix::SoundMix(SoundMix&&) noexcept = default;
SoundMix& SoundMix::operator=(SoundMix&&) noexcept = default;

void SoundMix::read(std::int64_t at, std::span<float> out, const Job& job)
{
    std::fill(out.begin(), out.end(), 0.0F);
    std::erase_if(voices_, [&](const auto& voice) {
        try {
            voice->add(at, out, job);
            return false;
        } catch (const Failure& f) { // silent from here on, and said
            problems_.push_back(f.problem());
            return true;
        }
    });
}

Seconds sound_length(const Soundtrack& track)
{
    Seconds last{};
    for (const Sound& sound : track.sounds)
        if (!sound.muted)
            last = std::max(last, sound.until());
    return last;
}

}
