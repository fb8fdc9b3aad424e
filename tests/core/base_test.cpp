#include "core/base/atomic_file.h"
#include "core/base/file_lock.h"
#include "core/base/folders.h"
#include "core/base/input_file.h"
#include "core/base/problem.h"
#include "core/base/shared_cache.h"
#include "core/base/unfinished.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <atomic>
#include <csignal>
#include <fstream>
#include <future>
#include <sys/stat.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

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

TEST_CASE("a folder of new files replaces none, and where one is there none of them stays", "[base][atomic]")
{
    TempFolder t;
    write_bytes(t / "a_0003.png", "mine");
    AtomicFolder f(t.path(), "stills");
    for (const char* name : {"a_0001.png", "a_0002.png", "a_0003.png", "a_0004.png"})
        write_bytes(f.path() / name, name);
    CHECK_THROWS_WITH(f.commit_new(), Catch::Contains("a_0003.png"));
    CHECK(read_bytes(t / "a_0003.png") == "mine");
    CHECK_FALSE(std::filesystem::exists(t / "a_0001.png"));
    CHECK_FALSE(std::filesystem::exists(t / "a_0004.png"));
}

TEST_CASE("a link is written through, and mode bits stay", "[base][atomic]")
{
    namespace fs = std::filesystem;
    TempFolder t;
    fs::create_directories(t / "real");
    write_bytes(t / "real" / "p.frenlo", "old");
    fs::permissions(t / "real" / "p.frenlo", fs::perms(0600));
    fs::create_symlink("real/p.frenlo", t / "link");
    fs::create_symlink(t / "link", t / "second");
    write_whole_file(t / "second", "new");
    CHECK(fs::is_symlink(t / "link"));
    CHECK(fs::is_symlink(t / "second"));
    CHECK(read_bytes(t / "real" / "p.frenlo") == "new");
    CHECK(fs::status(t / "real" / "p.frenlo").permissions() == fs::perms(0600));
    CHECK(files_in(t / "real") == 1);

    fs::create_symlink("real/none", t / "ahead"); // to what is not there yet
    write_whole_file(t / "ahead", "made");
    CHECK(read_bytes(t / "real" / "none") == "made");
    fs::create_symlink("circle", t / "circle");
    CHECK_THROWS_WITH(write_whole_file(t / "circle", "x"), Catch::Contains("circle"));
    fs::permissions(t / "real" / "p.frenlo", fs::perms(0444));
    CHECK_THROWS_WITH(write_whole_file(t / "link", "x"), Catch::Contains("may not be written"));
    CHECK(read_bytes(t / "real" / "p.frenlo") == "new");
    fs::create_directory(t / "folder");
    CHECK_THROWS_WITH(write_whole_file(t / "folder", "x"), Catch::Contains("folder"));
}

TEST_CASE("pipes, devices and folders are no files, and nobody waits for them", "[base][input]")
{
    TempFolder t;
    REQUIRE(mkfifo((t / "pipe").c_str(), 0600) == 0);
    for (const auto& file : {t / "pipe", std::filesystem::path("/dev/zero"), t.path()})
        CHECK_THROWS_WITH(read_whole_file(file), Catch::Contains("not a file"));
    CHECK_FALSE(stamp_of(t / "pipe").has_value());
    write_bytes(t / "a", "abcdef");
    InputFile in(t / "a");
    CHECK(in.stamp() == *stamp_of(t / "a"));
    std::string piece(4, ' ');
    in.seek(3);
    CHECK(in.read(piece.data(), 4) == 3);
    CHECK(piece.starts_with("def"));
}

