#include "core/base/atomic_file.h"
#include "core/base/input_file.h"
#include "core/source/decode.h"
#include "demo/demo.h"
#include "demo/shots.h"

#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <cstdio>

namespace frenlo::demo {

namespace fs = std::filesystem;

namespace {

const cv::Size small_size(840, 560);

/// One of the photos that the shots have already.
cv::Mat3b photo_of(const fs::path& folder, const char* shot, const char* name, int number)
{
    std::array<char, 32> file{};
    std::snprintf(file.data(), file.size(), "%s_%04d.jpg", name, number);
    const auto decoded = value_or_throw(decode_bytes(read_whole_file(folder / shot / file.data()), 1, {}, file.data()));
    cv::Mat small;
    cv::resize(decoded.pixels, small, small_size, 0, 0, cv::INTER_AREA);
    return small;
}

/// A sheet of coloured paper before the lens.
cv::Mat3b paper_card(cv::Vec3f colour, std::uint64_t seed)
{
    Scene scene(small_size, colour);
    const cv::Mat1f paper = fibres(small_size, seed, 0.06F);
    scene.forEach([&](cv::Vec3f& p, const int* at) { p *= paper(at[0], at[1]); });
    light_from(scene, {260, 180}, 800, 0.6F);
    cv::Mat3b card(small_size);
    scene.forEach([&](const cv::Vec3f& p, const int* at) {
        for (int c = 0; c < 3; ++c)
            card(at[0], at[1])[c] = cv::saturate_cast<std::uint8_t>(255 * std::pow(p[c], 1 / 2.2));
    });
    return card;
}

/// A look at the table before the work begins: the scene, upside down and near.
cv::Mat3b trial(const cv::Mat3b& photo, int which)
{
    cv::Mat part, turned;
    cv::resize(photo(which == 0 ? cv::Rect(300, 260, 420, 280) : cv::Rect(20, 40, 330, 220)), part, small_size);
    cv::rotate(part, turned, cv::ROTATE_180);
    return turned;
}

class Camera
{
public:
    explicit Camera(fs::path folder) : folder_(std::move(folder)) {}

    fs::path shoot(const cv::Mat3b& picture, double seconds_later)
    {
        clock_us_ += static_cast<std::int64_t>(seconds_later * 1e6);
        std::array<char, 32> name{};
        std::snprintf(name.data(), name.size(), "HARB%04d.JPG", number_);
        number_ = number_ == 9999 ? 1 : number_ + 1;
        write_photo(picture, Exposure{clock_us_, 30, 80, 200}, folder_ / name.data());
        return folder_ / name.data();
    }

private:
    fs::path folder_;
    std::int64_t clock_us_ = 1'777'888'800'000'000; // 10:00 on 4 May 2026
    int number_ = 9946;
};

}

void fill_card(const fs::path& folder, const Job& job)
{
    const fs::path unfinished = card_folder(folder).parent_path() / ".unfinished";
    fs::remove_all(unfinished);
    fs::create_directories(unfinished);
    Camera camera(unfinished);
    const auto ferry = [&](int n) { return photo_of(folder, "Paper ferry", "ferry", n); };
    camera.shoot(trial(ferry(1), 0), 0);
    camera.shoot(trial(ferry(1), 1), 14);
    camera.shoot(paper_card(paint(224, 160, 52), 401), 20);
    for (int i = 1; i <= 24; ++i)
        camera.shoot(ferry(2 * i), 16 + (i * 7) % 11);
    camera.shoot(paper_card(paint(70, 130, 120), 402), 30);
    job.check();
    for (int i = 1; i <= 30; ++i) {
        const fs::path file = camera.shoot(photo_of(folder, "Bean sprout", "sprout", 5 * i), i == 1 ? 90 : 60);
        if (i == 11) { // the battery was taken out while it wrote
            const std::string whole = read_whole_file(file);
            write_whole_file(file, whole.substr(0, whole.size() * 2 / 5));
        }
    }
    job.check();
    for (int i = 1; i <= 28; ++i)
        camera.shoot(photo_of(folder, "Pier walk", "pier", 3 * i), i == 1 ? 840 : 2 + i % 3);
    fs::remove_all(card_folder(folder));
    fs::rename(unfinished, card_folder(folder));
}

}
