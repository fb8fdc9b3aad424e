#include "tests/support/catch.h"

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <functional>
#include <map>
#include <regex>
#include <set>
#include <sstream>
#include <vector>

namespace fs = std::filesystem;

namespace {

struct Include
{
    std::string file; ///< relative to src/
    std::string what; ///< as written
};

std::vector<Include> includes()
{
    static const std::regex line("^\\s*#\\s*include\\s*[<\"]([^>\"]+)[>\"]");
    std::vector<Include> found;
    for (const auto& e : fs::recursive_directory_iterator(fs::path(FRENLO_SOURCE) / "src")) {
        if (e.path().extension() != ".cpp" && e.path().extension() != ".h")
            continue;
        std::ifstream in(e.path());
        std::smatch m;
        for (std::string text; std::getline(in, text);)
            if (std::regex_search(text, m, line))
                found.push_back({fs::relative(e.path(), fs::path(FRENLO_SOURCE) / "src").generic_string(), m[1]});
    }
    return found;
}

std::string part(const std::string& path, int index)
{
    std::istringstream in(path);
    std::string p;
    for (int i = 0; i <= index; ++i)
        std::getline(in, p, '/');
    return p;
}

/// The folders of the core in the order of a photo's path: each may include those before it.
const std::vector<std::string> path_of_a_photo{"base",    "time",    "source",   "camera",      "project",
                                               "picture", "cards",   "timeline", "interchange", "sound",
                                               "export",  "command", "steps"};

std::ptrdiff_t place(const std::string& folder)
{
    return std::find(path_of_a_photo.begin(), path_of_a_photo.end(), folder) - path_of_a_photo.begin();
}

}

TEST_CASE("the sources are found", "[architecture]")
{
    CHECK(includes().size() > 200); // the tests below would pass on nothing
}

TEST_CASE("core and command line know nothing of Qt or of the window", "[architecture]")
{
    for (const auto& i : includes()) {
        const std::string top = part(i.file, 0);
        if (top == "app")
            continue;
        CAPTURE(i.file, i.what);
        CHECK_FALSE((i.what.starts_with("Q") || i.what.starts_with("qt") || i.what.starts_with("app/")));
        CHECK_FALSE((top == "core" && i.what.starts_with("cli/")));
    }
}

TEST_CASE("the command line is not used by the window, nor the window by anybody", "[architecture]")
{
    for (const auto& i : includes()) {
        CAPTURE(i.file, i.what);
        CHECK_FALSE((i.what.starts_with("cli/") && part(i.file, 0) != "cli"));
    }
}

TEST_CASE("inside the core a folder includes only those before it on a photo's path", "[architecture]")
{
    for (const auto& i : includes()) {
        if (part(i.file, 0) != "core" || !i.what.starts_with("core/"))
            continue;
        CAPTURE(i.file, i.what);
        REQUIRE(place(part(i.file, 1)) < std::ptrdiff_t(path_of_a_photo.size())); // a new folder needs its place
        CHECK(place(part(i.what, 1)) <= place(part(i.file, 1)));
    }
}

namespace {

/// The step whose folder this is in; empty for what is beside them.
std::string step_of(const std::string& path)
{
    const bool in_a_step =
        part(path, 1) == "steps" && !part(path, 3).empty() && std::count(path.begin(), path.end(), '/') >= 3;
    return in_a_step ? part(path, 2) : std::string();
}

}

TEST_CASE("steps know nothing of each other", "[architecture]")
{
    for (const auto& i : includes()) {
        if (step_of(i.file).empty() || step_of(i.what).empty())
            continue;
        CAPTURE(i.file, i.what);
        CHECK(step_of(i.file) == step_of(i.what));
    }
}

TEST_CASE("what lies below the steps knows of none", "[architecture]")
{
    // Photos come into a project as Sort finds them, and files that it moved are followed: the one place where a step
    // is known.
    const std::set<std::string> come_in{"app/work/session.h", "app/work/session_photos.cpp"};
    int windows = 0;
    for (const auto& i : includes()) {
        const std::string folder = part(i.file, 0) + "/" + part(i.file, 1);
        if (folder.ends_with("/steps") || folder == "cli/export_command.cpp" || come_in.contains(i.file))
            continue;
        CAPTURE(i.file, i.what);
        CHECK(step_of(i.what).empty());
        windows += folder == "app/window";
    }
    CHECK(windows > 50); // the test would pass on nothing
}

