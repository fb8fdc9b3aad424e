// What holds when a command is killed at any change that it makes on the disk, or when from any of them on the disk is
// full or broken: photos are as they were, a project is the one before or the one after, nothing half made has its
// final name, and after the next start nothing half made is left at all.
#include "tests/support/catch.h"
#include "tests/support/cli.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgcodecs.hpp>

#include <algorithm>
#include <cstdio>
#include <functional>
#include <map>
#include <regex>
#include <set>
#include <sstream>

using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

using Files = std::map<std::string, std::string>;

/// Name, below the folder, to content.
Files files_below(const fs::path& folder)
{
    Files files;
    std::error_code ec;
    for (fs::recursive_directory_iterator it(folder, ec), end; !ec && it != end; it.increment(ec))
        if (it->is_regular_file())
            files[it->path().lexically_relative(folder).native()] = read_bytes(it->path());
    return files;
}

struct Scenario
{
    const char* name;
    std::string call;
    std::string before{}; ///< another call, to have something there
};

/// A folder with photos, a project and what the scenario wants.
class Stage
{
public:
    explicit Stage(const Scenario& s)
    {
        fs::create_directories(t_ / "work" / "out");
        write_run(t_ / "work" / "s", "s", 3, {32, 24});
        run("new p.frenlo s --hold 2f", "");
        if (!s.before.empty())
            run(s.before, "");
    }

    /// The same once more, times of files included: as another was before anything was tried on it.
    explicit Stage(const Stage& other) { output_of("cp -a " + in(other.t_, "work") + ' ' + in(t_, "work")); }
    Stage& operator=(const Stage&) = delete;

    /// The exit status; kills are 137.
    int run(const std::string& call, const std::string& environment)
    {
        int status = 0;
        output_of("cd " + in(t_, "work") + "; XDG_STATE_HOME=" + in(t_, "state") +
                      " XDG_CACHE_HOME=" + in(t_, "cache") + ' ' + environment + ' ' + quoted(FRENLO_CLI) + ' ' + call +
                      " >/dev/null 2>" + in(t_, "said"),
                  &status);
        return status;
    }

    int run_with(const std::string& call, const std::string& fault)
    {
        return run(call, "FRENLO_FAULT=" + fault + " FRENLO_FAULT_BELOW=" + in(t_, "work") +
                             " FRENLO_FAULT_FIRED=" + in(t_, "fired") + " LD_PRELOAD=" + quoted(FRENLO_FAULT));
    }

    [[nodiscard]] bool fired() const { return fs::exists(t_ / "fired"); }
    [[nodiscard]] Files files() const { return files_below(t_ / "work"); }
    [[nodiscard]] std::string said() const { return read_bytes(t_ / "said"); }

private:
    TempFolder t_;
};

/// Photos whose times differ are other photos: a project names the time, and each run gives identities of its own.
std::string without_times(const std::string& text)
{
    static const std::regex of_a_run("\"modified_ns\": ?[0-9]+|\"id\": ?\"[0-9a-f]{16}\"|\"folder\": ?\"[^\"]*\"");
    return std::regex_replace(text, of_a_run, "");
}

bool same(const std::string& name, const std::string& a, const std::string& b)
{
    return name.ends_with(".frenlo") ? without_times(a) == without_times(b) : a == b;
}

bool is_unfinished(const Files::value_type& f)
{
    return f.first.find(".unfinished") != std::string::npos;
}

auto unfinished(const Files& files)
{
    return std::count_if(files.begin(), files.end(), is_unfinished);
}

/// Each file is the one of before or the one of after, and no other is there.
void check_whole(const Files& now, const Files& before, const Files& after)
{
    for (const auto& [name, bytes] : now) {
        INFO(name);
        const bool as_before = before.contains(name) && same(name, bytes, before.at(name));
        const bool as_after = after.contains(name) && same(name, bytes, after.at(name));
        CHECK((as_before || as_after));
    }
    for (const auto& [name, bytes] : before)
        if (after.contains(name)) {
            INFO(name);
            CHECK(now.contains(name));
        }
}

std::vector<Scenario> scenarios()
{
    return {
        {"pace", "pace p.frenlo --shot s --hold 5f"},
        {"new", "new q.frenlo s"},
        {"film", "export p.frenlo -o out/f.mp4"},
        {"loop", "export p.frenlo -o out/f.gif"},
        {"stills", "export p.frenlo -o out/f_%04d.png"},
        {"film over another", "export p.frenlo --overwrite -o out/f.mp4", "export p.frenlo --quality 10 -o out/f.mp4"},
        {"stills over others", "export p.frenlo --overwrite -o out/f_%04d.jpg",
         "export p.frenlo --quality 10 -o out/f_%04d.jpg"}};
}

}

TEST_CASE("killed at any change on the disk, all files are whole, and the next start clears up", "[fault][kill]")
{
    const Scenario scenario = GENERATE(from_range(scenarios()));
    const Stage fresh(scenario);
    Stage undisturbed(fresh);
    const Files before = undisturbed.files();
    REQUIRE(undisturbed.run(scenario.call, "") == 0);
    const Files after = undisturbed.files();
    int kills = 0;
    for (int at = 1;; ++at) {
        Stage stage(fresh);
        const int status = stage.run_with(scenario.call, "kill:" + std::to_string(at));
        INFO(scenario.name << ", change " << at);
        if (!stage.fired()) {
            CHECK(status == 0);
            break;
        }
        ++kills;
        Files now = stage.files();
        std::erase_if(now, is_unfinished);
        check_whole(now, before, after);
        // The next start: of anything, then, after every few, of the same.
        stage.run("info p.frenlo", "");
        if (std::string(scenario.name) != "pace" && std::string(scenario.name) != "new")
            CHECK(unfinished(stage.files()) == 0);
        REQUIRE(at < 300);
        if (at % 4 != 1)
            continue;
        const std::string again =
            scenario.call + (scenario.call.starts_with("export") && scenario.before.empty() ? " --overwrite" : "");
        const int second = stage.run(again, "");
        CHECK((second == 0 || scenario.call.starts_with("new")));
        check_whole(stage.files(), after, after);
    }
    CHECK(kills >= 5);
    std::printf("killed: %s, %d times\n", scenario.name, kills);
}

