#include "bench/sequences.h"

#include "core/source/transfer.h"

#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <random>
#include <stdexcept>

namespace frenlo::bench {

namespace {

cv::Mat texture(const char* name)
{
    const cv::Mat m = cv::imread(std::string("/usr/share/doc/opencv-doc/examples/data/") + name);
    if (m.empty())
        throw std::runtime_error(std::string(name) + " is not there: install opencv-doc");
    return m;
}

/// A scene with room around the frame, so that a photo that moved shows more of it.
cv::Mat scene_for(cv::Size frame, int margin, int seed)
{
    const cv::Mat from = texture(seed % 2 == 0 ? "graf1.png" : "aloeL.jpg");
    const double scale =
        std::max(double(frame.width + 2 * margin) / from.cols, double(frame.height + 2 * margin) / from.rows);
    cv::Mat scene;
    cv::resize(from, scene, {}, scale, scale, cv::INTER_CUBIC);
    return scene;
}

Transform turned_about(cv::Point2d middle, double degrees, double size, cv::Point2d shift)
{
    const double a = size * std::cos(degrees * CV_PI / 180), b = size * std::sin(degrees * CV_PI / 180);
    return {a, -b, middle.x - a * middle.x + b * middle.y + shift.x,
            b, a,  middle.y - b * middle.x - a * middle.y + shift.y,
            0, 0,  1};
}

/// OpenCV rounds places to a thirty-second of a pixel, which would be most of the error that is to be measured. Nine
/// times as many, each rounded on its own, averaged as a sensor's pixels do.
cv::Mat seen_by_sensor(const cv::Mat& scene, const Transform& to_scene, cv::Size size)
{
    constexpr int finer = 3;
    constexpr double off = (finer - 1) / 2.0;
    const Transform from_finer(1.0 / finer, 0, -off / finer, 0, 1.0 / finer, -off / finer, 0, 0, 1);
    cv::Mat fine, photo;
    cv::warpPerspective(scene, fine, to_scene * from_finer, size * finer, cv::INTER_CUBIC | cv::WARP_INVERSE_MAP,
                        cv::BORDER_REFLECT);
    cv::resize(fine, photo, size, 0, 0, cv::INTER_AREA);
    return photo;
}

/// Something with much texture of its own, soft at its edge, that moves through the frame.
void put_foreground(cv::Mat& photo, const cv::Mat& thing, double share, double along)
{
    const double area = share * double(photo.total());
    const cv::Size half(int(std::sqrt(area / CV_PI) * 0.9), int(std::sqrt(area / CV_PI) / 0.9));
    const cv::Point2d at(photo.cols * (0.30 + 0.4 * along), photo.rows * (0.5 + 0.08 * std::sin(along * 9)));
    cv::Mat mask(photo.size(), CV_32F, cv::Scalar(0));
    cv::ellipse(mask, at, half, 10 * std::sin(along * 7), 0, 360, cv::Scalar(1), cv::FILLED, cv::LINE_AA);
    cv::GaussianBlur(mask, mask, {}, 1.5);
    const cv::Matx23d place(1, 0, at.x - thing.cols / 2.0, 0, 1, at.y - thing.rows / 2.0);
    cv::Mat moved;
    cv::warpAffine(thing, moved, place, photo.size(), cv::INTER_CUBIC, cv::BORDER_REFLECT);
    for (int y = 0; y < photo.rows; ++y)
        for (int x = 0; x < photo.cols; ++x) {
            const float m = mask.at<float>(y, x);
            if (m > 0)
                for (int c = 0; c < 3; ++c) {
                    auto& p = photo.at<cv::Vec3b>(y, x)[c];
                    p = cv::saturate_cast<std::uint8_t>(p * (1 - m) + m * moved.at<cv::Vec3b>(y, x)[c]);
                }
        }
}

/// Stops of linear light, by sRGB's curve taken as a power of 2.2; then noise, and JPEG of quality 92.
cv::Mat photographed(const cv::Mat& scene, double stops, double noise, cv::RNG& random)
{
    cv::Mat lit, grain(scene.size(), CV_32FC3), out;
    scene.convertTo(lit, CV_32FC3, std::exp2(stops / 2.2));
    random.fill(grain, cv::RNG::NORMAL, 0, noise);
    lit += grain;
    lit.convertTo(out, CV_8U);
    std::vector<unsigned char> bytes;
    cv::imencode(".jpg", out, bytes, {cv::IMWRITE_JPEG_QUALITY, 92});
    return cv::imdecode(bytes, cv::IMREAD_COLOR);
}

}

Sequence make_sequence(const Wishes& w)
{
    std::mt19937 random(unsigned(w.seed));
    std::normal_distribution<double> normal;
    cv::RNG grain(std::uint64_t(w.seed) * 77 + 5);
    const int margin = w.walked ? 420 : int(90 + 4 * w.shift_sigma + 0.05 * w.size.width);
    const cv::Mat scene = scene_for(w.size, margin, w.seed);
    cv::Mat thing;
    cv::resize(texture(w.seed % 2 == 0 ? "fruits.jpg" : "baboon.jpg"), thing, {}, 2, 2, cv::INTER_CUBIC);
    const cv::Point2d middle((w.size.width - 1) / 2.0, (w.size.height - 1) / 2.0);
    const Transform into_scene(1, 0, (scene.cols - w.size.width) / 2.0, 0, 1, (scene.rows - w.size.height) / 2.0, 0, 0,
                               1);
    Sequence s;
    std::vector<Transform> poses, smooth;
    for (int i = 0; i < w.photos; ++i) {
        const double along = double(i) / std::max(1, w.photos - 1);
        cv::Point2d path;
        double heading = 0, nearer = 1;
        if (w.walked) { // forward and aside, slowly turning
            path = {-260 + 520 * along + 30 * std::sin(along * 5), 60 * std::sin(along * 3)};
            heading = 2.5 * std::sin(along * 2.6);
            nearer = 1 + 0.06 * along;
        }
        const auto knock = [&] {
            const auto one = [&](int side) {
                return std::clamp(w.shift_sigma * normal(random), -side / 5.0, side / 5.0);
            };
            return cv::Point2d(one(w.size.width), one(w.size.height));
        };
        smooth.push_back(turned_about(middle, heading, nearer, path));
        const double off = i == 0 ? 0 : 1; // the first is where it is meant to be
        poses.push_back(turned_about(middle, heading + off * w.turn_sigma * normal(random),
                                     nearer * (1 + off * w.size_sigma * normal(random)), path + off * knock()));
    }
    for (int i = 0; i < w.photos; ++i) {
        const double along = double(i) / std::max(1, w.photos - 1);
        // A point of the photo is the point of the scene that its pose takes there.
        const Transform to_scene = into_scene * poses[std::size_t(i)].inv();
        cv::Mat photo = seen_by_sensor(scene, to_scene, w.size);
        if (w.foreground > 0)
            put_foreground(photo, thing, w.foreground, along);
        s.photos.push_back(photographed(photo, w.light_stops * (along - 0.75), w.noise, grain));
        s.truth.push_back(poses[std::size_t(i)] * poses[0].inv());
        s.intended.push_back(smooth[std::size_t(i)] * smooth[0].inv());
    }
    return s;
}

LightSequence make_light_sequence(const LightSequenceWishes& w)
{
    std::mt19937 random(unsigned(w.seed) + 40);
    std::normal_distribution<double> normal;
    cv::RNG grain(std::uint64_t(w.seed) * 91 + 3);
    cv::Mat scene = scene_for(w.size, 0, w.seed)(cv::Rect({0, 0}, w.size)).clone(), thing;
    cv::resize(texture("fruits.jpg"), thing, {}, 2, 2, cv::INTER_CUBIC);
    std::vector<float> linear(256);
    for (int i = 0; i < 256; ++i)
        linear[std::size_t(i)] = float(linear_of(i / 255.0));
    std::vector<float> encoded(65'536); // finer than the noise by far
    for (std::size_t i = 0; i < encoded.size(); ++i)
        encoded[i] = float(encoded_of(double(i) / 65'535) * 255);
    const auto taken = [&](const cv::Mat& of, const std::array<double, 3>& stops) {
        cv::Mat photo(of.size(), CV_8UC3), noise(of.size(), CV_32FC3);
        grain.fill(noise, cv::RNG::NORMAL, 0, 1.5);
        const std::array<float, 3> factor{float(std::exp2(stops[2])), float(std::exp2(stops[1])),
                                          float(std::exp2(stops[0]))}; // B, G, R
        for (int y = 0; y < of.rows; ++y)
            for (int x = 0; x < of.cols; ++x)
                for (int c = 0; c < 3; ++c) {
                    const float light = std::min(1.0F, linear[of.at<cv::Vec3b>(y, x)[c]] * factor[std::size_t(c)]);
                    photo.at<cv::Vec3b>(y, x)[c] = cv::saturate_cast<std::uint8_t>(
                        encoded[std::size_t(light * 65'535)] + noise.at<cv::Vec3f>(y, x)[c]);
                }
        std::vector<unsigned char> bytes;
        cv::imencode(".jpg", photo, bytes, {cv::IMWRITE_JPEG_QUALITY, 92});
        return cv::imdecode(bytes, cv::IMREAD_COLOR);
    };
    LightSequence s;
    for (int i = 0; i < w.photos; ++i) {
        const double along = double(i) / std::max(1, w.photos - 1);
        cv::Mat photo = scene.clone();
        put_foreground(photo, thing, 0.06, along);
        double day = -0.4 - w.trend_stops * std::pow(std::sin(along * 2.0), 2) / std::pow(std::sin(2.0), 2);
        for (const auto& [from, stops] : w.steps)
            day += i >= from ? stops : 0;
        std::array<double, 3> added{};
        const double all = w.flicker_sigma * normal(random);
        for (double& a : added)
            a = all + w.colour_sigma * normal(random);
        for (const auto& [at, stops] : w.flashes)
            for (double& a : added)
                a += i == at ? stops : 0;
        s.clean.push_back(taken(photo, {day, day, day}));
        s.photos.push_back(taken(photo, {day + added[0], day + added[1], day + added[2]}));
        s.added.push_back(added);
    }
    return s;
}

}
