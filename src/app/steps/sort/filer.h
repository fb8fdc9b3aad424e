#pragma once
#include "app/work/background.h"
#include "app/work/session.h"
#include "app/work/task.h"
#include "core/steps/sort/filing.h"

#include <QObject>

#include <optional>

namespace frenlo::app {

/// Puts files in order in the background, one filing at a time, and takes the last one back. Moved photos are followed
/// through the whole history of the project.
class Filer : public QObject
{
    Q_OBJECT
public:
    Filer(Background& background, Session& session, const std::filesystem::path& journals, QObject* parent = nullptr);

    void start(const FilingPlan& plan);
    void stop() { task_.stop(); }
    [[nodiscard]] bool running() const { return task_.running(); }
    /// What the last filing did, so that it can be taken back.
    [[nodiscard]] const std::optional<FilingPlan>& last() const { return last_; }
    void take_back();
    /// As Background::run.
    template <class Work, class Done>
    void in_background(QObject* receiver, Work work, Done done)
    {
        background_.run(receiver, std::move(work), std::move(done), Rank::measure);
    }
    /// What a killed Frenlo left half done.
    void finish_left_over();

Q_SIGNALS:
    void progress(double fraction, const QString& what);
    void ended(const QString& message, bool well);

private:
    void follow(const FilingPlan& done);
    QString said(const Filing& filing) const;

    Background& background_;
    Session& session_;
    std::filesystem::path journals_;
    Task task_;
    std::optional<FilingPlan> last_;
};

}
