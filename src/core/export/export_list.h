#pragma once
#include "core/export/export.h"

#include <functional>
#include <map>
#include <set>
#include <string>
#include <vector>

namespace frenlo {

enum class ListState
{
    waiting,
    running, ///< after a start: it was cut off, and is done anew
    done,
    failed,
    left_out ///< stopped by hand
};

using ListedId = Id<struct ListedIdTag>;

/// One export of a list, as people write it too: shots and presets by their names.
struct ListedExport
{
    ListedId id{};
    std::string shot{}; ///< its name; empty: the only one, or the Reel
    bool reel = false;
    std::string preset = "film";    ///< its name
    std::optional<Preset> own{};    ///< one of the user's, as it was when it was put here; in place of the name
    std::filesystem::path file{};   ///< {shot}, {preset}, {date} and {version} stand for what they say
    std::optional<cv::Size> size{}; ///< instead of the preset's
    std::optional<Rate> rate{};     ///< the same
    std::optional<Fit> fit{};       ///< the same
    std::optional<int> quality{};   ///< the same
    std::optional<int> colours{};   ///< the same
    std::optional<bool> dither{};   ///< the same
    std::optional<std::int64_t> most_bytes{};
    std::string shape{}; ///< of several that the shot is dressed for
    std::int64_t times = 1;
    bool overwrite = false;
    ListState state = ListState::waiting;
    std::uintmax_t bytes = 0; ///< of what was written
    std::string said{};       ///< what was wrong, or is worth knowing
    bool operator==(const ListedExport&) const = default;
};

/// Exports that are done one after another, of a project as it was when they were put there.
struct ExportList
{
    std::filesystem::path project{};
    std::vector<ListedExport> exports{};
    bool operator==(const ExportList&) const = default;
};

/// As JSON; paths are relative to the list's folder where they lie below it. Throw Failure.
ExportList read_export_list(const std::filesystem::path& file);
void write_export_list(const ExportList& list, const std::filesystem::path& file);

/// The order that this is, with a name that nothing has where the pattern has a {version}. date: "2026-11-28". Throws
/// Failure where there is no such shot or preset.
ExportOrder order_of(const ListedExport& listed, const Project& project, std::string_view date);

/// What looking ahead through a list has found so far: kept from one export to the next, so that each photo is read
/// once.
struct LookedAt
{
    std::map<PhotoPtr, std::optional<Problem>> photos;      ///< what is wrong with them
    std::map<std::filesystem::path, std::uintmax_t> wanted; ///< bytes, by the folder they go to
    std::set<std::filesystem::path> files;                  ///< that are to be written
};
/// What would go wrong with an export, and what is worth knowing, without writing anything: names that are taken, what
/// does not fit, and photos that cannot be read. Throws Stopped.
std::vector<Problem> look_ahead(const ListedExport& listed, const Project& project, const PhotoSource& source,
                                std::string_view date, const Job& job, LookedAt& looked_at);

/// Does one of them; its state and what it says tell what became of it. Throws Stopped.
void run_listed(ListedExport& listed, const Project& project, const PhotoSource& source, std::string_view date,
                const Job& job);

/// Does all that wait, in order, and goes on after what fails. changed is called with the list whenever a state
/// changes, before the next begins: kept there, nothing that is done is done again after a kill. What was running is
/// done anew. Throws Stopped; what is half written then goes, and waits again.
void run_export_list(ExportList& list, const Project& project, const PhotoSource& source, std::string_view date,
                     const Job& job, const std::function<void(const ExportList&)>& changed);

template <>
struct Words<ListState>
{
    static constexpr std::array<std::string_view, 5> words{"waiting", "running", "done", "failed", "left-out"};
};
template <>
struct Fields<ListedExport>
{
    static constexpr FieldTable table{
        field("id", &ListedExport::id, "Who it is"),
        field("shot", &ListedExport::shot, "Its name"),
        field("reel", &ListedExport::reel, "The Reel in place of a shot"),
        field("preset", &ListedExport::preset, "Its name"),
        field("own", &ListedExport::own, "A preset in full, in place of the name"),
        required("file", &ListedExport::file, "{shot}, {preset}, {date} and {version} stand for what they say"),
        field("size", &ListedExport::size, "Instead of the preset's", {0, 65'535}),
        field("rate", &ListedExport::rate, "Instead of the preset's"),
        field("fit", &ListedExport::fit, "Instead of the preset's"),
        field("quality", &ListedExport::quality, "Instead of the preset's", {1, 100}),
        field("colours", &ListedExport::colours, "Instead of the preset's", {4, 256}),
        field("dither", &ListedExport::dither, "Instead of the preset's"),
        field("shape", &ListedExport::shape, "Of several that the shot is dressed for"),
        field("max_bytes", &ListedExport::most_bytes, "The file is made smaller until it is not larger", {1'000, 1e12}),
        field("times", &ListedExport::times, "The film so often", {1, most_times}),
        field("overwrite", &ListedExport::overwrite, "What is there goes"),
        field("state", &ListedExport::state, ""),
        field("bytes", &ListedExport::bytes, "Of what was written"),
        field("said", &ListedExport::said, "What was wrong, or is worth knowing"),
    };
};
template <>
struct Fields<ExportList>
{
    static constexpr FieldTable table{
        field("project", &ExportList::project, "Its file"),
        field("exports", &ExportList::exports, "In order"),
    };
};

}
