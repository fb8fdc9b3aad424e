#include "core/media/export.h"

#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/document/pace_edits.h"
#include "core/media/frame_sink.h"
#include "core/media/read_back.h"

#include <tbb/global_control.h>
#include <tbb/info.h>
#include <tbb/parallel_pipeline.h>

#include <algorithm>
#include <cmath>
#include <regex>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr int most_film_side = 8192; // H.264, level 6.2; what few players reach

std::string with_number_pattern(const std::string& name, std::int64_t frames)
{
    // Four digits; five where there are more than 9,999 (common practice, no source).
    const int digits = frames > 9'999 ? 5 : 4;
    static const std::regex pattern("%0?([0-9]*)d");
    std::smatch found;
    if (!std::regex_search(name, found, pattern)) {
        const fs::path p(name);
        return p.stem().native() + "_%0" + std::to_string(digits) + 'd' + p.extension().native();
    }
    const int given = found[1].length() > 0 ? std::stoi(found[1]) : 0;
    return found.prefix().str() + "%0" + std::to_string(std::clamp(std::max(given, digits == 5 ? 5 : given), 1, 9)) + 'd' +
           found.suffix().str();
}

cv::Size planned_size(const Shot& shot, const Preset& preset)
{
    const cv::Size natural = film_size(shot);
    if (preset.size && preset.size->width > 0 && preset.size->height > 0)
        return *preset.size;
    if (preset.size && (preset.size->width > 0 || preset.size->height > 0)) { // one side is given, the other follows
        constexpr int any = 1 << 20;
        return fitted(natural, {preset.size->width > 0 ? preset.size->width : any,
                                preset.size->height > 0 ? preset.size->height : any});
    }
    return preset.long_side > 0 ? within_side(natural, preset.long_side) : natural;
}

/// What such pictures take, measured once on photo-like material. Held pictures cost a film next to nothing.
std::uintmax_t estimate(const ExportPlan& plan, const Preset& preset, std::int64_t pictures)
{
    const double pixels = double(plan.size.width) * plan.size.height;
    switch (preset.format) {
    case MediaFormat::film_h264:
        return static_cast<std::uintmax_t>(pixels * double(pictures) * 0.10 *
                                           std::exp2((18 - crf_for_quality(preset.quality)) / 6.0)) + 10'000;
    case MediaFormat::loop_gif:
        return static_cast<std::uintmax_t>(pixels * double(pictures) * 0.09 * std::log2(preset.colours)) + 2'000;
    case MediaFormat::stills_png:
        return static_cast<std::uintmax_t>(pixels * double(plan.frames) * (preset.depth == Depth::sixteen ? 4.5 : 1.8));
    case MediaFormat::stills_jpeg:
        return static_cast<std::uintmax_t>(pixels * double(plan.frames) * 0.2 * std::exp2((preset.quality - 80) / 10.0));
    }
    return 0;
}

bool same_file(const fs::path& a, const fs::path& b)
{
    std::error_code ec;
    return a == b || (fs::exists(a, ec) && fs::exists(b, ec) && fs::equivalent(a, b, ec));
}

/// Originals are never changed: no export may end on a photo of the project.
void refuse_photos_as_target(const Project& project, const ExportPlan& plan, const Preset& preset)
{
    const fs::path folder = fs::absolute(plan.file).lexically_normal().parent_path();
    for (const auto& shot : project.shots)
        for (const auto& p : shot->photos) {
            const fs::path& photo = p.photo->file;
            bool hit = false;
            if (!writes_stills(preset.format)) {
                hit = same_file(fs::absolute(plan.file).lexically_normal(), photo);
            } else if (photo.extension() == plan.file.extension()) {
                const std::string name = photo.filename().native();
                std::error_code ec;
                const bool same_folder = photo.parent_path() == folder || fs::equivalent(photo.parent_path(), folder, ec);
                for (std::int64_t n = 1; same_folder && !hit && n <= plan.frames; ++n)
                    hit = name == still_name(plan.file.filename().native(), n);
            }
            if (hit)
                throw Failure({"this is one of the project's photos, which are never changed", photo,
                               "Choose another name or folder"});
        }
}

std::uintmax_t free_space(fs::path folder)
{
    std::error_code ec;
    while (!folder.empty() && !fs::exists(folder, ec) && folder != folder.parent_path())
        folder = folder.parent_path();
    const auto space = fs::space(folder, ec);
    return ec ? 0 : space.available;
}

