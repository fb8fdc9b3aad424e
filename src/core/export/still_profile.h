#pragma once
// Private to export/.
#include <string>

namespace frenlo {

/// The PNG with the profile of what is written, sRGB, in a chunk iCCP (W3C PNG, third edition, 11.3.2.3).
std::string png_with_profile(const std::string& png);

/// The JPEG with the same in a segment APP2 (ICC.1, annex B.4).
std::string jpeg_with_profile(const std::string& jpeg);

}
