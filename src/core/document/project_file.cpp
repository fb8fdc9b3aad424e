#include "core/document/project_file.h"

#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/document/pacing_json.h"
#include "core/document/project_lock.h"
#include "core/document/json_values.h"
#include "core/document/light_json.h"
#include "core/document/steady_json.h"
#include "core/photo/inspect.h"
#include "core/photo/preview_store.h"

#include <algorithm>
#include <array>
#include <cerrno>
#include <cstring>
#include <limits>
#include <set>
#include <unistd.h>

namespace frenlo {

namespace fs = std::filesystem;
using Json = nlohmann::ordered_json;

namespace {

constexpr std::array format_names{"jpeg", "png", "tiff", "webp"};
constexpr std::array tie_names{"none", "starts", "stays", "loose"};

/// File names are bytes on Linux; JSON is UTF-8. Names that are not UTF-8 are written as hexadecimal digits.
void put_name(Json& photo, const fs::path& name)
{
    if (is_utf8(name.native())) {
        photo["file"] = name.native();
        return;
    }
    std::string hex;
    for (const char c : name.native()) {
        constexpr std::string_view digits = "0123456789abcdef";
        hex += digits[static_cast<unsigned char>(c) >> 4];
        hex += digits[static_cast<unsigned char>(c) & 15];
    }
    photo["file_hex"] = hex;
}

fs::path get_name(const Json& photo)
{
    if (photo.contains("file"))
        return photo.at("file").get<std::string>();
    const auto hex = photo.at("file_hex").get<std::string>();
    if (hex.size() % 2 != 0 || hex.find_first_not_of("0123456789abcdef") != std::string::npos)
        throw std::invalid_argument("\"file_hex\" is not pairs of hexadecimal digits");
    std::string name;
    for (std::size_t i = 0; i < hex.size(); i += 2)
        name += static_cast<char>(std::stoi(hex.substr(i, 2), nullptr, 16));
    return name;
}

/// Of the file itself, not of a link to it: opened by either name it finds its photos.
fs::path folder_of(const fs::path& file)
{
    return fs::absolute(real_target(file)).lexically_normal().parent_path();
}

void put_exposure(Json& j, const Exposure& e)
{
    if (e.seconds)
        j["exposure_s"] = e.seconds->text();
    if (e.f_number)
        j["f_number"] = e.f_number->text();
    if (e.iso)
        j["iso"] = *e.iso;
    if (e.focal_mm)
        j["focal_mm"] = e.focal_mm->text();
}

Json remark_to_json(const Finding& f, const fs::path& folder)
{
    Json j{{"kind", kind_name(f.kind)}, {"text", is_utf8(f.text) ? f.text : std::string(kind_name(f.kind))}};
    for (const auto& file : f.files) {
        Json name;
        put_name(name, file.lexically_proximate(folder));
        j["files"].push_back(std::move(name));
    }
    return j;
}

Json photo_to_json(const ShotPhoto& p, const fs::path& folder)
{
    Json j;
    put_name(j, p.photo->file.lexically_proximate(folder));
    if (p.id)
        j["id"] = id_text(p.id.value);
    j["bytes"] = p.photo->bytes;
    j["modified_ns"] = p.photo->modified_ns;
    j["format"] = format_names.at(static_cast<std::size_t>(p.photo->format));
    j["size"] = {p.photo->size.width, p.photo->size.height};
    if (p.photo->orientation != 1)
        j["orientation"] = p.photo->orientation;
    if (p.photo->captured)
        j["captured"] = p.photo->captured->text();
    if (!p.photo->camera.empty())
        j["camera"] = p.photo->camera;
    put_exposure(j, p.photo->exposure);
    if (p.photo->alpha)
        j["alpha"] = true;
    if (!p.photo->fingerprint.empty())
        j["fingerprint"] = p.photo->fingerprint;
    j["hold"] = hold_text(p.hold);
    for (const auto& [name, flag] : {std::pair("aside", p.aside), std::pair("fill", p.fill),
                                     std::pair("what_there_is", p.what_there_is), std::pair("marker_card", p.marker_card),
                                     std::pair("marked", p.marked)})
        if (flag)
            j[name] = true;
    if (p.alignment)
        j["alignment"] = alignment_to_json(*p.alignment);
    if (p.light)
        j["light"] = photo_light_to_json(*p.light);
    if (p.turns != 0)
        j["turns"] = p.turns;
    if (p.tie != Tie::none)
        j["tie"] = tie_names.at(std::size_t(p.tie));
    for (const Finding& f : p.remarks)
        j["remarks"].push_back(remark_to_json(f, folder));
    if (!p.flaw.empty())
        j["flaw"] = is_utf8(p.flaw) ? p.flaw : std::string("The photo cannot be used.");
    return j;
}

/// 0 where there is none.
template <class Identity>
Identity id_from(const Json& j)
{
    if (!j.contains("id"))
        return {};
    const auto id = parse_id(j.at("id").get<std::string>());
    if (!id)
        wrong("\"" + j.at("id").get<std::string>() + "\" is no identity");
    return {*id};
}

Rate rate_from(const Json& j)
{
    const auto text = j.get<std::string>();
    const auto rate = parse_rate(text);
    if (!rate)
        wrong("\"" + text + "\" is not a frame rate");
    return *rate;
}

Fraction fraction_from(const Json& j)
{
    const auto f = parse_fraction(j.get<std::string>());
    if (!f)
        wrong("\"" + j.get<std::string>() + "\" is not a fraction");
    return *f;
}

Exposure exposure_from(const Json& j)
{
    Exposure e;
    if (j.contains("exposure_s"))
        e.seconds = fraction_from(j.at("exposure_s"));
    if (j.contains("f_number"))
        e.f_number = fraction_from(j.at("f_number"));
    if (j.contains("iso"))
        e.iso = int(whole_in(j.at("iso"), 0, std::numeric_limits<int>::max(), "iso"));
    if (j.contains("focal_mm"))
        e.focal_mm = fraction_from(j.at("focal_mm"));
    return e;
}

/// folder: that the photo's own name was written from; file: where the photo is.
Finding remark_from_json(const Json& j, const fs::path& folder, const fs::path& file)
{
    const auto kind = parse_finding_kind(j.at("kind").get<std::string>());
    if (!kind)
        wrong("\"" + j.at("kind").get<std::string>() + "\" is no kind of remark");
    Finding f{*kind, {}, j.at("text").get<std::string>(), usual_remedies(*kind)};
    for (const Json& name : j.at("files"))
        f.files.push_back((folder / get_name(name)).lexically_normal());
    if (f.files.empty())
        wrong("a remark is of no photo");
    f.files.front() = file;
    return f;
}

ShotPhoto photo_from_json(const Json& j, const fs::path& folder, const fs::path& old_folder)
{
    auto photo = std::make_shared<PhotoFile>();
    const fs::path name = get_name(j);
    photo->file = (folder / name).lexically_normal();
    // A project that was moved without its photos finds them where they were.
    std::error_code ec;
    if (!old_folder.empty() && old_folder != folder && !fs::exists(photo->file, ec))
        if (const fs::path old = (old_folder / name).lexically_normal(); fs::exists(old, ec))
            photo->file = old;
    constexpr std::int64_t any = std::numeric_limits<std::int64_t>::max();
    photo->bytes = std::uintmax_t(whole_in(j.at("bytes"), 0, any, "bytes"));
    photo->modified_ns = whole_in(j.at("modified_ns"), -any, any, "modified_ns");
    photo->format = PhotoFormat(one_of(format_names, j.at("format").get<std::string>(), "a photo format"));
    const auto size = wholes_in(j.at("size"), 2, 0, most_side, "size");
    photo->size = {size[0], size[1]};
    photo->orientation = whole_or(j, "orientation", 1, 1, 8);
    if (j.contains("captured")) {
        photo->captured = parse_capture_time(j.at("captured").get<std::string>());
        if (!photo->captured)
            wrong("a \"captured\" is not a time");
    }
    photo->camera = j.value("camera", std::string());
    photo->exposure = exposure_from(j);
    photo->alpha = j.value("alpha", false);
    photo->fingerprint = j.value("fingerprint", std::string());
    const auto hold = parse_hold(j.at("hold").get<std::string>());
    if (!hold)
        wrong("\"" + j.at("hold").get<std::string>() + "\" is not a hold");
    ShotPhoto p{photo, *hold, j.value("aside", false), j.value("flaw", std::string())};
    p.id = id_from<PhotoId>(j);
    p.turns = whole_or(j, "turns", 0, 0, 3);
    if (j.contains("alignment"))
        p.alignment = alignment_from(j.at("alignment"));
    if (j.contains("light"))
        p.light = photo_light_from(j.at("light"));
    p.fill = j.value("fill", false);
    p.what_there_is = j.value("what_there_is", false);
    p.marker_card = j.value("marker_card", false);
    p.marked = j.value("marked", false);
    p.tie = Tie(one_of(tie_names, j.value("tie", std::string(tie_names[0])), "a tie"));
    if (j.contains("remarks"))
        for (const Json& r : j.at("remarks"))
            p.remarks.push_back(remark_from_json(r, folder, photo->file));
    return p;
}

Json part_to_json(const Part& part)
{
    return {{"name", part.name},
            {"photos", {part.begin.value, part.end.value}},
            {"reason", part.reason},
            {"kind", kind_name(part.kind)}};
}

ShotKind kind_from(const Json& j)
{
    const auto kind = parse_shot_kind(j.value("kind", std::string(kind_name(ShotKind::unknown))));
    if (!kind)
        wrong("a \"kind\" is not a kind of shot");
    return *kind;
}

Part part_from_json(const Json& j)
{
    const auto photos = wholes_in(j.at("photos"), 2, 0, std::numeric_limits<int>::max(), "photos");
    return {j.at("name").get<std::string>(), PhotoIndex(photos[0]), PhotoIndex(photos[1]),
            j.value("reason", std::string()), kind_from(j)};
}

Json shot_to_json(const Shot& shot, const fs::path& folder)
{
    Json s;
    if (shot.id)
        s["id"] = id_text(shot.id.value);
    s["name"] = shot.name;
    if (shot.kind != ShotKind::unknown)
        s["kind"] = kind_name(shot.kind);
    put_pacing(s, shot.pacing);
    if (shot.steady)
        s["steady"] = steadying_to_json(*shot.steady);
    if (shot.light_region != Region())
        s["light_region"] = region_to_json(shot.light_region);
    if (shot.lighting)
        s["lighting"] = lighting_to_json(*shot.lighting);
    if (shot.region != Region())
        s["region"] = region_to_json(shot.region);
    if (shot.pause)
        s["pause_s"] = shot.pause->value.text();
    if (shot.backdrop != Backdrop{0, 0, 0})
        s["backdrop"] = shot.backdrop;
    if (!shot.settled.empty())
        s["settled"] = shot.settled;
    for (const auto& part : shot.parts)
        s["parts"].push_back(part_to_json(part));
    s["photos"] = Json::array();
    for (const auto& p : shot.photos)
        s["photos"].push_back(photo_to_json(p, folder));
    return s;
}

Shot shot_from_json(const Json& j, const fs::path& folder, const fs::path& old_folder)
{
    Shot shot;
    shot.id = id_from<ShotId>(j);
    shot.name = j.at("name").get<std::string>();
    shot.pacing = pacing_from(j);
    if (j.contains("steady"))
        shot.steady = steadying_from(j.at("steady"));
    if (j.contains("light_region"))
        shot.light_region = region_from(j.at("light_region"));
    if (j.contains("lighting")) {
        shot.lighting = lighting_from(j.at("lighting"));
        if (j.at("lighting").contains("region")) // written by the first versions
            shot.light_region = region_from(j.at("lighting").at("region"));
    }
    if (j.contains("region"))
        shot.region = region_from(j.at("region"));
    shot.kind = kind_from(j);
    if (j.contains("pause_s"))
        shot.pause = Seconds{fraction_from(j.at("pause_s"))};
    if (j.contains("backdrop"))
        std::ranges::copy(wholes_in(j.at("backdrop"), 3, 0, 255, "backdrop"), shot.backdrop.begin());
    if (j.contains("settled"))
        shot.settled = j.at("settled").get<std::vector<std::string>>();
    for (const auto& p : j.at("photos"))
        shot.photos.push_back(photo_from_json(p, folder, old_folder));
    if (shot.steady && shot.steady->size.empty()) {
        const auto lies = std::find_if(shot.photos.begin(), shot.photos.end(), [](const ShotPhoto& p) { return p.alignment && p.alignment->reference; });
        if (lies == shot.photos.end())
            wrong("a \"steady\" has no reference photo");
        shot.steady->size = seen_size(*lies);
    }
    if (j.contains("parts"))
        for (const auto& part : j.at("parts")) {
            shot.parts.push_back(part_from_json(part));
            const Part& p = shot.parts.back();
            const std::int64_t before = shot.parts.size() > 1 ? shot.parts.end()[-2].end.value : 0;
            if (p.begin.value < before || p.end <= p.begin || p.end.value > std::int64_t(shot.photos.size()))
                wrong("the parts of \"" + shot.name + "\" are not in order and apart");
        }
    return shot;
}

/// The file's text as JSON and its version, or a Failure that says what is wrong with it.
Json checked_json(std::string_view text, const fs::path& file)
{
    Json j;
    try {
        j = Json::parse(text);
    } catch (const Json::exception& e) {
        throw Failure({std::string("the project file is damaged (") + e.what() + ")", file,
                       "Nothing was changed; take an older copy of it"});
    }
    if (!j.is_object() || !j.contains("frenlo") || !j.at("frenlo").is_number_integer())
        throw Failure({"this is not a Frenlo project", file, "Choose a file that ends in .frenlo"});
    const Json& version = j.at("frenlo");
    if (version.is_number_unsigned() && version.get<std::uint64_t>() > std::uint64_t(project_file_version))
        throw Failure({"the project was saved by a newer Frenlo (file version " + version.dump() +
                           ", this one reads up to " + std::to_string(project_file_version) + ")",
                       file, "Nothing was changed; open it with the newer one"});
    if (!version.is_number_unsigned() || version.get<std::uint64_t>() < 1)
        throw Failure({"the project file is damaged (there is no file version " + version.dump() + ")", file,
                       "Nothing was changed; take an older copy of it"});
    return j;
}

/// Commands find a shot by its name, so each needs one of its own.
void repair_names(Project& project, const fs::path& file, std::vector<Problem>& problems)
{
    std::set<std::string, std::less<>> taken;
    for (const auto& shot : project.shots)
        taken.insert(shot->name);
    std::set<std::string, std::less<>> seen;
    for (std::size_t i = 0; i < project.shots.size(); ++i) {
        const std::string& name = project.shots[i]->name;
        if (!name.empty() && seen.insert(name).second)
            continue;
        const std::string base = name.empty() ? "Shot" : name;
        std::size_t n = name.empty() ? i + 1 : 2;
        while (!taken.insert(base + ' ' + std::to_string(n)).second)
            ++n;
        Shot renamed = *project.shots[i];
        renamed.name = base + ' ' + std::to_string(n);
        seen.insert(renamed.name);
        problems.push_back({name.empty() ? "a shot had no name and is called \"" + renamed.name + "\" now"
                                         : "two shots were called \"" + name + "\"; the second is \"" + renamed.name + "\" now",
                            file, "Give it another name if you like"});
        project.shots[i] = std::make_shared<const Shot>(std::move(renamed));
    }
}

/// Versions before had no identities; and a file that was put together by hand may have one twice.
void repair_ids(Project& project)
{
    std::set<std::uint64_t> seen{0};
    for (ShotPtr& shot : project.shots) {
        auto now = std::make_shared<Shot>(*shot);
        if (!seen.insert(now->id.value).second)
            now->id = ShotId::fresh();
        for (std::size_t i = 0; i < now->photos.size(); ++i)
            if (!seen.insert(now->photos[i].id.value).second)
                now->photos.edit(i).id = PhotoId::fresh();
        shot = std::move(now);
    }
}

/// What the disk has now: missing photos become problems, changed ones are read again.
void compare_with_disk(ShotPhoto& p, const std::map<fs::path, fs::path>& moved, std::vector<Problem>& problems)
{
    auto stamp = stamp_of(p.photo->file);
    if (const auto m = moved.find(p.photo->file); !stamp && m != moved.end() && (stamp = stamp_of(m->second))) {
        auto at_new_place = std::make_shared<PhotoFile>(*p.photo);
        at_new_place->file = m->second;
        p.photo = std::move(at_new_place);
    }
    if (!stamp) {
        std::error_code ec;
        const bool other = fs::exists(p.photo->file, ec);
        problems.push_back({other ? "this is not a file" : "the photo is missing", p.photo->file, "Bring it back to this place; its hold is kept"});
        return;
    }
    if (::access(p.photo->file.c_str(), R_OK) != 0)
        problems.push_back({std::string("the photo cannot be read (") + std::strerror(errno) + ")", p.photo->file, "Check that you may read it"});
    if (stamp->bytes == p.photo->bytes && stamp->modified_ns == p.photo->modified_ns)
        return;
    const bool other_content = stamp->bytes != p.photo->bytes;
    const Inspected now = inspect(p.photo->file);
    if (now.state == PhotoState::fine) {
        p.photo = now.photo;
    } else {
        auto changed = std::make_shared<PhotoFile>(*p.photo);
        changed->bytes = stamp->bytes;
        changed->modified_ns = stamp->modified_ns;
        p.photo = std::move(changed);
    }
    if (other_content)
        problems.push_back({"the photo has changed since the project was saved", p.photo->file, ""});
}

}

std::string project_to_json(const Project& project, const fs::path& file)
{
    const fs::path folder = folder_of(file);
    Json j;
    j["frenlo"] = project_file_version;
    if (is_utf8(folder.native()))
        j["folder"] = folder.native();
    j["delivered_at"] = project.delivered_at.text();
    j["shots"] = Json::array();
    for (const auto& shot : project.shots)
        j["shots"].push_back(shot_to_json(*shot, folder));
    return j.dump(1, ' ', false, Json::error_handler_t::replace) + '\n';
}

LoadedProject project_from_json(std::string_view text, const fs::path& file)
{
    const Json j = checked_json(text, file);
    const fs::path folder = folder_of(file);
    LoadedProject loaded;
    try {
        loaded.project.delivered_at = rate_from(j.at("delivered_at"));
        const fs::path old_folder = j.value("folder", std::string());
        for (const auto& s : j.at("shots"))
            loaded.project.shots.push_back(std::make_shared<const Shot>(shot_from_json(s, folder, old_folder)));
    } catch (const std::exception& e) { // Json's own, out of range, invalid argument: all mean a damaged file
        throw Failure({std::string("the project file is damaged (") + e.what() + ")", file,
                       "Nothing was changed; take an older copy of it"});
    }
    repair_names(loaded.project, file, loaded.problems);
    repair_ids(loaded.project);
    return loaded;
}

LoadedProject read_project(const fs::path& file)
{
    const std::string text = read_whole_file(file);
    LoadedProject loaded = project_from_json(text, file);
    loaded.key = short_key(text);
    return loaded;
}

LoadedProject load_project(const fs::path& file, const std::map<fs::path, fs::path>& moved)
{
    LoadedProject loaded = read_project(file);
    for (auto& shot : loaded.project.shots) {
        auto now = std::make_shared<Shot>(*shot);
        now->photos.edit_all([&](ShotPhoto& p) { compare_with_disk(p, moved, loaded.problems); });
        shot = std::move(now);
    }
    return loaded;
}

std::string project_key(const fs::path& file)
{
    return stamp_of(file) ? short_key(read_whole_file(file)) : std::string();
}

namespace {

/// The key of what was written. The file must be locked.
std::string write_project(const Project& project, const fs::path& file)
{
    const std::string text = project_to_json(project, file);
    write_whole_file(file, text);
    return short_key(text);
}

/// Throws Failure where what is there is no project of this Frenlo's.
void check_replaceable(const fs::path& file, const std::optional<std::string>& last_key)
{
    std::error_code ec;
    if (!fs::exists(file, ec))
        return;
    const std::string there = read_whole_file(file);
    try {
        checked_json(there, file);
    } catch (const Failure& f) {
        Problem p = f.problem();
        p.what = "the file is there already and is not replaced: " + p.what;
        p.remedy = "Save under another name";
        throw Failure(std::move(p));
    }
    if (last_key && !last_key->empty() && short_key(there) != *last_key)
        throw ChangedOnDisk({"the project was changed on the disk by another program since it was opened", file,
                             "Take the change in, or save under another name"});
}

}

std::string save_project(const Project& project, const fs::path& file, const std::optional<std::string>& last_key)
{
    const ProjectLock lock(file);
    check_replaceable(file, last_key);
    return write_project(project, file);
}

void save_new_project(const Project& project, const fs::path& file)
{
    write_new_file(file, project_to_json(project, file));
}

LoadedProject change_project(const fs::path& file, const std::function<Project(const Project&)>& change)
{
    const ProjectLock lock(file);
    LoadedProject loaded = load_project(file);
    Project changed = change(loaded.project);
    if (!(changed == loaded.project))
        loaded.key = write_project(changed, file);
    loaded.project = std::move(changed);
    return loaded;
}

}