/// The project as this export delivers it.
Project delivered(const Project& project, const ExportOrder& order)
{
    Project p = order.preset.rate ? deliver_at(project, *order.preset.rate, RateIntent::same_clock_time) : project;
    return order.between ? set_between(p, order.shot, *order.between) : p;
}

LoopTiming loop_timing_of(const std::vector<Moment>& moments, Rate rate)
{
    std::vector<std::pair<FrameIndex, FrameIndex>> frames;
    frames.reserve(moments.size());
    for (const auto& m : moments)
        frames.emplace_back(m.begin, m.end);
    return loop_timing(frames, rate);
}

/// The width and height that are rendered: one more than the film's where a line is cut to make it even.
struct Sizes
{
    cv::Size rendered;
    cv::Size written;
};

Sizes sizes_for(const Shot& shot, const Preset& preset)
{
    const cv::Size s = planned_size(shot, preset);
    if (preset.format != MediaFormat::film_h264)
        return {s, s};
    return {s, {std::max(2, s.width / 2 * 2), std::max(2, s.height / 2 * 2)}};
}

void check_order(const Project& project, const ExportOrder& order, const Schedule& schedule)
{
    if (order.file.empty() || !order.file.has_filename())
        throw Failure({"there is no file name to write to", order.file, "Choose a name"});
    if (!ending_fits(order.preset.format, order.file))
        throw Failure({"the file's ending does not fit the format", order.file,
                       "Let it end in " + std::string(ending_of(order.preset.format))});
    if (schedule.frames() == 0)
        throw Failure({"the film of \"" + project.shot(order.shot).name + "\" has no frames", {},
                       "Bring photos into it, or hold them longer"});
    std::error_code ec;
    if (fs::is_directory(order.file, ec))
        throw Failure({"this is a folder", order.file, "Choose another name"});
}

}

