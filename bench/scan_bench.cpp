#include "bench/measure.h"
#include "core/base/input_file.h"
#include "core/source/camera_thumbnail.h"
#include "core/source/metadata.h"
#include "core/source/photo_source.h"
#include "core/steps/sort/scan.h"
#include "tests/support/dng.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>
#include <turbojpeg.h>

#include <iostream>
#include <libraw/libraw.h>
#include <stdexcept>

namespace frenlo::bench {

using test::TempFolder;

namespace {

std::vector<std::filesystem::path> files_of(const std::filesystem::path& folder)
{
    std::vector<std::filesystem::path> files;
    for (const auto& e : std::filesystem::directory_iterator(folder))
        files.push_back(e.path());
    return files;
}

/// The least that anybody could do: the decoder alone at 1/8, on all cores.
void bare_decode(const std::vector<std::filesystem::path>& files)
{
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
}

/// A raw photo's first picture, as small as the Sheet shows it: the library that reads it, the decoder, nothing else.
void bare_preview(const std::filesystem::path& file)
{
    LibRaw raw;
    if (raw.open_file(file.c_str()) != LIBRAW_SUCCESS || raw.unpack_thumb() != LIBRAW_SUCCESS)
        throw std::runtime_error("no preview");
    const auto* data = reinterpret_cast<const unsigned char*>(raw.imgdata.thumbnail.thumb);
    tjhandle j = tjInitDecompress();
    int w = 0, h = 0, s = 0, c = 0;
    tjDecompressHeader3(j, data, raw.imgdata.thumbnail.tlength, &w, &h, &s, &c);
    const tjscalingfactor quarter{1, 4}; // 405 of 1,620 pixels
    cv::Mat m(TJSCALED(h, quarter), TJSCALED(w, quarter), CV_8UC3);
    tjDecompress2(j, data, raw.imgdata.thumbnail.tlength, m.data, m.cols, 0, m.rows, TJPF_BGR, 0);
    tjDestroy(j);
}

}

void bench_raw()
{
    constexpr int count = 12;
    std::cout << "the first picture of a raw photo of 24 megapixels on the Sheet, against the bare reading of what the "
                 "camera put into it\n";
    TempFolder folder;
    std::vector<PhotoPtr> photos;
    cv::Mat3f light(4000, 6000);
    cv::Mat3b preview(1080, 1620);
    for (int i = 0; i < count; ++i) {
        cv::randu(preview, i, 200); // the worst that a decoder can be given
        cv::GaussianBlur(preview, preview, {}, 1);
        light = cv::Vec3f::all(0.1F * float(i % 5));
        const auto file = folder / ("raw_" + std::to_string(i) + ".dng");
        test::write_dng(file, light, {0.5F, 1, 0.6F}, 1, preview);
        photos.push_back(test::scanned(file));
    }
    double ours = 0, floor_time = 0;
    constexpr int turns = 8;
    for (int turn = 0; turn < turns; ++turn)
        for (const PhotoPtr& p : photos) {
            floor_time += seconds([&] { bare_preview(p->file); });
            ours += seconds([&] {
                if (camera_thumbnail(*p).empty())
                    throw std::runtime_error("no first picture");
            });
        }
    std::cout << "  ratio " << ours / floor_time << " (aim: at most 1.1; " << 1000 * ours / count / turns << " ms)\n";
}

void bench_scan(const std::filesystem::path& folder)
{
    const auto files = files_of(folder);
    std::cout << "scan and thumbnails of " << files.size() << " photos of 24 megapixels, against the bare 1/8 decode\n";
    bare_decode(files); // files into memory, for both alike
    const double floor_time = seconds([&] { bare_decode(files); });
    TempFolder cache;
    PreviewStore store(cache.path(), 1'000'000'000);
    const Previews previews(store);
    ScanResult found;
    double scan_time = 0;
    const double all = seconds([&] {
        const std::array places{folder};
        scan_time = seconds([&] { found = scan(places, ScanOptions{}, {}); });
        tbb::parallel_for(std::size_t(0), found.photos.size(),
                          [&](std::size_t i) { (void)previews.get(*found.photos[i].photo, PreviewKind::thumbnail); });
    });
    std::cout << "  ratio " << all / floor_time << " (aim: at most 1.3; " << all << " s against " << floor_time
              << " s, of which the scan " << scan_time << " s)\n";
}

void bench_card(const std::filesystem::path& folder)
{
    const auto files = files_of(folder);
    std::cout << "a card of " << files.size() << " small photos: scan, against the bare Exif and 1/8 decode\n";
    const auto bare = [&] {
        tbb::parallel_for(std::size_t(0), files.size(), [&](std::size_t i) { (void)read_metadata(files[i]); });
        bare_decode(files);
    };
    bare();
    const double floor_time = seconds(bare);
    const std::array places{folder};
    const double headers = seconds([&] { (void)scan(places, {.looking = Looking::at_headers}, {}); });
    const double time = seconds([&] { (void)scan(places, ScanOptions{}, {}); });
    std::cout << "  ratio " << time / floor_time << " (" << time * 1000 / double(files.size()) << " ms a photo against "
              << floor_time * 1000 / double(files.size()) << " ms; " << time << " s in all, of which headers alone "
              << headers << " s)\n";
}

}
