#include "app/work/photo_loader.h"

#include "core/source/camera_thumbnail.h"

#include <opencv2/imgproc.hpp>
#include <QThread>

namespace frenlo::app {

namespace {

/// What is shown.
struct Shown : CacheKey<QImage, 100>
{
    Wanted wanted;
    explicit Shown(Wanted w) : wanted(std::move(w)) {}
    bool operator==(const Shown& other) const { return wanted == other.wanted; }
    [[nodiscard]] std::size_t hash() const { return WantedHash{}(wanted); }
};

/// The camera's thumbnails as a source, so that even they go through render().
class CameraThumbnails : public PhotoSource
{
public:
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size, Damage) const override
    {
        cv::Mat thumbnail = camera_thumbnail(photo);
        if (thumbnail.empty())
            return problem("the camera put no thumbnail into the file", photo.file);
        return thumbnail;
    }
    [[nodiscard]] bool what_there_is() const override { return true; }
};

/// The photo itself; where it is cut off, what there is of it, since something must be seen on the screen.
class WholePhotos : public PhotoSource
{
public:
    explicit WholePhotos(const Previews& previews) : previews_(previews) {}
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage) const override
    {
        auto whole = previews_.originals().pixels(photo, at_least, Damage::accept);
        return whole ? whole : previews_.pixels(photo, at_least, Damage::accept);
    }
    [[nodiscard]] SourceMemory memory() const override { return {previews_.memory().cache, WhichPixels::seen}; }
    [[nodiscard]] bool what_there_is() const override { return true; }

private:
    const Previews& previews_;
};

Result<QImage> made(const Wanted& wanted, const Previews& previews, const MonitorColours* monitor)
{
    auto pixels = [&]() -> Result<cv::Mat> {
        try {
            switch (wanted.quality) {
            case Quality::camera:
                return render(wanted.request, CameraThumbnails());
            case Quality::preview:
                return render(wanted.request, previews);
            case Quality::exact:
                return render(wanted.request, WholePhotos(previews));
            }
        } catch (const std::exception& e) { // OpenCV out of memory and the like: as unreadable as a damaged file
            return problem(e.what(), wanted.request.photo()->file);
        }
        return problem("there is no such quality", wanted.request.photo()->file);
    }();
    if (!pixels)
        return tl::unexpected(std::move(pixels.error()));
    if (!monitor)
        return to_image(*pixels);
    cv::Mat shown = pixels->clone();
    monitor->apply(shown);
    return to_image(shown);
}

/// The photo's previews are on disk then; its sharpness.
Result<double> prepared_photo(const PhotoFile& photo, const Previews& previews)
{
    return Background::guarded([&] {
        if (!previews.ready(photo, PreviewKind::preview) || !previews.ready(photo, PreviewKind::thumbnail))
            if (auto made = previews.get(photo, PreviewKind::preview); !made)
                throw Failure(std::move(made.error()));
        return previews.sharpness(photo);
    });
}

}

QImage to_image(const cv::Mat& bgr)
{
    QImage image(bgr.cols, bgr.rows, QImage::Format_RGB32);
    cv::Mat target(bgr.size(), CV_8UC4, image.bits(), std::size_t(image.bytesPerLine()));
    cv::cvtColor(bgr, target, cv::COLOR_BGR2BGRA);
    return image;
}

PhotoLoader::PhotoLoader(Background& background, PreviewStore& store, QObject* parent)
    : QObject(parent), background_(background), previews_(store), memory_(*store.memory())
{
    readiness_timer_.setSingleShot(true);
    readiness_timer_.setInterval(150); // a hundred small changes a second are one repaint
    connect(&readiness_timer_, &QTimer::timeout, this, &PhotoLoader::readiness_changed);
}

void PhotoLoader::show_on(std::shared_ptr<const MonitorColours> monitor)
{
    monitor_ = std::move(monitor);
    memory_.drop<Shown>();
    Q_EMIT arrived();
}

QImage PhotoLoader::best(const FrameRequest& request)
{
    for (const auto quality : {Quality::exact, Quality::preview, Quality::camera})
        if (auto found = memory_.get(Shown({request, quality})))
            return *found;
    return {};
}

bool PhotoLoader::has(const FrameRequest& request, Quality quality) const
{
    return memory_.contains(Shown({request, quality}));
}

void PhotoLoader::want(std::vector<Wanted> wanted)
{
    wanted_ = std::move(wanted);
    next_wanted_ = 0;
    pump();
}

void PhotoLoader::prepare(std::vector<PhotoPtr> photos)
{
    preparing_ = std::move(photos);
    next_preparing_ = 0;
    prepared_ = 0;
    ++preparation_;
    readiness_timer_.start();
    pump();
}

bool PhotoLoader::idle() const
{
    return !readiness_timer_.isActive() && running_ == 0 && preparing_now_ == 0 && next_wanted_ >= wanted_.size() &&
           next_preparing_ >= preparing_.size();
}

void PhotoLoader::pump()
{
    const int most = std::max(1, QThread::idealThreadCount());
    // What is wanted does not wait until what is being prepared is there; and the camera's small picture, which is
    // there in no time, not until the photos before it are decoded.
    for (const Wanted* next = next_to_make(); next && running_ < most + int(next->quality == Quality::camera);
         next = next_to_make())
        start(*next);
    while (running_ + preparing_now_ < most && start_next_preparation()) {
    }
}

const Wanted* PhotoLoader::next_to_make()
{
    for (; next_wanted_ < wanted_.size(); ++next_wanted_) {
        const Wanted& w = wanted_[next_wanted_];
        const bool pointless = w.quality == Quality::camera &&
                               (has(w.request, Quality::preview) || without_thumbnail_.contains(w.request.photo()));
        if (!pointless && !has(w.request, w.quality) && !making_.contains(w) &&
            !unreadable_.contains(w.request.photo()))
            return &w;
    }
    return nullptr;
}

void PhotoLoader::start(const Wanted& wanted)
{
    making_.insert(wanted);
    ++running_;
    background_.run(
        this, [w = wanted, &previews = previews_, monitor = monitor_] { return made(w, previews, monitor.get()); },
        [this, w = wanted](Result<QImage> image) { finished(w, std::move(image)); });
}

void PhotoLoader::finished(const Wanted& wanted, Result<QImage> image)
{
    --running_;
    making_.erase(wanted);
    if (image) {
        const auto cost = std::size_t(image->sizeInBytes());
        memory_.put(Shown(wanted), std::move(*image), cost);
        Q_EMIT arrived();
    } else if (wanted.quality == Quality::camera) { // no problem: the photo itself will be decoded
        without_thumbnail_.insert(wanted.request.photo());
    } else {
        unreadable_.try_emplace(wanted.request.photo(), image.error());
        Q_EMIT could_not_read();
        Q_EMIT arrived();
    }
    pump();
}

bool PhotoLoader::start_next_preparation()
{
    if (next_preparing_ >= preparing_.size())
        return false;
    const PhotoPtr photo = preparing_[next_preparing_++];
    ++preparing_now_;
    background_.run(
        this, [photo, &previews = previews_] { return prepared_photo(*photo, previews); },
        [this, photo, list = preparation_](const Result<double>& sharpness) {
            --preparing_now_;
            if (sharpness)
                sharpness_[photo] = *sharpness;
            else if (unreadable_.try_emplace(photo, sharpness.error()).second)
                Q_EMIT could_not_read();
            if (list == preparation_ && ++prepared_ == to_prepare())
                Q_EMIT all_prepared();
            if (!readiness_timer_.isActive())
                readiness_timer_.start();
            pump();
        },
        Rank::prepare);
    return true;
}

}
