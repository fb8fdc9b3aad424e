#pragma once
// What photographers come with, made from real photographs (Debian's opencv-doc).
#include <opencv2/core/mat.hpp>

#include <filesystem>
#include <string>

namespace frenlo::test {

/// One of the photographs, 8 bit B G R, filling this size. Throws where it is not there.
cv::Mat photograph(const std::string& name, cv::Size size);
/// An apple, an orange, cut out of their white: 8 bit B G R alpha, this high.
cv::Mat cut_out(const std::string& name, int height);
/// Lays it over the photo, its middle there.
void lay_on(cv::Mat& photo, const cv::Mat& thing, cv::Point2d middle);
/// The photo as a hand holds the camera: shifted by some pixels, turned by a part of a degree; differs with seed.
cv::Mat hand_held(const cv::Mat& scene, int seed, double most_px = 12);
/// "folder/name_0001.jpg", with a capture time that many seconds after ten o'clock.
void write_photo(const std::filesystem::path& folder, const std::string& name, int number, const cv::Mat& photo,
                 int seconds);

/// A kite that is let go and rises, thirty times, by hand.
void write_kite(const std::filesystem::path& folder, int photos, cv::Size size);
/// A picture of a walker on a path, in numbered stills; one of them is the one before, once more.
void write_numbered(const std::filesystem::path& folder, int stills, int stumble, cv::Size size);
/// A cottage whose chimney stands at 0.7, 0.3; a door that opens.
void write_drawings(const std::filesystem::path& folder, int drawings);
/// A chest that is emptied piece by piece; the last photo is the empty one. A wire holds the lid, from 0.3, 0.2 to
/// 0.5, 0.4.
void write_chest(const std::filesystem::path& folder, int pieces, cv::Size size);

}
