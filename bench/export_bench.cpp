#include "bench/measure.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <algorithm>
#include <iostream>
#include <vector>

namespace frenlo::bench {

using namespace frenlo::test;

namespace {

/// The middle one by time, with the highest memory of all.
Run middle(std::vector<Run> runs)
{
    std::sort(runs.begin(), runs.end(), [](const Run& a, const Run& b) { return a.seconds < b.seconds; });
    Run r = runs[runs.size() / 2];
    for (const Run& other : runs)
        r.peak_mb = std::max(r.peak_mb, other.peak_mb);
    return r;
}

double ssim_against(const std::filesystem::path& film, const std::filesystem::path& reference)
{
    const std::string said = output_of("ffmpeg -i " + quoted(film.native()) + " -i " + quoted(reference.native()) +
                                       " -lavfi ssim -f null - 2>&1 | grep -o 'All:[0-9.]*' | tail -1");
    return said.size() > 4 ? std::stod(said.substr(4)) : 0;
}

}

void bench_export(const std::filesystem::path& folder, int count)
{
    std::cout << "export of " << count << " photos of 24 megapixels to H.264, against the plain FFmpeg program line\n";
    TempFolder t;
    const auto mine = t / "mine.mp4", plain = t / "plain.mp4", reference = t / "reference.mkv";
    const std::string project = quoted((t / "s.frenlo").native());
    for (const char* step : {"new ", "steady ", "light "})
        run_measured(quoted(FRENLO_CLI) + ' ' + step + project +
                     (step == std::string("new ") ? ' ' + quoted(folder.native()) : ""));
    const std::string list = quoted((folder / "p_%05d.jpg").native());
    // Turn by turn, and the middle one of each: one run is off by a tenth on a machine with neighbours.
    std::vector<Run> ours, evened, theirs;
    const std::string film = " --overwrite --size 1920x --quality 80 -o ";
    for (int turn = 0; turn < 3; ++turn) {
        ours.push_back(
            run_measured(quoted(FRENLO_CLI) + " export " + quoted(folder.native()) + film + quoted(mine.native())));
        evened.push_back(
            run_measured(quoted(FRENLO_CLI) + " export " + project + film + quoted((t / "s.mp4").native())));
        theirs.push_back(run_measured("ffmpeg -y -framerate 24 -i " + list +
                                      " -vf scale=1920:-2 -c:v libx264 -preset medium -crf 18 -pix_fmt yuv420p " +
                                      quoted(plain.native())));
        std::cout << "  turn " << turn + 1 << ": " << ours.back().seconds << " s against " << theirs.back().seconds
                  << " s; steadied and evened " << evened.back().seconds << " s" << std::endl;
    }
    const Run m = middle(ours), f = middle(theirs), e = middle(evened);
    output_of("ffmpeg -v error -y -framerate 24 -i " + list +
              " -vf scale=1920:1280:flags=lanczos+accurate_rnd+full_chroma_int:out_color_matrix=bt709:out_range=tv "
              "-pix_fmt yuv420p -c:v ffv1 " +
              quoted(reference.native()));
    std::cout << "  time ratio " << m.seconds / f.seconds << " (aim: at most 0.75; " << m.seconds << " s against "
              << f.seconds << " s)\n"
              << "  SSIM " << ssim_against(mine, reference) << " against " << ssim_against(plain, reference)
              << ", to a full decode scaled by Lanczos in BT.709\n"
              << "  peak memory " << m.peak_mb << " MB against " << f.peak_mb << " MB\n"
              << "  steadied and evened against plain " << e.seconds / m.seconds << " (aim: at most 1.25)\n";
}

}