TEST_CASE("what killed processes left unfinished anywhere goes at the next start, and nothing else",
          "[base][unfinished]")
{
    TempFolder t;
    const auto notes = t / "notes";
    write_bytes(t / "precious", "x");
    write_bytes(t / ".film.mp4.1.unfinished", "half");
    std::filesystem::create_directories(t / ".stills.1.unfinished");
    write_bytes(t / ".stills.1.unfinished" / "a_0001.png", "1");
    if (const pid_t child = fork(); child == 0) {
        const UnfinishedNote film(t / ".film.mp4.1.unfinished", notes), stills(t / ".stills.1.unfinished", notes),
            wrong(t / "precious", notes);
        raise(SIGKILL);
    } else {
        waitpid(child, nullptr, 0);
    }
    write_bytes(t / ".own.2.unfinished", "half");
    const UnfinishedNote own(t / ".own.2.unfinished", notes);
    CHECK(sweep_unfinished(notes).size() == 2);
    CHECK_FALSE(std::filesystem::exists(t / ".film.mp4.1.unfinished"));
    CHECK_FALSE(std::filesystem::exists(t / ".stills.1.unfinished"));
    CHECK(read_bytes(t / "precious") == "x");                // whatever a note says
    CHECK(std::filesystem::exists(t / ".own.2.unfinished")); // it is still being written
    CHECK(files_in(notes) == 2);
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

namespace {

template <class Value, int percent, FullShare full = FullShare::oldest_go>
struct NumberedKey : CacheKey<Value, percent, full>
{
    int number;
    explicit NumberedKey(int n) : number(n) {}
    bool operator==(const NumberedKey& other) const { return number == other.number; }
    [[nodiscard]] std::size_t hash() const { return std::size_t(number); }
};

using Text = NumberedKey<std::string, 100>;
using Half = NumberedKey<double, 50>;
using Again = NumberedKey<char, 60, FullShare::new_ones_go>;

}

TEST_CASE("the cache keeps to its budget and drops what was not used longest", "[base]")
{
    SharedCache cache(100);
    cache.put(Text(1), "one", 40);
    cache.put(Text(2), "two", 40);
    CHECK(cache.get(Text(1)) == "one"); // now 2 is the older
    cache.put(Text(3), "three", 40);
    CHECK(cache.contains(Text(1)));
    CHECK_FALSE(cache.contains(Text(2)));
    CHECK(cache.spent() == 80);
    cache.put(Text(1), "one again", 60);
    CHECK(cache.spent() == 100);
    cache.put(Text(4), "too large", 101);
    CHECK_FALSE(cache.contains(Text(4)));
    CHECK(cache.spent() == 100);
}

TEST_CASE("values of several types share one budget, none of them more than its share", "[base]")
{
    SharedCache cache(100);
    cache.put(Text(1), "one", 30);
    cache.put(Half(1), 1.5, 30);
    cache.put(Half(2), 2.5, 30); // over its share: the older of its kind goes, the text stays though it is older
    CHECK(cache.contains(Text(1)));
    CHECK_FALSE(cache.contains(Half(1)));
    CHECK(cache.get(Half(2)) == 2.5);
    cache.put(Text(2), "two", 60); // over the budget: the oldest of all
    CHECK_FALSE(cache.contains(Text(1)));
    CHECK(cache.contains(Half(2)));
    CHECK(cache.spent() == 90);
    cache.drop<Half>();
    CHECK(cache.spent() == 60);

    for (int i = 0; i < 5; ++i)
        cache.put(Again(i), 'a', 20);
    CHECK(cache.contains(Again(0))); // what comes again in the same order is found at its beginning
    CHECK(cache.contains(Again(2)));
    CHECK_FALSE(cache.contains(Again(3)));
    CHECK(cache.spent() <= 100);
}

TEST_CASE("what several ask for at once is made once", "[base]")
{
    SharedCache cache(100);
    std::atomic<int> made = 0;
    const auto make = [&] {
        ++made;
        std::this_thread::sleep_for(std::chrono::milliseconds(30));
        return std::pair(std::string("made"), std::size_t(10));
    };
    std::vector<std::future<std::string>> asked;
    for (int i = 0; i < 4; ++i)
        asked.push_back(std::async(std::launch::async, [&] { return cache.get_or_make(Text(7), make); }));
    for (auto& a : asked)
        CHECK(a.get() == "made");
    CHECK(made == 1);

    // Who waits for what fails tries for himself, and nobody waits for ever.
    const auto fail = [&]() -> std::pair<std::string, std::size_t> {
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
        throw std::runtime_error("no");
    };
    auto failing = std::async(std::launch::async, [&] { return cache.get_or_make(Text(8), fail); });
    auto other = std::async(std::launch::async, [&] {
        std::this_thread::sleep_for(std::chrono::milliseconds(5));
        return cache.get_or_make(Text(8), make);
    });
    CHECK_THROWS_AS(failing.get(), std::runtime_error);
    CHECK(other.get() == "made");
    (void)cache.get_or_make(Text(9), [] { return std::pair(std::string("not kept"), std::size_t(0)); });
    CHECK_FALSE(cache.contains(Text(9)));
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
    CHECK(with("HOME", "/h", [&] { return with("XDG_CACHE_HOME", nullptr, [] { return cache_folder(); }); }) ==
          "/h/.cache/frenlo");
    CHECK(with("HOME", "/h", [&] { return with("XDG_STATE_HOME", "", [] { return state_folder(); }); }) ==
          "/h/.local/state/frenlo");
}

}
