#include "core/export/sound_track.h"

#include "core/sound/sound_reader.h"

#include <algorithm>
#include <cmath>
#include <string_view>

namespace frenlo {

namespace {

using libav::check;
using libav::Owned;

/// Of stereo; what the encoders' makers call clear for music (common practice, no source).
constexpr std::int64_t bits_a_second = 192'000;
constexpr int depth_of_whole_numbers = 24;

template <class Whole>
Whole whole(float v, int bits)
{
    const double most = std::ldexp(1.0, bits - 1);
    const double n = std::clamp(std::nearbyint(double(v) * most), -most, most - 1);
    return Whole(std::int64_t(n) << (int(sizeof(Whole)) * 8 - bits));
}

void fill(AVFrame& frame, std::span<const float> pairs)
{
    const std::size_t n = pairs.size() / sound_sides;
    switch (frame.format) {
    case AV_SAMPLE_FMT_FLTP:
        for (std::size_t s = 0; s < sound_sides; ++s)
            for (std::size_t i = 0; i < n; ++i)
                reinterpret_cast<float*>(frame.data[s])[i] = pairs[i * sound_sides + s];
        break;
    case AV_SAMPLE_FMT_S16:
        for (std::size_t i = 0; i < pairs.size(); ++i)
            reinterpret_cast<std::int16_t*>(frame.data[0])[i] = whole<std::int16_t>(pairs[i], 16);
        break;
    case AV_SAMPLE_FMT_S32:
        for (std::size_t i = 0; i < pairs.size(); ++i)
            reinterpret_cast<std::int32_t*>(frame.data[0])[i] = whole<std::int32_t>(pairs[i], depth_of_whole_numbers);
        break;
    default:
        std::copy(pairs.begin(), pairs.end(), reinterpret_cast<float*>(frame.data[0]));
    }
}

}

SoundTrack::SoundTrack(libav::Muxer& muxer, const char* encoder, SoundToWrite sound, std::filesystem::path file)
    : track_(muxer.add_track(encoder)), sound_(std::move(sound)), file_(std::move(file))
{
    AVCodecContext& c = track_.context();
    c.sample_rate = sound_rate;
    c.time_base = {1, sound_rate};
    av_channel_layout_default(&c.ch_layout, sound_sides);
    c.bit_rate = bits_a_second;
    c.sample_fmt = c.codec->sample_fmts[0];
    for (const AVSampleFormat* f = c.codec->sample_fmts; *f != AV_SAMPLE_FMT_NONE; ++f)
        if (*f == AV_SAMPLE_FMT_S32) { // more than 16 bits where it can
            c.sample_fmt = *f;
            c.bits_per_raw_sample = depth_of_whole_numbers;
        }
    track_.open();
    if (c.frame_size > 0)
        block_ = c.frame_size;
}

void SoundTrack::write_until(Seconds time)
{
    const std::int64_t end = std::min(sample_at(time), sound_.samples);
    while (at_ + block_ <= end)
        encode(block_);
    if (end == sound_.samples && at_ < end) // encoders take one short block, the last
        encode(end - at_);
}

void SoundTrack::encode(std::int64_t samples)
{
    constexpr const char* no_memory = "there is too little memory for the sound";
    pairs_.resize(std::size_t(samples) * sound_sides);
    sound_.read(at_, pairs_);
    const AVCodecContext& c = track_.context();
    const Owned<AVFrame> frame(av_frame_alloc());
    frame->format = c.sample_fmt;
    frame->nb_samples = int(samples);
    frame->sample_rate = sound_rate;
    check(av_channel_layout_copy(&frame->ch_layout, &c.ch_layout), no_memory, file_);
    check(av_frame_get_buffer(frame.get(), 0), no_memory, file_);
    fill(*frame, pairs_);
    frame->pts = at_;
    track_.encode(*frame);
    at_ += samples;
}

}
