// Sound: read from files of every kind, mixed, brought to a loudness, written beside the picture. Made-up sounds with
// known content; FFmpeg's own program is what they are compared with.
#include "core/export/export.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/sound/beats.h"
#include "core/sound/found_again.h"
#include "core/sound/kept_peaks.h"
#include "core/sound/loudness.h"
#include "core/sound/sound_mix.h"
#include "core/source/open_files.h"
#include "core/steps/reel/bring_sound_in.h"
#include "core/steps/reel/reel_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <fstream>
#include <numbers>
#include <random>
#include <regex>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

using Samples = std::vector<float>; ///< of one side

/// A WAV of floats (format 3), so many channels, each with these samples.
fs::path write_wav(const fs::path& file, const Samples& samples, int rate, int channels = 1)
{
    fs::create_directories(file.parent_path());
    std::ofstream out(file, std::ios::binary);
    const auto number = [&](std::uint64_t n, int bytes) {
        for (int i = 0; i < bytes; ++i)
            out.put(char((n >> unsigned(8 * i)) & 255U));
    };
    const auto data = std::uint64_t(samples.size()) * std::uint64_t(channels) * 4;
    out << "RIFF";
    number(36 + data, 4);
    out << "WAVEfmt ";
    number(16, 4);
    number(3, 2);
    number(std::uint64_t(channels), 2);
    number(std::uint64_t(rate), 4);
    number(std::uint64_t(rate) * std::uint64_t(channels) * 4, 4);
    number(std::uint64_t(channels) * 4, 2);
    number(32, 2);
    out << "data";
    number(data, 4);
    for (const float s : samples)
        for (int c = 0; c < channels; ++c)
            out.write(reinterpret_cast<const char*>(&s), 4);
    return file;
}

/// Slowly modulated tones: every moment of it is different.
Samples music(double seconds, int rate, double from = 0)
{
    Samples s(std::size_t(std::lround(seconds * rate)));
    for (std::size_t i = 0; i < s.size(); ++i) {
        const double t = from + double(i) / rate;
        s[i] = float(0.3 * std::sin(2 * std::numbers::pi * (220 + 40 * std::sin(t)) * t) +
                     0.2 * std::sin(2 * std::numbers::pi * 701 * t + 3 * std::sin(0.7 * t)));
    }
    return s;
}

/// Of the left, and of the right side.
Samples left_of(const std::vector<float>& pairs)
{
    Samples s;
    for (std::size_t i = 0; i < pairs.size(); i += 2)
        s.push_back(pairs[i]);
    return s;
}

std::vector<float> all_of(const fs::path& file, std::int64_t pairs, std::int64_t at = 0)
{
    std::vector<float> out(std::size_t(pairs) * 2);
    SoundReader(file).read(at, out);
    return out;
}

double largest_difference(std::span<const float> a, std::span<const float> b)
{
    double most = 0;
    for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i)
        most = std::max(most, std::abs(double(a[i]) - b[i]));
    return most;
}

fs::path encoded(const fs::path& wav, const fs::path& to, const std::string& options = {})
{
    output_of("ffmpeg -v error -y -i " + quoted(wav) + ' ' + options + ' ' + quoted(to));
    REQUIRE(fs::exists(to));
    return to;
}

Sound whole(const fs::path& file, Seconds at = {})
{
    return whole_sound(file, at, {});
}

PhotoPtr photo(const fs::path& file, cv::Size size, int number)
{
    write_picture(file, painted(size, number));
    return scanned(file);
}

/// What a program other than ours finds in a file, as one side at our rate.
Samples decoded_elsewhere(const fs::path& file)
{
    const fs::path raw = file.native() + ".raw";
    output_of("ffmpeg -v error -y -i " + quoted(file) + " -vn -ac 1 -ar 48000 -f f32le " + quoted(raw));
    const std::string bytes = read_bytes(raw);
    Samples s(bytes.size() / 4);
    std::memcpy(s.data(), bytes.data(), s.size() * 4);
    return s;
}

/// A burst that begins at its place at once.
void add_click(Samples& s, std::size_t at, int rate)
{
    for (std::size_t i = 0; i < 200 && at + i < s.size(); ++i)
        s[at + i] +=
            float(0.8 * std::exp(-double(i) * 48'000 / rate / 20) * std::cos(double(i) * 0.35 * 48'000 / rate));
}

