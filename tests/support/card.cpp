#include "tests/support/card.h"

#include "core/source/photo_file.h"
#include "tests/support/photos.h"

#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>
#include <cstdio>

namespace frenlo::test {

namespace {

const cv::Size frame(480, 320);

cv::Mat texture(int seed, double coarse, double strength)
{
    cv::RNG rng(std::uint64_t(seed) * 7919 + 3);
    cv::Mat m(frame, CV_32F);
    rng.fill(m, cv::RNG::NORMAL, 0, 1);
    cv::GaussianBlur(m, m, {}, coarse);
    cv::Scalar mean, deviation;
    cv::meanStdDev(m, mean, deviation);
    return (m - mean[0]) * (strength / deviation[0]);
}

cv::Mat with_texture(const cv::Mat& picture, int seed, double coarse, double strength)
{
    cv::Mat t, out;
    cv::cvtColor(texture(seed, coarse, strength), t, cv::COLOR_GRAY2BGR);
    picture.convertTo(out, CV_32FC3);
    out += t;
    out.convertTo(out, CV_8UC3);
    return out;
}

void ridge(cv::Mat& m, int seed, double height, cv::Scalar colour)
{
    std::vector<cv::Point> line{{0, frame.height}};
    for (int x = 0; x <= frame.width; x += 4)
        line.emplace_back(
            x, int(frame.height * height + 18 * std::sin(x * 0.021 + seed) + 9 * std::sin(x * 0.057 + 2 * seed)));
    line.emplace_back(frame.width, frame.height);
    cv::fillPoly(m, std::vector<std::vector<cv::Point>>{line}, colour, cv::LINE_AA);
}

}

cv::Mat scene(int seed)
{
    cv::RNG rng(std::uint64_t(seed) * 104729 + 11);
    const auto colour = [&] { return cv::Scalar(rng.uniform(30, 200), rng.uniform(30, 200), rng.uniform(30, 200)); };
    cv::Mat m(frame, CV_8UC3, colour());
    for (int i = 0; i < 14; ++i)
        cv::rectangle(m,
                      cv::Rect(rng.uniform(-40, frame.width), rng.uniform(-40, frame.height), rng.uniform(30, 130),
                               rng.uniform(30, 110)),
                      colour(), cv::FILLED, cv::LINE_AA);
    return with_texture(m, seed, 1.5, 7);
}

cv::Mat hand_moved(int seed, int step)
{
    cv::Mat m = scene(seed);
    const cv::Point at(60 + step * 7 % 360, 210 + int(12 * std::sin(step * 0.5)));
    cv::circle(m, at, 34, cv::Scalar(40, 70, 210), cv::FILLED, cv::LINE_AA);
    cv::circle(m, at + cv::Point(10, -8), 9, cv::Scalar(230, 230, 240), cv::FILLED, cv::LINE_AA);
    return m;
}

cv::Mat sunset(int seed, double along)
{
    cv::Mat m(frame, CV_8UC3);
    for (int y = 0; y < frame.height; ++y) {
        const double down = double(y) / frame.height;
        const double warm = std::exp(-std::pow((along - 0.55) / 0.25, 2)) * down;
        m.row(y).setTo(cv::Scalar(200 * (1 - 0.85 * along) * (1 - 0.5 * warm), 160 * (1 - 0.88 * along) + 40 * warm,
                                  120 * (1 - 0.9 * along) + 130 * warm));
    }
    ridge(m, seed, 0.66, cv::Scalar(70, 75, 60) * (1 - 0.8 * along));
    ridge(m, seed + 3, 0.8, cv::Scalar(45, 55, 50) * (1 - 0.8 * along));
    return with_texture(m, seed, 2, 3);
}

cv::Mat clouds(int seed, int step)
{
    cv::Mat m(frame, CV_8UC3, cv::Scalar(190, 140, 90));
    cv::RNG rng(std::uint64_t(seed) * 31 + 5);
    for (int i = 0; i < 16; ++i) { // each drifts at its own speed and is soon another sky
        const double speed = rng.uniform(24.0, 46.0);
        const int x = int(std::fmod(rng.uniform(0, 700) + step * speed, 760.0)) - 140;
        const cv::Point at(x, rng.uniform(0, 170));
        cv::ellipse(m, at, {rng.uniform(30, 80), rng.uniform(14, 34)}, 0, 0, 360, cv::Scalar(235, 232, 228), cv::FILLED,
                    cv::LINE_AA);
    }
    cv::GaussianBlur(m, m, {}, 5);
    ridge(m, seed, 0.7, cv::Scalar(60, 90, 70));
    return with_texture(m, seed, 1.5, 5);
}

cv::Mat by_lamp(int seed, bool on)
{
    cv::Mat m;
    scene(seed).convertTo(m, CV_32FC3);
    m.forEach<cv::Vec3f>([on](cv::Vec3f& p, const int* at) {
        const double x = double(at[1]) / frame.width, y = double(at[0]) / frame.height;
        const double day = 0.75 - 0.35 * x;
        const double lamp = on ? 1.1 * std::exp(-2 * ((x - 0.85) * (x - 0.85) + (y - 0.2) * (y - 0.2))) : 0;
        p = {float(p[0] * (day + 0.45 * lamp)), float(p[1] * (day + 0.8 * lamp)), float(p[2] * (day + lamp))};
    });
    m.convertTo(m, CV_8UC3);
    return m;
}

cv::Mat walked(int seed, int step)
{
    // A long strip of things that pass by, two pixels for every one the far ones move.
    cv::RNG rng(std::uint64_t(seed) * 53 + 9);
    cv::Mat m(frame, CV_8UC3, cv::Scalar(170, 160, 140));
    ridge(m, seed + step / 3, 0.55, cv::Scalar(120, 120, 100));
    for (int i = 0; i < 60; ++i) {
        const int x = i * 60 + rng.uniform(0, 40) - step * 14;
        const cv::Rect r(x, rng.uniform(60, 180), rng.uniform(20, 50), 200);
        cv::rectangle(m, r, cv::Scalar(rng.uniform(30, 200), rng.uniform(30, 200), rng.uniform(30, 200)), cv::FILLED,
                      cv::LINE_AA);
    }
    return with_texture(m, seed + step, 1.5, 4);
}

cv::Mat exposed(const cv::Mat& picture, double stops)
{
    cv::Mat m;
    picture.convertTo(m, CV_8UC3, std::exp2(stops / 2.2));
    return m;
}

cv::Mat hand(int seed)
{
    cv::Mat m = scene(seed);
    cv::ellipse(m, {250, 190}, {190, 130}, 20 + seed, 0, 360, cv::Scalar(135, 165, 220), cv::FILLED, cv::LINE_AA);
    for (int i = 0; i < 4; ++i)
        cv::ellipse(m, {150 + i * 75, 70}, {32, 100}, -15 + 10 * i, 0, 360, cv::Scalar(130, 160, 215), cv::FILLED,
                    cv::LINE_AA);
    return with_texture(m, seed, 3, 5);
}

cv::Mat cloth(cv::Scalar bgr, int seed)
{
    return with_texture(cv::Mat(frame, CV_8UC3, bgr), seed, 12, 9);
}

cv::Mat slate(int seed)
{
    cv::Mat m = scene(seed);
    cv::rectangle(m, {50, 30, 380, 260}, cv::Scalar(38, 36, 34), cv::FILLED);
    cv::putText(m, "SHOT " + std::to_string(seed), {90, 170}, cv::FONT_HERSHEY_SIMPLEX, 2, cv::Scalar(235, 235, 235), 5,
                cv::LINE_AA);
    return m;
}

Card::Card(std::filesystem::path folder, std::string prefix, int first)
    : folder_(std::move(folder)), prefix_(std::move(prefix)), number_(first)
{
}

std::filesystem::path Card::shoot(const cv::Mat& picture, double seconds_later)
{
    clock_ += seconds_later;
    cv::Mat noise(picture.size(), CV_16SC3), m;
    cv::RNG rng(++noise_);
    rng.fill(noise, cv::RNG::NORMAL, 0, 4);
    cv::add(picture, noise, m, {}, CV_8U);
    std::array<char, 16> digits{};
    std::snprintf(digits.data(), digits.size(), "%04d", number_);
    number_ = number_ == 9999 ? 1 : number_ + 1; // a camera's counter knows no 0
    const auto file = folder_ / (prefix_ + digits.data() + ".JPG");
    const CaptureTime time{std::int64_t(clock_ * 1e6) + parse_capture_time("2026-05-03T00:00:00")->microseconds};
    std::string text = time.text();
    text[4] = text[7] = ':';
    text[10] = ' ';
    write_jpeg(file, m, ExifWish{text.substr(0, 19), text.size() > 20 ? text.substr(20) : "", 1, thumbnails_, camera_});
    return file;
}

}
