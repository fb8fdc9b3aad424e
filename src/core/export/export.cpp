#include "core/export/export.h"

#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/export/export_plan.h"
#include "core/export/read_back.h"
#include "core/export/sampled_loop.h"
#include "core/export/size_limit.h"
#include "core/export/writing.h"
#include "core/sound/sound_reader.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

std::uintmax_t size_of(const fs::path& file)
{
    std::error_code ec;
    const auto size = fs::file_size(file, ec);
    return ec ? 0 : size;
}

/// Reads what was written and compares it with the plan.
void check_written(const fs::path& file, const fs::path& name, const ExportPlan& plan, std::int64_t frames,
                   Seconds length, const Job& job, const Format* format = nullptr)
{
    const ReadBack found = read_back(file, job);
    const std::int64_t written = format ? std::max(frames, format->least_pictures) : frames;
    const bool all =
        found.frames == written || (format && format->merges_alike && found.frames > 0 && found.frames <= written);
    if (all && found.size == plan.size && found.length == length)
        return;
    throw Failure({"the written file does not hold what it should: " + std::to_string(found.frames) + " of " +
                       std::to_string(frames) + " frames, " + found.length.value.text() + " s of " +
                       length.value.text() + " s",
                   name, "This should not happen; please tell the makers of Frenlo"});
}

void put_in_place(AtomicFile& file, bool overwrite)
{
    overwrite ? file.commit() : file.commit_new();
}

/// That the sound is as long as the picture. Encoders fill their last block: a little more is no fault.
void check_sound(const fs::path& file, const fs::path& name, Seconds length, const Job& job)
{
    constexpr std::int64_t block = 4096, rounding = 48; // samples; the second of files that count milliseconds
    const std::int64_t wanted = sample_at(length), found = sample_at(SoundReader(file).counted_length(job));
    if (found < wanted - rounding || found > wanted + block)
        throw Failure(
            {"the written file's sound is " + std::to_string(found) + " samples long, not " + std::to_string(wanted),
             name, "This should not happen; please tell the makers of Frenlo"});
}

/// That it is what was to be written.
void check_file(const AtomicFile& file, const ExportOrder& order, const ExportPlan& plan, const HeardFilm* heard,
                const Job& job)
{
    check_written(file.path(), plan.file, plan, plan.frames, plan.length, job, &format_of(order.preset));
    if (heard)
        check_sound(file.path(), plan.file, plan.length, job);
}

/// Tries settings until the file is as good as the limit lets it be.
class BelowLimit
{
public:
    BelowLimit(const Project& project, const Timeline& film, const ExportOrder& order, const ExportPlan& plan,
               const PhotoSource& source, HeardFilm* heard, const Job& job)
        : project_(project), film_(film), order_(order), plan_(plan), source_(source), heard_(heard), job_(job),
          limit_(std::uintmax_t(order.preset.most_bytes.value())),
          ladder_(order.preset, sizes_for(film, order.preset).rendered)
    {
    }

    /// Puts the best one in place. Throws Failure where none is small enough.
    void run(ExportReport& report)
    {
        const auto sampled = sample();
        SizesOfSteps sizes{.written = [&](std::size_t step) { return write(ladder_.at(step)); }};
        if (sampled)
            sizes.guessed = [&](std::size_t step) {
                const Preset& preset = ladder_.at(step);
                job_.report(begun_, "looking for what fits");
                return sampled->bytes(preset, sizes_for(film_, preset).rendered, job_);
            };
        const Search search = best_below(ladder_.size(), limit_, sizes);
        if (!search.found)
            throw Failure({"the file does not get smaller than " + shown_bytes(search.tried.back().bytes) +
                               ", however it is written",
                           plan_.file, "Allow a larger file, keep less of the film or hold photos longer"});
        for (const Tried& t : search.guessed)
            note(ladder_.at(t.step), t.bytes, report, true);
        for (const Tried& t : search.tried)
            note(ladder_.at(t.step), t.bytes, report);
        std::vector<Preset> best; // first the one between two steps that lie far apart, where it is better
        if (auto between = between_steps(search, report))
            best.push_back(*std::move(between));
        for (std::size_t step = search.tried.back().step; step < ladder_.size(); ++step)
            best.push_back(ladder_.at(step));
        // What was not the last is written once more for good: encoders give the same bytes for the same pictures.
        for (const Preset& preset : best)
            if (const std::uintmax_t bytes = last_ && last_->preset == preset ? last_->bytes : write(preset);
                bytes <= limit_) {
                place(report);
                note(preset, bytes, report);
                return;
            }
    }

private:
    void note(const Preset& p, std::uintmax_t bytes, ExportReport& report, bool sampled = false) const
    {
        const TriedSettings t{p.quality, p.colours, sizes_for(film_, p).written, bytes, sampled};
        std::erase_if(report.tried, [&](const TriedSettings& other) { // the last word on the same settings
            return other.quality == t.quality && other.colours == t.colours && other.size == t.size;
        });
        report.tried.push_back(t);
    }

