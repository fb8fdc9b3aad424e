#include "core/steps/reel/reel_command.h"

#include "core/base/text.h"
#include "core/project/project_file.h"
#include "core/sound/beats.h"
#include "core/sound/sound_mix.h"
#include "core/steps/reel/bring_sound_in.h"
#include "core/steps/reel/reel_edits.h"
#include "core/time/timecode.h"
#include "core/timeline/reel_timeline.h"

#include <CLI/CLI.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <iostream>
#include <sstream>

namespace frenlo::command {

namespace {

struct ReelCall
{
    std::string project, frame, fit, loudness, remedy;
    std::vector<std::string> set, add, joins, sounds, speeds, ranges, lengths, markers, cuts, fades, levels, tempos,
        loops, words, beats;
    std::vector<int> mute, unmute, remove_sounds;
    bool find_beats = false, cuts_to_beats = false;
};

[[noreturn]] void wrong(const std::string& text, const std::string& example)
{
    throw WrongCall("\"" + text + "\" says nothing here; " + example + " does");
}

std::vector<std::string> parts_of(const std::string& text, char apart)
{
    std::vector<std::string> parts;
    std::istringstream in(text);
    for (std::string one; std::getline(in, one, apart);)
        parts.push_back(one);
    return parts;
}

/// "2:rest": the position from 0, and the rest.
std::pair<std::size_t, std::string> numbered(const std::string& text, std::size_t count, const std::string& example)
{
    const auto colon = text.find(':');
    const auto n = parse_fraction(text.substr(0, colon));
    if (colon == std::string::npos || !n || n->den() != 1)
        wrong(text, example);
    if (n->num() < 1 || n->num() > std::int64_t(count))
        throw WrongCall("there is no number " + n->text() + "; there are " + std::to_string(count));
    return {std::size_t(n->num() - 1), text.substr(colon + 1)};
}

/// A time or a length, 0 too.
Seconds time_option(const std::string& text, Rate rate)
{
    return text == "0" || text == "0s" || text == "0f" ? Seconds{} : length_option(text, rate);
}

double number(const std::string& text, const std::string& whole, const std::string& example)
{
    const auto n = parse_fraction(text);
    if (!n)
        wrong(whole, example);
    return n->approx();
}

std::vector<ShotId> shots_named(const Project& project, const std::vector<std::string>& texts)
{
    std::vector<ShotId> shots;
    for (const std::string& text : texts) {
        if (const auto whole = project.find_shot(text)) { // a name may have a comma
            shots.push_back(project.shot(*whole).id);
            continue;
        }
        for (const std::string& name : parts_of(text, ','))
            shots.push_back(project.shot(named_shot(project, name)).id);
    }
    return shots;
}

/// "dissolve:12f", "dip:1s:after:#FFFFFF", "wipe:8f:before:90".
Join join_in(const std::string& text, const std::string& whole, Rate rate)
{
    constexpr const char* example = "2:dissolve:12f, 2:dip:1s:after:#FFFFFF or 2:wipe:8f:centred:90";
    const auto parts = parts_of(text, ':');
    const auto kind = parts.empty() ? std::nullopt : from_word<JoinKind>(parts[0]);
    if (!kind || parts.size() > 4)
        wrong(whole, example);
    Join join{.kind = *kind};
    if (parts.size() > 1)
        join.length = length_option(parts[1], rate);
    if (parts.size() > 2) {
        const auto place = from_word<JoinPlace>(parts[2]);
        if (!place)
            wrong(whole, example);
        join.place = *place;
    }
    if (parts.size() > 3 && *kind == JoinKind::dip)
        join.colour = colour_option(parts[3]);
    else if (parts.size() > 3)
        join.degrees = number(parts[3], whole, example);
    return join;
}

/// "file@4s"; without a time at the start.
std::pair<std::string, Seconds> placed_file(const std::string& text, Rate rate)
{
    std::error_code ec;
    const auto at = text.rfind('@');
    if (at == std::string::npos || std::filesystem::exists(text, ec))
        return {text, Seconds{}};
    return {text.substr(0, at), time_option(text.substr(at + 1), rate)};
}

Project with_items(Project p, const ReelCall& call)
{
    const Rate rate = p.delivered_at;
    if (!call.set.empty())
        p = set_reel(p, shots_named(p, call.set));
    for (const ShotId shot : shots_named(p, call.add))
        p = add_to_reel(p, shot);
    const auto items = reel_items(p);
    const auto each = [&](const std::vector<std::string>& texts, const char* example, const auto& change) {
        for (const std::string& text : texts) {
            const auto [at, rest] = numbered(text, items.size(), example);
            p = change_reel_item(p, items[at].id, [&, r = rest](ReelItem& i) { change(i, r, text); });
        }
    };
    each(call.joins, "2:dissolve:12f",
         [&](ReelItem& i, const std::string& rest, const std::string& whole) { i.join = join_in(rest, whole, rate); });
    each(call.speeds, "1:2", [&](ReelItem& i, const std::string& rest, const std::string& whole) {
        const auto speed = parse_fraction(rest);
        if (!speed || *speed <= Fraction(0))
            wrong(whole, "1:2");
        i.speed = *speed;
    });
    each(call.lengths, "1:4s", [&](ReelItem& i, const std::string& rest, const std::string&) {
        i.lasts = rest == "film" ? std::nullopt : std::optional(length_option(rest, rate));
    });
    each(call.ranges, "1:12-48", [&](ReelItem& i, const std::string& rest, const std::string& whole) {
        const auto ends = parts_of(rest, '-');
        const Shot& shot = p.shot(p.find_shot(i.shot).value());
        const auto photo = [&](const std::string& text) {
            const auto n = parse_fraction(text);
            if (!n || n->den() != 1 || n->num() < 1 || n->num() > std::int64_t(shot.photos.size()))
                wrong(whole, "1:12-48, photos of the shot counted from 1,");
            return shot.photos[std::size_t(n->num() - 1)].id;
        };
        if (ends.size() != 2)
            wrong(whole, "1:12-48");
        i.first = photo(ends[0]);
        i.last = photo(ends[1]);
    });
    if (!call.frame.empty() || !call.fit.empty())
        p = change_reel(p, [&](Reel& reel) {
            const auto sides = parts_of(call.frame, 'x');
            if (call.frame == "film")
                reel.frame.reset();
            else if (!call.frame.empty() && sides.size() == 2)
                reel.frame = cv::Size(int(number(sides[0], call.frame, "1920x1080")),
                                      int(number(sides[1], call.frame, "1920x1080")));
            else if (!call.frame.empty())
                wrong(call.frame, "1920x1080");
            if (reel.frame && (reel.frame->width < 2 || reel.frame->height < 2 || reel.frame->width > 16'384 ||
                               reel.frame->height > 16'384))
                throw WrongCall("a frame is 2 to 16384 pixels wide and high");
            if (!call.fit.empty())
                reel.fit = call.fit == "fill" ? ReelFit::fill : ReelFit::inside;
        });
    for (const std::string& text : call.markers) {
        const auto colon = text.find(':');
        if (colon == std::string::npos)
            wrong(text, "4s:Chapter");
        p = set_marker(p, time_option(text.substr(0, colon), rate), text.substr(colon + 1));
    }
    return p;
}

Project with_sounds(Project p, const ReelCall& call, const std::vector<Sound>& brought)
{
    const Rate rate = p.delivered_at;
    for (const Sound& s : brought)
        p = add_sound(p, s);
    const std::vector<Sound> sounds = p.reel.sound.sounds;
    const auto each = [&](const std::vector<std::string>& texts, const char* example, const auto& change) {
        for (const std::string& text : texts) {
            const auto [at, rest] = numbered(text, sounds.size(), example);
            p = change_sound(p, sounds[at].id, [&, r = rest](Sound& s) { change(s, r, text); });
        }
    };
    const auto two = [&](const std::string& rest, char apart, const std::string& whole, const char* example) {
        const auto ends = parts_of(rest, apart);
        if (ends.size() != 2)
            wrong(whole, example);
        return std::pair(time_option(ends[0], rate), time_option(ends[1], rate));
    };
    each(call.cuts, "1:2s-14s", [&](Sound& s, const std::string& rest, const std::string& whole) {
        std::tie(s.begin, s.end) = two(rest, '-', whole, "1:2s-14s");
    });
    each(call.fades, "1:0.5s,2s", [&](Sound& s, const std::string& rest, const std::string& whole) {
        std::tie(s.fade_in, s.fade_out) = two(rest, ',', whole, "1:0.5s,2s");
    });
    each(call.levels, "1:-6", [&](Sound& s, const std::string& rest, const std::string& whole) {
        s.level_db = number(rest, whole, "1:-6");
    });
    each(call.tempos, "1:1.1", [&](Sound& s, const std::string& rest, const std::string& whole) {
        const auto tempo = parse_fraction(rest);
        if (!tempo || *tempo < Fraction(1, 2) || *tempo > Fraction(2))
            wrong(whole, "1:1.1, from 0.5 to 2,");
        s.tempo = *tempo;
    });
    each(call.loops, "1:20s",
         [&](Sound& s, const std::string& rest, const std::string&) { s.lasts = length_option(rest, rate); });
    const auto at_number = [&](int n) {
        if (n < 1 || n > int(sounds.size()))
            throw WrongCall("there is no sound " + std::to_string(n));
        return sounds[std::size_t(n - 1)].id;
    };
    for (const int n : call.mute)
        p = change_sound(p, at_number(n), [](Sound& s) { s.muted = true; });
    for (const int n : call.unmute)
        p = change_sound(p, at_number(n), [](Sound& s) { s.muted = false; });
    for (const int n : call.remove_sounds)
        p = remove_sound(p, at_number(n));
    if (!call.loudness.empty())
        p = change_reel(p, [&](Reel& r) {
            r.sound.loudness =
                call.loudness == "as-is" ? std::nullopt : std::optional(number(call.loudness, call.loudness, "-16"));
        });
    for (const std::string& text : call.words) {
        const auto colon = text.find(':');
        if (colon == std::string::npos)
            wrong(text, "12f-18f:Hello");
        const auto [begin, end] = two(text.substr(0, colon), '-', text, "12f-18f:Hello");
        p = change_reel(p, [&, b = begin, e = end](Reel& r) {
            r.sound.words.push_back({b, std::max(b, e), text.substr(colon + 1)});
            std::stable_sort(r.sound.words.begin(), r.sound.words.end(),
                             [](const SoundWord& x, const SoundWord& y) { return x.begin < y.begin; });
        });
    }
    return p;
}

std::optional<LengthRemedy> remedy_named(const std::string& name)
{
    constexpr std::array<std::string_view, 7> names{"fit-picture", "repeat-shot", "hold-last",   "cut-sound",
                                                    "fade-sound",  "loop-sound",  "change-tempo"};
    const auto it = std::find(names.begin(), names.end(), name);
    return it == names.end() ? std::nullopt : std::optional(LengthRemedy(it - names.begin()));
}

std::string join_text(const Join& join, Rate rate)
{
    std::string text(word_of(join.kind));
    if (join.kind != JoinKind::cut)
        text += ':' + std::to_string((join.length.value * rate.value()).rounded()) + 'f';
    return text;
}

Json sounds_json(const Soundtrack& track)
{
    Json list = Json::array();
    for (const Sound& s : track.sounds)
        list.push_back({{"file", json_path(s.file)},
                        {"begin", s.at.value.text()},
                        {"end", s.until().value.text()},
                        {"from", s.begin.value.text()},
                        {"to", s.end.value.text()},
                        {"level_db", s.level_db},
                        {"fade_in", s.fade_in.value.text()},
                        {"fade_out", s.fade_out.value.text()},
                        {"tempo", s.tempo.text()},
                        {"muted", s.muted}});
    return list;
}

Json reel_json(const Project& project, const ReelTimeline& film)
{
    Json j{{"items", Json::array()}};
    for (const ReelPart& part : film.parts())
        j["items"].push_back({{"shot", part.shot->name},
                              {"begin", part.frames.begin.value},
                              {"end", part.frames.end.value},
                              {"speed", part.item.speed.text()},
                              {"join", join_text(part.item.join, film.rate())},
                              {"join_begin", part.join.begin.value},
                              {"join_end", part.join.end.value}});
    j["frames"] = film.frames();
    j["seconds"] = film.length().value.text();
    j["rate"] = film.rate().value().text();
    j["width"] = film.size().width;
    j["height"] = film.size().height;
    j["sounds"] = sounds_json(project.reel.sound);
    j["sound_seconds"] = sound_length(project.reel.sound).value.text();
    j["markers"] = Json::array();
    for (const ReelMarker& m : project.reel.markers)
        j["markers"].push_back({{"at", m.at.value.text()}, {"text", m.text}});
    j["beats"] = Json::array();
    for (const Seconds b : project.reel.sound.beats)
        j["beats"].push_back(b.value.text());
    j["words"] = Json::array();
    for (const SoundWord& w : project.reel.sound.words)
        j["words"].push_back({{"begin", w.begin.value.text()}, {"end", w.end.value.text()}, {"text", w.text}});
    if (project.reel.sound.loudness)
        j["loudness"] = *project.reel.sound.loudness;
    j["notes"] = reel_notes(film);
    return j;
}

void print_reel(const Project& project, const ReelTimeline& film)
{
    const auto time = [&](std::int64_t frames) { return length_text(frames, film.rate(), Counting::clock); };
    int n = 0;
    for (const ReelPart& part : film.parts())
        std::cout << ++n << "  " << time(part.frames.begin.value) << "  " << part.shot->name << ", "
                  << counted(part.frames.frames(), "frame", "frames")
                  << (part.join.frames() > 0 ? ", then " + join_text(part.item.join, film.rate()) : std::string())
                  << '\n';
    n = 0;
    for (const Sound& s : project.reel.sound.sounds)
        std::cout << "sound " << ++n << "  " << shown_path(s.file) << ", " << shown_seconds(s.at) << " to "
                  << shown_seconds(s.until()) << (s.muted ? ", muted" : "") << '\n';
    std::cout << counted(film.frames(), "frame", "frames") << ", " << time(film.frames()) << '\n';
    const ReelLengths l = reel_lengths(project);
    if (l.sound > 0 && l.picture_longer_by() != 0)
        std::cout << (l.picture_longer_by() > 0 ? "the picture is " : "the sound is ")
                  << counted(std::abs(l.picture_longer_by()), "frame", "frames") << " longer\n";
    for (const std::string& note : reel_notes(film))
        std::cerr << "note: " << note << '\n';
}

std::vector<Seconds> beats_heard(const Project& project, const Job& job)
{
    SoundMix mix(project.reel.sound);
    std::vector<Seconds> beats;
    for (const double b : found_beats([&](std::int64_t at, std::span<float> out) { mix.read(at, out, job); },
                                      sample_at(sound_length(project.reel.sound)), job))
        beats.push_back({Fraction(std::llround(b * sound_rate), sound_rate)});
    if (!mix.problems().empty())
        throw Failure(mix.problems().front());
    return beats;
}

Project changed(const Project& now, const ReelCall& call, const std::vector<Sound>& brought, const Context& context)
{
    Project p = with_sounds(with_items(now, call), call, brought);
    for (const std::string& beat : call.beats)
        p = change_reel(p, [&](Reel& r) { r.sound.beats.push_back(time_option(beat, p.delivered_at)); });
    if (call.find_beats) {
        auto found = beats_heard(p, context.job());
        p = change_reel(p, [&](Reel& r) { r.sound.beats = std::move(found); });
    }
    if (call.cuts_to_beats)
        p = cuts_to_beats(p);
    if (!call.remedy.empty()) {
        const auto remedy = remedy_named(call.remedy);
        if (!remedy)
            wrong(call.remedy,
                  "fit-picture, repeat-shot, hold-last, cut-sound, fade-sound, loop-sound or change-tempo");
        auto done = with_remedy(p, *remedy);
        if (!done)
            throw Failure({"\"" + call.remedy + "\" does not bring picture and sound to one length here", call.project,
                           "Try another way"});
        p = *std::move(done);
    }
    return p;
}

int change_or_show(const ReelCall& call, const Context& context)
{
    LoadedProject loaded = load_project(call.project);
    std::vector<Sound> brought;
    for (const std::string& text : call.sounds) {
        const auto [file, at] = placed_file(text, loaded.project.delivered_at);
        brought.push_back(whole_sound(file, at, context.job()));
    }
    const Project wanted = changed(loaded.project, call, brought, context);
    if (!(wanted == loaded.project))
        loaded = change_project(call.project, [&](const Project& now) { return changed(now, call, brought, context); });
    const auto film = reel_of(loaded.project);
    if (context.json) {
        Json j = reel_json(loaded.project, *film);
        j["problems"] = problems_json(loaded.problems);
        print_json(j);
    } else {
        print_reel(loaded.project, *film);
        print_problems(loaded.problems);
    }
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_reel_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<ReelCall>();
    CLI::App* c = app.add_subcommand("reel", "Shots one after another, and the sound under them: list, change");
    c->add_option("project", call->project, "The project")->required();
    c->add_option("--set", call->set, "NAME,NAME: these shots in this order; one may be there twice");
    c->add_option("--add", call->add, "NAME,NAME: once more, at the end");
    c->add_option("--join", call->joins,
                  "N:dissolve:12f, N:dip:1s:after:#000000, N:wipe:12f:centred:90, N:cut: from item N into the next");
    c->add_option("--speed", call->speeds, "N:2: item N twice as fast");
    c->add_option("--range", call->ranges, "N:12-48: of item N these photos of its shot");
    c->add_option("--lasts", call->lengths, "N:4s: item N so long, cut or held; N:film: as its film is");
    c->add_option("--frame", call->frame, "WxH pixels; film: as the first item's");
    c->add_option("--fit", call->fit, "Of items of another shape")->check(CLI::IsMember({"inside", "fill"}));
    c->add_option("--marker", call->markers, "T:TEXT: a chapter begins there; T: takes it away");
    c->add_option("--sound", call->sounds, "FILE@T: a sound from there on");
    c->add_option("--cut", call->cuts, "N:2s-14s: what of sound N is heard");
    c->add_option("--fade", call->fades, "N:0.5s,2s: of sound N, in and out");
    c->add_option("--level", call->levels, "N:-6: of sound N, in dB");
    c->add_option("--tempo", call->tempos, "N:1.1: sound N so many times as fast, at the same pitch");
    c->add_option("--round", call->loops, "N:20s: sound N goes round for so long");
    c->add_option("--mute", call->mute, "N");
    c->add_option("--unmute", call->unmute, "N");
    c->add_option("--remove-sound", call->remove_sounds, "N");
    c->add_option("--loudness", call->loudness, "LUFS that the sound is brought to, -16; as-is");
    c->add_option("--word", call->words, "12f-18f:TEXT: along the sound");
    c->add_option("--beat", call->beats, "T: a beat there");
    c->add_flag("--find-beats", call->find_beats, "Listen for them");
    c->add_flag("--cuts-to-beats", call->cuts_to_beats, "Each cut to the beat that is nearest");
    c->add_option("--one-length", call->remedy,
                  "Bring picture and sound to one length: fit-picture, repeat-shot, hold-last, cut-sound, fade-sound, "
                  "loop-sound, change-tempo");
    c->callback([call, &run] { run = [call](const Context& context) { return change_or_show(*call, context); }; });
}

}
