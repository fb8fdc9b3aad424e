// Stills that keep more than eight bits: TIFF of 16 bit, OpenEXR in linear light.
#include "core/export/deep_stills.h"

#include "core/base/problem.h"
#include "core/source/colour_profile.h"
#include "core/source/transfer.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cstring>
#include <ImfIO.h>
#include <ImfRgbaFile.h>
#include <ImfStandardAttributes.h>
#include <tiffio.h>
#include <vector>

namespace frenlo {

namespace {

/// A file of libtiff's that lies in memory.
struct TiffMemory
{
    std::string bytes;
    toff_t at = 0;

    static tmsize_t read(thandle_t self, void* to, tmsize_t size)
    {
        auto& m = *static_cast<TiffMemory*>(self);
        const auto left = m.at < m.bytes.size() ? tmsize_t(m.bytes.size() - m.at) : 0;
        const tmsize_t n = std::min(size, left);
        std::memcpy(to, m.bytes.data() + m.at, std::size_t(n));
        m.at += toff_t(n);
        return n;
    }
    static tmsize_t write(thandle_t self, void* from, tmsize_t size)
    {
        auto& m = *static_cast<TiffMemory*>(self);
        if (m.bytes.size() < m.at + toff_t(size))
            m.bytes.resize(m.at + toff_t(size));
        std::memcpy(m.bytes.data() + m.at, from, std::size_t(size));
        m.at += toff_t(size);
        return size;
    }
    static toff_t seek(thandle_t self, toff_t to, int whence)
    {
        auto& m = *static_cast<TiffMemory*>(self);
        m.at = whence == SEEK_CUR ? m.at + to : whence == SEEK_END ? m.bytes.size() + to : to;
        return m.at;
    }
    static int close(thandle_t) { return 0; }
    static toff_t size(thandle_t self) { return static_cast<TiffMemory*>(self)->bytes.size(); }
};

struct CloseTiff
{
    void operator()(TIFF* t) const { TIFFClose(t); }
};

/// A file of OpenEXR's that lies in memory.
class ExrMemory : public Imf::OStream
{
public:
    ExrMemory() : Imf::OStream("a still") {}
    void write(const char c[], int n) override
    {
        if (bytes.size() < at_ + std::size_t(n))
            bytes.resize(at_ + std::size_t(n));
        std::memcpy(bytes.data() + at_, c, std::size_t(n));
        at_ += std::size_t(n);
    }
    std::uint64_t tellp() override { return at_; }
    void seekp(std::uint64_t to) override { at_ = std::size_t(to); }

    std::string bytes;

private:
    std::size_t at_ = 0;
};

}

std::string encode_tiff(const cv::Mat& picture)
{
    const bool deep = picture.depth() == CV_16U, alpha = picture.channels() == 4;
    cv::Mat rgb;
    cv::cvtColor(picture, rgb, alpha ? cv::COLOR_BGRA2RGBA : cv::COLOR_BGR2RGB);
    TiffMemory memory;
    {
        const std::unique_ptr<TIFF, CloseTiff> t(TIFFClientOpen("a still", "w", &memory, TiffMemory::read,
                                                                TiffMemory::write, TiffMemory::seek, TiffMemory::close,
                                                                TiffMemory::size, nullptr, nullptr));
        if (!t)
            throw Failure({"a TIFF cannot be made", {}, ""});
        TIFFSetField(t.get(), TIFFTAG_IMAGEWIDTH, std::uint32_t(rgb.cols));
        TIFFSetField(t.get(), TIFFTAG_IMAGELENGTH, std::uint32_t(rgb.rows));
        TIFFSetField(t.get(), TIFFTAG_BITSPERSAMPLE, deep ? 16 : 8);
        TIFFSetField(t.get(), TIFFTAG_SAMPLESPERPIXEL, rgb.channels());
        TIFFSetField(t.get(), TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_RGB);
        TIFFSetField(t.get(), TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
        TIFFSetField(t.get(), TIFFTAG_COMPRESSION, COMPRESSION_LZW);
        TIFFSetField(t.get(), TIFFTAG_PREDICTOR, PREDICTOR_HORIZONTAL);
        constexpr std::uint32_t rows_a_strip = 32;
        TIFFSetField(t.get(), TIFFTAG_ROWSPERSTRIP, rows_a_strip);
        if (alpha) {
            const std::uint16_t kind = EXTRASAMPLE_UNASSALPHA;
            TIFFSetField(t.get(), TIFFTAG_EXTRASAMPLES, 1, &kind);
        }
        static const std::string profile = srgb_icc();
        TIFFSetField(t.get(), TIFFTAG_ICCPROFILE, std::uint32_t(profile.size()), profile.data());
        std::vector<std::uint8_t> row(rgb.cols * rgb.elemSize()); // the predictor works in it
        for (int y = 0; y < rgb.rows; ++y) {
            std::memcpy(row.data(), rgb.ptr(y), row.size());
            if (TIFFWriteScanline(t.get(), row.data(), std::uint32_t(y)) < 0)
                throw Failure({"a TIFF cannot be made", {}, ""});
        }
    }
    return std::move(memory.bytes);
}

std::string encode_exr(const cv::Mat& picture)
{
    const bool alpha = picture.channels() == 4;
    cv::Mat deep = picture;
    if (deep.depth() == CV_8U)
        deep.convertTo(deep, CV_16U, 257);
    const auto& linear = linear_table<std::uint16_t>();
    std::vector<Imf::Rgba> pixels(std::size_t(deep.rows) * std::size_t(deep.cols));
    std::size_t i = 0;
    for (int y = 0; y < deep.rows; ++y) {
        const auto* p = deep.ptr<std::uint16_t>(y);
        for (int x = 0; x < deep.cols; ++x, p += deep.channels()) {
            const float a = alpha ? float(p[3]) / 65'535 : 1;
            pixels[i++] = {linear[p[2]] * a, linear[p[1]] * a, linear[p[0]] * a, a}; // OpenEXR: premultiplied
        }
    }
    ExrMemory memory;
    {
        Imf::Header header(deep.cols, deep.rows);
        header.compression() = Imf::ZIP_COMPRESSION;
        Imf::addChromaticities(header, Imf::Chromaticities()); // Rec. ITU-R BT.709 and D65 are its own
        Imf::RgbaOutputFile out(memory, header, alpha ? Imf::WRITE_RGBA : Imf::WRITE_RGB, 0);
        out.setFrameBuffer(pixels.data(), 1, std::size_t(deep.cols));
        out.writePixels(deep.rows);
    }
    return std::move(memory.bytes);
}

}
