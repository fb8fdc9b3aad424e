#include "core/base/atomic_file.h"
#include "core/base/budget_cache.h"
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
