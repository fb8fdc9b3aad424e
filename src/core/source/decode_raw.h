#pragma once
#include <filesystem>
#include <string>

namespace frenlo {

/// The JPEG that the camera put into a raw file, and how it is to be turned (Exif 2.32); empty where there is none.
std::string raw_preview(const std::filesystem::path& file, int& orientation);

}
