#include "core/base/input_file.h"
#include "core/source/decoders.h"
#include "core/source/tiff_file.h"
#include "core/source/unmultiplied.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <limits>
#include <vector>

namespace frenlo {

namespace {

/// Four inks (TIFF 6.0, section 16).
bool is_cmyk(TIFF* t, const TiffLayout& l)
{
    std::uint16_t inks = INKSET_CMYK;
    TIFFGetFieldDefaulted(t, TIFFTAG_INKSET, &inks);
    return l.photometric == PHOTOMETRIC_SEPARATED && l.samples == 4 && inks == INKSET_CMYK;
}

/// Grey, R G B or C M Y K, the first two with or without alpha, 8, 16 or 32 bit: taken as stored. Everything else goes
/// through libtiff's own conversion to 8-bit R G B A.
bool is_plain(TIFF* t, const TiffLayout& l)
{
    const bool grey = l.photometric == PHOTOMETRIC_MINISBLACK || l.photometric == PHOTOMETRIC_MINISWHITE;
    const bool known = (grey && l.samples <= 2) ||
                       (l.photometric == PHOTOMETRIC_RGB && (l.samples == 3 || l.samples == 4)) || is_cmyk(t, l);
    std::uint16_t compression = COMPRESSION_NONE;
    TIFFGetFieldDefaulted(t, TIFFTAG_COMPRESSION, &compression);
    return known && (l.bits == 8 || l.bits == 16 || l.bits == 32) && TIFFIsCODECConfigured(compression) != 0;
}

/// Reads all pieces; false where one is missing or damaged, the others stay.
template <class Value>
bool read_plain(TIFF* t, const TiffLayout& l, cv::Mat& pixels)
{
    const bool tiled = TIFFIsTiled(t) != 0;
    std::uint32_t piece_width = std::uint32_t(l.size.width), piece_height = 1;
    if (tiled) {
        TIFFGetField(t, TIFFTAG_TILEWIDTH, &piece_width);
        TIFFGetField(t, TIFFTAG_TILELENGTH, &piece_height);
    } else {
        TIFFGetFieldDefaulted(t, TIFFTAG_ROWSPERSTRIP, &piece_height);
        piece_height = std::min(piece_height, std::uint32_t(l.size.height));
    }
    const tmsize_t piece_bytes = tiled ? TIFFTileSize(t) : TIFFStripSize(t);
    const int in_piece = l.planes ? 1 : l.samples;
    if (piece_width == 0 || piece_height == 0 || piece_bytes <= 0 ||
        std::uint64_t(piece_bytes) > std::uint64_t(4) << 30 ||
        std::uint64_t(piece_bytes) <
            std::uint64_t(piece_width) * piece_height * std::uint64_t(in_piece) * sizeof(Value))
        return false;
    std::vector<Value> piece(std::size_t(piece_bytes) / sizeof(Value) + 1);
    bool whole = true;
    for (int plane = 0; plane < (l.planes ? l.samples : 1); ++plane)
        for (std::uint32_t y = 0; y < std::uint32_t(l.size.height); y += piece_height)
            for (std::uint32_t x = 0; x < std::uint32_t(l.size.width); x += piece_width) {
                const tmsize_t read = tiled ? TIFFReadEncodedTile(t, TIFFComputeTile(t, x, y, 0, std::uint16_t(plane)),
                                                                  piece.data(), piece_bytes)
                                            : TIFFReadEncodedStrip(t, TIFFComputeStrip(t, y, std::uint16_t(plane)),
                                                                   piece.data(), piece_bytes);
                if (read < 0) {
                    whole = false;
                    continue;
                }
                const int rows = std::min(int(piece_height), l.size.height - int(y)),
                          columns = std::min(int(piece_width), l.size.width - int(x));
                for (int r = 0; r < rows; ++r) {
                    const Value* from = piece.data() + std::size_t(r) * piece_width * std::size_t(in_piece);
                    Value* to = pixels.ptr<Value>(int(y) + r) + std::size_t(x) * std::size_t(l.samples) + plane;
                    if (!l.planes)
                        std::copy_n(from, std::size_t(columns) * std::size_t(l.samples), to);
                    else
                        for (int c = 0; c < columns; ++c)
                            to[std::size_t(c) * std::size_t(l.samples)] = from[c];
                }
            }
    return whole;
}

/// As unmultiply<>, of what the pixels are made.
void unmultiply_any(cv::Mat& bgra)
{
    if (bgra.depth() == CV_32F)
        bgra.forEach<cv::Vec4f>([](cv::Vec4f& p, const int*) {
            for (int c = 0; c < 3 && p[3] > 0; ++c)
                p[c] /= p[3];
        });
    else
        bgra.depth() == CV_16U ? unmultiply<std::uint16_t>(bgra) : unmultiply<std::uint8_t>(bgra);
}

/// Whole numbers of 32 bits, which stand where floats would: the 16 that a photo has use for.
cv::Mat upper_half(const cv::Mat& numbers)
{
    cv::Mat half(numbers.size(), CV_MAKETYPE(CV_16U, numbers.channels()));
    for (int y = 0; y < half.rows; ++y) {
        const auto* from = numbers.ptr<std::uint32_t>(y);
        auto* to = half.ptr<std::uint16_t>(y);
        for (int i = 0; i < half.cols * half.channels(); ++i)
            to[i] = std::uint16_t(from[i] >> 16U);
    }
    return half;
}

void to_bgr(cv::Mat& m, const TiffLayout& l)
{
    if (l.photometric == PHOTOMETRIC_MINISWHITE) { // of the grey, not of alpha
        std::vector<cv::Mat> channels;
        cv::split(m, channels);
        cv::bitwise_not(channels[0], channels[0]);
        cv::merge(channels, m);
    }
    if (l.samples == 2) {
        std::array<cv::Mat, 2> c;
        cv::split(m, c.data());
        cv::merge(std::array{c[0], c[0], c[0], c[1]}.data(), 4, m);
    } else if (l.samples == 1) {
        cv::cvtColor(m, m, cv::COLOR_GRAY2BGR);
    } else {
        cv::cvtColor(m, m, l.samples == 4 ? cv::COLOR_RGBA2BGRA : cv::COLOR_RGB2BGR);
    }
}

/// By libtiff: palettes, CMYK, Y'CbCr, black and white. Colours come multiplied by alpha.
bool read_converted(TIFF* t, const TiffLayout& l, cv::Mat& pixels)
{
    std::array<char, 1024> message{};
    TIFFRGBAImage image = {};
    if (TIFFRGBAImageBegin(&image, t, 0, message.data()) == 0)
        return false;
    image.orientation = image.req_orientation = ORIENTATION_TOPLEFT; // as stored: who decodes turns it
    pixels = cv::Mat::zeros(l.size, CV_8UC4);
    const bool whole = TIFFRGBAImageGet(&image, pixels.ptr<std::uint32_t>(), std::uint32_t(l.size.width),
                                        std::uint32_t(l.size.height)) != 0;
    TIFFRGBAImageEnd(&image);
    cv::cvtColor(pixels, pixels, l.alpha == TiffAlpha::none ? cv::COLOR_RGBA2BGR : cv::COLOR_RGBA2BGRA);
    if (l.alpha != TiffAlpha::none)
        unmultiply<std::uint8_t>(pixels);
    return whole;
}

}

namespace {

SourceColours profile_in(const TiffFile& tiff)
{
    SourceColours colours;
    std::uint32_t length = 0;
    const char* profile = nullptr;
    if (TIFFGetField(tiff.get(), TIFFTAG_ICCPROFILE, &length, &profile) != 0 && profile)
        colours.icc.assign(profile, length);
    return colours;
}

/// The picture that the file is set to. bytes: of the file.
Result<DecodedPhoto> decode_page(const TiffFile& tiff, std::uint64_t bytes, const std::filesystem::path& file)
{
    const TiffLayout l = layout_of(tiff);
    if (const std::string why = l.unreadable(); !why.empty())
        return problem("the photo cannot be read: " + why, file, "Write it out again with 8 or 16 bits a channel");
    if (auto too_large = size_problem(l.size, file))
        return tl::unexpected(std::move(*too_large));
    if (auto lie = claim_problem(l.size, bytes, file))
        return tl::unexpected(std::move(*lie));
    cv::Mat pixels;
    bool whole = false;
    if (is_plain(tiff.get(), l)) {
        pixels = cv::Mat::zeros(l.size, CV_MAKETYPE(l.bits == 32 ? CV_32F : l.bits == 16 ? CV_16U : CV_8U, l.samples));
        whole = l.bits == 32   ? read_plain<std::uint32_t>(tiff.get(), l, pixels)
                : l.bits == 16 ? read_plain<std::uint16_t>(tiff.get(), l, pixels)
                               : read_plain<std::uint8_t>(tiff.get(), l, pixels);
        if (l.bits == 32 && l.sample_format != SAMPLEFORMAT_IEEEFP)
            pixels = upper_half(pixels);
        if (is_cmyk(tiff.get(), l)) {
            if (!whole && l.end <= bytes)
                return unreadable(tiff.error().empty() ? "it is damaged" : tiff.error(), file);
            return DecodedPhoto{cmyk_into_srgb(pixels, profile_in(tiff)), whole ? "" : cut_off_flaw, SourceColours()};
        }
        to_bgr(pixels, l);
        if (l.alpha == TiffAlpha::associated)
            unmultiply_any(pixels);
    } else {
        whole = read_converted(tiff.get(), l, pixels);
        if (pixels.empty())
            return unreadable(tiff.error().empty() ? "this kind of TIFF is not known" : tiff.error(), file);
    }
    const bool cut = l.end > bytes;
    if (!whole && !cut)
        return unreadable(tiff.error().empty() ? "it is damaged" : tiff.error(), file);
    return DecodedPhoto{pixels, whole ? "" : cut_off_flaw};
}

Result<DecodedPhoto> decode_tiff(std::string_view bytes, cv::Size, const std::filesystem::path& file)
{
    const TiffFile tiff(bytes);
    if (!tiff.open())
        return unreadable(tiff.error(), file);
    return decode_page(tiff, bytes.size(), file);
}

/// The pages of a TIFF that has several; smaller copies and masks of others are none (TIFF 6.0, NewSubfileType).
class TiffPages : public MovingFile
{
public:
    explicit TiffPages(std::filesystem::path file) : file_(std::move(file)), tiff_(file_)
    {
        if (!tiff_.open())
            throw Failure(unreadable(tiff_.error(), file_).value());
        const auto stamp = stamp_of(file_);
        bytes_ = stamp ? stamp->bytes : 0;
        const auto count = std::min<std::int64_t>(TIFFNumberOfDirectories(tiff_.get()), 65'535);
        for (std::int64_t i = 0; i < count; ++i) {
            if (TIFFSetDirectory(tiff_.get(), tdir_t(i)) == 0)
                break;
            std::uint32_t kind = 0;
            TIFFGetField(tiff_.get(), TIFFTAG_SUBFILETYPE, &kind);
            const TiffLayout layout = layout_of(tiff_);
            if ((kind & (FILETYPE_REDUCEDIMAGE | FILETYPE_MASK)) != 0 || !layout.unreadable().empty())
                continue;
            if (pages_.empty())
                first_ = layout; // a camera's thumbnail may say nothing of its kind
            else if (layout.size.width * 2 < first_.size.width || layout.size.height * 2 < first_.size.height)
                continue;
            pages_.push_back(tdir_t(i));
        }
        if (pages_.empty())
            throw Failure(unreadable("there is no page in it that can be read", file_).value());
    }
    [[nodiscard]] cv::Size size() const override { return first_.size; }
    [[nodiscard]] bool alpha() const override { return first_.alpha != TiffAlpha::none; }
    PictureTimes times() override
    {
        PictureTimes t; // a TIFF says no times
        t.count = std::int64_t(pages_.size());
        return t;
    }
    DecodedPhoto picture(const WhichPicture& which) override
    {
        if (which.number >= std::int64_t(pages_.size()) ||
            TIFFSetDirectory(tiff_.get(), pages_[std::size_t(which.number)]) == 0)
            throw Failure(unreadable("this page of it is missing", file_).value());
        DecodedPhoto page = value_or_throw(decode_page(tiff_, bytes_, file_));
        if (!page.colours)
            page.colours = profile_in(tiff_);
        last_ = which.number;
        return page;
    }
    DecodedPhoto following() override { return picture({last_ + 1}); }

private:
    std::filesystem::path file_;
    TiffFile tiff_;
    std::uint64_t bytes_ = 0;
    std::vector<tdir_t> pages_;
    TiffLayout first_;
    std::int64_t last_ = -1;
};

std::unique_ptr<MovingFile> open_pages(const std::filesystem::path& file)
{
    return std::make_unique<TiffPages>(file);
}

/// What a TIFF's directory says of its pixels; why they cannot be read, where they cannot.
std::string look_into_tiff(PhotoFile& photo, bool size_known)
{
    const TiffFile tiff(photo.file);
    if (!tiff.open())
        return "it is damaged or cut off";
    const TiffLayout layout = layout_of(tiff);
    photo.alpha = layout.alpha != TiffAlpha::none;
    if (!size_known) // Exiv2 does not read BigTIFF
        photo.size = layout.size;
    if (layout.end > photo.bytes)
        return cut_off_flaw;
    return layout.unreadable();
}

}

Decoder tiff_decoder()
{
    using namespace std::string_view_literals;
    return {.format = PhotoFormat::tiff,
            .name = "TIFF",
            .endings = {".tif", ".tiff"},
            .knows =
                [](std::string_view first) { // and BigTIFF
                    return first.starts_with("II*\0"sv) || first.starts_with("MM\0*"sv) ||
                           first.starts_with("II+\0"sv) || first.starts_with("MM\0+"sv);
                },
            .decode = decode_tiff,
            .look_into = look_into_tiff, // its strips may stand anywhere, and its directory says of alpha
            .open = open_pages,
            .may_move = [](std::string_view) { return true; }};
}

}