TEST_CASE("when the disk is full or breaks at any change, it is told, and nothing is half made", "[fault][error]")
{
    const Scenario scenario = GENERATE(from_range(scenarios()));
    const char* error = GENERATE("ENOSPC", "EIO");
    const Stage fresh(scenario);
    Stage undisturbed(fresh);
    const Files before = undisturbed.files();
    REQUIRE(undisturbed.run(scenario.call, "") == 0);
    const Files after = undisturbed.files();
    int tries = 0;
    for (int at = 1;; at += std::string(error) == "EIO" ? 3 : 1) { // the same paths: fewer will do
        Stage stage(fresh);
        const int status = stage.run_with(scenario.call, std::string(error) + ':' + std::to_string(at));
        INFO(scenario.name << ", " << error << " at change " << at << ": " << stage.said());
        if (!stage.fired())
            break;
        ++tries;
        CHECK((status == 3 || status == 0)); // what fails after the last change that matters is no failure
        if (status == 3)
            CHECK_THAT(stage.said(), Catch::Contains("frenlo-cli: "));
        else
            CHECK(std::all_of(after.begin(), after.end(), [&, now = stage.files()](const auto& f) {
                return now.contains(f.first) && same(f.first, now.at(f.first), f.second);
            }));
        check_whole(stage.files(), before, after);
        REQUIRE(at < 300);
    }
    CHECK(tries >= 2);
    std::printf("failing: %s, %s, %d times\n", scenario.name, error, tries);
}

TEST_CASE("killed while photos are taken, none that was said to be safe is lost, and none is half", "[fault][shoot]")
{
    int kills = 0;
    for (int at = 1;; at += at < 24 ? 1 : 5) {
        Stage stage{Scenario{"shoot", ""}};
        const int status =
            stage.run_with("shoot --camera simulated:96x64 --count 12 -o out --name pim", "kill:" + std::to_string(at));
        INFO("change " << at);
        if (!stage.fired()) {
            CHECK(status == 0);
            break;
        }
        ++kills;
        const Files now = stage.files();
        std::istringstream said(stage.said());
        for (std::string line; std::getline(said, line);)
            if (const auto name = line.find("out/pim_"); line.starts_with("safe ") && name != std::string::npos)
                CHECK(now.contains(line.substr(name)));
        for (const auto& [name, bytes] : now)
            if (name.ends_with(".png")) {
                INFO(name);
                CHECK_FALSE(cv::imdecode(std::vector<char>(bytes.begin(), bytes.end()), cv::IMREAD_UNCHANGED).empty());
                CHECK(bytes.find("IEND") != std::string::npos);
            }
        // Taking goes on with the next number, and clears up.
        if (at % 4 == 0) {
            CHECK(stage.run("shoot --camera simulated:96x64 --count 1 -o out --name pim", "") == 0);
            const Files after = stage.files();
            CHECK(std::count_if(after.begin(), after.end(), [](const auto& f) { return f.first.ends_with(".png"); }) ==
                  std::count_if(now.begin(), now.end(), [](const auto& f) { return f.first.ends_with(".png"); }) + 1);
        }
        REQUIRE(at < 2000);
    }
    CHECK(kills >= 20);
    std::printf("killed: shoot, %d times\n", kills);
}

TEST_CASE("when the disk is full or breaks while photos are taken, it is told", "[fault][shoot]")
{
    for (const char* error : {"ENOSPC", "EIO"})
        for (int at = 1; at < 40; at += 3) {
            Stage stage{Scenario{"shoot", ""}};
            const int status = stage.run_with("shoot --camera simulated:96x64 --count 3 -o out --name pim",
                                              std::string(error) + ':' + std::to_string(at));
            INFO(error << " at change " << at << ": " << stage.said());
            if (!stage.fired())
                break;
            CHECK((status == 3 || status == 0));
            if (status == 3)
                CHECK_THAT(stage.said(), Catch::Contains("out"));
            for (const auto& [name, bytes] : stage.files())
                if (name.ends_with(".png"))
                    CHECK(bytes.find("IEND") != std::string::npos);
        }
}

TEST_CASE("photos and folders that may not be read are listed by every command", "[fault][denied]")
{
    const Stage fresh(Scenario{"denied", ""});
    for (const char* call : {"info p.frenlo", "light p.frenlo --shot s", "steady p.frenlo --shot s",
                             "export p.frenlo --dry-run -o out/f.mp4", "scan s", "scan ."}) {
        Stage stage(fresh);
        const int status =
            stage.run(call, "FRENLO_FAULT=EACCES:0 FRENLO_FAULT_BELOW=\"$PWD/s\" LD_PRELOAD=" + quoted(FRENLO_FAULT));
        CAPTURE(call);
        CHECK((status == 1 || status == 3));
        const bool by_folder = std::string(call).starts_with("scan");
        CHECK_THAT(stage.said(), Catch::Contains(by_folder ? "cannot be read" : "s_0002.jpg") &&
                                     Catch::Contains("Permission denied"));
    }
}

}
