#pragma once
#include "app/work/background.h"
#include "app/work/wanted.h"
#include "core/base/shared_cache.h"
#include "core/picture/monitor_colours.h"
#include "core/source/photo_source.h"

#include <QImage>
#include <QObject>
#include <QTimer>

#include <map>
#include <memory>
#include <unordered_set>

namespace frenlo::app {

/// Makes pictures in the background, in the order in which they are wanted, and keeps them as long as there is room.
class PhotoLoader : public QObject
{
    Q_OBJECT
public:
    /// store: must have a memory.
    PhotoLoader(Background& background, PreviewStore& store, QObject* parent = nullptr);

    /// Bytes that all may take that can be made again.
    [[nodiscard]] std::size_t budget() const { return memory_.budget(); }

    /// What is shown goes through the monitor's profile; null: it shows sRGB.
    void show_on(std::shared_ptr<const MonitorColours> monitor);
    /// The best there is in memory now; null when there is nothing yet.
    [[nodiscard]] QImage best(const FrameRequest& request);
    [[nodiscard]] bool has(const FrameRequest& request, Quality quality) const;

    /// Replaces what is wanted. What is being made is finished.
    void want(std::vector<Wanted> wanted);
    /// Replaces the photos whose previews are put on disk while nothing else is wanted.
    void prepare(std::vector<PhotoPtr> photos);
    /// How many of the photos given to prepare() are done.
    [[nodiscard]] int prepared() const { return prepared_; }
    [[nodiscard]] int to_prepare() const { return int(preparing_.size()); }
    /// Photos that could not be read, with the reason.
    [[nodiscard]] const std::map<PhotoPtr, Problem>& unreadable() const { return unreadable_; }
    /// Of photos whose previews are there; see sharpness_of().
    [[nodiscard]] const std::map<PhotoPtr, double>& sharpness() const { return sharpness_; }
    [[nodiscard]] bool idle() const;

Q_SIGNALS:
    void arrived(); ///< something that was wanted is there; painters look again
    void readiness_changed();
    void could_not_read();
    void all_prepared(); ///< the last of the photos given to prepare() is done

private:
    void pump();
    /// What is wanted most, and is neither there nor being made; null: nothing.
    const Wanted* next_to_make();
    void start(const Wanted& wanted);
    bool start_next_preparation();
    void finished(const Wanted& wanted, Result<QImage> image);

    Background& background_;
    std::shared_ptr<const MonitorColours> monitor_;
    Previews previews_;
    SharedCache& memory_;
    std::vector<Wanted> wanted_;
    std::size_t next_wanted_ = 0;
    std::vector<PhotoPtr> preparing_;
    std::size_t next_preparing_ = 0;
    std::uint64_t preparation_ = 0; ///< tells results of an earlier list apart
    int prepared_ = 0;
    int running_ = 0;       ///< of what is wanted
    int preparing_now_ = 0; ///< of what is prepared
    std::unordered_set<Wanted, WantedHash> making_;
    std::map<PhotoPtr, Problem> unreadable_;
    std::map<PhotoPtr, double> sharpness_;
    std::unordered_set<PhotoPtr> without_thumbnail_; ///< of the camera's
    QTimer readiness_timer_;
};

/// B G R 8 bit to what Qt paints fastest.
QImage to_image(const cv::Mat& bgr);

}
