#pragma once
// Private to export/: how large a loop's file would be, from a part of each of its pictures.
#include "core/export/filming.h"

#include <filesystem>
#include <memory>
#include <vector>

namespace frenlo {

/// A loop in strips: of each of its pictures a sixth, so that what changes from picture to picture is all there, and
/// files of it in other settings take a sixth of the time.
class SampledLoop
{
public:
    /// Draws all its pictures once; filming keeps them, where it keeps any. Null where they are so few and small that
    /// the files themselves are written as fast, or too many to be held. Throws Failure, Stopped.
    /// folder: where files are tried, and nothing stays: that of the target, which must have room anyway.
    static std::unique_ptr<const SampledLoop> of(Filming& filming, const Writing& whole, std::filesystem::path folder,
                                                 const Job& job);

    /// What the whole file would about take with these settings, its pictures being of that size: off by the same
    /// share, within a few percent, for settings that are alike. One at a time. Throws Failure, Stopped.
    [[nodiscard]] double bytes(const Preset& preset, cv::Size size, const Job& job) const;

private:
    SampledLoop(std::vector<cv::Mat> pictures, std::vector<FrameRange> runs, const Writing& whole,
                std::filesystem::path folder);

    std::vector<cv::Mat> pictures_; ///< of each run, its strips one below the other
    std::vector<FrameRange> runs_;
    cv::Size size_; ///< of whole pictures
    Rate rate_;
    bool alpha_;
    std::filesystem::path folder_;
    mutable KeptPalette palette_; ///< of the last one that was written
};

}
