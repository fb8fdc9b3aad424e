#include "demo/camera.h"

#include "core/base/atomic_file.h"
#include "core/source/decode.h"
#include "core/source/photo_file.h"
#include "demo/demo.h"

#include <exiv2/exiv2.hpp>
#include <opencv2/imgproc.hpp>

#include <cmath>

namespace frenlo::demo {

cv::Matx33d Truth::matrix() const
{
    const double a = turn_degrees * CV_PI / 180;
    const double cx = (photo_size.width - 1) / 2.0, cy = (photo_size.height - 1) / 2.0;
    const double c = std::cos(a), s = std::sin(a);
    return {c, -s, cx - c * cx + s * cy + shift_x, s, c, cy - s * cx - c * cy + shift_y, 0, 0, 1};
}

namespace {

const std::vector<std::uint8_t>& srgb_table()
{
    static const std::vector<std::uint8_t> table = [] {
        std::vector<std::uint8_t> t(4096);
        for (std::size_t i = 0; i < t.size(); ++i) {
            const double v = double(i) / double(t.size() - 1);
            const double e = v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055; // IEC 61966-2-1
            t[i] = static_cast<std::uint8_t>(std::lround(e * 255));
        }
        return t;
    }();
    return table;
}

/// Noise of standard deviation 1, made once: each photo takes it from another place, turned round or not.
const cv::Mat3f& much_noise()
{
    constexpr int more = 512;
    static const cv::Mat3f noise = [] {
        cv::Mat3f made(photo_size + cv::Size(more, more));
        cv::RNG(20'310'412).fill(made, cv::RNG::NORMAL, 0, 1);
        return made;
    }();
    return noise;
}

cv::Mat3b developed(const cv::Mat3f& light, float gain, std::uint64_t seed)
{
    cv::RNG rng(seed);
    const cv::Mat3f& much = much_noise();
    const cv::Point from(rng.uniform(0, much.cols - light.cols + 1), rng.uniform(0, much.rows - light.rows + 1));
    const float sign = rng.uniform(0, 2) == 0 ? 1.0F : -1.0F;
    const auto& table = srgb_table();
    const float top = float(table.size() - 1);
    cv::Mat3b out(light.size());
    cv::parallel_for_({0, light.rows}, [&](const cv::Range& rows) {
        std::vector<float> codes(std::size_t(light.cols) * 3);
        for (int row = rows.start; row < rows.end; ++row) {
            const float* const l = light.ptr<float>(row);
            const float* const n = much.ptr<float>(row + from.y) + std::ptrdiff_t(from.x) * 3;
            for (std::size_t i = 0; i < codes.size(); ++i) {
                const float v = std::max(0.0F, l[i] * gain);
                const float exposed =
                    v + sign * n[i] * (0.0012F + 0.011F * std::sqrt(v)); // read noise and photon noise
                codes[i] = std::min(std::max(exposed, 0.0F), 1.0F) * top;
            }
            auto* const to = out.ptr<std::uint8_t>(row);
            for (std::size_t i = 0; i < codes.size(); ++i)
                to[i] = table[std::size_t(codes[i])];
        }
    });
    return out;
}

Exiv2::ExifData exif_for(const Exposure& e, const cv::Mat3b& photo)
{
    const std::string iso_time = CaptureTime{e.captured_us / 1'000'000 * 1'000'000}.text();
    std::string time = iso_time.substr(0, 10) + ' ' + iso_time.substr(11);
    time[4] = time[7] = ':';
    char sub[8];
    std::snprintf(sub, sizeof sub, "%03d", static_cast<int>(e.captured_us / 1000 % 1000));
    Exiv2::ExifData exif;
    exif["Exif.Image.Make"] = "Quayside";
    exif["Exif.Image.Model"] = "Quayside Q1";
    exif["Exif.Image.Orientation"] = std::uint16_t(1);
    exif["Exif.Image.DateTime"] = time;
    exif["Exif.Photo.DateTimeOriginal"] = time;
    exif["Exif.Photo.DateTimeDigitized"] = time;
    exif["Exif.Photo.SubSecTimeOriginal"] = std::string(sub);
    exif["Exif.Photo.ExposureTime"] = Exiv2::URational(1, std::uint32_t(e.shutter_denominator));
    exif["Exif.Photo.FNumber"] = Exiv2::URational(std::uint32_t(e.f_tenths), 10);
    exif["Exif.Photo.ISOSpeedRatings"] = std::uint16_t(e.iso);
    exif["Exif.Photo.PixelXDimension"] = std::uint32_t(photo.cols);
    exif["Exif.Photo.PixelYDimension"] = std::uint32_t(photo.rows);
    cv::Mat small;
    cv::resize(photo, small, {160, 107}, 0, 0, cv::INTER_AREA);
    cv::copyMakeBorder(small, small, 6, 7, 0, 0, cv::BORDER_CONSTANT); // DCF thumbnails are 160x120
    const std::string jpeg = encode_jpeg(small, 80);
    Exiv2::ExifThumb(exif).setJpegThumbnail(reinterpret_cast<const Exiv2::byte*>(jpeg.data()), long(jpeg.size()));
    return exif;
}

}

namespace {

/// Where each pixel of a photo lies in the photo without what its lens did.
cv::Mat2f straight_places(const Lens& lens)
{
    const LensMap map(lens, cv::Size2d(photo_size));
    cv::Mat2f places(photo_size);
    places.forEach([&](cv::Vec2f& p, const int* at) {
        const cv::Point2d there = map.straight({double(at[1]), double(at[0])});
        p = {float(there.x), float(there.y)};
    });
    return places;
}

}

void take(const Scene& scene, const Truth& truth, const Exposure& exposure, std::uint64_t noise_seed,
          const std::filesystem::path& file)
{
    const cv::Matx33d to_scene(1, 0, margin, 0, 1, margin, 0, 0, 1);
    const cv::Matx33d photo_to_scene = to_scene * truth.matrix().inv();
    cv::Mat3f seen;
    if (truth.lens.nothing()) {
        cv::warpAffine(scene, seen, photo_to_scene.get_minor<2, 3>(0, 0), photo_size,
                       cv::INTER_CUBIC | cv::WARP_INVERSE_MAP, cv::BORDER_REFLECT);
    } else {
        static const cv::Mat2f straight = straight_places(truth.lens); // there is one lens
        cv::Mat2f from(photo_size);
        from.forEach([&](cv::Vec2f& p, const int* at) {
            const cv::Vec2f here = straight(at[0], at[1]);
            const cv::Vec3d there = photo_to_scene * cv::Vec3d(double(here[0]), double(here[1]), 1);
            p = {float(there[0]), float(there[1])};
        });
        cv::remap(scene, seen, from, {}, cv::INTER_CUBIC, cv::BORDER_REFLECT);
    }
    write_photo(developed(seen, float(std::exp2(truth.gain_stops + truth.scene_stops)), noise_seed), exposure, file);
}

void write_photo(const cv::Mat3b& photo, const Exposure& exposure, const std::filesystem::path& file)
{
    const std::string jpeg = encode_jpeg(photo, 92);
    const auto image = Exiv2::ImageFactory::open(reinterpret_cast<const Exiv2::byte*>(jpeg.data()), long(jpeg.size()));
    image->setExifData(exif_for(exposure, photo));
    image->writeMetadata();
    Exiv2::BasicIo& io = image->io();
    const auto* bytes = reinterpret_cast<const char*>(io.mmap());
    write_whole_file(file, {bytes, static_cast<std::size_t>(io.size())});
    io.munmap();
}

}
