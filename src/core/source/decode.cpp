#include "core/source/decode.h"

#include "core/base/input_file.h"
#include "core/source/colour_profile.h"
#include "core/source/decoders.h"
#include "core/source/merge_exposures.h"
#include "core/source/open_files.h"
#include "core/source/transfer.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>
#include <new>

namespace frenlo {

namespace {

constexpr std::size_t most_bytes = (std::size_t(1) << 31) - 1;

tl::unexpected<Problem> too_little_memory(const std::filesystem::path& file)
{
    return problem("there is too little memory for the photo", file,
                   "Close other programs, or make a smaller copy of it");
}

cv::Mat in_sixteen_bits(const cv::Mat& linear)
{
    cv::Mat out(linear.size(), CV_MAKETYPE(CV_16U, linear.channels()));
    const int channels = linear.channels();
    tbb::parallel_for(0, linear.rows, [&](int y) {
        const auto* from = linear.ptr<float>(y);
        auto* to = out.ptr<std::uint16_t>(y);
        for (int i = 0; i < linear.cols * channels; ++i)
            to[i] = channels == 4 && i % 4 == 3 ? std::uint16_t(std::lround(std::clamp(from[i], 0.0F, 1.0F) * 65'535))
                                                : encoded_channel<std::uint16_t>(double(from[i]));
    });
    return out;
}

cv::Mat oriented(cv::Mat m, int orientation)
{
    // Exif 2.32, tag Orientation: where row 0 and column 0 of the stored picture are seen.
    cv::Mat out;
    switch (orientation) {
    case 2:
        cv::flip(m, out, 1);
        return out;
    case 3:
        cv::rotate(m, out, cv::ROTATE_180);
        return out;
    case 4:
        cv::flip(m, out, 0);
        return out;
    case 5:
        cv::transpose(m, out);
        return out;
    case 6:
        cv::rotate(m, out, cv::ROTATE_90_CLOCKWISE);
        return out;
    case 7:
        cv::transpose(m, out);
        cv::rotate(out, m, cv::ROTATE_180);
        return m;
    case 8:
        cv::rotate(m, out, cv::ROTATE_90_COUNTERCLOCKWISE);
        return out;
    default:
        return m;
    }
}

}

std::optional<Problem> size_problem(cv::Size stored, const std::filesystem::path& file)
{
    if (std::int64_t(stored.width) * stored.height <= most_pixels)
        return std::nullopt;
    return Problem{"the photo has more than 500 megapixels", file, "Make a smaller copy of it"};
}

std::optional<Problem> claim_problem(cv::Size stored, std::size_t compressed, const std::filesystem::path& file)
{
    constexpr std::size_t most_a_byte = 8'192; // pixels; LZW, the strongest, makes 4,096 of twelve bits
    if (std::size_t(stored.width) * std::size_t(stored.height) / most_a_byte <= compressed)
        return std::nullopt;
    return unreadable("it is much too small for a picture of its size", file).value();
}

tl::unexpected<Problem> unreadable(const std::string& why, const std::filesystem::path& file)
{
    return problem("the photo cannot be read (" + why + ")", file, "Copy it from the card again, or leave it out");
}

Result<DecodedPhoto> decode_bytes(std::string_view bytes, int orientation, cv::Size at_least,
                                  const std::filesystem::path& file, Numbers numbers)
{
    if (bytes.empty())
        return problem("the file is empty", file, "Copy it from the card again, or leave it out");
    const Decoder* decoder = decoder_for(bytes, file);
    if (!decoder)
        return problem("this is not a photo that can be read", file, readable_formats() + " can be");
    if (orientation >= 5)
        std::swap(at_least.width, at_least.height);
    try {
        auto decoded = decoder->decode(bytes, at_least, file);
        if (decoded) // a profile that cannot be used is told when the photo is brought in (inspect.cpp)
            into_srgb(decoded->pixels, decoded->colours ? *decoded->colours : colours_in(bytes), numbers);
        if (decoded && numbers == Numbers::encoded && decoded->pixels.depth() == CV_32F)
            decoded->pixels = in_sixteen_bits(decoded->pixels);
        if (decoded)
            decoded->pixels = oriented(std::move(decoded->pixels), orientation);
        return decoded;
    } catch (const std::bad_alloc&) {
        return too_little_memory(file);
    } catch (const cv::Exception& e) {
        return e.code == cv::Error::StsNoMem ? too_little_memory(file) : unreadable(e.err, file);
    }
}

namespace {

Result<DecodedPhoto> decode_whole(const PhotoFile& photo, cv::Size at_least, Numbers numbers)
{
    InputFile in(photo.file);
    const bool known = photo.bytes != 0 || photo.modified_ns != 0;
    if (known && in.stamp() != FileStamp{photo.bytes, photo.modified_ns})
        return problem("the photo was changed on the disk since it was brought in", photo.file,
                       "Open the project again to take it as it is now");
    if (in.stamp().bytes > most_bytes)
        return problem("the file is larger than 2 GB", photo.file, "Make a smaller copy of it");
    cv::Mat bytes(1, static_cast<int>(in.stamp().bytes),
                  CV_8U); // memory of pictures, for the file too: it is as large as one
    const std::size_t size = in.read(reinterpret_cast<char*>(bytes.data), in.stamp().bytes);
    return decode_bytes({reinterpret_cast<const char*>(bytes.data), size}, photo.orientation, at_least, photo.file,
                        numbers);
}

}

Result<DecodedPhoto> decode(const PhotoFile& photo, cv::Size at_least, Numbers numbers, OpenFiles* files)
{
    try {
        if (!is_on_disk(photo))
            return decode_bytes(photo.drawing, 1, at_least, photo.file, numbers);
        if (!photo.merged.empty())
            return merged_exposures(photo, at_least);
        if (!is_one_of_several(photo))
            return decode_whole(photo, at_least, numbers);
        DecodedPhoto decoded = files ? files->picture(photo) : OpenFiles().picture(photo);
        if (numbers == Numbers::encoded && decoded.pixels.depth() == CV_32F)
            decoded.pixels = in_sixteen_bits(decoded.pixels);
        decoded.pixels = oriented(std::move(decoded.pixels), photo.orientation);
        return decoded;
    } catch (const Failure& failure) {
        return tl::unexpected(failure.problem());
    } catch (const std::exception&) { // of OpenCV and of the library alike: there is nothing else here that can fail
        return too_little_memory(photo.file);
    }
}

}
