// Figures, as ratios measured side by side in one run on this machine. Made-up photos; nothing is asserted.
// frenlo-bench [--quick] [window] [stroke] [scan] [raw] [card] [export] [project] [steady] [light] [dress] [clips]
// [reel] [retouch] [flow] [shoot] [whole] [loops]: all of them when none is named.
#include "app/theme/theme.h"
#include "bench/measure.h"
#include "core/base/picture_memory.h"
#include "tests/support/temp_folder.h"

#include <QApplication>

#include <algorithm>
#include <functional>
#include <iostream>
#include <sys/wait.h>
#include <unistd.h>

using namespace frenlo;
namespace fs = std::filesystem;

namespace {

/// In a child, so that the peak of memory is the window's.
void in_child(const std::function<void()>& work)
{
    if (const pid_t child = fork(); child == 0) {
        work();
        _exit(0);
    } else {
        waitpid(child, nullptr, 0);
    }
}

/// The same files under other names, count of them.
void link_photos(const fs::path& from, const fs::path& to, int count, int have)
{
    fs::create_directories(to);
    for (int i = 0; i < count; ++i)
        fs::create_hard_link(from / bench::photo_name(i % have + 1), to / bench::photo_name(i + 1));
}

}

int main(int argc, char** argv)
{
    PictureMemory memory; // as the program and the command line have it
    cv::Mat::setDefaultAllocator(&memory);
    std::vector<std::string> words(argv + 1, argv + argc);
    const bool quick = std::erase(words, "--quick") > 0;
    const auto wanted = [&](const char* what) {
        return words.empty() || std::find(words.begin(), words.end(), what) != words.end();
    };
    const int many = quick ? 60 : 1000, some = quick ? 30 : 300, few = quick ? 20 : 60, card = quick ? 1000 : 10'000;
    test::TempFolder t;
    std::cout.precision(3);
    if (wanted("window") || wanted("scan") || wanted("export") || wanted("steady") || wanted("steady-time") ||
        wanted("light-time") || wanted("stroke") || wanted("dress") || wanted("whole"))
        in_child([&] { bench::make_large_photos(t / "some", some); });
    if (wanted("card"))
        in_child([&] { bench::make_small_photos(t / "card", card); });
    QApplication application(argc, argv);
    app::apply_theme(application, app::ThemeName::paper);
    if (wanted("window")) {
        link_photos(t / "some", t / "window", many, some);
        bench::bench_window(t / "window", many);
    }
    if (wanted("stroke")) {
        link_photos(t / "some", t / "stroke", few, some);
        bench::bench_stroke(t / "stroke");
    }
    if (wanted("scan"))
        bench::bench_scan(t / "some");
    if (wanted("raw"))
        bench::bench_raw();
    if (wanted("card")) {
        bench::bench_card_in_window(t / "card", card);
        bench::bench_card(t / "card");
    }
    if (wanted("export")) {
        link_photos(t / "some", t / "few", few, some);
        bench::bench_export(t / "few", few);
    }
    if (wanted("whole")) {
        link_photos(t / "some", t / "whole", few, some);
        bench::bench_whole(t / "whole", few);
    }
    if (wanted("loops"))
        bench::bench_loops();
    if (wanted("project")) {
        const int photos = quick ? 5000 : 100'000;
        in_child([&] {
            bench::bench_history(t / "history", 5000, 1000);
        }); // before anything has been freed that it could take
        in_child([&] { bench::make_project(t / "project", photos); });
        bench::bench_project(t / "project", photos);
    }
    if (wanted("steady"))
        bench::bench_steady(quick);
    if (wanted("steady") || wanted("steady-time")) {
        link_photos(t / "some", t / "still", few, some);
        bench::bench_steady_time(t / "still");
    }
    if (wanted("dress")) {
        link_photos(t / "some", t / "dressed", few, some);
        bench::bench_dress(t / "dressed");
    }
    if (wanted("retouch"))
        bench::bench_retouch();
    if (wanted("clips"))
        bench::bench_clips();
    if (wanted("flow"))
        bench::bench_flow();
    if (wanted("shoot"))
        bench::bench_shoot(quick);
    if (wanted("reel"))
        bench::bench_reel();
    if (wanted("playing"))
        bench::bench_playing();
    if (wanted("light"))
        bench::bench_light(quick);
    if (wanted("light-time")) {
        link_photos(t / "some", t / "lit", few, some);
        bench::bench_light_time(t / "lit");
    }
    return 0;
}
