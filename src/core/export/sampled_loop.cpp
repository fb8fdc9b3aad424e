#include "core/export/sampled_loop.h"

#include <opencv2/imgproc.hpp>

#include <cmath>
#include <cstdint>
#include <utility>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr int strip = 8;  ///< rows
constexpr int apart = 48; ///< rows from one of them to the next

/// Takes a film's pictures in order, each in strips, one below the other. Nothing is written.
class Taking : public FrameSink
{
public:
    std::vector<cv::Mat> pictures;

    [[nodiscard]] PreparedPicture prepare(cv::Mat picture) const override
    {
        std::vector<cv::Mat> strips;
        for (int y = (apart - strip) / 2; y + strip <= picture.rows; y += apart)
            strips.push_back(picture.rowRange(y, y + strip));
        cv::Mat all;
        cv::vconcat(strips, all);
        return {all, {}};
    }
    void write(const PreparedPicture& picture, FrameIndex, FrameIndex, const Job& job) override
    {
        job.check();
        pictures.push_back(picture.picture);
    }
    void finish() override {}
};

}

SampledLoop::SampledLoop(std::vector<cv::Mat> pictures, std::vector<FrameRange> runs, const Writing& whole,
                         fs::path folder)
    : pictures_(std::move(pictures)), runs_(std::move(runs)), size_(whole.size), rate_(whole.rate), alpha_(whole.alpha),
      folder_(std::move(folder))
{
}

std::unique_ptr<const SampledLoop> SampledLoop::of(Filming& filming, const Writing& whole, fs::path folder,
                                                   const Job& job)
{
    constexpr double fewest = 2e6, most = 1.2e9; // pixels of all pictures
    const double pixels = double(whole.size.area()) * double(filming.runs.size());
    if (format_of(*whole.preset).kind != Format::Kind::loop || whole.size.height < 4 * apart || pixels < fewest ||
        pixels > most)
        return nullptr;
    Taking taking;
    filming.run(taking);
    job.check();
    return std::unique_ptr<const SampledLoop>(
        new SampledLoop(std::move(taking.pictures), filming.runs, whole, std::move(folder)));
}

double SampledLoop::bytes(const Preset& preset, cv::Size size, const Job& job) const
{
    const Format& format = format_of(preset);
    const double by = double(size.width) / double(size_.width);
    const cv::Size taken = pictures_.front().size();
    const cv::Size small = by == 1 ? taken : cv::Size(size.width, std::max(2, int(std::lround(taken.height * by))));
    // Of no other one, in this process either.
    const std::string name = "frenlo-size-" + std::to_string(reinterpret_cast<std::uintptr_t>(this));
    const AtomicFile file(folder_ / (name + std::string(format.ending())), Noted::yes);
    Writing writing{.file = &file, .size = small, .rate = rate_, .runs = runs_, .preset = &preset};
    writing.alpha = alpha_;
    writing.palette = &palette_;
    const auto sink = format.writer(writing);
    for (int pass = 0; pass < sink->passes(); ++pass) {
        sink->begin_pass(pass);
        for (std::size_t n = 0; n < runs_.size(); ++n) {
            cv::Mat picture = pictures_[n];
            if (by != 1)
                cv::resize(picture, picture, small, 0, 0, cv::INTER_AREA);
            sink->write(sink->prepare(std::move(picture)), runs_[n].begin, runs_[n].end, job);
        }
    }
    sink->finish();
    // Runs of colours begin anew in each picture, and in small ones they stay short: that was 6 to 10 percent of all of
    // it.
    const double longer_runs = format.colours ? 0.907 : 1;
    return longer_runs * double(fs::file_size(file.path())) * double(size_.height) / double(taken.height);
}

}
