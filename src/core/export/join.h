#pragma once
#include "core/base/job.h"
#include "core/time/rate.h"

#include <opencv2/core/types.hpp>

#include <filesystem>
#include <span>

namespace frenlo {

/// What became of pieces.
struct Joined
{
    std::int64_t frames = 0;
    Rate rate{24};
    cv::Size size;
    std::uintmax_t bytes = 0;
};

/// Pieces of one film (ExportOrder::part), in their order, into one file without encoding them again: the same frames
/// at the same times as exported in one go, and of lossless formats the same bits. Pieces that were made with other
/// settings are refused. The file is read back. Throws Failure, Stopped.
Joined join_pieces(std::span<const std::filesystem::path> pieces, const std::filesystem::path& target, bool overwrite,
                   const Job& job);

}
