#pragma once
#include "core/base/job.h"
#include "core/time/rate.h"

#include <opencv2/core/types.hpp>

#include <filesystem>

namespace frenlo {

/// What a film or loop on disk really holds, decoded from its first frame to its last.
struct ReadBack
{
    std::int64_t frames = 0;
    cv::Size size;
    Seconds length; ///< the sum of what the frames last
};

/// Throws Failure where the file cannot be read to its end.
ReadBack read_back(const std::filesystem::path& file, const Job& job);

}
