#pragma once
#include "app/work/task.h"
#include "core/export/estimate.h"

#include <QObject>

#include <map>
#include <optional>
#include <vector>

namespace frenlo::app {

/// What is known of the photos of an export.
struct PhotoChecks
{
    std::vector<SeenPhoto> photos;
    std::size_t done = 0; ///< of them, in their order
    std::vector<Problem> problems;
};

/// One export at a time, in the background. The project may be changed meanwhile: it exports the value it was given.
class Exporter : public QObject
{
    Q_OBJECT
public:
    /// memory: for what is made on the way; must outlive the background's work.
    Exporter(Background& background, SharedCache* memory, QObject* parent = nullptr);

    void start(const Project& project, const ExportOrder& order);
    /// Decodes the photos that this would export and that were not decoded before, each once, so that one that cannot
    /// be read is known before it stops the export. photos_checked() follows, also while it goes on.
    void check(const Project& project, const ExportOrder& order);
    [[nodiscard]] const PhotoChecks& checks() const { return checks_; }
    /// Finds out what this would take from some of its pictures, while nothing is exported; estimated() follows, with
    /// an estimate or with a problem.
    void estimate(const Project& project, const ExportOrder& order);
    /// What was found out of what was asked for last; nothing yet, or something stood in its way.
    [[nodiscard]] const std::optional<ExportEstimate>& estimate() const { return estimate_; }
    /// Why nothing was found out of it; empty while that is not known.
    [[nodiscard]] const QString& estimate_problem() const { return estimate_problem_; }
    void forget_estimate();
    /// What is half written goes.
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    [[nodiscard]] const std::optional<ExportReport>& last() const { return last_; }
    void forget();

Q_SIGNALS:
    /// left_seconds: below 0 while too early to say.
    void progress(double fraction, const QString& what, int left_seconds);
    void finished();
    /// a_photo: it failed because of a photo that could not be read.
    void failed(const QString& message, bool a_photo);
    void stopped();
    void photos_checked();
    void estimated();

private:
    /// Goes on behind the photos that are known.
    void take_known();
    void check_next();

    Background& background_;
    SharedCache* memory_;
    Task task_, estimating_;
    std::optional<ExportEstimate> estimate_; ///< of what was asked for last
    QString estimate_problem_;
    std::optional<ExportReport> last_;
    PhotoChecks checks_;
    std::map<PhotoPtr, std::optional<Problem>> checked_; ///< of photos as they were when they were decoded
    bool checking_ = false;
};

}
