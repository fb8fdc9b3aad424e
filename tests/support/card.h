#pragma once
// A memory card with known truth: photos as a camera writes them, scene after scene.
#include <opencv2/core/mat.hpp>

#include <filesystem>
#include <string>
#include <vector>

namespace frenlo::test {

/// A textured table or landscape that differs with seed, lit softly. 480x320.
cv::Mat scene(int seed);
/// The scene with a subject on it that has moved on by step.
cv::Mat hand_moved(int seed, int step);
/// The evening sky over a ridge: along goes from 0, day, to 1, night.
cv::Mat sunset(int seed, double along);
/// Clouds that have drifted by step over a ridge.
cv::Mat clouds(int seed, int step);
/// The scene by daylight from one side, or with a warm lamp on from the other.
cv::Mat by_lamp(int seed, bool on);
/// A path on which the viewpoint has travelled by step.
cv::Mat walked(int seed, int step);
/// Brighter or darker by this many stops, as an exposure does it.
cv::Mat exposed(const cv::Mat& picture, double stops);
/// What photographers hold before the lens between shots.
cv::Mat hand(int seed);
cv::Mat cloth(cv::Scalar bgr, int seed);
cv::Mat slate(int seed);

/// Writes photos one after another with counter, clock and camera.
class Card
{
public:
    /// first: the counter's first number.
    Card(std::filesystem::path folder, std::string prefix, int first);

    /// The next photo, this many seconds after the one before. Returns its file.
    std::filesystem::path shoot(const cv::Mat& picture, double seconds_later);
    void change_camera(const std::string& model) { camera_ = model; }
    void change_folder(std::filesystem::path folder) { folder_ = std::move(folder); }
    void without_thumbnails() { thumbnails_ = false; }
    [[nodiscard]] int next_number() const { return number_; }

private:
    std::filesystem::path folder_;
    std::string prefix_;
    std::string camera_ = "Harbour One";
    int number_;
    double clock_ = 8 * 3600; ///< seconds of the day 2026-05-03 and on
    std::uint64_t noise_ = 1;
    bool thumbnails_ = true;
};

}
