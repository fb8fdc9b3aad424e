#include "core/base/atomic_file.h"
#include "core/base/budget_cache.h"
#include "core/base/file_lock.h"
#include "core/base/folders.h"
#include "core/base/problem.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <csignal>
#include <fstream>
#include <sys/wait.h>
#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace {

int files_in(const std::filesystem::path& folder)
{
    return int(std::distance(std::filesystem::directory_iterator(folder), std::filesystem::directory_iterator()));
}

}

TEST_CASE("a file is replaced wholly or not at all", "[base]")
{
    TempFolder t;
    const auto target = t / "project with “quotes”.frenlo";
    write_whole_file(target, "first");
    {
        AtomicFile half(target);
        std::ofstream(half.path()) << "half";
    } // not committed
    CHECK(read_whole_file(target) == "first");
    CHECK(files_in(t.path()) == 1);
    write_whole_file(target, "second");
    CHECK(read_whole_file(target) == "second");
}

TEST_CASE("what a killed process left is removed by the next, and the old file is whole", "[base]")
{
    TempFolder t;
    const auto target = t / "film.mp4";
    write_whole_file(target, "the old film");
    const pid_t child = fork();
    if (child == 0) {
        const AtomicFile file(target);
        std::ofstream(file.path()) << "half a film" << std::flush;
        raise(SIGKILL);
    }
    waitpid(child, nullptr, 0);
    CHECK(files_in(t.path()) == 2); // hidden, not under the final name
    CHECK(read_whole_file(target) == "the old film");
    write_whole_file(target, "the new film");
    CHECK(files_in(t.path()) == 1);
}

TEST_CASE("a folder of files appears together or not at all", "[base]")
{
    TempFolder t;
    {
        const AtomicFolder f(t.path(), "stills");
        write_bytes(f.path() / "a_0001.png", "1");
    }
    CHECK(files_in(t.path()) == 0);
    AtomicFolder f(t.path(), "stills");
    write_bytes(f.path() / "a_0001.png", "1");
    write_bytes(f.path() / "a_0002.png", "2");
    f.commit();
    CHECK(read_bytes(t / "a_0002.png") == "2");
}

TEST_CASE("a place that cannot be written to is named, with what to do", "[base]")
{
    // /sys refuses new files to everybody, root too, as a read-only folder does.
    try {
        write_whole_file("/sys/film.mp4", "x");
        FAIL("it was written");
    } catch (const Failure& f) {
        CHECK(f.problem().file == "/sys/film.mp4");
        CHECK_THAT(f.what(), Catch::Contains("/sys/film.mp4") && Catch::Contains("Choose"));
    }
    CHECK_THROWS_AS(read_whole_file("/nowhere/at all"), Failure);
    CHECK_THROWS_AS(read_whole_file("/tmp"), Failure);
}

TEST_CASE("the cache keeps to its budget and drops what was not used longest", "[base]")
{
    BudgetCache<int, std::string> cache(100);
    cache.put(1, "one", 40);
    cache.put(2, "two", 40);
    CHECK(cache.get(1) == "one"); // now 2 is the older
    cache.put(3, "three", 40);
    CHECK(cache.contains(1));
    CHECK_FALSE(cache.contains(2));
    CHECK(cache.spent() == 80);
    cache.put(1, "one again", 60);
    CHECK(cache.spent() == 100);
    cache.put(4, "too large", 101);
    CHECK_FALSE(cache.contains(4));
    CHECK(cache.spent() == 100);
}

TEST_CASE("a copy and a move never replace, and keep the time of change", "[atomic]")
{
    TempFolder t;
    write_bytes(t / "a", std::string(3 << 20, 'a') + "end");
    std::filesystem::last_write_time(t / "a", std::filesystem::file_time_type::clock::now() - std::chrono::hours(50));
    copy_to_new(t / "a", t / "deep" / "b");
    CHECK(same_bytes(t / "a", t / "deep" / "b"));
    CHECK(std::filesystem::last_write_time(t / "a") == std::filesystem::last_write_time(t / "deep" / "b"));
    CHECK_THROWS_AS(copy_to_new(t / "a", t / "deep" / "b"), Failure);
    CHECK_THROWS_AS(copy_to_new(t / "none", t / "c"), Failure);
    write_bytes(t / "c", std::string(3 << 20, 'a') + "fin");
    CHECK_FALSE(same_bytes(t / "a", t / "c")); // equally long
    CHECK_THROWS_AS(move_to_new(t / "c", t / "a"), Failure);
    move_to_new(t / "c", t / "new" / "d");
    CHECK_FALSE(std::filesystem::exists(t / "c"));
    CHECK(read_bytes(t / "new" / "d").ends_with("fin"));
    if (std::filesystem::is_directory("/dev/shm")) { // mostly another file system: the move is a copy and a removal
        const std::filesystem::path other = std::filesystem::path("/dev/shm") / t.path().filename();
        move_to_new(t / "a", other / "a");
        CHECK_FALSE(std::filesystem::exists(t / "a"));
        CHECK(same_bytes(other / "a", t / "deep" / "b"));
        std::filesystem::remove_all(other);
    }
    int files = 0;
    for (const auto& e : std::filesystem::recursive_directory_iterator(t.path()))
        files += e.path().filename().native().ends_with(".unfinished");
    CHECK(files == 0);
}

TEST_CASE("a lock is held until it goes, and by one only", "[lock]")
{
    TempFolder t;
    auto lock = FileLock::try_take(t / "lock");
    REQUIRE(lock);
    CHECK_FALSE(FileLock::try_take(t / "lock"));
    lock.reset();
    CHECK(FileLock::try_take(t / "lock"));
    CHECK_FALSE(FileLock::try_take(t / "none" / "lock"));
}

TEST_CASE("Frenlo's folders follow the XDG variables", "[folders]") // XDG base directory specification 0.8
{
    const auto with = [](const char* name, const char* value, const auto& work) {
        const char* was = std::getenv(name);
        const std::string before = was ? was : "";
        value ? setenv(name, value, 1) : unsetenv(name);
        const auto result = work();
        was ? setenv(name, before.c_str(), 1) : unsetenv(name);
        return result;
    };
    CHECK(with("XDG_CACHE_HOME", "/c", [] { return cache_folder(); }) == "/c/frenlo");
    CHECK(with("XDG_STATE_HOME", "/s", [] { return state_folder(); }) == "/s/frenlo");
    CHECK(with("XDG_DATA_HOME", "/d", [] { return data_folder(); }) == "/d/frenlo");
    CHECK(with("HOME", "/h", [&] { return with("XDG_CACHE_HOME", nullptr, [] { return cache_folder(); }); }) == "/h/.cache/frenlo");
    CHECK(with("HOME", "/h", [&] { return with("XDG_STATE_HOME", "", [] { return state_folder(); }); }) == "/h/.local/state/frenlo");
}
