#include "core/source/open_files.h"

#include "core/source/colour_profile.h"
#include "core/source/decoders.h"
#include "core/source/moving_file.h"
#include "core/source/transfer.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>

namespace frenlo {

struct OpenFiles::Opened
{
    std::filesystem::path file;
    FileStamp stamp;
    std::mutex busy;
    std::unique_ptr<MovingFile> moving;
};

OpenFiles::OpenFiles() = default;
OpenFiles::~OpenFiles() = default;

std::shared_ptr<OpenFiles::Opened> OpenFiles::opened(const PhotoFile& photo)
{
    constexpr std::size_t most_open = 4;
    const FileStamp stamp{photo.bytes, photo.modified_ns};
    const std::scoped_lock lock(mutex_);
    const auto found = std::find_if(opened_.begin(), opened_.end(),
                                    [&](const auto& o) { return o->file == photo.file && o->stamp == stamp; });
    if (found != opened_.end()) {
        opened_.splice(opened_.begin(), opened_, found);
    } else {
        auto fresh = std::make_shared<Opened>();
        fresh->file = photo.file;
        fresh->stamp = stamp;
        opened_.push_front(std::move(fresh));
        if (opened_.size() > most_open)
            opened_.pop_back();
    }
    return opened_.front();
}

namespace {

/// Adds the light of pixels to a sum in floats.
template <class Value>
void add_light(cv::Mat& sum, const cv::Mat& pixels)
{
    const auto& linear = linear_table<Value>();
    const int channels = pixels.channels();
    const float alpha_scale = 1.0F / float(linear.size() - 1);
    tbb::parallel_for(0, pixels.rows, [&](int y) {
        const auto* from = pixels.ptr<Value>(y);
        auto* to = sum.ptr<float>(y);
        for (int i = 0; i < pixels.cols * channels; ++i)
            to[i] += channels == 4 && i % 4 == 3 ? float(from[i]) * alpha_scale : linear[from[i]];
    });
}

void add_light(cv::Mat& sum, const cv::Mat& pixels)
{
    if (sum.empty())
        sum = cv::Mat::zeros(pixels.size(), CV_MAKETYPE(CV_32F, pixels.channels()));
    if (pixels.type() == sum.type())
        sum += pixels;
    else if (pixels.depth() == CV_16U)
        add_light<std::uint16_t>(sum, pixels);
    else
        add_light<std::uint8_t>(sum, pixels);
}

}

DecodedPhoto OpenFiles::picture(const PhotoFile& photo)
{
    const auto file = opened(photo);
    const std::scoped_lock lock(file->busy);
    if (!file->moving) {
        const Decoder* decoder = decoder_of(photo.format);
        const auto stamp = stamp_of(photo.file);
        const bool known = photo.bytes != 0 || photo.modified_ns != 0;
        if (!stamp)
            throw Failure({"the file is missing", photo.file, "Bring it back to this place"});
        if (known && *stamp != file->stamp)
            throw Failure({"the file was changed on the disk since it was brought in", photo.file,
                           "Open the project again to take it as it is now"});
        if (!decoder || !decoder->open)
            throw Failure({"this file has one picture only", photo.file, "Bring it in again"});
        file->moving = decoder->open(photo.file);
    }
    DecodedPhoto first = file->moving->picture({photo.picture, photo.stamp});
    into_srgb(first.pixels, first.colours.value_or(SourceColours()));
    if (photo.averaged <= 1)
        return first;
    DecodedPhoto mean;
    mean.flaw = first.flaw;
    add_light(mean.pixels, first.pixels);
    for (std::int64_t i = 1; i < photo.averaged; ++i) {
        DecodedPhoto next = file->moving->following();
        into_srgb(next.pixels, next.colours.value_or(SourceColours()));
        if (next.pixels.type() != first.pixels.type() || next.pixels.size() != first.pixels.size())
            throw Failure({"its pictures differ in size or kind and cannot be averaged", photo.file,
                           "Take them without averaging"});
        add_light(mean.pixels, next.pixels);
    }
    mean.pixels *= 1.0 / double(photo.averaged);
    return mean;
}

}
