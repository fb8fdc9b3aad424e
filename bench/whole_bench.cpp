// A whole job against the plain FFmpeg program line, and loops against its palettes.
#include "bench/measure.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <iostream>

namespace frenlo::bench {

using namespace frenlo::test;

void bench_whole(const std::filesystem::path& folder, int count)
{
    std::cout << "the whole of it, " << count << " photos of 24 megapixels: scan, steady, flicker, tone, export\n";
    TempFolder t;
    const std::string cli = quoted(FRENLO_CLI) + " ", project = quoted((t / "w.frenlo").native());
    double ours = 0, plain = 0;
    const auto step = [&](const char* name, const std::string& command) {
        const Run run = run_measured(command);
        std::cout << "  " << name << ' ' << run.seconds << " s" << std::endl;
        return run.seconds;
    };
    plain = step("FFmpeg", "ffmpeg -v error -y -framerate 24 -i " + quoted((folder / "p_%05d.jpg").native()) +
                               " -vf scale=1920:-2 -c:v libx264 -preset medium -crf 18 -pix_fmt yuv420p " +
                               quoted((t / "plain.mp4").native()));
    ours += step("scan", cli + "new " + project + " " + quoted(folder.native()));
    const std::string shot = " --shot " + quoted(folder.filename().native());
    ours += step("steady", cli + "steady " + project + shot);
    ours += step("flicker", cli + "light " + project + shot);
    ours += step("tone", cli + "tone " + project + shot + " --photo 1 --exposure 0.3 --contrast 12");
    ours += step("export", cli + "export " + project + " -o " + quoted((t / "w.mp4").native()) +
                               " --size 1920x --quality 80" + shot);
    plain += step("FFmpeg again", "ffmpeg -v error -y -framerate 24 -i " + quoted((folder / "p_%05d.jpg").native()) +
                                      " -vf scale=1920:-2 -c:v libx264 -preset medium -crf 18 -pix_fmt yuv420p " +
                                      quoted((t / "plain.mp4").native()));
    std::cout << "  ratio " << ours / (plain / 2) << " (aim: at most 1.3)\n";
}

void bench_loops()
{
    std::cout << "loops of 60 frames, 800 pixels wide: SSIM at the bytes of FFmpeg's palettegen and paletteuse\n";
    TempFolder t;
    const auto ssim = [&](const std::filesystem::path& loop) {
        const std::string said = output_of(
            "ffmpeg -i " + quoted(loop.native()) + " -framerate 10 -i " + quoted((t / "f" / "f_%04d.png").native()) +
            " -lavfi '[0][1]scale2ref=flags=bicubic[s][r];[s]format=rgb24[a];[r]format=rgb24[b];[a][b]ssim' -f null - "
            "2>&1 | grep -o 'All:[0-9.]*' "
            "| tail -1");
        return said.size() > 4 ? std::stod(said.substr(4)) : 0;
    };
    for (const char* clip : {"vtest.avi", "Megamind.avi"}) {
        std::filesystem::remove_all(t / "f");
        std::filesystem::create_directories(t / "f");
        output_of("ffmpeg -v error -i " + quoted("/usr/share/doc/opencv-doc/examples/data/" + std::string(clip)) +
                  " -frames:v 60 -vf scale=800:-2:flags=bicubic " + quoted((t / "f" / "f_%04d.png").native()));
        for (const int colours : {256, 128, 64, 32, 16}) {
            const auto theirs = t / "theirs.gif", mine = t / "mine.gif";
            const Run f =
                run_measured("ffmpeg -v error -y -framerate 10 -i " + quoted((t / "f" / "f_%04d.png").native()) +
                             " -lavfi 'split[a][b];[a]palettegen=max_colors=" + std::to_string(colours) +
                             "[p];[b][p]paletteuse=dither=none' " + quoted(theirs.native()));
            const auto bytes = std::filesystem::file_size(theirs);
            const Run m = run_measured(quoted(FRENLO_CLI) + " export " + quoted((t / "f").native()) + " -o " +
                                       quoted(mine.native()) + " --overwrite --rate 10 --hold 1f --quality 100 " +
                                       "--max-bytes " + std::to_string(bytes));
            std::cout << "  " << clip << ", " << bytes << " bytes: " << ssim(mine) << " against " << ssim(theirs)
                      << ", " << std::filesystem::file_size(mine) << " bytes, " << m.seconds << " s against "
                      << f.seconds << " s" << std::endl;
        }
    }
}

}