ExportPlan plan_export(const Project& project, const ExportOrder& order)
{
    const Project p = delivered(project, order);
    const Shot& shot = p.shot(order.shot);
    const Schedule schedule = schedule_of(p, shot);
    check_order(p, order, schedule);

    ExportPlan plan;
    plan.rate = p.delivered_at;
    plan.frames = schedule.frames();
    plan.length = schedule.length();
    plan.file = order.file;
    if (writes_stills(order.preset.format))
        plan.file.replace_filename(with_number_pattern(order.file.filename().native(), plan.frames));
    refuse_photos_as_target(p, plan, order.preset);

    const auto [rendered, written] = sizes_for(shot, order.preset);
    plan.size = written;
    if (rendered.empty())
        throw Failure({"no photo of \"" + shot.name + "\" can be read", {}, "Look at the problems in Sort"});
    if (order.preset.format == MediaFormat::film_h264 && std::max(rendered.width, rendered.height) > most_film_side)
        throw Failure({"a film can be at most " + std::to_string(most_film_side) + " pixels wide or high", order.file,
                       "Choose a smaller size"});
    if (order.preset.format == MediaFormat::loop_gif && std::max(rendered.width, rendered.height) > 65'535)
        throw Failure({"a GIF can be at most 65535 pixels wide or high", order.file, "Choose a smaller size"});
    if (rendered.width > written.width)
        plan.problems.push_back({"one column of pixels is cut off at the right, so that the width is even", {}, ""});
    if (rendered.height > written.height)
        plan.problems.push_back({"one row of pixels is cut off at the bottom, so that the height is even", {}, ""});
    if (written.width > rendered.width || written.height > rendered.height)
        plan.problems.push_back({"the picture is made 2 pixels wide or high, the least that a film can be", {}, ""});

    if (const auto between = schedule.between_frames(); !between.empty())
        plan.problems.push_back({counted(std::int64_t(between.size()), "photo falls", "photos fall") +
                                     " between two frames and will not be seen",
                                 shot.photos[between.front().at()].photo->file, "Hold them longer or raise the rate"});
    const auto moments = schedule.moments();
    if (order.preset.format == MediaFormat::loop_gif) {
        const LoopTiming timing = loop_timing_of(moments, plan.rate);
        if (timing.delays.empty())
            throw Failure({"the loop is shorter than 2/100 s, the least that a GIF can say", order.file,
                           "Hold the photos longer"});
        if (timing.left_out > 0)
            plan.problems.push_back(
                {counted(std::int64_t(timing.left_out), "photo lasts", "photos last") +
                     " less than 2/100 s, which players of GIF show as 10/100 s, and will not be seen",
                 {}, "Deliver at 50 fps or less"});
    }
    plan.estimated_bytes = estimate(plan, order.preset, std::int64_t(moments.size()));
    plan.free_bytes = free_space(fs::absolute(order.file).parent_path());
    if (plan.free_bytes < plan.estimated_bytes)
        plan.problems.push_back({"about " + shown_bytes(plan.estimated_bytes) + " will be needed and " +
                                     shown_bytes(plan.free_bytes) + " are free",
                                 fs::absolute(order.file).parent_path(), "Make room or choose another folder"});
    return plan;
}

namespace {

/// Renders the moments on all cores and hands them to the sink in order, once for each of its passes.
class Filming {
public:
    Filming(const Shot& shot, const ExportOrder& order, Sizes sizes, const PhotoSource& source, const Job& job)
        : shot_(shot), order_(order), sizes_(sizes), source_(source), job_(job)
    {}

    void run(const std::vector<Moment>& moments, FrameSink& sink)
    {
        for (int pass = 0; pass < sink.passes(); ++pass) {
            sink.begin_pass(pass);
            run_pass(moments, sink, pass);
        }
        job_.report(1, "finishing the file");
        sink.finish();
    }

    std::vector<Problem> problems;

private:
    struct Item
    {
        std::size_t moment = 0;
        Result<PreparedPicture> picture;
    };

    void run_pass(const std::vector<Moment>& moments, FrameSink& sink, int pass)
    {
        const auto cores = std::max<std::size_t>(1, tbb::global_control::active_value(tbb::global_control::max_allowed_parallelism));
        std::size_t next = 0;
        before_.reset();
        waiting_.clear();
        const auto feed = [&](tbb::flow_control& flow) -> std::size_t {
            if (next == moments.size() || job_.stopping()) {
                flow.stop();
                return 0;
            }
            return next++;
        };
        const auto draw = [&](std::size_t i) { return std::make_shared<Item>(Item{i, drawn(moments[i], sink)}); };
        const auto put = [&](const std::shared_ptr<Item>& item) {
            write(moments, *item, sink, pass == 0);
            const double of_pass = double(item->moment + 1) / double(moments.size());
            job_.report((pass + of_pass) / sink.passes(), "picture " + std::to_string(item->moment + 1) + " of " +
                                                              std::to_string(moments.size()));
        };
        tbb::parallel_pipeline(cores + 1,
                               tbb::make_filter<void, std::size_t>(tbb::filter_mode::serial_in_order, feed) &
                                   tbb::make_filter<std::size_t, std::shared_ptr<Item>>(tbb::filter_mode::parallel, draw) &
                                   tbb::make_filter<std::shared_ptr<Item>, void>(tbb::filter_mode::serial_in_order, put));
        job_.check();
        if (!before_)
            throw Failure({"no photo of \"" + shot_.name + "\" can be read", {}, "Look at the problems in Sort"});
    }

    [[nodiscard]] Result<PreparedPicture> drawn(const Moment& moment, const FrameSink& sink) const
    {
        PictureRequest request = request_for_shares(shot_, moment.shares, sizes_.rendered, order_.preset.fit);
        request.depth = order_.preset.format == MediaFormat::stills_png ? order_.preset.depth : Depth::eight;
        auto picture = render(request, source_);
        if (!picture)
            return tl::unexpected(std::move(picture.error()));
        return sink.prepare(written_part(*picture));
    }

    /// One line less where a film's size must be even; a line more where the photo has only one.
    [[nodiscard]] cv::Mat written_part(const cv::Mat& picture) const
    {
        if (picture.size() == sizes_.written)
            return picture;
        cv::Mat wide;
        cv::copyMakeBorder(picture, wide, 0, std::max(0, sizes_.written.height - picture.rows), 0,
                           std::max(0, sizes_.written.width - picture.cols), cv::BORDER_REPLICATE);
        return wide(cv::Rect({0, 0}, sizes_.written));
    }

    void write(const std::vector<Moment>& moments, Item& item, FrameSink& sink, bool first_pass)
    {
        if (!item.picture) {
            if (order_.on_bad_photo == OnBadPhoto::stop)
                throw Failure(item.picture.error());
            if (first_pass)
                problems.push_back(item.picture.error());
            if (!before_) {
                waiting_.push_back(item.moment); // nothing before it: the first that can be read is shown instead
                return;
            }
        } else {
            before_ = std::make_shared<PreparedPicture>(std::move(*item.picture));
        }
        for (const std::size_t w : waiting_)
            sink.write(*before_, moments[w].begin, moments[w].end);
        waiting_.clear();
        sink.write(*before_, moments[item.moment].begin, moments[item.moment].end);
    }

    const Shot& shot_;
    const ExportOrder& order_;
    Sizes sizes_;
    const PhotoSource& source_;
    const Job& job_;
    std::shared_ptr<PreparedPicture> before_;
    std::vector<std::size_t> waiting_;
};

std::uintmax_t size_of(const fs::path& file)
{
    std::error_code ec;
    const auto size = fs::file_size(file, ec);
    return ec ? 0 : size;
}

/// Reads what was written and compares it with the plan.
void check_written(const fs::path& file, const fs::path& name, const ExportPlan& plan, std::int64_t frames, Seconds length,
                   const Job& job)
{
    const ReadBack found = read_back(file, job);
    if (found.frames == frames && found.size == plan.size && found.length == length)
        return;
    throw Failure({"the written file does not hold what it should: " + std::to_string(found.frames) + " of " +
                       std::to_string(frames) + " frames, " + found.length.value.text() + " s of " +
                       length.value.text() + " s",
                   name, "This should not happen; please tell the makers of Frenlo"});
}

/// As many as x264 itself takes: half as many again as there are cores, since its threads wait for each other.
int encoder_threads()
{
    const auto cores = tbb::global_control::active_value(tbb::global_control::max_allowed_parallelism);
    return std::max(1, static_cast<int>(cores == 1 ? 1 : cores * 3 / 2));
}

void export_film(const std::vector<Moment>& moments, const ExportOrder& order, ExportReport& report, Filming& filming,
                 const Job& job)
{
    const ExportPlan& plan = report.plan;
    AtomicFile file(plan.file);
    filming.run(moments, *film_sink(file, plan.size, plan.rate, order.preset.quality, encoder_threads()));
    check_written(file.path(), plan.file, plan, plan.frames, plan.length, job);
    report.bytes = size_of(file.path());
    file.commit();
}

void export_loop(const std::vector<Moment>& moments, const ExportOrder& order, ExportReport& report, Filming& filming,
                 const Job& job)
{
    const ExportPlan& plan = report.plan;
    const LoopTiming timing = loop_timing_of(moments, plan.rate);
    std::int64_t pictures = 0;
    for (const auto& d : timing.delays)
        pictures += (d.end - d.begin + 65'534) / 65'535;
    AtomicFile file(plan.file);
    filming.run(moments, *loop_sink(file, plan.size, timing, order.preset));
    check_written(file.path(), plan.file, plan, pictures, {Fraction(timing.delays.back().end, 100)}, job);
    report.bytes = size_of(file.path());
    file.commit();
}

void export_stills(const std::vector<Moment>& moments, const ExportOrder& order, ExportReport& report, Filming& filming,
                   const Job& job)
{
    const ExportPlan& plan = report.plan;
    const std::string pattern = plan.file.filename().native();
    AtomicFolder folder(fs::absolute(plan.file).parent_path(), pattern.substr(0, pattern.find('%')) + "stills");
    filming.run(moments, *stills_sink(folder.path(), pattern, order.preset));
    for (std::int64_t n = 1; n <= plan.frames; ++n) {
        const fs::path still = folder.path() / still_name(pattern, n);
        report.bytes += size_of(still);
        if (n == 1 || n == plan.frames || n % 25 == 0) // each was encoded in memory; the disk is what is doubted
            check_written(still, plan.file.parent_path() / still.filename(), plan, 1, read_back(still, job).length, job);
        else if (size_of(still) == 0)
            throw Failure({"the written still is empty", plan.file.parent_path() / still.filename(), "Check the disk"});
    }
    report.files = plan.frames;
    folder.commit();
}

}

ExportReport run_export(const Project& project, const ExportOrder& order, const PhotoSource& source, const Job& job)
{
    ExportReport report;
    report.plan = plan_export(project, order);
    const Project p = delivered(project, order);
    const Shot& shot = p.shot(order.shot);
    const auto moments = schedule_of(p, shot).moments();
    Filming filming(shot, order, sizes_for(shot, order.preset), source, job);
    switch (order.preset.format) {
    case MediaFormat::film_h264:
        export_film(moments, order, report, filming, job);
        break;
    case MediaFormat::loop_gif:
        export_loop(moments, order, report, filming, job);
        break;
    case MediaFormat::stills_png:
    case MediaFormat::stills_jpeg:
        export_stills(moments, order, report, filming, job);
        break;
    }
    report.checked = true;
    report.problems = report.plan.problems;
    report.problems.insert(report.problems.end(), filming.problems.begin(), filming.problems.end());
    return report;
}

}
