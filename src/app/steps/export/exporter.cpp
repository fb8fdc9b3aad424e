#include "app/steps/export/exporter.h"

#include <algorithm>

namespace frenlo::app {

namespace {

struct Outcome
{
    std::optional<ExportReport> report;
    Problem problem;
    bool stopped = false;
    bool a_photo = false;
};

Outcome exported(const Project& project, const ExportOrder& order, const Job& job)
{
    Outcome outcome;
    try {
        outcome.report = run_export(project, order, Originals(), job);
    } catch (const Stopped&) {
        outcome.stopped = true;
    } catch (const Failure& failure) {
        outcome.problem = failure.problem();
        const auto& photos = project.shot(order.shot).photos;
        outcome.a_photo = std::any_of(photos.begin(), photos.end(), [&](const ShotPhoto& p) {
            return p.photo->file == outcome.problem.file && outcome.problem.file != order.file;
        });
    } catch (const std::exception& e) {
        outcome.problem = {e.what(), order.file, ""};
    }
    return outcome;
}

}

Exporter::Exporter(Background& background, QObject* parent) : QObject(parent), background_(background) {}

Exporter::~Exporter()
{
    stop_.request_stop();
}

void Exporter::forget()
{
    last_.reset();
}

void Exporter::check(const Project& project, const ExportOrder& order)
{
    background_.run(
        this, [project, order] { return Background::guarded([&] { return exported_photos(project, order); }); },
        [this](Result<std::vector<ShotPhoto>> photos) {
            checks_ = {};
            if (photos) // what the order cannot be done for is told by its plan
                checks_.photos = std::move(*photos);
            check_next();
        });
}

void Exporter::take_known()
{
    for (; checks_.done < checks_.photos.size(); ++checks_.done) {
        const ShotPhoto& p = checks_.photos[checks_.done];
        const auto known = checked_.find(p.photo);
        if (known == checked_.end())
            return;
        if (known->second && !p.what_there_is)
            checks_.problems.push_back(*known->second);
    }
}

void Exporter::check_next()
{
    take_known();
    Q_EMIT photos_checked();
    if (checking_ || checks_.done == checks_.photos.size() || running_)
        return;
    checking_ = true;
    ShotPhoto next = checks_.photos[checks_.done];
    next.what_there_is = false; // what is known of a photo holds whatever is decided about it
    background_.run(
        this, [next] { return check_photo(next, Originals()); },
        [this, photo = next.photo](const std::optional<Problem>& problem) {
            checking_ = false;
            checked_[photo] = problem;
            check_next();
        });
}

void Exporter::start(const Project& project, const ExportOrder& order)
{
    if (running_)
        return;
    running_ = true;
    last_.reset();
    stop_ = {};
    time_.start();
    const Job job(stop_.get_token(), [this, self = QPointer<QObject>(this), &background = background_](
                                         double fraction, std::string_view what) {
        const QString text = QString::fromUtf8(what.data(), qsizetype(what.size()));
        background.post(self, [this, fraction, text] {
            if (!running_)
                return;
            const double elapsed = double(time_.elapsed()) / 1000;
            const bool can_say = elapsed > 1 && fraction > 0.02;
            Q_EMIT progress(fraction, text, can_say ? int(elapsed * (1 - fraction) / fraction + 0.5) : -1);
        });
    });
    background_.run(
        this, [project, order, job] { return exported(project, order, job); },
        [this](const Outcome& outcome) {
            running_ = false;
            check_next();
            if (outcome.stopped) {
                Q_EMIT stopped();
            } else if (outcome.report) {
                last_ = outcome.report;
                Q_EMIT finished();
            } else {
                Q_EMIT failed(QString::fromStdString(outcome.problem.text()), outcome.a_photo);
            }
        },
        1);
}

}