    /// The settings of the step before the chosen one, a little smaller, where much is given away otherwise.
    std::optional<Preset> between_steps(const Search& search, ExportReport& report)
    {
        const Tried& chosen = search.tried.back();
        const auto before = std::find_if(search.tried.begin(), search.tried.end(),
                                         [&](const Tried& t) { return t.step + 1 == chosen.step; });
        constexpr double near_enough = 0.97;
        if (before == search.tried.end() || double(chosen.bytes) > near_enough * double(limit_))
            return std::nullopt;
        const Preset& from = ladder_.at(before->step);
        const cv::Size now = sizes_for(film_, from).rendered;
        // A loop's steps lie close together: its side is what was asked for as long as anything else can be given up.
        if (format_of(from).colours && now == sizes_for(film_, ladder_.at(chosen.step)).rendered)
            return std::nullopt;
        std::optional<Preset> best;
        std::uintmax_t best_bytes = chosen.bytes;
        // Shares of the side: one that gives too much, and one that gives too little; between them by their logarithms.
        double large = 1, small = 0, large_log = std::log(double(before->bytes)), small_log = 0;
        const double wanted = std::log(double(limit_) * (1 + near_enough) / 2);
        constexpr int tries = 3;
        for (int i = 0; i < tries && double(best_bytes) < near_enough * double(limit_); ++i) {
            const double by = small > 0 ? large - (large - small) * (large_log - wanted) / (large_log - small_log)
                                        : std::exp((wanted - large_log) / 2);
            Preset p = from;
            p.size =
                cv::Size(std::max(2, int(std::lround(now.width * by))), std::max(2, int(std::lround(now.height * by))));
            p.long_side = 0;
            const std::uintmax_t bytes = write(p);
            note(p, bytes, report);
            (bytes > limit_ ? large : small) = by;
            (bytes > limit_ ? large_log : small_log) = std::log(double(bytes));
            if (bytes <= limit_ && bytes > best_bytes) {
                best = std::move(p);
                best_bytes = bytes;
            }
        }
        return best;
    }

    /// A file that is written and has no name yet.
    struct Written
    {
        std::unique_ptr<AtomicFile> file;
        Preset preset;
        ExportPlan plan;
        std::vector<Problem> problems;
        std::uintmax_t bytes = 0;
    };

    [[nodiscard]] ExportOrder with(const Preset& preset) const
    {
        ExportOrder order = order_;
        order.preset = preset;
        return order;
    }

    /// Pictures of this size, drawn once for all tries of it.
    [[nodiscard]] Filming filming_of(const ExportOrder& order, const Sizes& sizes, const Job& job)
    {
        Filming filming(film_, order, sizes, source_, job);
        if (SharedCache* memory = source_.memory().cache) {
            if (sizes.rendered != rendered_)
                memory->drop<RenderedAgain>(); // there is no way back to a size
            rendered_ = sizes.rendered;
            filming.set_kept(memory);
        }
        return filming;
    }

    /// What sizes can be guessed from; null where they are not.
    [[nodiscard]] std::unique_ptr<const SampledLoop> sample()
    {
        if (format_of(order_.preset).kind != Format::Kind::loop)
            return nullptr;
        const Job one(job_.token(), [&](double fraction, std::string_view what) { job_.report(fraction / 10, what); });
        const ExportOrder order = with(ladder_.at(0));
        const Sizes sizes = sizes_for(film_, order.preset);
        Filming filming = filming_of(order, sizes, one);
        ExportPlan plan = plan_;
        plan.size = sizes.written;
        Writing whole = writing_of(order, plan, filming);
        whole.alpha = filming.transparent();
        auto sampled = SampledLoop::of(filming, whole, plan_.file.parent_path(), one);
        if (sampled) {
            begun_ = 0.1;
            usual_tries_ = 2;
        }
        return sampled;
    }

