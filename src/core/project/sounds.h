#pragma once
// The sound under the Reel, as values. A cut only says what of a file is heard: pulled open again, what was cut is
// back.
#include "core/base/fields.h"
#include "core/base/id.h"
#include "core/time/rate.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace frenlo {

using SoundId = Id<struct SoundIdTag>;

/// A part of a sound file under the Reel.
struct Sound
{
    SoundId id{};
    std::filesystem::path file;
    Seconds file_length;            ///< of the whole file, as it was when it was brought in
    Seconds at;                     ///< where it begins in the Reel
    Seconds begin;                  ///< in the file
    Seconds end;                    ///< in the file, above begin
    std::optional<Seconds> lasts{}; ///< it goes round for so long; none: once
    Fraction tempo{1};              ///< times as fast, its pitch kept
    double level_db = 0;
    Seconds fade_in{};
    Seconds fade_out{};
    bool muted = false;
    bool operator==(const Sound&) const = default;

    /// In the Reel.
    [[nodiscard]] Seconds length() const { return lasts ? *lasts : Seconds{(end.value - begin.value) / tempo}; }
    [[nodiscard]] Seconds until() const { return {at.value + length().value}; }
};

inline constexpr double least_level_db = -60, most_level_db = 24;

/// A syllable, a word, or the shape of a mouth, under the sound.
struct SoundWord
{
    Seconds begin;
    Seconds end;
    std::string text;
    bool operator==(const SoundWord&) const = default;
};

struct Soundtrack
{
    std::vector<Sound> sounds{};
    std::vector<Seconds> beats{}; ///< of the Reel, in order
    std::vector<SoundWord> words{};
    std::optional<double> loudness{}; ///< LUFS that it is brought to (ITU-R BS.1770-4); none: as it is
    bool operator==(const Soundtrack&) const = default;
};

template <>
struct Fields<Sound>
{
    static constexpr FieldTable table{
        field("id", &Sound::id, "Who it is"),
        required("file", &Sound::file, ""),
        required("file_length_s", &Sound::file_length, "Of the whole file, seconds, exact"),
        field("at_s", &Sound::at, "Where it begins in the Reel"),
        field("begin_s", &Sound::begin, "What of the file is heard: from"),
        required("end_s", &Sound::end, "And to"),
        field("lasts_s", &Sound::lasts, "It goes round for so long; absent: once"),
        field("tempo", &Sound::tempo, "Times as fast, its pitch kept"),
        field("level_db", &Sound::level_db, "", {least_level_db, most_level_db}),
        field("fade_in_s", &Sound::fade_in, ""),
        field("fade_out_s", &Sound::fade_out, ""),
        field("muted", &Sound::muted, ""),
    };
};
template <>
struct Fields<SoundWord>
{
    static constexpr FieldTable table{
        required("begin_s", &SoundWord::begin, ""),
        required("end_s", &SoundWord::end, ""),
        required("text", &SoundWord::text, "A syllable, a word or the shape of a mouth"),
    };
};
template <>
struct Fields<Soundtrack>
{
    static constexpr FieldTable table{
        field("sounds", &Soundtrack::sounds, ""),
        field("beats_s", &Soundtrack::beats, "Of the Reel, in order"),
        field("words", &Soundtrack::words, "Along the sound"),
        field("loudness", &Soundtrack::loudness, "LUFS that it is brought to; absent: as it is", {-70, 0}),
    };
};

}