/// Where a click is found near this place, by correlation.
std::int64_t click_near(const Samples& s, std::int64_t at, std::int64_t reach = 900)
{
    double best = -1;
    std::int64_t found = -1;
    for (std::int64_t p = std::max<std::int64_t>(0, at - reach); p < at + reach; ++p) {
        double sum = 0;
        for (std::int64_t i = 0; i < 200 && p + i < std::int64_t(s.size()); ++i)
            sum += s[std::size_t(p + i)] * std::exp(-double(i) / 20) * std::cos(double(i) * 0.35);
        if (sum > best) {
            best = sum;
            found = p;
        }
    }
    return found;
}

}

TEST_CASE("sound of every kind is found at any place, to the sample", "[sound]")
{
    TempFolder t;
    const auto [ending, rate, options, worst] =
        GENERATE(table<std::string, int, std::string, double>({{"wav", 48'000, "", 4e-5}, // it is written with 16 bit
                                                               {"wav", 44'100, "", 1e-3},
                                                               {"wav", 96'000, "", 1e-3},
                                                               {"wav", 22'050, "-c:a pcm_s24le", 1e-3},
                                                               {"flac", 44'100, "", 2e-3},
                                                               {"aiff", 48'000, "", 1e-4},
                                                               {"mp3", 44'100, "-b:a 320k", 0.05},
                                                               {"ogg", 48'000, "-c:a libvorbis -q:a 9", 0.05},
                                                               {"opus", 48'000, "-b:a 256k", 0.08},
                                                               {"m4a", 48'000, "-c:a aac -b:a 256k", 0.08},
                                                               {"mkv", 48'000, "-c:a flac", 1e-4}}));
    CAPTURE(ending, rate);
    const Samples told = music(8, rate);
    const fs::path wav = write_wav(t / "s" / "told.wav", told, rate);
    const fs::path file = encoded(wav, t / "s" / ("s." + ending), options);
    // The same at our rate, without filters: it was made of formulas.
    const Samples truth = music(8, sound_rate);
    const Samples all = left_of(all_of(file, 8 * sound_rate));
    // The ends of filters and codecs apart.
    const auto middle = [&](const Samples& s, std::int64_t from) {
        return std::span(s).subspan(std::size_t(from), 5 * sound_rate);
    };
    CHECK(largest_difference(middle(all, sound_rate), middle(truth, sound_rate)) < worst);
    // Anywhere, in any order: what reading on from the start gives.
    SoundReader reader(file);
    std::mt19937 random(7);
    std::uniform_int_distribution<std::int64_t> places(0, 7 * sound_rate);
    std::vector<float> some(2 * 3'000);
    for (int i = 0; i < 12; ++i) {
        const std::int64_t at = places(random);
        reader.read(at, some);
        CAPTURE(at);
        CHECK(largest_difference(left_of(some), std::span(all).subspan(std::size_t(at), 3'000)) <
              std::max(worst, 2e-3));
    }
    // Before the start and behind the end it is silent.
    reader.read(-1'500, some);
    CHECK(std::all_of(some.begin(), some.begin() + 2'900, [](float v) { return v == 0; }));
    reader.read(9 * sound_rate, some);
    CHECK(std::all_of(some.begin(), some.end(), [](float v) { return v == 0; }));
}

TEST_CASE("the sound of a video lies against its pictures", "[sound]")
{
    TempFolder t;
    Samples s(std::size_t(4) * sound_rate);
    for (const int second : {1, 2, 3})
        add_click(s, std::size_t(second) * sound_rate, sound_rate);
    const fs::path wav = write_wav(t / "s" / "clicks.wav", s, sound_rate);
    for (const std::string kind : {"mp4", "mkv", "mov"}) {
        const fs::path film = t / "s" / ("film." + kind);
        output_of("ffmpeg -v error -y -f lavfi -i testsrc=size=64x48:rate=25:duration=4 -i " + quoted(wav) +
                  " -c:v libx264 -c:a aac " + quoted(film));
        const Samples heard = left_of(all_of(film, 4 * sound_rate));
        const int exact = kind == "mkv" ? sound_rate / 2'000 : 1; // it counts milliseconds
        for (const int second : {1, 2, 3})
            CHECK(std::abs(click_near(heard, std::int64_t(second) * sound_rate) - second * sound_rate) <= exact);
    }
}

TEST_CASE("what is no sound is said, what is damaged is heard as far as it goes", "[sound][bad]")
{
    TempFolder t;
    const fs::path wav = write_wav(t / "s" / "s.wav", music(4, 48'000), 48'000);
    write_bytes(t / "s" / "empty.wav", "");
    write_bytes(t / "s" / "text.wav", "once upon a time");
    CHECK_THROWS_AS(SoundReader(t / "s" / "empty.wav"), Failure);
    CHECK_THROWS_AS(SoundReader(t / "s" / "text.wav"), Failure);
    CHECK_THROWS_AS(SoundReader(t / "s" / "none.wav"), Failure);
    CHECK_THROWS_AS(whole_sound(write_wav(t / "s" / "short.wav", {}, 48'000), {}, {}), Failure);
    // Half of it, and a header that lies about its length.
    const std::string bytes = read_bytes(wav);
    write_bytes(t / "s" / "half.wav", bytes.substr(0, bytes.size() / 2));
    const Seconds half = whole(t / "s" / "half.wav").file_length;
    CHECK(half.value.approx() == Approx(2).margin(0.01));
    std::string lies = bytes;
    lies[43] = 127;
    write_bytes(t / "s" / "lies.wav", lies);
    CHECK(whole(t / "s" / "lies.wav").file_length == Seconds{Fraction(4)});
    // Many channels at a high rate are two sides at ours.
    const fs::path eight = write_wav(t / "s" / "eight.wav", music(1, 192'000), 192'000, 8);
    CHECK(whole(eight).file_length.value.approx() == Approx(1).margin(0.001));
}

TEST_CASE("a mix is the sum of its sounds, each where it lies, as loud as it is", "[sound][mix]")
{
    TempFolder t;
    const Samples a = music(3, sound_rate), b = music(3, sound_rate, 20);
    Soundtrack track;
    track.sounds = {whole(write_wav(t / "s" / "a.wav", a, sound_rate)),
                    whole(write_wav(t / "s" / "b.wav", b, sound_rate), {Fraction(1)})};
    track.sounds[0].level_db = -6;
    track.sounds[0].fade_out = {Fraction(1)};
    track.sounds[1].begin = {Fraction(1, 2)};
    track.sounds[1].end = {Fraction(2)};
    CHECK(sound_length(track) == Seconds{Fraction(3)});
    std::vector<float> out(std::size_t(4) * sound_rate * 2);
    SoundMix(track).read(0, out);
    const Samples heard = left_of(out);
    double worst = 0;
    for (std::size_t i = 0; i < heard.size(); ++i) {
        double truth = 0;
        if (i < a.size()) {
            const double left = double(a.size() - 1 - i) + 0.5;
            truth += a[i] * std::pow(10, -6.0 / 20) * std::min(1.0, left / sound_rate);
        }
        if (i >= sound_rate && i < sound_rate * 5 / 2)
            truth += b[i - sound_rate / 2];
        worst = std::max(worst, std::abs(truth - heard[i]));
    }
    CHECK(worst < 1e-5);
    // The same in pieces, out of order.
    SoundMix mix(track);
    std::vector<float> piece(2 * 10'000);
    for (const std::int64_t at : {90'000, 20'000, 130'000, 0}) {
        mix.read(at, piece);
        CHECK(largest_difference(piece, std::span(out).subspan(std::size_t(at) * 2)) < 1e-6);
    }
    track.sounds[0].muted = true;
    track.sounds[1].file = t / "s" / "gone.wav";
    SoundMix silent(track);
    silent.read(0, out);
    CHECK(std::all_of(out.begin(), out.end(), [](float v) { return v == 0; }));
    REQUIRE(silent.problems().size() == 1);
    CHECK(silent.problems()[0].file == t / "s" / "gone.wav");
}

TEST_CASE("a sound that goes round does so without a click", "[sound][mix]")
{
    TempFolder t;
    // A tone that does not fit its own length: cut and put together it would jump.
    Samples tone(sound_rate * 7 / 10);
    for (std::size_t i = 0; i < tone.size(); ++i)
        tone[i] = float(0.5 * std::sin(2 * std::numbers::pi * 333.3 * double(i) / sound_rate));
    Soundtrack track;
    track.sounds = {whole(write_wav(t / "s" / "tone.wav", tone, sound_rate))};
    track.sounds[0].lasts = Seconds{Fraction(3)};
    std::vector<float> out(std::size_t(3) * sound_rate * 2);
    SoundMix(track).read(0, out);
    const Samples heard = left_of(out);
    double step = 0;
    for (std::size_t i = 1; i + 1 < heard.size(); ++i)
        step = std::max(step, std::abs(double(heard[i]) - heard[i - 1]));
    CHECK(step < 1.2 * 0.5 * 2 * std::numbers::pi * 333.3 / sound_rate); // no steeper than the tone itself
    CHECK(std::abs(heard[sound_rate * 5 / 2]) + std::abs(heard[sound_rate * 5 / 2 + 20]) > 0);
}

TEST_CASE("another tempo keeps the pitch and is exactly as long as it says", "[sound][mix]")
{
    TempFolder t;
    Samples tone(std::size_t(4) * sound_rate);
    for (std::size_t i = 0; i < tone.size(); ++i)
        tone[i] = float(0.5 * std::sin(2 * std::numbers::pi * 440 * double(i) / sound_rate));
    Soundtrack track;
    track.sounds = {whole(write_wav(t / "s" / "tone.wav", tone, sound_rate))};
    const Fraction tempo = GENERATE(Fraction(4, 5), Fraction(5, 4), Fraction(2));
    track.sounds[0].tempo = tempo;
    const std::int64_t wanted = (Fraction(4 * sound_rate) / tempo).rounded();
    CHECK(sample_at(sound_length(track)) == wanted);
    std::vector<float> out(std::size_t(wanted + 1'000) * 2);
    SoundMix(track).read(0, out);
    const Samples heard = left_of(out);
    int crossings = 0;
    for (std::size_t i = sound_rate / 2; i < sound_rate * 3 / 2; ++i)
        crossings += heard[i] < 0 && heard[i + 1] >= 0;
    CHECK(crossings == Approx(440).margin(2));
    CHECK(std::all_of(heard.begin() + wanted, heard.end(), [](float v) { return v == 0; }));
}

TEST_CASE("loudness is what FFmpeg's ebur128 filter measures, and a target is reached below the peak",
          "[sound][loudness]")
{
    TempFolder t;
    Samples s = music(12, sound_rate);
    std::mt19937 random(3);
    std::normal_distribution<float> noise(0, 0.05F);
    for (std::size_t i = 0; i < s.size(); ++i)
        s[i] = s[i] * float(0.2 + 0.8 * (i / sound_rate % 3 == 0)) + noise(random);
    for (const int second : {2, 5, 9})
        add_click(s, std::size_t(second) * sound_rate, sound_rate); // peaks above the rest
    const fs::path wav = write_wav(t / "s" / "s.wav", s, sound_rate, 2);
    Soundtrack track;
    track.sounds = {whole(wav)};
    SoundMix mix(track);
    const ReadSound read = [&](std::int64_t at, std::span<float> out) { mix.read(at, out); };
    const auto samples = std::int64_t(s.size());
    const Loudness found = loudness_of(read, samples, {});
    // Rec. ITU-R BS.1770-4 by another program.
    const std::string said = output_of("ffmpeg -nostats -hide_banner -i " + quoted(wav) +
                                       " -filter_complex ebur128=peak=true -f null - 2>&1 | tail -14");
    std::smatch m;
    REQUIRE(std::regex_search(said, m, std::regex(R"(I:\s+(-?[\d.]+) LUFS)")));
    CHECK(found.integrated == Approx(std::stod(m[1])).margin(0.1));
    REQUIRE(std::regex_search(said, m, std::regex(R"(Peak:\s+(-?[\d.]+) dBFS)")));
    CHECK(found.true_peak == Approx(std::stod(m[1])).margin(0.2));

    const double target = GENERATE(-30.0, -16.0, -12.0);
    const Mastering mastering = Mastering::to_loudness(read, samples, target, {});
    const Loudness made =
        loudness_of([&](std::int64_t at, std::span<float> out) { mastering.read(read, at, out); }, samples, {});
    CAPTURE(target, mastering.limits());
    CHECK(made.integrated == Approx(target).margin(0.2));
    CHECK(made.true_peak <= most_true_peak + 0.05);
    CHECK(mastering.limits() == (found.true_peak + target - found.integrated > most_true_peak));
    // Any part by itself is the same.
    std::vector<float> whole_part(2 * 4'000), again(2 * 1'000);
    mastering.read(read, 2 * sound_rate - 2'000, whole_part);
    mastering.read(read, 2 * sound_rate - 500, again);
    CHECK(largest_difference(again, std::span(whole_part).subspan(2 * 1'500)) < 1e-5);
}

TEST_CASE("beats of made-up tracks are found within 20 ms", "[sound][beats]")
{
    const int tempo = GENERATE(60, 84, 97, 120, 143, 180);
    const bool noisy = GENERATE(false, true);
    const auto kind = GENERATE(std::string("drum"), std::string("tune"));
    constexpr int seconds = 24;
    Samples s(std::size_t(seconds) * sound_rate);
    std::mt19937 random{unsigned(tempo)};
    std::normal_distribution<float> noise(0, 0.4F);
    std::vector<double> truth;
    const auto pluck = [&](double at, double hertz, double level) {
        for (std::size_t i = 0; i < sound_rate / 4 && std::size_t(at * sound_rate) + i < s.size(); ++i)
            s[std::size_t(at * sound_rate) + i] +=
                float(level * std::exp(-double(i) / 3'000) *
                      std::sin(2 * std::numbers::pi * hertz * double(i) / sound_rate) * std::min(1.0, double(i) / 60));
    };
    for (double at = 0.3; at < seconds - 0.2; at += 60.0 / tempo) {
        truth.push_back(at);
        if (kind == "drum") {
            for (std::size_t i = 0; i < sound_rate / 10; ++i)
                s[std::size_t(at * sound_rate) + i] +=
                    float(std::exp(-double(i) / 900) * (0.6 * std::sin(0.02 * double(i)) + noise(random)));
            continue;
        }
        pluck(at, 220 * std::exp2(double(random() % 12) / 12), 0.4);
        if (truth.size() % 2 == 1)
            pluck(at, 110, 0.4);
        if (random() % 3 == 0) // between the beats
            pluck(at + 30.0 / tempo, 330, 0.2);
    }
    if (noisy)
        for (float& v : s)
            v += 0.02F * noise(random);
    const auto beats = found_beats(
        [&](std::int64_t at, std::span<float> out) {
            for (std::size_t i = 0; i < out.size(); ++i)
                out[i] = std::size_t(at) + i / 2 < s.size() ? s[std::size_t(at) + i / 2] : 0;
        },
        std::int64_t(s.size()), {});
    const auto found = std::count_if(truth.begin(), truth.end(), [&](double beat) {
        return std::any_of(beats.begin(), beats.end(), [&](double b) { return std::abs(b - beat) < 0.02; });
    });
    CAPTURE(tempo, noisy, kind, found, beats.size());
    CHECK(double(found) >= 0.95 * double(truth.size()));
    CHECK(double(beats.size()) <= 1.06 * double(truth.size()));
}

TEST_CASE("where nothing comes back no beat is found", "[sound][beats]")
{
    const auto silence = [](std::int64_t, std::span<float> out) { std::fill(out.begin(), out.end(), 0.0F); };
    CHECK(found_beats(silence, 20LL * sound_rate, {}).empty());
    CHECK(found_beats(silence, sound_rate, {}).empty());
    CHECK(found_beats(silence, 0, {}).empty());
}

TEST_CASE("peaks are the extremes of their pieces, and are kept", "[sound][peaks]")
{
    TempFolder t;
    const Samples s = music(70, sound_rate);
    const fs::path wav = write_wav(t / "s" / "long.wav", s, sound_rate);
    int told = 0;
    const Peaks peaks = kept_peaks(wav, t / "kept", {}, [&](const Peaks&) { ++told; });
    CHECK(told > 0);
    CHECK(peaks.samples == 70LL * sound_rate);
    REQUIRE(peaks.pieces.size() == 70 * Peaks::per_second);
    constexpr std::size_t own = sound_rate / Peaks::per_second;
    for (std::size_t i = 5; i + 5 < peaks.pieces.size(); i += 97) {
        const auto [low, high] =
            std::minmax_element(s.begin() + std::ptrdiff_t(i * own), s.begin() + std::ptrdiff_t((i + 1) * own));
        CHECK(int(peaks.pieces[i][0]) == Approx(127 * std::min(0.0F, *low)).margin(0.6));
        CHECK(int(peaks.pieces[i][1]) == Approx(127 * std::max(0.0F, *high)).margin(0.6));
    }
    const Peaks again = kept_peaks(wav, t / "kept", {}, [](const Peaks&) { FAIL("read again"); });
    CHECK(again.pieces == peaks.pieces);
    CHECK(again.samples == peaks.samples);
    write_wav(wav, music(2, sound_rate), sound_rate); // another sound under the same name
    CHECK(kept_peaks(wav, t / "kept", {}).samples == 2LL * sound_rate);
}

TEST_CASE("cuts of a sound are pulled open again, and splits sound as before", "[sound][edits]")
{
    TempFolder t;
    Project p;
    p = add_sound(p, whole(write_wav(t / "s" / "a.wav", music(4, sound_rate), sound_rate)));
    const SoundId id = p.reel.sound.sounds[0].id;
    const auto heard = [](const Project& of) {
        std::vector<float> out(std::size_t(4) * sound_rate * 2);
        SoundMix(of.reel.sound).read(0, out);
        return out;
    };
    const auto before = heard(p);
    const Project cut = change_sound(p, id, [](Sound& s) {
        s.begin = {Fraction(1)};
        s.end = {Fraction(2)};
    });
    CHECK(cut.reel.sound.sounds[0].length() == Seconds{Fraction(1)});
    CHECK(change_sound(cut, id, [](Sound& s) {
              s.begin = {};
              s.end = {Fraction(100)}; // beyond the file: to its end
          }) == p);
    const Project split = split_sound(p, id, {Fraction(3, 2)});
    REQUIRE(split.reel.sound.sounds.size() == 2);
    CHECK(largest_difference(heard(split), before) == 0);
    CHECK(split_sound(p, id, {Fraction(9)}) == p);
    // Values that cannot be are put right.
    const Project odd = change_sound(p, id, [](Sound& s) {
        s.level_db = 500;
        s.tempo = Fraction(100);
        s.fade_in = {Fraction(50)};
        s.fade_out = {Fraction(50)};
    });
    const Sound& s = odd.reel.sound.sounds[0];
    CHECK(s.level_db == most_level_db);
    CHECK(s.tempo == Fraction(2));
    CHECK(s.fade_in.value + s.fade_out.value <= s.length().value);
}

TEST_CASE("sound lies in a film to the sample, in every container", "[sound][export]")
{
    TempFolder t;
    Shot shot;
    shot.name = "s";
    for (int i = 0; i < 8; ++i)
        shot.photos.push_back({photo(t / "p" / ("p" + std::to_string(i) + ".png"), {256, 144}, 40 + i), Frames{9}});
    Project p = add_shot({}, std::move(shot)); // 72 frames
    const std::array frames{2, 7, 11, 13, 20, 26, 31, 33, 37, 41, 44, 48, 50, 53, 57, 60, 62, 65, 68, 70};
    const int rate = GENERATE(48'000, 44'100);
    Samples s(std::size_t(3) * std::size_t(rate));
    for (const int f : frames)
        add_click(s, std::size_t(f * rate / 24), rate);
    p = add_sound(p, whole(write_wav(t / "s" / "clicks.wav", s, rate)));
    p = set_marker(p, {Fraction(1)}, "Two");
    for (const char* preset :
         {"film-small", "film-mov", "film-h265", "film-vp9", "edit", "edit-lossless", "edit-mjpeg"}) {
        ExportOrder order;
        order.reel = true;
        order.preset = *find_preset(preset);
        order.preset.long_side = 0;
        order.file = t / "out" / (std::string(preset) + std::string(format_of(order.preset).ending()));
        const ExportReport report = run_export(p, order, Originals(), {});
        CHECK(report.checked);
        CHECK(report.problems.empty());
        const Samples heard = decoded_elsewhere(order.file);
        const bool lossy = format_of(order.preset).key.find("mp4") != std::string_view::npos;
        CHECK(std::int64_t(heard.size()) >= 3 * sound_rate);
        CHECK(std::int64_t(heard.size()) <= 3 * sound_rate + (lossy ? 4096 : 1024));
        for (const int f : frames) {
            CAPTURE(preset, rate, f);
            CHECK(std::abs(click_near(heard, std::int64_t(f) * sound_rate / 24) - std::int64_t(f) * sound_rate / 24) <=
                  1);
        }
        // Its first sample is heard with the first frame. Files that count milliseconds may be half of one off.
        const auto first = [&](const char* kind) {
            const std::string said =
                output_of("ffprobe -v error -select_streams " + std::string(kind) +
                          " -show_entries frame=pts_time -read_intervals %+#2 -of csv=p=0 " + quoted(order.file));
            CAPTURE(kind, said);
            REQUIRE_FALSE(said.empty());
            return std::stod(said);
        };
        CHECK(std::abs(first("a")) <= 0.0006);
        CHECK(first("v") == 0);
        const std::string chapters = output_of("ffprobe -v error -show_chapters -of csv " + quoted(order.file));
        CHECK((chapters.find("Two") != std::string::npos) == format_of(order.preset).chapters);
    }
}

TEST_CASE("a film without a sound's file is written, silent there, and says so", "[sound][export][bad]")
{
    TempFolder t;
    Shot shot;
    shot.name = "s";
    shot.photos.push_back({photo(t / "p" / "p.png", {64, 48}, 1), Frames{24}});
    Project p = add_shot({}, std::move(shot));
    p = add_sound(p, whole(write_wav(t / "s" / "a.wav", music(3, sound_rate), sound_rate)));
    ExportOrder order;
    order.reel = true;
    order.preset = *find_preset("film-small");
    order.file = t / "out" / "f.mp4";
    const auto plan = plan_export(p, order);
    REQUIRE(plan.notes.size() == 1);
    CHECK_THAT(plan.notes[0], Catch::Contains("48 frames"));
    fs::remove(t / "s" / "a.wav");
    CHECK(plan_export(p, order).problems.size() == 1);
    const ExportReport report = run_export(p, order, Originals(), {});
    CHECK_FALSE(report.problems.empty());
    const Samples heard = decoded_elsewhere(order.file);
    CHECK(std::all_of(heard.begin(), heard.end(), [](float v) { return std::abs(v) < 1e-4; }));
    // Formats without sound say so.
    order.preset = *find_preset("loop");
    order.file = t / "out" / "f.gif";
    bool said = false;
    for (const std::string& note : plan_export(p, order).notes)
        said = said || note.find("no sound") != std::string::npos;
    CHECK(said);
}

TEST_CASE("a sound that was moved is found again by its name and its length, and missing ones are told", "[sound]")
{
    TempFolder t;
    std::filesystem::create_directories(t / "new" / "deeper");
    std::filesystem::create_directories(t / "other");
    output_of("ffmpeg -v error -f lavfi -i sine=440:r=44100:d=2 " + quoted((t / "tune.wav").native()));
    Project p;
    Sound sound;
    sound.id = SoundId::fresh();
    sound.file = t / "tune.wav";
    sound.file_length = {Fraction(2)};
    sound.end = {Fraction(2)};
    p.reel.sound.sounds = {sound};
    save_project(p, t / "p.frenlo");
    CHECK(load_project(t / "p.frenlo").problems.empty());
    std::filesystem::rename(t / "tune.wav", t / "new" / "deeper" / "tune.wav");
    const auto problems = load_project(t / "p.frenlo").problems;
    REQUIRE(problems.size() == 1);
    CHECK(problems[0].what == "the sound is missing");
    CHECK(problems[0].file == t / "tune.wav");
    // Of the same name, but another sound, or none.
    output_of("ffmpeg -v error -f lavfi -i sine=330:r=44100:d=3 " + quoted((t / "other" / "tune.wav").native()));
    const std::vector<std::filesystem::path> elsewhere{t / "other"}, here{t / "other", t / "new"};
    CHECK(find_sounds_again(p, elsewhere, {}).empty());
    const auto found = find_sounds_again(p, here, {});
    REQUIRE(found.size() == 1);
    CHECK(with_sounds_at(p, found).reel.sound.sounds[0].file == t / "new" / "deeper" / "tune.wav");
    CHECK(gone_sounds(with_sounds_at(p, found)).empty());
}

}