    /// The last one that was written goes.
    std::uintmax_t write(const Preset& preset)
    {
        last_.reset();
        const ExportOrder order = with(preset);
        const Sizes sizes = sizes_for(film_, order.preset);
        ExportPlan plan = plan_;
        plan.size = sizes.written;
        const Job one(job_.token(), [&](double fraction, std::string_view what) {
            job_.report(std::min(0.99, begun_ + (1 - begun_) * (double(tries_) + fraction) / usual_tries_),
                        "try " + std::to_string(tries_ + 1) + ", " + std::string(what));
        });
        Filming filming = filming_of(order, sizes, one);
        auto file = std::make_unique<AtomicFile>(plan.file, Noted::yes);
        write_file(*file, project_, order, plan, filming, heard_, &palette_);
        ++tries_;
        const std::uintmax_t bytes = size_of(file->path());
        last_ = Written{std::move(file), preset, std::move(plan), std::move(filming.problems), bytes};
        return bytes;
    }

    /// The last one is the one.
    void place(ExportReport& report)
    {
        Written written = *std::exchange(last_, std::nullopt);
        check_file(*written.file, with(written.preset), written.plan, heard_, job_);
        put_in_place(*written.file, order_.overwrite);
        report.plan = std::move(written.plan);
        report.problems = std::move(written.problems);
        report.bytes = written.bytes;
    }

    const Project& project_;
    const Timeline& film_;
    const ExportOrder& order_;
    const ExportPlan plan_;
    const PhotoSource& source_;
    HeardFilm* heard_;
    const Job& job_;
    std::uintmax_t limit_;
    Ladder ladder_;
    KeptPalette palette_;
    cv::Size rendered_; ///< of the try before
    std::optional<Written> last_;
    int tries_ = 0;
    double begun_ = 0;       ///< of the whole work, before the first try
    double usual_tries_ = 8; ///< one or two where sizes can be guessed
};

void export_file(const Project& project, const Timeline& film, const ExportOrder& order, const PhotoSource& source,
                 ExportReport& report, const Job& job)
{
    const auto heard = order.reel ? heard_film(project, order, report.plan.length, job) : nullptr;
    if (order.preset.most_bytes) {
        BelowLimit(project, film, order, report.plan, source, heard.get(), job).run(report);
    } else {
        Filming filming(film, order, sizes_for(film, order.preset), source, job);
        AtomicFile file(report.plan.file, Noted::yes);
        write_file(file, project, order, report.plan, filming, heard.get());
        check_file(file, order, report.plan, heard.get(), job);
        report.bytes = size_of(file.path());
        put_in_place(file, order.overwrite);
        report.problems = filming.problems;
    }
    if (heard)
        report.problems.insert(report.problems.end(), heard->problems().begin(), heard->problems().end());
}

void export_stills(const ExportOrder& order, ExportReport& report, Filming& filming, const Job& job)
{
    const ExportPlan& plan = report.plan;
    const StillNames names = value_or_throw(StillNames::parse(plan.file, plan.first_number + plan.frames - 1));
    AtomicFolder folder(fs::absolute(plan.file).parent_path(), names.before() + "stills", Noted::yes);
    write_stills(folder.path(), names, order, plan, filming);
    const std::int64_t last = plan.first_number + plan.frames - 1;
    for (std::int64_t n = plan.first_number; n <= last; ++n) {
        job.check();
        const fs::path still = folder.path() / names.name(n);
        report.bytes += size_of(still);
        if (n == plan.first_number || n == last ||
            n % 25 == 0) // each was encoded in memory; the disk is what is doubted
            check_written(still, plan.file.parent_path() / still.filename(), plan, 1, read_back(still, job).length,
                          job);
        else if (size_of(still) == 0)
            throw Failure({"the written still is empty", plan.file.parent_path() / still.filename(), "Check the disk"});
    }
    report.files = plan.frames;
    order.overwrite ? folder.commit() : folder.commit_new();
}

}

ExportReport run_export(const Project& project, const ExportOrder& order, const PhotoSource& source, const Job& job)
{
    ExportReport report;
    report.plan = plan_export(project, order);
    if (!report.plan.existing.empty() && !order.overwrite)
        throw Failure(there_already(report.plan.existing));
    const Project p = delivered(project, order);
    const auto film = written_film(p, order);
    if (format_of(order.preset).stills()) {
        Filming filming(*film, order, sizes_for(*film, order.preset), source, job);
        export_stills(order, report, filming, job);
        report.problems = filming.problems;
    } else {
        export_file(p, *film, order, source, report, job);
    }
    report.checked = true;
    report.problems.insert(report.problems.begin(), report.plan.problems.begin(), report.plan.problems.end());
    return report;
}

}
