#include "tests/jobs/material.h"

#include "tests/support/photos.h"

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cstdio>
#include <stdexcept>

namespace frenlo::test {

namespace {

std::string numbered(const std::string& name, int number, const char* ending)
{
    char digits[16];
    std::snprintf(digits, sizeof digits, "_%04d", number);
    return name + digits + ending;
}

/// A made-up thing of wood: a board with a grain, this large.
cv::Mat board(cv::Size size, int seed)
{
    cv::Mat grain = painted({size.width, 4}, seed), out;
    cv::resize(grain, out, size, 0, 0, cv::INTER_CUBIC);
    cv::Mat tinted(size, CV_8UC3, cv::Scalar(70, 110, 160));
    cv::addWeighted(out, 0.25, tinted, 0.75, 0, out);
    cv::rectangle(out, {0, 0, size.width, size.height}, cv::Scalar(30, 50, 70), 2, cv::LINE_AA);
    return out;
}

}

cv::Mat photograph(const std::string& name, cv::Size size)
{
    const cv::Mat whole = cv::imread("/usr/share/doc/opencv-doc/examples/data/" + name);
    if (whole.empty())
        throw std::runtime_error("opencv-doc is not installed: " + name);
    const double scale = std::max(double(size.width) / whole.cols, double(size.height) / whole.rows);
    cv::Mat large;
    cv::resize(whole, large, {}, scale, scale, scale < 1 ? cv::INTER_AREA : cv::INTER_CUBIC);
    const cv::Rect middle((large.cols - size.width) / 2, (large.rows - size.height) / 2, size.width, size.height);
    return large(middle & cv::Rect({}, large.size())).clone();
}

cv::Mat cut_out(const std::string& name, int height)
{
    cv::Mat thing = cv::imread("/usr/share/doc/opencv-doc/examples/data/" + name);
    if (thing.empty())
        throw std::runtime_error("opencv-doc is not installed: " + name);
    cv::resize(thing, thing, {thing.cols * height / thing.rows, height}, 0, 0, cv::INTER_AREA);
    cv::Mat grey, alpha, out;
    cv::cvtColor(thing, grey, cv::COLOR_BGR2GRAY);
    cv::threshold(grey, alpha, 225, 255, cv::THRESH_BINARY_INV);
    cv::morphologyEx(alpha, alpha, cv::MORPH_OPEN, cv::Mat::ones(5, 5, CV_8U));
    cv::GaussianBlur(alpha, alpha, {}, 1);
    cv::cvtColor(thing, out, cv::COLOR_BGR2BGRA);
    cv::insertChannel(alpha, out, 3);
    return out;
}

void lay_on(cv::Mat& photo, const cv::Mat& thing, cv::Point2d middle)
{
    const cv::Point corner(int(middle.x) - thing.cols / 2, int(middle.y) - thing.rows / 2);
    const cv::Rect seen = cv::Rect(corner, thing.size()) & cv::Rect({}, photo.size());
    for (int y = seen.y; y < seen.br().y; ++y)
        for (int x = seen.x; x < seen.br().x; ++x) {
            const auto& over = thing.at<cv::Vec4b>(y - corner.y, x - corner.x);
            auto& under = photo.at<cv::Vec3b>(y, x);
            for (int c = 0; c < 3; ++c)
                under[c] = cv::saturate_cast<std::uint8_t>(under[c] + (over[c] - under[c]) * over[3] / 255.0);
        }
}

cv::Mat hand_held(const cv::Mat& scene, int seed, double most_px)
{
    cv::RNG random(std::uint64_t(seed) * 7919 + 3);
    const cv::Matx33d t =
        turned_by(random.uniform(-0.5, 0.5), 1, {random.uniform(-most_px, most_px), random.uniform(-most_px, most_px)},
                  {scene.cols / 2.0, scene.rows / 2.0});
    cv::Mat out;
    cv::warpPerspective(scene, out, t, scene.size(), cv::INTER_LANCZOS4, cv::BORDER_REFLECT);
    return with_noise(out, 2, std::uint64_t(seed));
}

void write_photo(const std::filesystem::path& folder, const std::string& name, int number, const cv::Mat& photo,
                 int seconds)
{
    char time[32];
    std::snprintf(time, sizeof time, "2026:05:03 %02d:%02d:%02d", 10 + seconds / 3600, seconds / 60 % 60, seconds % 60);
    ExifWish wish;
    wish.date_time = time;
    wish.camera = "Harbour One";
    std::filesystem::create_directories(folder);
    write_jpeg(folder / numbered(name, number, ".jpg"), photo, wish);
}

void write_kite(const std::filesystem::path& folder, int photos, cv::Size size)
{
    const cv::Mat field = photograph("home.jpg", size), kite = cut_out("orange.jpg", size.height / 6);
    for (int i = 0; i < photos; ++i) {
        cv::Mat photo = field.clone();
        const double along = double(i) / photos;
        lay_on(photo, kite, {size.width * (0.25 + 0.5 * along), size.height * (0.8 - 0.6 * along)});
        write_photo(folder, "K", 4001 + i, hand_held(photo, i), i);
    }
}

void write_numbered(const std::filesystem::path& folder, int stills, int stumble, cv::Size size)
{
    const cv::Mat path = photograph("leuvenA.jpg", {size.width * 2, size.height}),
                  walker = cut_out("apple.jpg", size.height / 5);
    std::filesystem::create_directories(folder);
    for (int i = 0; i < stills; ++i) {
        const int moved = i == stumble ? i - 1 : i;
        cv::Mat still = path(cv::Rect(size.width / 2, 0, size.width, size.height)).clone();
        lay_on(still, walker, {size.width * (0.1 + 0.8 * moved / stills), size.height * (0.7 + 0.02 * (moved % 3))});
        write_picture(folder / numbered("walk", i + 1, ".png"), with_noise(still, 1, std::uint64_t(i)));
    }
}

void write_drawings(const std::filesystem::path& folder, int drawings)
{
    std::filesystem::create_directories(folder);
    for (int i = 0; i < drawings; ++i) {
        const int door = 40 * i / drawings;
        write_bytes(folder / numbered("cottage", i + 1, ".svg"),
                    "<svg xmlns='http://www.w3.org/2000/svg' width='640' height='360' viewBox='0 0 640 360'>"
                    "<rect width='640' height='360' fill='#b9d3de'/><path d='M0 300h640v60H0z' fill='#7a9a5b'/>"
                    "<path d='M220 200h260v110H220z' fill='#d9c6a4' stroke='#40352a' stroke-width='4'/>"
                    "<path d='M200 205l150-100 150 100z' fill='#8a4a38' stroke='#40352a' stroke-width='4'/>"
                    "<path d='M432 160v-52h32v72z' fill='#6c5a50' stroke='#40352a' stroke-width='4'/>"
                    "<path d='M300 310v-70h" +
                        std::to_string(44 - door) +
                        "v70z' fill='#4a6a78' stroke='#40352a' stroke-width='4'/>"
                        "<circle cx='" +
                        std::to_string(60 + 12 * i) + "' cy='60' r='26' fill='#f3d9a0'/></svg>");
    }
}

void write_chest(const std::filesystem::path& folder, int pieces, cv::Size size)
{
    const cv::Mat shop = photograph("stuff.jpg", size);
    for (int taken = 0; taken <= pieces; ++taken) {
        cv::Mat photo = shop.clone();
        for (int i = taken; i < pieces; ++i) {
            const cv::Mat piece = board({size.width / 8, size.height / 12}, i + 3);
            const cv::Rect at(size.width / 2 + (i % 2) * size.width / 10, size.height * 3 / 4 - i * size.height / 20,
                              piece.cols, piece.rows);
            piece.copyTo(photo(at));
        }
        if (taken < pieces) // what holds the lid; the empty set is without it
            cv::line(photo, {size.width * 3 / 10, size.height / 5}, {size.width / 2, size.height * 2 / 5},
                     cv::Scalar(40, 40, 45), std::max(2, size.width / 300), cv::LINE_AA);
        write_photo(folder, "C", 101 + taken, hand_held(photo, 40 + taken, 4), 20 * taken);
    }
}

}
