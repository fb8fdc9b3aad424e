#include "bench/measure.h"

#include "tests/support/photos.h"

#include <opencv2/imgproc.hpp>

#include <array>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>
#include <vector>

namespace frenlo::bench {

using namespace frenlo::test;

double seconds(const std::function<void()>& work)
{
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

double memory_mb(const char* which)
{
    std::ifstream in("/proc/self/status");
    for (std::string line; std::getline(in, line);)
        if (line.starts_with(which))
            return std::stod(line.substr(line.find(':') + 1)) / 1000;
    return 0;
}

Run run_measured(const std::string& command)
{
    Run r;
    rusage used{};
    r.seconds = seconds([&] {
        const std::string line =
            "exec " + command + " >/dev/null 2>&1"; // the shell becomes the program: its memory is told
        const pid_t child = fork();
        if (child == 0) {
            execl("/bin/sh", "sh", "-c", line.c_str(), static_cast<char*>(nullptr));
            _exit(127);
        }
        int status = 0;
        wait4(child, &status, 0, &used);
    });
    r.peak_mb = double(used.ru_maxrss) / 1000;
    return r;
}

std::string photo_name(int number)
{
    std::array<char, 32> name{};
    std::snprintf(name.data(), name.size(), "p_%05d.jpg", number);
    return name.data();
}

namespace {

void add_noise(cv::Mat& m, std::uint64_t seed, double sigma)
{
    cv::Mat noise(m.size(), CV_16SC3);
    cv::RNG rng(seed);
    rng.fill(noise, cv::RNG::NORMAL, 0, sigma);
    cv::GaussianBlur(noise, noise, {}, 0.7);
    cv::add(m, noise, m, {}, CV_8U);
}

/// The scene stays, the subject is a step further, the noise is new.
std::string photo_bytes(const std::filesystem::path& folder, const cv::Mat& scene, int step)
{
    cv::Mat m = scene.clone();
    const int side = m.rows / 6;
    cv::Mat subject = painted({side, side}, 99);
    subject.copyTo(m(cv::Rect(side + step * m.cols / 60, m.rows / 2, side, side)));
    add_noise(m, std::uint64_t(step) + 1, 5);
    std::array<char, 32> time{};
    std::snprintf(time.data(), time.size(), "2026:05:03 10:%02d:00", step);
    write_jpeg(folder / "x.jpg", m, ExifWish{time.data(), "", 1, true}, 97);
    return read_bytes(folder / "x.jpg");
}

void make_photos(const std::filesystem::path& folder, int count, cv::Size size)
{
    std::filesystem::create_directories(folder);
    constexpr int painted_ones = 6;
    cv::Mat scene = painted(size, 1);
    add_noise(scene, 77, 14); // its texture, the same in every photo
    std::vector<std::string> bytes;
    for (int i = 0; i < std::min(count, painted_ones); ++i)
        bytes.push_back(photo_bytes(folder, scene, i));
    std::filesystem::remove(folder / "x.jpg");
    for (int i = 0; i < count; ++i) {
        const std::string& b = bytes[std::size_t(i % painted_ones)];
        const std::string name = photo_name(i + 1);
        const std::string comment = std::string("\xFF\xFE\x00\x0A", 4) + name.substr(2, 5) + "..."; // a COM segment
        write_bytes(folder / name, b.substr(0, 2) + comment + b.substr(2));
    }
}

}

void make_large_photos(const std::filesystem::path& folder, int count)
{
    make_photos(folder, count, {6000, 4000});
}

void make_small_photos(const std::filesystem::path& folder, int count)
{
    make_photos(folder, count, {1200, 800});
}

}
