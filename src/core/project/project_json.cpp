#include "core/project/project_json.h"

#include "core/base/problem.h"
#include "core/project/old_versions.h"
#include "core/project/project_file.h"
#include "core/project/value_codecs.h"

#include <tbb/parallel_for.h>

#include <optional>
#include <system_error>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

void check_parts(const Shot& s)
{
    std::int64_t before = 0;
    bool right = true;
    for (const Part& p : s.parts) {
        right = right && p.begin.value >= before && p.end > p.begin;
        before = p.end.value;
    }
    if (!right || before > std::int64_t(s.photos.size()))
        wrong("the parts of \"" + s.name + "\" are not in order and apart");
}

[[noreturn]] void damaged(const std::string& how, const fs::path& file)
{
    throw Failure({"the project file is damaged (" + how + ")", file, "Nothing was changed; take an older copy of it"});
}

/// Of the first value "frenlo" of a file's outermost object.
int checked_version(const Json& version, const fs::path& file)
{
    if (version.is_number_unsigned() && version.get<std::uint64_t>() > std::uint64_t(project_file_version))
        throw Failure({"the project was saved by a newer Frenlo (file version " + json_text(version) +
                           ", this one reads up to " + std::to_string(project_file_version) + ")",
                       file, "Nothing was changed; open it with the newer one"});
    if (!version.is_number_unsigned() || version.get<std::uint64_t>() < 1)
        damaged("there is no file version " + json_text(version), file);
    return version.get<int>();
}

const Json& version_in(const Json& j, const fs::path& file)
{
    if (!j.is_object() || !j.contains("frenlo") || !j.at("frenlo").is_number_integer())
        throw Failure({"this is not a Frenlo project", file, "Choose a file that ends in .frenlo"});
    return j.at("frenlo");
}

/// Every path of a photo that is coded as JSON.
template <class Change>
void change_paths(Json& photo, const Change& change)
{
    const auto one = [&](Json& path) { path = Coded<fs::path>::write(change(Coded<fs::path>::read(path, {}))); };
    one(photo.at("photo").at("file"));
    if (const auto merged = photo.at("photo").find("merged"); merged != photo.at("photo").end())
        for (Json& file : *merged)
            one(file);
    if (const auto remarks = photo.find("remarks"); remarks != photo.end())
        for (Json& remark : *remarks)
            for (Json& file : remark.at("files"))
                one(file);
}

/// Every path of a sound of a project that is coded as JSON.
template <class Change>
void change_sound_paths(Json& project, const Change& change)
{
    const auto reel = project.find("reel");
    if (reel == project.end() || !reel->is_object() || !reel->contains("sound") ||
        !reel->at("sound").contains("sounds"))
        return;
    for (Json& sound : reel->at("sound").at("sounds"))
        sound.at("file") = Coded<fs::path>::write(change(Coded<fs::path>::read(sound.at("file"), {})));
}

/// Every path of what steps keep of a shot, coded as JSON: a field that is called "file".
template <class Change>
void change_step_paths(Json& shot, const Change& change)
{
    const auto steps = shot.find("steps");
    if (steps == shot.end() || !steps->is_object())
        return;
    for (auto& value : *steps)
        if (const auto file = value.is_object() ? value.find("file") : value.end();
            value.is_object() && file != value.end() && file->is_string())
            *file = Coded<fs::path>::write(change(Coded<fs::path>::read(*file, {})));
}

/// A text as it is written here: a photo a line. JSON has no line ends inside of texts, so a line is whole.
struct InLines
{
    std::string rest;                                  ///< without the photos
    std::vector<std::vector<std::string_view>> photos; ///< by shot
};

/// Nothing where a text was put together in another way.
std::optional<InLines> in_lines(std::string_view text)
{
    constexpr std::string_view photo = "{\"photo\":", begin = "\"photos\": [";
    InLines lines;
    bool within = false;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find('\n'), text.size() - 1) + 1;
        std::string_view line = text.substr(0, end);
        text.remove_prefix(end);
        if (within && line.starts_with(photo)) {
            const std::size_t last = line.rfind("}]}"); // behind the last photo of a shot
            within = last == std::string_view::npos;
            const std::size_t behind = within ? line.rfind('}') + 1 : last + 1;
            lines.photos.back().push_back(line.substr(0, behind));
            if (!within)
                lines.rest += line.substr(behind);
            continue;
        }
        if (within)
            return std::nullopt;
        lines.rest += line;
        within = line.find(begin) != std::string_view::npos && line.ends_with("[\n");
        if (line.find(begin) != std::string_view::npos)
            lines.photos.emplace_back();
    }
    return within ? std::nullopt : std::optional(std::move(lines));
}

