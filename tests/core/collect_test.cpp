// A project with all that it is made of in one folder: whole, compared, gone on with after a stop, and moved.
#include "core/base/input_file.h"
#include "core/project/collect.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/shoot/shoot_edits.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {
using frenlo::test::TempFolder;

namespace fs = std::filesystem;

namespace {

/// Two shots of photos whose names are the same, one with another exposure merged, and a sound.
Project two_shots(const TempFolder& t)
{
    Project project;
    for (const char* name : {"a", "b"}) {
        test::write_run(t / "card" / name, "p", 3, {48, 32});
        Shot shot;
        shot.name = "The same";
        for (int i = 1; i <= 3; ++i) {
            auto file =
                std::make_shared<PhotoFile>(*test::scanned(t / "card" / name / ("p_000" + std::to_string(i) + ".jpg")));
            if (i == 2)
                file->merged = {t / "card" / name / "p_0003.jpg"};
            shot.photos.push_back(ShotPhoto{.photo = file});
        }
        project = add_shot(project, shot);
    }
    test::write_bytes(t / "tunes" / "tune.wav", "no sound, but bytes");
    Sound sound;
    sound.file = t / "tunes" / "tune.wav";
    sound.end = sound.file_length = Seconds{Fraction(1)};
    project.reel.sound.sounds.push_back(sound);
    test::write_bytes(t / "reference" / "walk.mp4", "a film that photos follow");
    return follow_film(project, ShotIndex(1), t / "reference" / "walk.mp4");
}

std::vector<fs::path> files_of(const Project& p)
{
    std::vector<fs::path> files;
    for (const ShotPtr& shot : p.shots)
        for (const ShotPhoto& photo : shot->photos) {
            files.push_back(photo.photo->file);
            files.insert(files.end(), photo.photo->merged.begin(), photo.photo->merged.end());
        }
    for (const Sound& s : p.reel.sound.sounds)
        files.push_back(s.file);
    files.push_back(followed_film(*p.shots[1]));
    return files;
}

}

TEST_CASE("a collection has every file with its bytes, and opens wherever it is moved to", "[collect]")
{
    const TempFolder t;
    const Project project = two_shots(t);
    const Collected made = collect_project(project, t / "archive", "Harbour", {});
    CHECK(made.files == 8);
    CHECK(made.copied == 8);
    CHECK(made.problems.empty());
    CHECK(made.project == t / "archive" / "Harbour.frenlo");
    fs::rename(t / "archive", t / "elsewhere");
    fs::rename(t / "card", t / "card that is gone");
    fs::rename(t / "tunes", t / "tunes that are gone");
    fs::rename(t / "reference", t / "reference that are gone");
    const LoadedProject read = load_project(t / "elsewhere" / "Harbour.frenlo");
    CHECK(read.problems.empty());
    const auto now = files_of(read.project), before = files_of(project);
    REQUIRE(now.size() == before.size());
    for (std::size_t i = 0; i < now.size(); ++i) {
        INFO(now[i]);
        CHECK(now[i].native().starts_with((t / "elsewhere").native()));
        const auto part = before[i].lexically_relative(t.path()).native();
        const auto slash = part.find('/');
        CHECK(same_bytes(now[i], t.path() / (part.substr(0, slash) +
                                             (part.starts_with("card") ? " that is gone" : " that are gone") +
                                             part.substr(slash))));
    }
}

TEST_CASE("a collection that was stopped goes on, and copies nothing twice", "[collect]")
{
    const TempFolder t;
    const Project project = two_shots(t);
    std::stop_source stop;
    const Job job(stop.get_token(), [&](double, std::string_view what) {
        if (what.starts_with("4 of"))
            stop.request_stop();
    });
    CHECK_THROWS_AS(collect_project(project, t / "archive", "Harbour", job), Stopped);
    CHECK_FALSE(fs::exists(t / "archive" / "Harbour.frenlo"));
    const Collected rest = collect_project(project, t / "archive", "Harbour", {});
    CHECK(rest.files == 8);
    CHECK(rest.copied == 4);
    CHECK(collect_project(project, t / "archive", "Harbour", {}).copied == 0);
}

TEST_CASE("what lies in the folder stays, and what is gone is told", "[collect]")
{
    const TempFolder t;
    const Project project = two_shots(t);
    test::write_bytes(t / "archive" / "photos" / "The same" / "p_0001.jpg", "another photo");
    fs::remove(t / "card" / "b" / "p_0003.jpg");
    const Collected made = collect_project(project, t / "archive", "Harbour", {});
    CHECK(test::read_bytes(t / "archive" / "photos" / "The same" / "p_0001.jpg") == "another photo");
    CHECK(fs::exists(t / "archive" / "photos" / "The same" / "p_0001 2.jpg"));
    REQUIRE(made.problems.size() == 1);
    CHECK(made.problems[0].file == t / "card" / "b" / "p_0003.jpg");
    CHECK(made.files == 7);
    test::write_bytes(t / "other" / "Harbour.frenlo", "somebody's");
    CHECK_THROWS_AS(collect_project(project, t / "other", "Harbour", {}), Failure);
    CHECK(test::read_bytes(t / "other" / "Harbour.frenlo") == "somebody's");
}

}
