#pragma once
#include "app/steps/shoot/camera_worker.h"
#include "app/work/background.h"

#include <QObject>
#include <QPointF>
#include <QString>

#include <memory>

namespace frenlo::app {

/// The camera that is in use, as the window sees it: nothing here ever waits for a camera (camera_worker.h), nor a
/// camera for the window.
class CameraDesk : public QObject
{
    Q_OBJECT
public:
    explicit CameraDesk(Background& background, QObject* parent = nullptr);
    ~CameraDesk() override;

    /// Asks which cameras there are; found() follows.
    void look_for_cameras();
    [[nodiscard]] const std::vector<FoundCamera>& found_cameras() const { return found_; }
    [[nodiscard]] bool looking() const { return looking_; }

    /// Closes what is open; opened() or closed() follows.
    void open(const std::string& address);
    void close();
    [[nodiscard]] bool is_open() const { return open_; }
    [[nodiscard]] bool opening() const { return worker_ && !open_; }
    [[nodiscard]] const std::string& address() const { return address_; }
    [[nodiscard]] const QString& name() const { return name_; }
    [[nodiscard]] const std::vector<CameraSetting>& settings() const { return settings_; }

    /// Live pictures only while somebody looks.
    void set_live(bool on);
    void set_wish(const LiveWish& wish);
    [[nodiscard]] const LivePicture& live() const { return live_; }
    /// Live pictures a second, lately; 0 while there are none.
    [[nodiscard]] double live_rate() const { return rate_; }

    void set(const std::string& key, double value);
    void set_automatic(const std::string& key, bool on);
    void lock_all();
    void pull(QPointF from, QPointF to);

    /// Takes; taken() follows for each photo, then ended(). Nothing while it takes.
    void take(const DeskOrder& order);
    void stop();
    [[nodiscard]] bool taking() const { return taking_; }
    [[nodiscard]] bool in_series() const { return taking_ && series_; }
    /// Photos that the disk still has room for; nothing before the first.
    [[nodiscard]] std::optional<std::int64_t> photos_left() const { return photos_left_; }

Q_SIGNALS:
    void found();
    void opened();
    void closed(const QString& why); ///< why: empty where it was asked for
    void settings_changed();
    void live_changed();
    void state_changed();
    void taken(const std::shared_ptr<const TakenPhoto>& photo);
    void told(const QString& what);
    void ended(const QString& why); ///< of what was to be taken; why: empty where all was
    void failed(const QString& what);

private:
    [[nodiscard]] CameraWorker::News news();
    void take_live();
    void forget();

    Background& background_;
    std::vector<FoundCamera> found_;
    bool looking_ = false;
    std::string address_;
    bool open_ = false, taking_ = false, series_ = false, live_on_ = true;
    QString name_;
    std::vector<CameraSetting> settings_;
    LiveWish wish_;
    LivePicture live_;
    double rate_ = 0;
    int counted_ = 0;
    std::chrono::steady_clock::time_point counted_since_{};
    std::optional<std::int64_t> photos_left_;
    std::uint64_t opened_ = 0; ///< tells what a worker of before still says
    std::unique_ptr<CameraWorker> worker_;
    std::vector<std::unique_ptr<CameraWorker>> ending_; ///< whose cameras have not let go yet
};

}
