#include "core/source/decoders.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <cstring>
#include <ImfChromaticities.h>
#include <ImfIO.h>
#include <ImfRgbaFile.h>
#include <ImfStandardAttributes.h>

namespace frenlo {

namespace {

/// Bytes in memory as the library reads them. Throws Iex::InputExc at the end, as it asks for.
class InMemory : public Imf::IStream
{
public:
    explicit InMemory(std::string_view bytes) : IStream("photo"), bytes_(bytes) {}
    bool read(char to[], int count) override
    {
        if (count < 0 || std::size_t(count) > bytes_.size() - std::min(at_, bytes_.size()))
            throw IEX_NAMESPACE::InputExc("it is cut off");
        std::memcpy(to, bytes_.data() + at_, std::size_t(count));
        at_ += std::size_t(count);
        return at_ < bytes_.size();
    }
    std::uint64_t tellg() override { return at_; }
    void seekg(std::uint64_t to) override { at_ = to; }

private:
    std::string_view bytes_;
    std::size_t at_ = 0;
};

cv::Size size_of(const Imf::RgbaInputFile& in)
{
    const Imath::Box2i& window = in.dataWindow();
    const auto side = [](int from, int to) {
        return int(std::clamp<std::int64_t>(std::int64_t(to) - from + 1, 0, 1 << 30));
    };
    return {side(window.min.x, window.max.x), side(window.min.y, window.max.y)};
}

/// Of its primaries to those of BT.709, column-wise as the library has it.
cv::Matx33f to_709(const Imf::RgbaInputFile& in)
{
    if (!Imf::hasChromaticities(in.header()))
        return cv::Matx33f::eye();
    const Imath::M44f m = Imf::RGBtoXYZ(Imf::chromaticities(in.header()), 1) * Imf::XYZtoRGB(Imf::Chromaticities(), 1);
    cv::Matx33f t;
    for (int row = 0; row < 3; ++row)
        for (int column = 0; column < 3; ++column)
            t(row, column) = m[column][row];
    return t;
}

Result<DecodedPhoto> decode_exr(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    try {
        InMemory stream(bytes);
        Imf::RgbaInputFile in(stream, 1);
        const cv::Size size = size_of(in);
        if (auto too_large = size_problem(size, file))
            return tl::unexpected(std::move(*too_large));
        if (auto lie = claim_problem(size, bytes.size(), file))
            return tl::unexpected(std::move(*lie));
        const bool alpha = (in.channels() & Imf::WRITE_A) != 0;
        cv::Mat pixels(size, alpha ? CV_32FC4 : CV_32FC3);
        const cv::Matx33f m = to_709(in);
        std::vector<Imf::Rgba> line(std::size_t(size.width));
        const Imath::V2i first = in.dataWindow().min;
        for (int y = 0; y < size.height; ++y) {
            in.setFrameBuffer(line.data() - first.x - std::ptrdiff_t(first.y + y) * size.width, 1,
                              std::size_t(size.width));
            in.readPixels(first.y + y);
            auto* to = pixels.ptr<float>(y);
            for (const Imf::Rgba& p : line) {
                // Colours come multiplied by alpha.
                const float a = p.a, straight = alpha && a > 0 ? 1 / a : 1;
                const cv::Vec3f rgb = m * cv::Vec3f(p.r, p.g, p.b) * straight;
                *to++ = rgb[2];
                *to++ = rgb[1];
                *to++ = rgb[0];
                if (alpha)
                    *to++ = a;
            }
        }
        return DecodedPhoto{pixels, {}};
    } catch (const std::bad_alloc&) {
        throw;
    } catch (const std::exception& e) {
        return unreadable(e.what(), file);
    }
}

std::string look_into_exr(PhotoFile& photo, bool)
{
    try {
        Imf::RgbaInputFile in(photo.file.c_str(), 1);
        photo.size = size_of(in);
        photo.alpha = (in.channels() & Imf::WRITE_A) != 0;
        photo.orientation = 1;
        return in.isComplete() ? "" : "it is cut off";
    } catch (const std::exception& e) {
        return e.what();
    }
}

}

Decoder exr_decoder()
{
    using namespace std::string_view_literals;
    return {.format = PhotoFormat::exr,
            .name = "OpenEXR",
            .endings = {".exr"},
            .knows = [](std::string_view first) { return first.starts_with("\x76\x2F\x31\x01"sv); },
            .decode = decode_exr,
            .look_into = look_into_exr};
}

}
