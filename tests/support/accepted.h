#pragma once
#include <opencv2/core/mat.hpp>

#include <filesystem>
#include <string>

namespace frenlo::test {

/// Whether this run writes what tests compare with anew, instead of comparing: ./dev accept.
bool accepting();

/// Whether the picture is the one in tests/golden under this name, but for so many code values and, where more than
/// that differ, so small a share of all pixels. Where it is not, both and their difference are put beside
/// build/golden/name, and the message says so. Accepting, the picture is written, and is right.
struct Compared
{
    bool same = false;
    std::string message;
};
Compared with_golden(const std::string& name, const cv::Mat& picture, double most_codes, double share_beyond);

/// The same for a text: FRENLO_SOURCE/file.
Compared with_text(const std::filesystem::path& file, const std::string& text);

}
