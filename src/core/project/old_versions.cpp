#include "core/project/old_versions.h"

#include "core/project/value_codecs.h"

#include <algorithm>
#include <initializer_list>
#include <utility>

namespace frenlo {

namespace {

using Names = std::initializer_list<std::pair<const char*, const char*>>; ///< old and new

void move_fields(Json& from, Json& to, Names names)
{
    for (const auto& [old, now] : names)
        if (const auto at = from.find(old); at != from.end()) {
            Json value = std::move(*at); // both may be one, whose fields move when one is added
            from.erase(at);
            to[now] = std::move(value);
        }
}

/// A part of an object becomes an object of its own, where there is any of it.
void gather(Json& object, const char* part, Names names)
{
    Json gathered;
    move_fields(object, gathered, names);
    if (!gathered.is_null())
        object[part] = std::move(gathered);
}

void upgrade_name(Json& named)
{
    if (const auto hex = named.find("file_hex"); hex != named.end()) {
        Json name{{"hex", std::move(*hex)}};
        named.erase("file_hex");
        named["file"] = std::move(name);
    }
}

Json upgraded_light(Json light)
{
    Json correction, change;
    move_fields(light, correction, {{"gain", "gain"}, {"by_tone", "by_tone"}, {"by_place", "by_place"}});
    if (Json& gain = correction.at("gain"); gain.size() == 1) // one for all colours
        gain = {gain[0], gain[0], gain[0]};
    move_fields(light, change, {{"stops", "stops"}, {"target", "target"}, {"steps", "steps"}, {"suspect", "suspect"}});
    change["correction"] = std::move(correction);
    light["change"] = std::move(change);
    if (const auto step = light.find("step"); step != light.end()) {
        Json jump{{"stops", step->at("stops")},
                  {"cause", step->value("camera", false) ? "camera" : "scene"},
                  {"kept", step->value("kept", true)}};
        light.erase("step");
        light["jump"] = std::move(jump);
    }
    return light;
}

/// Of the photo that was the reference, as seen.
std::optional<cv::Size> size_of_reference(const PhotoList& photos)
{
    for (const ShotPhoto& p : photos)
        if (const Json steps = to_json(p.steps);
            steps.contains("alignment") && steps["alignment"].value("reference", false))
            return seen_size(p);
    return std::nullopt;
}

/// The first versions said little: no size, which is that of the reference photo, and "frame" and "cropped" for the
/// crop.
void upgrade_steady(Json& steady, const PhotoList& photos)
{
    if (!steady.contains("crop") && steady.contains("frame")) {
        move_fields(steady, steady, {{"frame", "crop"}, {"cropped", "inside_all"}});
        const auto size = size_of_reference(photos);
        if (!size)
            wrong("a \"steady\" has no reference photo");
        steady["size"] = {size->width, size->height};
    }
    gather(steady, "smoothing", {{"strength_s", "strength_s"}, {"most_lost", "most_lost"}});
}

void upgrade_lighting(Json& shot, Json& lighting)
{
    if (const auto region = lighting.find("region"); region != lighting.end()) {
        shot["light_region"] = *region;
        lighting.erase("region");
    }
    for (const auto& [old, now] : {std::pair("flicker_before", "before"), std::pair("flicker_after", "after")})
        if (const auto at = lighting.find(old); at != lighting.end()) {
            Json figures{{"shared", *at}};
            lighting.erase(old);
            lighting[now] = std::move(figures);
        }
    Json corrected;
    if (const auto names = lighting.find("corrected"); names != lighting.end()) {
        for (const Json& name : *names)
            corrected[name.get<std::string>()] = true;
    } else if (!lighting.contains("kind")) { // nothing was chosen by itself: what is set was done
        for (const char* name : {"each_colour", "by_tone", "by_place", "camera_steps"})
            if (lighting.value(name, false))
                corrected[name] = true;
    }
    lighting.erase("corrected");
    if (!corrected.is_null())
        lighting["corrected"] = std::move(corrected);
}

}

void gather_photo_steps(Json& photo)
{
    gather(photo, "steps", {{"alignment", "alignment"}, {"light", "light"}});
}

void gather_shot_steps(Json& shot)
{
    gather(shot, "steps",
           {{"region", "region"}, {"light_region", "light_region"}, {"steady", "steady"}, {"lighting", "lighting"}});
}

void upgrade_photo(Json& photo)
{
    upgrade_name(photo);
    gather(photo, "exposure",
           {{"exposure_s", "seconds"}, {"f_number", "f_number"}, {"iso", "iso"}, {"focal_mm", "focal_mm"}});
    gather(photo, "photo",
           {{"file", "file"},
            {"bytes", "bytes"},
            {"modified_ns", "modified_ns"},
            {"format", "format"},
            {"size", "size"},
            {"orientation", "orientation"},
            {"captured", "captured"},
            {"camera", "camera"},
            {"exposure", "exposure"},
            {"alpha", "alpha"},
            {"fingerprint", "fingerprint"}});
    if (const auto light = photo.find("light"); light != photo.end())
        *light = upgraded_light(std::move(*light));
    if (const auto remarks = photo.find("remarks"); remarks != photo.end())
        for (Json& remark : *remarks) {
            Json files = Json::array();
            for (Json& file : remark.at("files")) {
                upgrade_name(file);
                files.push_back(file.at("file"));
            }
            remark["files"] = std::move(files);
            const auto kind = from_word<FindingKind>(remark.at("kind").get<std::string>());
            for (const Remedy remedy : kind ? usual_remedies(*kind) : std::vector<Remedy>())
                remark["remedies"].push_back(word_of(remedy));
        }
}

void upgrade_shot(Json& shot, const PhotoList& photos)
{
    gather(shot, "pacing",
           {{"paced_at", "paced_at"},
            {"between", "between"},
            {"keep_every", "keep_every"},
            {"kept", "kept"},
            {"backwards", "backwards"},
            {"there_and_back", "there_and_back"},
            {"times", "times"},
            {"at_least_s", "at_least_s"},
            {"first_hold", "first_hold"},
            {"last_hold", "last_hold"}});
    if (const auto parts = shot.find("parts"); parts != shot.end())
        for (Json& part : *parts) {
            const Json photos_of_it = part.at("photos");
            part["begin"] = photos_of_it.at(0);
            part["end"] = photos_of_it.at(1);
            part.erase("photos");
        }
    if (const auto steady = shot.find("steady"); steady != shot.end())
        upgrade_steady(*steady, photos);
    if (shot.contains("lighting")) {
        Json lighting = std::move(shot["lighting"]);
        upgrade_lighting(shot, lighting);
        shot["lighting"] = std::move(lighting);
    }
}

}