class Reader
{
public:
    Reader(const fs::path& folder, const fs::path& file) : folder_(folder), file_(file) {}

    Project read(std::string_view text)
    {
        Json j;
        try {
            const auto lines = in_lines(text);
            if (lines)
                j = json_from(lines->rest);
            if (lines && j.is_object() && j.value("frenlo", Json()) == project_file_version && j.contains("shots") &&
                j.at("shots").size() == lines->photos.size()) {
                version_ = project_file_version;
                take_folder(j);
                for (const auto& of_shot : lines->photos)
                    photos_.push_back(photos_of(of_shot));
            } else {
                j = Json::parse(text, [this](int depth, Json::parse_event_t event, Json& value) {
                    return take(depth, event, value);
                });
            }
        } catch (const Json::exception& e) {
            damaged(e.what(), file_);
        }
        version_ = checked_version(version_in(j, file_), file_);
        Project project;
        try {
            take_folder(j);
            Json shots = std::move(j.at("shots"));
            if (!shots.is_array())
                wrong("\"shots\" is no list");
            j["shots"] = Json::array();
            change_sound_paths(j, [&](const fs::path& name) { return found_file(name); });
            project = from_json<Project>(j);
            for (std::size_t i = 0; i < shots.size(); ++i)
                project.shots.push_back(shot_of(shots[i], i < photos_.size() ? photos_[i] : PhotoList()));
        } catch (const std::exception& e) { // Json's own, out of range, invalid argument: all mean a damaged file
            damaged(e.what(), file_);
        }
        return project;
    }

private:
    /// Photos become values as soon as they are parsed, and are dropped as JSON. What a photo's paths depend on is
    /// written before it; where it is not, photos stay until the end.
    bool take(int depth, Json::parse_event_t event, Json& value)
    {
        using Event = Json::parse_event_t;
        if (event == Event::key && std::size_t(depth) < keys_.size())
            keys_[std::size_t(depth)] = value.get_ref<const std::string&>();
        else if (event == Event::value && depth == 1 && keys_[1] == "frenlo" && value.is_number_integer())
            version_ = checked_version(value, file_);
        else if (event == Event::value && depth == 1 && keys_[1] == "folder" && value.is_string())
            came_from(value.get<std::string>());
        else if (event == Event::object_start && depth == 2 && keys_[1] == "shots")
            photos_.emplace_back();
        else if (event == Event::object_end && depth == 4 && keys_[1] == "shots" && keys_[3] == "photos" && version_ &&
                 !photos_.empty()) {
            try {
                photos_.back().push_back(photo_of(value));
            } catch (const std::exception& e) {
                damaged("photo " + std::to_string(photos_.back().size() + 1) + " of shot " +
                            std::to_string(photos_.size()) + ": " + e.what(),
                        file_);
            }
            return false;
        }
        return true;
    }

    /// On all cores.
    [[nodiscard]] PhotoList photos_of(const std::vector<std::string_view>& lines) const
    {
        std::vector<PhotoList::Shared> photos(lines.size());
        tbb::parallel_for(std::size_t(0), lines.size(), [&](std::size_t i) {
            try {
                Json photo = json_from(lines[i]);
                photos[i] = std::make_shared<ShotPhoto>(photo_of(photo));
            } catch (const std::exception& e) {
                damaged("photo " + std::to_string(i + 1) + " of shot " + std::to_string(photos_.size() + 1) + ": " +
                            e.what(),
                        file_);
            }
        });
        PhotoList list;
        list.reserve(photos.size());
        for (auto& p : photos)
            list.push_back(std::move(p));
        return list;
    }

    void take_folder(const Json& j) { came_from(j.value("folder", std::string())); }

    void came_from(const std::string& folder)
    {
        old_folder_ = folder;
        moved_ = !old_folder_.empty() && old_folder_ != folder_;
    }

