#include "core/source/tiff_file.h"

#include <algorithm>
#include <array>
#include <cstdarg>
#include <cstdio>
#include <cstring>

namespace frenlo {

namespace {

int keep_error(TIFF*, void* user, const char*, const char* format, va_list arguments)
{
    std::array<char, 256> text{};
    std::vsnprintf(text.data(), text.size(), format, arguments);
    *static_cast<std::string*>(user) = text.data();
    return 1; // dealt with: nothing is printed
}

int no_warning(TIFF*, void*, const char*, const char*, va_list)
{
    return 1;
}

struct FreeOptions
{
    void operator()(TIFFOpenOptions* o) const { TIFFOpenOptionsFree(o); }
};

std::unique_ptr<TIFFOpenOptions, FreeOptions> quiet_options(std::string& error)
{
    std::unique_ptr<TIFFOpenOptions, FreeOptions> options(TIFFOpenOptionsAlloc());
    TIFFOpenOptionsSetErrorHandlerExtR(options.get(), keep_error, &error);
    TIFFOpenOptionsSetWarningHandlerExtR(options.get(), no_warning, nullptr);
    return options;
}

int whole(TIFF* t, std::uint32_t tag, int otherwise)
{
    std::uint16_t value = 0;
    return TIFFGetFieldDefaulted(t, tag, &value) == 1 ? value : otherwise;
}

/// The byte after the last of all strips or tiles.
std::uint64_t end_of_pixels(TIFF* t)
{
    const std::uint32_t pieces = TIFFIsTiled(t) != 0 ? TIFFNumberOfTiles(t) : TIFFNumberOfStrips(t);
    std::uint64_t end = 0;
    for (std::uint32_t i = 0; i < pieces; ++i) {
        const std::uint64_t from = TIFFGetStrileOffset(t, i), count = TIFFGetStrileByteCount(t, i);
        end = std::max(end, from + std::min(count, ~std::uint64_t(0) - from));
    }
    return end;
}

}

TiffFile::TiffFile(std::string_view bytes) : memory_(std::make_unique<Memory>(Memory{bytes}))
{
    const auto read = [](thandle_t h, void* to, tmsize_t count) -> tmsize_t {
        auto& m = *static_cast<Memory*>(h);
        const auto n = std::min<std::uint64_t>(std::uint64_t(std::max<tmsize_t>(0, count)),
                                               m.at < m.bytes.size() ? m.bytes.size() - m.at : 0);
        std::memcpy(to, m.bytes.data() + (n > 0 ? m.at : 0), n);
        m.at += n;
        return tmsize_t(n);
    };
    const auto seek = [](thandle_t h, toff_t to, int from) -> toff_t {
        auto& m = *static_cast<Memory*>(h);
        return m.at = from == SEEK_SET ? to : from == SEEK_CUR ? m.at + to : m.bytes.size() + to;
    };
    const auto size = [](thandle_t h) -> toff_t { return static_cast<Memory*>(h)->bytes.size(); };
    const auto no_write = [](thandle_t, void*, tmsize_t) -> tmsize_t { return 0; };
    const auto close = [](thandle_t) { return 0; };
    tiff_.reset(TIFFClientOpenExt("", "rmO", memory_.get(), read, no_write, seek, close, size, nullptr, nullptr,
                                  quiet_options(*error_).get()));
}

TiffFile::TiffFile(const std::filesystem::path& file)
    : tiff_(TIFFOpenExt(file.c_str(), "rmO", quiet_options(*error_).get()))
{
}

TiffLayout layout_of(const TiffFile& file)
{
    TIFF* t = file.get();
    TiffLayout l;
    std::uint32_t width = 0, height = 0;
    TIFFGetField(t, TIFFTAG_IMAGEWIDTH, &width);
    TIFFGetField(t, TIFFTAG_IMAGELENGTH, &height);
    constexpr std::uint32_t most = 1 << 30;
    l.size = {int(std::min(width, most)), int(std::min(height, most))};
    l.bits = whole(t, TIFFTAG_BITSPERSAMPLE, 1);
    l.samples = whole(t, TIFFTAG_SAMPLESPERPIXEL, 1);
    l.sample_format = whole(t, TIFFTAG_SAMPLEFORMAT, SAMPLEFORMAT_UINT);
    l.photometric = whole(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_MINISBLACK);
    l.planes = whole(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG) == PLANARCONFIG_SEPARATE;
    std::uint16_t extras = 0;
    const std::uint16_t* kinds = nullptr;
    TIFFGetFieldDefaulted(t, TIFFTAG_EXTRASAMPLES, &extras, &kinds);
    const int colours = l.photometric == PHOTOMETRIC_RGB || l.photometric == PHOTOMETRIC_YCBCR ? 3
                        : l.photometric == PHOTOMETRIC_SEPARATED                               ? 4
                                                                                               : 1;
    if (l.samples > colours) // one more that nothing is said of is alpha: so do the programs that leave the tag out
        l.alpha = extras > 0 && kinds[0] == EXTRASAMPLE_ASSOCALPHA ? TiffAlpha::associated : TiffAlpha::unassociated;
    l.end = end_of_pixels(t);
    return l;
}

std::string TiffLayout::unreadable() const
{
    if (size.empty())
        return "the picture has no size";
    const bool floats = sample_format == SAMPLEFORMAT_IEEEFP;
    if (!floats && sample_format != SAMPLEFORMAT_UINT && sample_format != SAMPLEFORMAT_VOID)
        return "its values are not plain numbers";
    if (floats && bits != 32)
        return "its values are floating point numbers of " + std::to_string(bits) + " bits, not 32";
    if ((floats || bits == 32) && photometric != PHOTOMETRIC_MINISBLACK && photometric != PHOTOMETRIC_RGB)
        return "its values of 32 bits are neither grey nor red, green and blue";
    if (!floats && bits != 1 && bits != 2 && bits != 4 && bits != 8 && bits != 16 && bits != 32)
        return "it has " + std::to_string(bits) + " bits a channel, which no photo has";
    if (photometric == PHOTOMETRIC_CFA || photometric == 34892) // DNG 1.6: colour filter array, linear raw
        return "it is a raw photo";
    return {};
}

}