TEST_CASE("no code outside a step asks which step it is", "[architecture]")
{
    // A step is asked what it does, never who it is; the one exception is the menu entry that leads to Export.
    static const std::regex asks("is_step\\(\"|\\bStep::(?!\\*)|switch \\(.*step");
    for (const auto& e : fs::recursive_directory_iterator(fs::path(FRENLO_SOURCE) / "src")) {
        const std::string file = fs::relative(e.path(), fs::path(FRENLO_SOURCE) / "src").generic_string();
        if ((e.path().extension() != ".cpp" && e.path().extension() != ".h") || !step_of(file).empty())
            continue;
        std::ifstream in(e.path());
        for (std::string line; std::getline(in, line);) {
            if (line.find("Step::*") != std::string::npos || file == "core/steps/steps.cpp")
                continue;
            CAPTURE(file, line);
            CHECK_FALSE(std::regex_search(line, asks));
        }
    }
}

TEST_CASE("no header includes itself through others", "[architecture]")
{
    std::map<std::string, std::vector<std::string>> of;
    for (const auto& i : includes())
        of[i.file].push_back(i.what);
    std::set<std::string> done;
    std::vector<std::string> way;
    const std::function<void(const std::string&)> visit = [&](const std::string& file) {
        const bool circle = std::find(way.begin(), way.end(), file) != way.end();
        CAPTURE(file);
        REQUIRE_FALSE(circle);
        if (!done.insert(file).second)
            return;
        way.push_back(file);
        for (const auto& next : of[file])
            visit(next);
        way.pop_back();
    };
    std::vector<std::string> files;
    for (const auto& [file, list] : of)
        files.push_back(file);
    for (const auto& file : files)
        visit(file);
}

TEST_CASE("files stay small enough to hold in the head", "[architecture]")
{
    // A test file is a list: read from one case to the next.
    for (const auto& [folder, most] : {std::pair("src", 450), {"demo", 450}, {"bench", 450}, {"tests", 800}})
        for (const auto& e : fs::recursive_directory_iterator(fs::path(FRENLO_SOURCE) / folder)) {
            if (e.path().extension() != ".cpp" && e.path().extension() != ".h")
                continue;
            std::ifstream in(e.path());
            const auto lines = std::count(std::istreambuf_iterator<char>(in), {}, '\n');
            CAPTURE(e.path());
            CHECK(lines < most);
        }
}

TEST_CASE("the names of tests can be asked for one by one", "[architecture]")
{
    // CTest keeps its tests in a list that semicolons divide: a name with one becomes two that nobody finds.
    static const std::regex name("TEST_CASE(?:_METHOD)?\\(\\s*(?:\\w+,\\s*)?\"([^\"]*)\"");
    int seen = 0;
    for (const auto& e : fs::recursive_directory_iterator(fs::path(FRENLO_SOURCE) / "tests")) {
        if (e.path().extension() != ".cpp")
            continue;
        std::ifstream in(e.path());
        const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
        for (std::sregex_iterator m(text.begin(), text.end(), name), end; m != end; ++m, ++seen) {
            INFO(e.path().filename().string() << ": " << (*m)[1]);
            CHECK((*m)[1].str().find(';') == std::string::npos);
        }
    }
    CHECK(seen > 200);
}

TEST_CASE("every text with a count has its singular and plural", "[architecture]") // ./dev texts collects them
{
    std::ifstream ts(fs::path(FRENLO_SOURCE) / "assets/translations/frenlo_en.ts");
    std::string known((std::istreambuf_iterator<char>(ts)), {});
    for (const auto& [from, to] :
         {std::pair("&lt;", "<"), std::pair("&gt;", ">"), std::pair("&quot;", "\""), std::pair("&amp;", "&")})
        for (std::size_t at = 0; (at = known.find(from, at)) != std::string::npos;)
            known.replace(at, std::string(from).size(), to);
    static const std::regex text("tr\\(\"([^\"]*%n[^\"]*)\"");
    int texts = 0;
    for (const auto& e : fs::recursive_directory_iterator(fs::path(FRENLO_SOURCE) / "src/app")) {
        if (e.path().extension() != ".cpp")
            continue;
        std::ifstream in(e.path());
        const std::string code((std::istreambuf_iterator<char>(in)), {});
        for (std::sregex_iterator it(code.begin(), code.end(), text), end; it != end; ++it, ++texts) {
            CAPTURE(e.path(), (*it)[1].str());
            CHECK(known.find("<source>" + (*it)[1].str() + "</source>") != std::string::npos);
        }
    }
    CHECK(texts > 15);
}
