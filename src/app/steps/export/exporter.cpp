#include "app/steps/export/exporter.h"

namespace frenlo::app {

namespace {

struct Outcome
{
    std::optional<ExportReport> report;
    Problem problem;
    bool a_photo = false;
    std::vector<SeenPhoto> read{}; ///< where it succeeded
};

Outcome exported(const Project& project, const ExportOrder& order, SharedCache* memory, const Job& job)
{
    Outcome outcome;
    try {
        outcome.report = run_export(project, order, Originals(memory), job);
        outcome.read = exported_photos(project, order);
    } catch (const Failure& failure) {
        outcome.problem = failure.problem();
        if (outcome.problem.file != order.file)
            for (const SeenPhoto& p : exported_photos(project, order))
                outcome.a_photo = outcome.a_photo || p.photo->file == outcome.problem.file;
    }
    return outcome;
}

}

Exporter::Exporter(Background& background, SharedCache* memory, QObject* parent)
    : QObject(parent), background_(background), memory_(memory), task_(background, Rank::write),
      estimating_(background, Rank::prepare)
{
    connect(&task_, &Task::progress, this, [this](double fraction, const QString& what) {
        Q_EMIT progress(fraction, what, task_.left_seconds().value_or(-1));
    });
    connect(&task_, &Task::failed, this, [this](const QString& message) { Q_EMIT failed(message, false); });
    connect(&estimating_, &Task::failed, this, [this](const QString& message) {
        estimate_problem_ = message;
        Q_EMIT estimated();
    });
    connect(&task_, &Task::stopped, this, &Exporter::stopped);
    connect(&task_, &Task::changed, this, [this] {
        if (!running())
            check_next();
    });
}

void Exporter::forget()
{
    last_.reset();
}

void Exporter::check(const Project& project, const ExportOrder& order)
{
    background_.run(
        this, [project, order] { return Background::guarded([&] { return exported_photos(project, order); }); },
        [this](Result<std::vector<SeenPhoto>> photos) {
            checks_ = {};
            if (photos) // what the order cannot be done for is told by its plan
                checks_.photos = std::move(*photos);
            check_next();
        });
}

void Exporter::take_known()
{
    for (; checks_.done < checks_.photos.size(); ++checks_.done) {
        const SeenPhoto& p = checks_.photos[checks_.done];
        const auto known = checked_.find(p.photo);
        if (known == checked_.end())
            return;
        if (known->second && p.damage == Damage::refuse)
            checks_.problems.push_back(*known->second);
    }
}

void Exporter::check_next()
{
    take_known();
    Q_EMIT photos_checked();
    if (checking_ || checks_.done == checks_.photos.size() || running())
        return;
    checking_ = true;
    SeenPhoto next = checks_.photos[checks_.done];
    next.damage = Damage::refuse; // what is known of a photo holds whatever is decided about it
    background_.run(
        this, [next] { return check_photo(next, Originals()); },
        [this, photo = next.photo](const std::optional<Problem>& problem) {
            checking_ = false;
            checked_[photo] = problem;
            check_next();
        });
}

void Exporter::forget_estimate()
{
    estimate_.reset();
    estimate_problem_.clear();
    estimating_.forget();
}

void Exporter::estimate(const Project& project, const ExportOrder& order)
{
    forget_estimate();
    if (running())
        return;
    estimating_.start(
        {order.shot.value_or(ShotId()), "export"},
        [project, order, memory = memory_](const Job& job) {
            return estimate_export(project, order, Originals(memory), job);
        },
        [this](const ExportEstimate& found) {
            estimate_ = found;
            Q_EMIT estimated();
        });
}

void Exporter::start(const Project& project, const ExportOrder& order)
{
    if (running())
        return;
    estimating_.forget();
    last_.reset();
    task_.start(
        {order.shot.value_or(ShotId()), "export"},
        [project, order, memory = memory_](const Job& job) { return exported(project, order, memory, job); },
        [this](const Outcome& outcome) {
            last_ = outcome.report;
            for (const SeenPhoto& p : outcome.read) // they need not be read once more to know them
                checked_.try_emplace(p.photo, std::nullopt);
            if (outcome.report)
                for (const Problem& problem : outcome.report->problems)
                    for (auto& [photo, known] : checked_)
                        if (photo->file == problem.file)
                            known = problem;
            take_known();
            if (outcome.report)
                Q_EMIT finished();
            else
                Q_EMIT failed(QString::fromStdString(outcome.problem.text()), outcome.a_photo);
        });
}

}
