// Figures, as ratios measured side by side in one run on this machine. Made-up 24-megapixel photos; nothing is asserted.
#include "app/sheet/sheet_view.h"
#include "app/theme/theme.h"
#include "core/base/atomic_file.h"
#include "core/photo/photo_source.h"
#include "core/photo/scan.h"
#include "tests/app/person.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>
#include <turbojpeg.h>

#include <QScrollBar>

#include <chrono>
#include <cstring>
#include <fstream>
#include <iostream>
#include <sstream>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace {

double seconds(const std::function<void()>& work)
{
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

/// A megabyte figure from /proc/self/status: VmRSS now, VmHWM at most.
double memory_mb(const char* which)
{
    std::ifstream in("/proc/self/status");
    for (std::string line; std::getline(in, line);)
        if (line.starts_with(which))
            return std::stod(line.substr(line.find(':') + 1)) / 1000;
    return 0;
}

/// 6000x4000, JPEG of some 8 MB: shapes, fine texture and noise. A few are painted, the others are copies in which some
/// bytes of a comment differ, so that no cache mistakes one for another.
void make_photos(const std::filesystem::path& folder, int count)
{
    std::filesystem::create_directories(folder);
    constexpr int painted_ones = 6;
    std::vector<std::string> bytes;
    for (int i = 0; i < std::min(count, painted_ones); ++i) {
        cv::Mat m = painted({6000, 4000}, i);
        cv::Mat noise(m.size(), CV_16SC3);
        cv::RNG rng(std::uint64_t(i) + 1);
        rng.fill(noise, cv::RNG::NORMAL, 0, 9);
        cv::GaussianBlur(noise, noise, {}, 0.8);
        cv::add(m, noise, m, {}, CV_8U);
        write_jpeg(folder / "x.jpg", m, ExifWish{"2026:05:03 10:00:00", "", 1, true});
        bytes.push_back(read_bytes(folder / "x.jpg"));
    }
    std::filesystem::remove(folder / "x.jpg");
    for (int i = 0; i < count; ++i) {
        const std::string& b = bytes[std::size_t(i % painted_ones)];
        std::array<char, 32> name{};
        std::snprintf(name.data(), name.size(), "p_%04d.jpg", i + 1);
        std::string comment{"\xFF\xFE\x00\x0A", 4}; // a COM segment of 8 bytes after SOI
        comment += std::string(name.data() + 2, 4) + "....";
        write_bytes(folder / name.data(), b.substr(0, 2) + comment + b.substr(2));
    }
}

void bench_scan(const std::filesystem::path& folder, const std::vector<std::filesystem::path>& files)
{
    std::cout << "scan and thumbnails of " << files.size() << " photos of 24 megapixels, against the bare 1/8 decode\n";
    const auto bare = [&] {
        tbb::parallel_for(std::size_t(0), files.size(), [&](std::size_t i) {
            const std::string bytes = read_whole_file(files[i]);
            const auto* data = reinterpret_cast<const unsigned char*>(bytes.data());
            tjhandle j = tjInitDecompress();
            int w = 0, h = 0, s = 0, c = 0;
            tjDecompressHeader3(j, data, bytes.size(), &w, &h, &s, &c);
            const tjscalingfactor eighth{1, 8};
            cv::Mat m(TJSCALED(h, eighth), TJSCALED(w, eighth), CV_8UC3);
            tjDecompress2(j, data, bytes.size(), m.data, m.cols, 0, m.rows, TJPF_BGR, 0);
            tjDestroy(j);
        });
    };
    bare(); // files into memory, for both alike
    const double floor_time = seconds(bare);
    TempFolder cache;
    PreviewStore store(cache.path(), 1'000'000'000);
    const Previews previews(store);
    ScanResult found;
    double scan_time = 0;
    const double all = seconds([&] {
        const std::array places{folder};
        scan_time = seconds([&] { found = scan(places, PhotoOrder::by_name, {}); });
        tbb::parallel_for(std::size_t(0), found.photos.size(),
                          [&](std::size_t i) { (void)previews.get(*found.photos[i].photo, PreviewKind::thumbnail); });
    });
    std::cout << "  ratio " << all / floor_time << " (aim: at most 1.3; " << all << " s against " << floor_time
              << " s, of which the scan " << scan_time << " s)\n";
}

struct Run
{
    double seconds = 0;
    double peak_mb = 0;
};

Run run_measured(const std::string& command)
{
    Run r;
    r.seconds = seconds([&] { output_of(command + " >/dev/null 2>&1"); });
    rusage after{};
    getrusage(RUSAGE_CHILDREN, &after);
    r.peak_mb = double(after.ru_maxrss) / 1000; // of the largest child so far
    return r;
}

double ssim_against(const std::filesystem::path& film, const std::filesystem::path& reference)
{
    const std::string said = output_of("ffmpeg -i " + quoted(film.native()) + " -i " + quoted(reference.native()) +
                                       " -lavfi ssim -f null - 2>&1 | grep -o 'All:[0-9.]*' | tail -1");
    return said.size() > 4 ? std::stod(said.substr(4)) : 0;
}

void bench_export(const std::filesystem::path& folder, int count)
{
    std::cout << "export of " << count << " photos of 24 megapixels to H.264, against the plain FFmpeg program line\n";
    TempFolder t;
    const auto mine = t / "mine.mp4", plain = t / "plain.mp4", reference = t / "reference.mkv";
    const std::string list = quoted((folder / "p_%04d.jpg").native());
    // The smaller first: the peak of children is of the largest so far.
    const Run m = run_measured(quoted(FRENLO_CLI) + " export " + quoted(folder.native()) + " -o " + quoted(mine.native()) + " --size 1920x --quality 80");
    const Run f = run_measured("ffmpeg -y -framerate 24 -i " + list + " -vf scale=1920:-2 -c:v libx264 -preset medium -crf 18 -pix_fmt yuv420p " + quoted(plain.native()));
    output_of("ffmpeg -v error -y -framerate 24 -i " + list +
              " -vf scale=1920:1280:flags=lanczos+accurate_rnd+full_chroma_int:out_color_matrix=bt709:out_range=tv -pix_fmt yuv420p -c:v ffv1 " + quoted(reference.native()));
    std::cout << "  time ratio " << m.seconds / f.seconds << " (aim: at most 0.75; " << m.seconds << " s against " << f.seconds << " s)\n"
              << "  SSIM " << ssim_against(mine, reference) << " against " << ssim_against(plain, reference)
              << ", to a full decode scaled by Lanczos in BT.709\n"
              << "  peak memory " << m.peak_mb << " MB against " << f.peak_mb << " MB"
              << (f.peak_mb <= m.peak_mb ? " or less" : "") << '\n';
}

/// The longest time that the interface thread did not come back to its event loop.
class LongestBlock : public QObject {
public:
    LongestBlock()
    {
        clock_.start();
        startTimer(0);
    }
    double longest_ms = 0;
    void forget()
    {
        longest_ms = 0;
        clock_.restart();
    }

protected:
    void timerEvent(QTimerEvent*) override
    {
        longest_ms = std::max(longest_ms, double(clock_.nsecsElapsed()) / 1e6);
        clock_.restart();
    }

private:
    QElapsedTimer clock_;
};

void bench_window(const std::filesystem::path& folder, int count)
{
    std::cout << "the window with a shot of " << count << " photos of 24 megapixels: opened, scrolled, played\n";
    Person p;
    QApplication::processEvents();
    LongestBlock block;
    p.bring_in(folder);
    std::cout << "  longest block while it opens " << block.longest_ms << " ms (aim: under 50)\n";
    block.forget();
    auto* sheet = p.window().findChild<app::SheetView*>();
    for (int i = 0; i <= 100; ++i) {
        sheet->verticalScrollBar()->setValue(sheet->verticalScrollBar()->maximum() * i / 100);
        QTest::qWait(15);
    }
    std::cout << "  longest block while it scrolls " << block.longest_ms << " ms\n";
    p.key(Qt::Key_2, Qt::ControlModifier);
    block.forget();
    p.key(Qt::Key_Space);
    QTest::qWait(6000);
    std::cout << "  longest block while it plays " << block.longest_ms << " ms\n";
    p.key(Qt::Key_Space);
    p.key(Qt::Key_A, Qt::ControlModifier);
    block.forget();
    p.key(Qt::Key_2);
    QTest::qWait(500);
    std::cout << "  longest block at an edit of all holds " << block.longest_ms << " ms\n"
              << "  peak memory " << memory_mb("VmHWM") << " MB (aim: under 1000)\n";
}

}

int main(int argc, char** argv)
{
    const bool quick = argc > 1 && std::strcmp(argv[1], "--quick") == 0;
    TempFolder t;
    std::cout.precision(3);
    const int many = quick ? 60 : 1000, some = quick ? 30 : 300, few = quick ? 12 : 60;
    // Photos are made by a child and the window comes first, so that the peak of memory is the window's.
    if (const pid_t child = fork(); child == 0) {
        make_photos(t / "many", some);
        _exit(0);
    } else {
        waitpid(child, nullptr, 0);
    }
    QApplication application(argc, argv);
    app::apply_theme(application, app::ThemeName::paper);
    std::vector<std::filesystem::path> files;
    for (const auto& e : std::filesystem::directory_iterator(t / "many"))
        files.push_back(e.path());
    std::filesystem::create_directories(t / "few");
    for (int i = 1; i <= few; ++i) {
        std::array<char, 32> name{};
        std::snprintf(name.data(), name.size(), "p_%04d.jpg", i);
        std::filesystem::create_hard_link(t / "many" / name.data(), t / "few" / name.data());
    }
    std::filesystem::create_directories(t / "window");
    for (int i = 0; i < many; ++i) {
        std::array<char, 32> name{};
        std::snprintf(name.data(), name.size(), "p_%04d.jpg", i + 1);
        std::filesystem::create_hard_link(files[std::size_t(i) % files.size()], t / "window" / name.data());
    }
    bench_window(t / "window", many);
    bench_scan(t / "many", files);
    bench_export(t / "few", few);
    return 0;
}
