#include "core/export/still_profile.h"

#include "core/source/colour_profile.h"

#include <array>
#include <cstdint>
#include <vector>
#include <zlib.h>

namespace frenlo {

namespace {

std::string big_endian(std::uint32_t n)
{
    std::string s;
    for (const int shift : {24, 16, 8, 0})
        s += static_cast<char>((n >> unsigned(shift)) & 0xFFU);
    return s;
}

std::string compressed(const std::string& bytes)
{
    std::string out(compressBound(bytes.size()), '\0');
    uLongf size = out.size();
    if (compress2(reinterpret_cast<Bytef*>(out.data()), &size, reinterpret_cast<const Bytef*>(bytes.data()),
                  bytes.size(), Z_BEST_COMPRESSION) != Z_OK)
        return {};
    out.resize(size);
    return out;
}

std::string made_chunk()
{
    using namespace std::string_literals;
    const std::string body = "iCCP"s + "sRGB\0\0"s + compressed(srgb_icc());
    const auto sum = crc32(0, reinterpret_cast<const Bytef*>(body.data()), uInt(body.size()));
    return big_endian(std::uint32_t(body.size() - 4)) + body + big_endian(std::uint32_t(sum));
}

std::string made_segment()
{
    using namespace std::string_literals;
    const std::string body = "ICC_PROFILE\0"s + "\x01\x01"s + srgb_icc(); // the first of one
    return "\xFF\xE2"s + big_endian(std::uint32_t(body.size() + 2)).substr(2) + body;
}

}

std::string png_with_profile(const std::string& png)
{
    static const std::string chunk = made_chunk();
    constexpr std::size_t behind_header = 8 + 25; // signature, IHDR
    return png.size() < behind_header ? png : png.substr(0, behind_header) + chunk + png.substr(behind_header);
}

std::string jpeg_with_profile(const std::string& jpeg)
{
    static const std::string segment = made_segment();
    // Behind JFIF's own segment, which comes first (ITU-T T.871).
    std::size_t at = 2;
    if (jpeg.size() > 6 && jpeg[2] == '\xFF' && jpeg[3] == '\xE0')
        at = 4 + std::size_t(std::uint8_t(jpeg[4])) * 256 + std::uint8_t(jpeg[5]);
    return at > jpeg.size() ? jpeg : jpeg.substr(0, at) + segment + jpeg.substr(at);
}

}
