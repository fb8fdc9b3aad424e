#pragma once
// Private to photo/: TIFF (revision 6.0, 1992) and BigTIFF through libtiff, which is kept from printing.
#include <opencv2/core/mat.hpp>

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>
#include <tiffio.h>

namespace frenlo {

/// A TIFF that is open for reading.
class TiffFile
{
public:
    /// From memory, which must outlive this.
    explicit TiffFile(std::string_view bytes);
    explicit TiffFile(const std::filesystem::path& file);

    [[nodiscard]] bool open() const { return tiff_ != nullptr; }
    [[nodiscard]] TIFF* get() const { return tiff_.get(); }
    /// What libtiff said last; empty where nothing went wrong.
    [[nodiscard]] const std::string& error() const { return *error_; }

private:
    struct Close
    {
        void operator()(TIFF* t) const { TIFFClose(t); }
    };
    struct Memory
    {
        std::string_view bytes;
        std::uint64_t at = 0;
    };

    std::unique_ptr<std::string> error_ = std::make_unique<std::string>();
    std::unique_ptr<Memory> memory_;
    std::unique_ptr<TIFF, Close> tiff_;
};

enum class TiffAlpha
{
    none,
    associated,
    unassociated
};

/// How the pixels of the first picture are stored.
struct TiffLayout
{
    cv::Size size;
    int bits = 1;
    int samples = 1;
    int sample_format = SAMPLEFORMAT_UINT;
    int photometric = PHOTOMETRIC_MINISBLACK;
    bool planes = false; ///< each channel by itself
    TiffAlpha alpha = TiffAlpha::none;
    std::uint64_t end = 0; ///< the byte after the last one that pixels stand in
    /// Why such pixels cannot be read, for people; empty where they can.
    [[nodiscard]] std::string unreadable() const;
};
TiffLayout layout_of(const TiffFile& tiff);

}
