#pragma once
// What all benchmarks share: time, memory, child processes, and the photos they work on.
#include <filesystem>
#include <functional>
#include <string>

namespace frenlo::bench {

double seconds(const std::function<void()>& work);

/// A megabyte figure from /proc/self/status: VmRSS now, VmHWM at most.
double memory_mb(const char* which);

struct Run
{
    double seconds = 0;
    double peak_mb = 0;
};
Run run_measured(const std::string& command);

/// "p_0001.jpg", from 1.
std::string photo_name(int number);

/// Photos as a camera on a tripod takes them of a hand-moved thing: 6000x4000 JPEG of some 8 MB, one scene, a subject
/// that moves on, sensor noise, Exif with thumbnail. A few are painted, the others are copies in which some bytes of a
/// comment differ, so that no cache mistakes one for another.
void make_large_photos(const std::filesystem::path& folder, int count);

/// The same of 1200x800, for cards of very many.
void make_small_photos(const std::filesystem::path& folder, int count);

/// The benchmarks, each printing ratios; many, some, few: how many photos.
void bench_window(const std::filesystem::path& folder, int count);
void bench_stroke(const std::filesystem::path& folder);
void bench_card_in_window(const std::filesystem::path& folder, int count);
void bench_scan(const std::filesystem::path& folder);
void bench_card(const std::filesystem::path& folder);
void bench_raw();
void bench_export(const std::filesystem::path& folder, int count);

void make_project(const std::filesystem::path& folder, int photos);
void bench_project(const std::filesystem::path& folder, int photos);
void bench_history(const std::filesystem::path& folder, int photos, int edits);

void bench_steady(bool quick);
void bench_steady_time(const std::filesystem::path& folder);
void bench_dress(const std::filesystem::path& folder);
void bench_retouch();
void bench_clips();
void bench_reel();
void bench_playing();
void bench_flow();
void bench_shoot(bool quick);
void bench_whole(const std::filesystem::path& folder, int count);
void bench_loops();

void bench_light(bool quick);
void bench_light_time(const std::filesystem::path& folder);

}
