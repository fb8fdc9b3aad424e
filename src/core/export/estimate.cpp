#include "core/export/estimate.h"

#include "core/export/export_plan.h"
#include "core/export/writing.h"

#include <algorithm>
#include <chrono>
#include <limits>
#include <vector>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

/// Where it is looked at, and how much of it there.
struct Stretches
{
    std::size_t places;
    std::size_t pictures; ///< in each
};

/// Encoders of films look ahead, and give pictures of a short one less than those of a long one.
Stretches stretches_for(const Format& format)
{
    return format.kind == Format::Kind::film ? Stretches{2, 24} : Stretches{4, 8};
}

std::uintmax_t bytes_in(const fs::path& folder)
{
    std::uintmax_t sum = 0;
    for (const auto& e : fs::directory_iterator(folder))
        sum += e.file_size();
    return sum;
}

/// Where stretches are written to. Throws Failure where there is no such folder.
fs::path trial_folder()
{
    std::error_code ec;
    fs::path folder = fs::temp_directory_path(ec);
    if (ec)
        throw Failure({"a part of the export cannot be tried out here (" + ec.message() + ")", folder,
                       "Set TMPDIR to a folder that can be written to"});
    return folder;
}

/// Writes stretches of one export.
class Samples
{
public:
    Samples(const Project& project, const ExportOrder& order, std::shared_ptr<const Timeline> film,
            const PhotoSource& source, const Job& job)
        : project_(project), order_(order), film_(std::move(film)), runs_(film_->runs()), source_(source), job_(job)
    {
        order_.on_bad_photo = OnBadPhoto::hold_before; // which one it is, others say
        order_.file = trial_folder() / ("frenlo-estimate" + order.file.extension().native());
    }

    [[nodiscard]] std::size_t pictures() const { return runs_.size(); }

    /// The bytes of pictures [begin, end) as a film of their own.
    std::uintmax_t bytes(std::size_t begin, std::size_t end)
    {
        const auto stretch = part_of_film(film_, {runs_[begin].begin, runs_[end - 1].end});
        const Format& format = format_of(order_.preset);
        const Sizes sizes = sizes_for(*film_, order_.preset);
        ExportPlan plan;
        plan.file = order_.file;
        plan.rate = film_->rate();
        plan.frames = format.kind == Format::Kind::loop ? std::int64_t(end - begin) : stretch->frames();
        plan.length = stretch->length();
        plan.size = sizes.written;
        const Job one(job_.token(), [](double, std::string_view) {});
        Filming filming(*stretch, order_, sizes, source_, one);
        if (SharedCache* memory = source_.memory().cache)
            filming.set_kept(memory);
        if (format.stills()) {
            const AtomicFolder folder(trial_folder(), "frenlo-estimate", Noted::yes);
            write_stills(folder.path(), value_or_throw(StillNames::parse(plan.file, plan.frames)), order_, plan,
                         filming);
            return bytes_in(folder.path());
        }
        const auto heard = order_.reel ? heard_film(project_, order_, plan.length, one) : nullptr;
        AtomicFile file(plan.file, Noted::yes);
        write_file(file, project_, order_, plan, filming, heard.get());
        return fs::file_size(file.path());
    }

private:
    const Project& project_;
    ExportOrder order_;
    std::shared_ptr<const Timeline> film_;
    std::vector<FrameRange> runs_;
    const PhotoSource& source_;
    const Job& job_;
};

}

ExportEstimate estimate_export(const Project& project, const ExportOrder& order, const PhotoSource& source,
                               const Job& job)
{
    const Project p = delivered(project, order);
    Samples samples(p, order, written_film(p, order), source, job);
    const std::size_t all = samples.pictures();
    using Clock = std::chrono::steady_clock;
    const auto begin = Clock::now();
    const auto since = [&] { return std::chrono::duration<double>(Clock::now() - begin).count(); };
    const auto [places, in_a_place] = stretches_for(format_of(order.preset));
    if (all <= places * in_a_place) {
        const std::uintmax_t bytes = all > 0 ? samples.bytes(0, all) : 0;
        return {bytes, since(), std::int64_t(all)};
    }
    // The first pictures of a film take more than those after them, and encoders look ahead: each place is written with
    // all of its pictures and with half of them, and what the second half added is what goes on.
    const std::size_t half = in_a_place / 2;
    const auto begin_of = [all, n = places, wide = in_a_place](std::size_t place) {
        return place * (all - wide) / (n - 1);
    };
    std::vector<double> long_bytes;
    for (std::size_t i = 0; i < places; ++i) {
        job.check();
        job.report(double(i) / double(places), "");
        long_bytes.push_back(double(samples.bytes(begin_of(i), begin_of(i) + in_a_place)));
    }
    const double seconds = since();
    double begins = 0, goes_on = 0; // bytes that a film has once, and a picture
    for (std::size_t i = 0; i < places; ++i) {
        job.check();
        const auto short_bytes = double(samples.bytes(begin_of(i), begin_of(i) + half));
        const double a_picture = std::max(0.0, long_bytes[i] - short_bytes) / double(in_a_place - half);
        goes_on += a_picture / double(places);
        begins += std::max(0.0, short_bytes - a_picture * double(half)) / double(places);
    }
    return {std::uintmax_t(begins + goes_on * double(all)), seconds * double(all) / double(places * in_a_place),
            std::int64_t(places * in_a_place)};
}

ExportPlan with_estimate(ExportPlan plan, const ExportOrder& order, const ExportEstimate& estimate)
{
    const auto limit = order.preset.most_bytes && !format_of(order.preset).stills()
                           ? std::uintmax_t(*order.preset.most_bytes)
                           : std::numeric_limits<std::uintmax_t>::max();
    if (const auto before = too_little_room(order, plan))
        std::erase(plan.problems, *before);
    plan.estimated_bytes = std::min(estimate.bytes, limit);
    if (auto now = too_little_room(order, plan))
        plan.problems.push_back(*std::move(now));
    return plan;
}

}
