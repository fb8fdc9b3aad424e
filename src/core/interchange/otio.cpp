#include "core/base/json.h"
#include "core/interchange/edit_lists.h"
#include "core/interchange/photo_runs.h"

#include <filesystem>

namespace frenlo {

namespace {

Json time(double value, double rate)
{
    return {{"OTIO_SCHEMA", "RationalTime.1"}, {"rate", rate}, {"value", value}};
}

Json range(double begin, double length, double rate)
{
    return {{"OTIO_SCHEMA", "TimeRange.1"}, {"duration", time(length, rate)}, {"start_time", time(begin, rate)}};
}

/// RFC 3986: what is no unreserved character of a path is written in hexadecimals.
std::string file_url(const std::filesystem::path& file)
{
    constexpr std::string_view plain = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~/",
                               hex = "0123456789ABCDEF";
    std::string url = "file://";
    for (const char c : file.native())
        if (plain.find(c) != std::string_view::npos) {
            url += c;
        } else {
            url += '%';
            url += hex[static_cast<unsigned char>(c) >> 4U];
            url += hex[static_cast<unsigned char>(c) & 15U];
        }
    return url;
}

Json item(const char* schema, const std::string& name)
{
    return {{"OTIO_SCHEMA", schema},    {"metadata", Json::object()}, {"name", name},   {"source_range", nullptr},
            {"effects", Json::array()}, {"markers", Json::array()},   {"enabled", true}};
}

Json marker(const std::string& name, double at, double rate)
{
    return {{"OTIO_SCHEMA", "Marker.2"},
            {"metadata", Json::object()},
            {"name", name},
            {"color", "RED"},
            {"marked_range", range(at, 0, rate)},
            {"comment", ""}};
}

Json clip(const Shot& shot, const NumberedRun& run, Rate delivered)
{
    const ShotPhoto& first = shot.photos[run.photos.front().photo.at()];
    const auto hold = double(run.photos.front().frames);
    const double rate = delivered.value().approx() / hold;
    const Json all = range(0, double(run.photos.size()), rate);
    Json media{{"OTIO_SCHEMA", "ExternalReference.1"},
               {"metadata", Json::object()},
               {"name", ""},
               {"available_range", all},
               {"available_image_bounds", nullptr}};
    if (run.first) {
        media["OTIO_SCHEMA"] = "ImageSequenceReference.1";
        media["target_url_base"] = file_url(first.photo->file.parent_path()) + "/";
        media["name_prefix"] = run.prefix;
        media["name_suffix"] = run.suffix;
        media["start_frame"] = *run.first;
        media["frame_step"] = 1;
        media["rate"] = rate;
        media["frame_zero_padding"] = run.digits;
        media["missing_frame_policy"] = "error";
    } else {
        media["target_url"] = file_url(first.photo->file);
    }
    Json made = item("Clip.1", first.photo->file.filename().string());
    made["source_range"] = all;
    for (std::size_t i = 0; i < run.photos.size(); ++i)
        if (shot.photos[run.photos[i].photo.at()].marked)
            made["markers"].push_back(marker("", double(i), rate));
    made["media_reference"] = std::move(media);
    return made;
}

Json track(const std::string& name, const char* kind)
{
    Json made = item("Track.1", name);
    made["kind"] = kind;
    made["children"] = Json::array();
    return made;
}

Json photos_of(const Shot& shot, const std::vector<SeenRun>& runs, Rate rate)
{
    Json made = track(shot.name, "Video");
    for (const NumberedRun& run : numbered_runs(shot, runs))
        made["children"].push_back(clip(shot, run, rate));
    return made;
}

Json join(const ReelPart& part, double rate)
{
    const auto frames = [&](FrameIndex from, FrameIndex to) { return time(double(to - from), rate); };
    return {{"OTIO_SCHEMA", "Transition.1"},
            {"metadata", {{"frenlo", {{"join", word_of(part.item.join.kind)}}}}},
            {"name", ""},
            {"transition_type", part.item.join.kind == JoinKind::dissolve ? "SMPTE_Dissolve" : "Custom_Transition"},
            {"in_offset", frames(part.join.begin, part.frames.end)},
            {"out_offset", frames(part.frames.end, part.join.end)}};
}

Json sound_track(const Sound& sound, double rate)
{
    const auto frames = [&](Fraction seconds) { return seconds.approx() * rate; };
    Json made = track(sound.file.filename().string(), "Audio");
    if (sound.at.value > Fraction(0)) {
        Json before = item("Gap.1", "");
        before["source_range"] = range(0, frames(sound.at.value), rate);
        made["children"].push_back(std::move(before));
    }
    Json heard = item("Clip.1", sound.file.filename().string());
    heard["source_range"] = range(frames(sound.begin.value), frames(sound.end.value - sound.begin.value), rate);
    heard["enabled"] = !sound.muted;
    if (sound.tempo != Fraction(1))
        heard["effects"].push_back({{"OTIO_SCHEMA", "LinearTimeWarp.1"},
                                    {"metadata", Json::object()},
                                    {"name", ""},
                                    {"effect_name", "LinearTimeWarp"},
                                    {"time_scalar", sound.tempo.approx()}});
    heard["media_reference"] = {{"OTIO_SCHEMA", "ExternalReference.1"},
                                {"metadata", Json::object()},
                                {"name", ""},
                                {"available_range", range(0, frames(sound.file_length.value), rate)},
                                {"available_image_bounds", nullptr},
                                {"target_url", file_url(sound.file)}};
    made["children"].push_back(std::move(heard));
    return made;
}

}

std::string otio_text(const Project& project, std::optional<ShotIndex> shot)
{
    const Rate delivered = project.delivered_at;
    const double rate = delivered.value().approx();
    Json stack = item("Stack.1", "tracks");
    stack["children"] = Json::array();
    if (shot) {
        const Shot& s = project.shot(*shot);
        stack["children"].push_back(photos_of(s, photo_runs(project, s), delivered));
    } else {
        const auto reel = reel_of(project);
        Json shots = track(reel->name(), "Video");
        for (const ReelPart& part : reel->parts()) {
            shots["children"].push_back(photos_of(*part.shot, photo_runs(part), delivered));
            if (part.join.begin < part.join.end)
                shots["children"].push_back(join(part, rate));
        }
        stack["children"].push_back(std::move(shots));
        for (const Sound& sound : project.reel.sound.sounds)
            stack["children"].push_back(sound_track(sound, rate));
        for (const ReelMarker& m : project.reel.markers)
            stack["markers"].push_back(marker(m.text, m.at.value.approx() * rate, rate));
    }
    const Json timeline{{"OTIO_SCHEMA", "Timeline.1"},
                        {"metadata", Json::object()},
                        {"name", shot ? project.shot(*shot).name : std::string("Reel")},
                        {"global_start_time", time(0, rate)},
                        {"tracks", std::move(stack)}};
    return json_text(timeline, 4) + '\n';
}

}
