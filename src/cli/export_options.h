#pragma once
#include <opencv2/core/types.hpp>

#include <cstdint>
#include <string>

namespace frenlo::cli {

/// "1920x1080", "1920x", "x1080": 0 for a side that follows. Throws WrongCall.
cv::Size size_option(const std::string& text);
/// "2MB", "800kB"; throws WrongCall.
std::int64_t bytes_option(const std::string& text);

}
