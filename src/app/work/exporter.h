#pragma once
#include "app/work/background.h"
#include "core/media/export.h"

#include <QElapsedTimer>
#include <QObject>

#include <optional>

namespace frenlo::app {

/// One export at a time, in the background. The project may be changed meanwhile: it exports the value it was given.
class Exporter : public QObject {
    Q_OBJECT
public:
    explicit Exporter(Background& background, QObject* parent = nullptr);
    /// Asks a running export to stop; what is half written goes.
    ~Exporter() override;

    void start(const Project& project, const ExportOrder& order);
    void stop() { stop_.request_stop(); }
    [[nodiscard]] bool running() const { return running_; }
    [[nodiscard]] const std::optional<ExportReport>& last() const { return last_; }
    void forget();

Q_SIGNALS:
    /// left_seconds: below 0 while too early to say.
    void progress(double fraction, const QString& what, int left_seconds);
    void finished();
    /// a_photo: it failed because of a photo that could not be read.
    void failed(const QString& message, bool a_photo);
    void stopped();

private:
    Background& background_;
    std::stop_source stop_;
    QElapsedTimer time_;
    bool running_ = false;
    std::optional<ExportReport> last_;
};

}
