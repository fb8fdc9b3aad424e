#include "tests/support/dng.h"

#include "core/source/decode.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <stdexcept>
#include <tiffio.h>
#include <vector>

namespace frenlo::test {

void write_dng(const std::filesystem::path& file, const cv::Mat3f& light, const cv::Vec3f& neutral, int orientation,
               const cv::Mat3b& preview)
{
    std::filesystem::create_directories(file.parent_path());
    const std::unique_ptr<TIFF, void (*)(TIFF*)> tiff(TIFFOpen(file.c_str(), "w"), TIFFClose);
    TIFF* t = tiff.get();
    if (!t)
        throw std::runtime_error("the DNG cannot be written");
    constexpr float black = 512, white = 16'383;
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, light.cols);
    TIFFSetField(t, TIFFTAG_IMAGELENGTH, light.rows);
    TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 16);
    TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 1);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_CFA);
    TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_NONE);
    TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, light.rows);
    TIFFSetField(t, TIFFTAG_ORIENTATION, orientation);
    TIFFSetField(t, TIFFTAG_SUBFILETYPE, 0);
    TIFFSetField(t, TIFFTAG_MAKE, "Quayside");
    TIFFSetField(t, TIFFTAG_MODEL, "Quayside R1");
    TIFFSetField(t, TIFFTAG_UNIQUECAMERAMODEL, "Quayside R1");
    TIFFSetField(t, TIFFTAG_DNGVERSION, "\1\4\0\0");
    TIFFSetField(t, TIFFTAG_DNGBACKWARDVERSION, "\1\4\0\0");
    const std::array<std::uint16_t, 2> repeat{2, 2};
    TIFFSetField(t, TIFFTAG_CFAREPEATPATTERNDIM, repeat.data());
    TIFFSetField(t, TIFFTAG_CFAPATTERN, 4, "\0\1\1\2"); // R G, G B
    const std::array<float, 1> black_level{black};
    TIFFSetField(t, TIFFTAG_BLACKLEVEL, 1, black_level.data());
    const std::array<std::uint32_t, 1> white_level{std::uint32_t(white)};
    TIFFSetField(t, TIFFTAG_WHITELEVEL, 1, white_level.data());
    // The camera sees BT.709: X Y Z (D65) to its colours, IEC 61966-2-1.
    const std::array<float, 9> matrix{3.2406F, -1.5372F, -0.4986F, -0.9689F, 1.8758F,
                                      0.0415F, 0.0557F,  -0.2040F, 1.0570F};
    TIFFSetField(t, TIFFTAG_COLORMATRIX1, 9, matrix.data());
    TIFFSetField(t, TIFFTAG_CALIBRATIONILLUMINANT1, 21); // D65
    const std::array<float, 3> as_shot{neutral[0], neutral[1], neutral[2]};
    TIFFSetField(t, TIFFTAG_ASSHOTNEUTRAL, 3, as_shot.data());
    std::vector<std::uint16_t> line(std::size_t(light.cols));
    for (int y = 0; y < light.rows; ++y) {
        for (int x = 0; x < light.cols; ++x) {
            const int colour = y % 2 + x % 2; // 0 red, 1 green, 2 blue
            const float v = light(y, x)[2 - colour] * neutral[colour];
            line[std::size_t(x)] =
                std::uint16_t(std::lround(std::min(1.0F, std::max(0.0F, v)) * (white - black) + black));
        }
        TIFFWriteScanline(t, line.data(), std::uint32_t(y), 0);
    }
    if (preview.empty())
        return;
    TIFFWriteDirectory(t);
    std::string jpeg = encode_jpeg(preview, 90);
    TIFFSetField(t, TIFFTAG_SUBFILETYPE, FILETYPE_REDUCEDIMAGE);
    TIFFSetField(t, TIFFTAG_IMAGEWIDTH, preview.cols);
    TIFFSetField(t, TIFFTAG_IMAGELENGTH, preview.rows);
    TIFFSetField(t, TIFFTAG_BITSPERSAMPLE, 8);
    TIFFSetField(t, TIFFTAG_SAMPLESPERPIXEL, 3);
    TIFFSetField(t, TIFFTAG_PHOTOMETRIC, PHOTOMETRIC_YCBCR);
    TIFFSetField(t, TIFFTAG_COMPRESSION, COMPRESSION_JPEG);
    TIFFSetField(t, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    TIFFSetField(t, TIFFTAG_ROWSPERSTRIP, preview.rows);
    TIFFWriteRawStrip(t, 0, jpeg.data(), tmsize_t(jpeg.size()));
}

}
