// Opening a project of very many photos, against the bare parsing of its text and asking the disk for each file; and
// what a thousand steps of undo take.
#include "bench/measure.h"
#include "core/base/input_file.h"
#include "core/project/edits.h"
#include "core/project/history.h"
#include "core/project/project_file.h"
#include "core/steps/pace/pace_edits.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <fstream>
#include <iostream>

namespace frenlo::bench {

namespace {

Shot many_photos(const std::filesystem::path& folder, int count)
{
    Shot shot;
    shot.name = "many";
    for (int i = 1; i <= count; ++i) {
        auto file = std::make_shared<PhotoFile>();
        file->file = folder / photo_name(i);
        std::ofstream(file->file) << i; // opened by nobody: their times and sizes are asked for
        const auto stamp = stamp_of(file->file);
        file->bytes = stamp->bytes;
        file->modified_ns = stamp->modified_ns;
        file->size = {6000, 4000};
        file->captured = CaptureTime{1'777'804'924'060'000 + i * 1'000'000LL};
        file->camera = "Quayside Quayside Q1";
        file->exposure = {Fraction(1, 30), Fraction(28, 5), 200, Fraction(50)};
        file->fingerprint = "c83f7758231e8a8fb42c641469759f06";
        shot.photos.push_back({std::move(file), Frames{2}});
    }
    return shot;
}

}

void make_project(const std::filesystem::path& folder, int photos)
{
    std::filesystem::create_directories(folder);
    const Project project = add_shot({}, many_photos(folder, photos));
    const double save = seconds([&] { save_new_project(project, folder / "many.frenlo"); });
    std::cout << "a project of " << photos << " photos: saved in " << save << " s" << std::endl;
}

void bench_project(const std::filesystem::path& folder, int photos)
{
    const auto file = folder / "many.frenlo";
    // First: what this process takes by then would count as the command's.
    const Run command = run_measured(std::string("'") + FRENLO_CLI + "' info '" + file.native() + "' --json");
    const std::string text = read_whole_file(file);
    double bare = 0, opened = 0;
    for (int round = 0; round < 3; ++round) {
        bare += seconds([&] {
            const auto j = nlohmann::json::parse(text);
            for (int i = 1; i <= photos; ++i)
                (void)stamp_of(folder / photo_name(i));
        });
        opened += seconds([&] { (void)load_project(file); });
    }
    std::cout << "  opened in " << opened / 3 << " s, ratio " << opened / bare
              << " against parsing its text and asking for each file; on the command line " << command.seconds
              << " s and " << command.peak_mb << " MB" << std::endl;
}

void bench_history(const std::filesystem::path& folder, int photos, int edits)
{
    std::filesystem::create_directories(folder);
    History history(add_shot({}, many_photos(folder, photos)));
    const double before = memory_mb("VmRSS");
    for (int i = 0; i < edits; ++i)
        history.push(toggle_mark(history.current(), ShotIndex(0), PhotoIndex(i)), "mark");
    std::cout << "  " << history.steps() - 1 << " edits of " << photos << " photos: " << memory_mb("VmRSS") - before
              << " MB (counted: " << double(history.bytes()) / (1 << 20) << " MB)" << std::endl;
}

}
