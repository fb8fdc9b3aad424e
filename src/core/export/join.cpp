#include "core/export/join.h"

#include "core/base/atomic_file.h"
#include "core/base/libav.h"
#include "core/export/read_back.h"

#include <algorithm>
#include <cstring>
#include <memory>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

using libav::check;
using libav::Owned;

struct CloseInput
{
    void operator()(AVFormatContext* f) const { avformat_close_input(&f); }
};

/// A piece, open, with its one track of pictures.
struct Piece
{
    fs::path file;
    std::unique_ptr<AVFormatContext, CloseInput> format;
    int index = 0;
    AVRational rate{};

    explicit Piece(fs::path of) : file(std::move(of))
    {
        AVFormatContext* opened = nullptr;
        check(avformat_open_input(&opened, libav::url_of(file).c_str(), nullptr, nullptr), "the piece cannot be read",
              file);
        format.reset(opened);
        check(avformat_find_stream_info(format.get(), nullptr), "the piece cannot be read", file);
        index = check(av_find_best_stream(format.get(), AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0),
                      "there is no film in the piece", file);
        rate = stream().avg_frame_rate;
        if (rate.num <= 0 || rate.den <= 0)
            throw Failure({"the piece does not say its frame rate", file, "Export it again"});
    }
    [[nodiscard]] const AVStream& stream() const { return *format->streams[index]; }
    /// In whole frames of its own start.
    [[nodiscard]] std::int64_t frame_of(std::int64_t ticks) const
    {
        return av_rescale_q_rnd(ticks, stream().time_base, av_inv_q(rate), AV_ROUND_NEAR_INF);
    }
};

bool made_alike(const Piece& a, const Piece& b)
{
    const AVCodecParameters &x = *a.stream().codecpar, &y = *b.stream().codecpar;
    return x.codec_id == y.codec_id && x.width == y.width && x.height == y.height && x.format == y.format &&
           av_cmp_q(a.rate, b.rate) == 0 && x.extradata_size == y.extradata_size &&
           (x.extradata_size == 0 || std::memcmp(x.extradata, y.extradata, std::size_t(x.extradata_size)) == 0);
}

/// The joined file, begun as the first piece is.
class Target
{
public:
    Target(const AtomicFile& file, const Piece& first) : file_(file.target())
    {
        const AVOutputFormat* kind = av_guess_format(nullptr, file_.c_str(), nullptr);
        AVFormatContext* made = nullptr;
        check(avformat_alloc_output_context2(&made, kind, nullptr, libav::url_of(file.path()).c_str()),
              "the file cannot be prepared", file_);
        format_.reset(made);
        stream_ = avformat_new_stream(format_.get(), nullptr);
        if (!stream_)
            throw Failure({"there is too little memory for the file", file_, "Close other programs"});
        check(avcodec_parameters_copy(stream_->codecpar, first.stream().codecpar), "the file cannot be prepared",
              file_);
        if (const auto* tags = format_->oformat->codec_tag;
            tags && av_codec_get_id(tags, stream_->codecpar->codec_tag) != stream_->codecpar->codec_id)
            stream_->codecpar->codec_tag = 0; // of another kind of file
        av_dict_copy(&stream_->metadata, first.stream().metadata, 0);
        stream_->time_base = av_inv_q(first.rate);
        stream_->avg_frame_rate = first.rate;
        AVDictionary* options = nullptr;
        av_dict_set(&options, "movflags", "+faststart", 0);
        check(avio_open(&format_->pb, format_->url, AVIO_FLAG_WRITE), "the file cannot be written", file_);
        const int begun = avformat_write_header(format_.get(), &options);
        av_dict_free(&options);
        check(begun, "the file cannot be written", file_);
    }

    void write(AVPacket& packet, std::int64_t pts, std::int64_t dts, AVRational rate)
    {
        packet.stream_index = stream_->index;
        packet.pos = -1;
        packet.pts = av_rescale_q(pts, av_inv_q(rate), stream_->time_base);
        packet.dts = av_rescale_q(dts, av_inv_q(rate), stream_->time_base);
        packet.duration = av_rescale_q(1, av_inv_q(rate), stream_->time_base);
        check(av_interleaved_write_frame(format_.get(), &packet), "the file cannot be written", file_);
    }

    void finish()
    {
        check(av_write_trailer(format_.get()), "the file cannot be written", file_);
        avio_flush(format_->pb);
        check(format_->pb->error, "the file cannot be written", file_);
        check(avio_closep(&format_->pb), "the file cannot be written", file_);
    }

private:
    fs::path file_;
    Owned<AVFormatContext> format_;
    AVStream* stream_ = nullptr;
};

/// Its frames behind those that are there; how many there are then.
std::int64_t append(Piece& piece, Target& target, std::int64_t frames, const Job& job)
{
    const Owned<AVPacket> packet(av_packet_alloc());
    std::int64_t count = 0;
    for (;;) {
        job.check();
        const int got = av_read_frame(piece.format.get(), packet.get());
        if (got == AVERROR_EOF)
            break;
        check(got, "the piece cannot be read", piece.file);
        if (packet->stream_index == piece.index) {
            // Files without times for decoding, or for showing, keep their frames in order.
            const std::int64_t dts = packet->dts == AV_NOPTS_VALUE ? count : piece.frame_of(packet->dts);
            const std::int64_t pts = packet->pts == AV_NOPTS_VALUE ? dts : piece.frame_of(packet->pts);
            target.write(*packet, frames + pts, frames + dts, piece.rate);
            ++count;
        }
        av_packet_unref(packet.get());
    }
    return frames + count;
}

}

Joined join_pieces(std::span<const fs::path> pieces, const fs::path& target, bool overwrite, const Job& job)
{
    libav::be_quiet();
    if (pieces.empty())
        throw Failure({"there are no pieces to join", target, "Name them in their order"});
    std::error_code ec;
    for (const fs::path& p : pieces)
        if (fs::equivalent(p, target, ec))
            throw Failure({"the file to write is one of the pieces", target, "Choose another name"});
    if (!overwrite && fs::exists(target, ec))
        throw Failure({"the file is there already", target, "Choose another name, or let it be replaced"});
    Joined joined;
    AtomicFile file(target, Noted::yes);
    {
        Piece first(pieces.front());
        joined.rate = Rate(Fraction(first.rate.num, first.rate.den));
        Target out(file, first);
        for (std::size_t i = 0; i < pieces.size(); ++i) {
            job.report(double(i) / double(pieces.size()), "piece " + std::to_string(i + 1));
            Piece piece(pieces[i]);
            if (!made_alike(first, piece))
                throw Failure({"this piece was made with other settings than the first one", pieces[i],
                               "Export all pieces from the same project in the same way"});
            joined.frames = append(piece, out, joined.frames, job);
        }
        out.finish();
    }
    const ReadBack found = read_back(file.path(), job);
    if (found.frames != joined.frames || found.length != length_of(joined.frames, joined.rate))
        throw Failure({"the joined file does not hold what it should: " + std::to_string(found.frames) + " of " +
                           std::to_string(joined.frames) + " frames",
                       target, "Export the pieces again"});
    joined.size = found.size;
    joined.bytes = fs::file_size(file.path(), ec);
    overwrite ? file.commit() : file.commit_new();
    return joined;
}

}