    /// A project that was moved without its files finds them where they were.
    [[nodiscard]] fs::path found_file(const fs::path& name) const
    {
        // Most photos lie beside the project; taking apart every path of a hundred thousand would take most of the
        // time.
        fs::path here =
            name.is_relative() && !name.has_parent_path() && name.native().find_first_not_of('.') != std::string::npos
                ? folder_ / name
                : (folder_ / name).lexically_normal();
        std::error_code ec;
        if (!moved_ || fs::exists(here, ec))
            return here;
        fs::path old = (old_folder_ / name).lexically_normal();
        return fs::exists(old, ec) ? old : here;
    }

    ShotPhoto photo_of(Json& photo) const
    {
        if (*version_ < 3)
            upgrade_photo(photo);
        gather_photo_steps(photo);
        change_paths(photo, [&](const fs::path& name) { return found_file(name); });
        return from_json<ShotPhoto>(photo);
    }

    ShotPtr shot_of(Json& shot, PhotoList photos) const
    {
        if (!shot.is_object())
            wrong("a shot is no object");
        Json& left = shot.at("photos");
        if (!left.is_array())
            wrong("\"photos\" is no list");
        for (Json& photo : left)
            if (!photo.is_discarded())
                photos.push_back(photo_of(photo));
        left = Json::array();
        if (*version_ < 3)
            upgrade_shot(shot, photos);
        gather_shot_steps(shot);
        change_step_paths(shot, [&](const fs::path& name) { return found_file(name); });
        auto s = std::make_shared<Shot>(from_json<Shot>(shot));
        s->photos = std::move(photos);
        check_parts(*s);
        return s;
    }

    const fs::path& folder_;
    const fs::path& file_;
    std::array<std::string, 5> keys_; ///< at each depth, the last
    std::optional<int> version_;
    fs::path old_folder_;
    bool moved_ = false;            ///< the file lies elsewhere than when it was saved
    std::vector<PhotoList> photos_; ///< by shot
};

/// An object's text, its last brace taken off.
std::string opened(const Json& j, int indent)
{
    std::string text = json_text(j, indent);
    text.erase(text.rfind('}'));
    text.erase(text.find_last_not_of("\n ") + 1);
    return text;
}

}

std::string project_text(const Project& project, const fs::path& folder)
{
    Json head;
    head["frenlo"] = project_file_version;
    if (is_utf8(folder.native()))
        head["folder"] = folder.native();
    head["delivered_at"] = to_json(project.delivered_at);
    if (!(project.reel == Reel())) {
        head["reel"] = to_json(project.reel);
        change_sound_paths(head, [&](const fs::path& p) { return p.lexically_proximate(folder); });
    }
    std::string text = opened(head, 1) + ",\n \"shots\": [";
    for (std::size_t s = 0; s < project.shots.size(); ++s) {
        Shot without = *project.shots[s];
        without.photos.clear();
        Json shot = to_json(without);
        shot.erase("photos");
        change_step_paths(shot, [&](const fs::path& p) { return p.lexically_proximate(folder); });
        text += (s > 0 ? ",\n" : "\n") + opened(shot, 1) + ",\n \"photos\": [";
        const PhotoList& photos = project.shots[s]->photos;
        for (std::size_t i = 0; i < photos.size(); ++i) {
            Json photo = to_json(photos[i]);
            change_paths(photo, [&](const fs::path& p) { return p.lexically_proximate(folder); });
            text += (i > 0 ? ",\n" : "\n") + json_text(photo);
        }
        text += "]}";
    }
    return text + "]\n}\n";
}

Project project_of_text(std::string_view text, const fs::path& folder, const fs::path& file)
{
    return Reader(folder, file).read(text);
}

void check_is_project(std::string_view text, const fs::path& file)
{
    Json j;
    try {
        j = Json::parse(text, [](int depth, Json::parse_event_t, const Json&) { return depth <= 1; });
    } catch (const Json::exception& e) {
        damaged(e.what(), file);
    }
    checked_version(version_in(j, file), file);
}

Json project_schema()
{
    Json j{{"$schema", "https://json-schema.org/draft/2020-12/schema"}, {"title", "A Frenlo project, file version 3"}};
    j.update(Coded<Project>::schema());
    j["required"].push_back("frenlo");
    Json properties{
        {"frenlo", {{"const", project_file_version}}},
        {"folder",
         {{"type", "string"},
          {"description",
           "Where the file lay when it was saved; photos that do not lie beside it any more are looked for there"}}}};
    properties.update(j["properties"]);
    j["properties"] = std::move(properties);
    return j;
}

}
