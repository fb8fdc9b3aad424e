#include "app/steps/shoot/camera_worker.h"

#include "core/source/decode.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

using std::chrono::milliseconds;
using SteadyClock = std::chrono::steady_clock;

namespace {
constexpr milliseconds patience{40}, settings_every{1000};
}

CameraWorker::CameraWorker(std::string address, News news) : address_(std::move(address)), news_(std::move(news))
{
    thread_ = std::jthread([this](const std::stop_token& stop) { run(stop); });
}

CameraWorker::~CameraWorker()
{
    end();
}

void CameraWorker::end()
{
    stop_taking();
    thread_.request_stop();
    woken_.notify_all();
}

void CameraWorker::stop_taking()
{
    const std::lock_guard lock(mutex_);
    stop_taking_.request_stop();
}

void CameraWorker::set_live(bool on)
{
    {
        const std::lock_guard lock(mutex_);
        live_on_ = on;
    }
    woken_.notify_all();
}

void CameraWorker::set_wish(const LiveWish& wish)
{
    const std::lock_guard lock(mutex_);
    wish_ = wish;
}

std::optional<LivePicture> CameraWorker::take_live()
{
    const std::lock_guard lock(mutex_);
    return std::exchange(newest_, std::nullopt);
}

void CameraWorker::put(std::function<void()> work)
{
    {
        const std::lock_guard lock(mutex_);
        work_.push_back(std::move(work));
    }
    woken_.notify_all();
}

void CameraWorker::ask(std::function<void(Camera&)> work)
{
    put([this, work = std::move(work)] { work(camera()); });
}

void CameraWorker::take(const DeskOrder& order)
{
    std::stop_token stop;
    {
        const std::lock_guard lock(mutex_);
        stop_taking_ = {};
        stop = stop_taking_.get_token();
    }
    put([this, order, stop] { take_here(order, stop); });
}

void CameraWorker::run(const std::stop_token& stop)
{
    std::string why;
    try {
        held_ = {open_camera(address_), [this] { return open_camera(address_); }};
        settings_ = camera().settings();
        news_.opened(camera().name());
        news_.settings(settings_);
        compare_clocks();
        serve(stop);
    } catch (const Failure& failure) {
        why = failure.problem().text();
    } catch (const std::exception& error) {
        why = error.what();
    }
    held_ = {};
    ended_ = true;
    news_.gone(why);
}

/// A camera's own files have its own times: photos of two cameras, or of a day that was begun without it, lie apart.
void CameraWorker::compare_clocks()
{
    const auto theirs = camera().clock();
    if (!theirs)
        return;
    constexpr double noticed = 3, micro = 1e6;
    const double off = double(theirs->microseconds - clock_.wall()) / micro;
    if (std::abs(off) > noticed)
        news_.told("The camera's clock is " + shown_span(std::abs(off)) + (off < 0 ? " behind" : " ahead of") +
                   " the computer's; so are the times of its photos.");
}

void CameraWorker::serve(const std::stop_token& stop)
{
    while (!stop.stop_requested()) {
        if (work_off())
            look_at_settings();
        bool live = false;
        {
            std::unique_lock lock(mutex_);
            live = live_on_;
            if (!live)
                woken_.wait_for(lock, stop, settings_every, [this] { return !work_.empty() || live_on_; });
        }
        if (live && !stop.stop_requested())
            show_live(patience);
        if (SteadyClock::now() - settings_at_ > settings_every)
            look_at_settings();
    }
}

/// Does what was asked for; whether there was something. What the camera refuses is told, and is no end.
bool CameraWorker::work_off()
{
    for (bool any = false;; any = true) {
        std::function<void()> work;
        {
            const std::lock_guard lock(mutex_);
            if (work_.empty())
                return any;
            work = std::move(work_.front());
            work_.pop_front();
        }
        try {
            work();
        } catch (const Failure& failure) {
            if (!held_.camera && !taking_)
                throw;
            news_.failed(failure.problem().text());
        }
    }
}

Camera& CameraWorker::camera() const
{
    if (!held_.camera)
        throw Failure({"the camera is not there", {}, "Look at its cable, and open it again"});
    return *held_.camera;
}

void CameraWorker::look_at_settings()
{
    settings_at_ = SteadyClock::now();
    if (!held_.camera)
        return;
    auto now = camera().settings();
    if (now == settings_)
        return;
    settings_ = now;
    news_.settings(std::move(now));
}

void CameraWorker::show_live(milliseconds wait)
{
    const cv::Mat picture = camera().live(wait);
    if (picture.empty()) {
        constexpr milliseconds moment{5}; // a camera without live pictures
        std::this_thread::sleep_for(moment);
        return;
    }
    const auto arrived = SteadyClock::now();
    LiveWish wish;
    {
        const std::lock_guard lock(mutex_);
        wish = wish_;
    }
    LivePicture live = live_picture(picture, wish);
    live.arrived = arrived;
    bool waiting = false;
    {
        const std::lock_guard lock(mutex_);
        waiting = newest_.has_value(); // it is on its way: this one goes in its place
        newest_ = std::move(live);
    }
    if (!waiting)
        news_.live();
}

cv::Mat CameraWorker::pixels_before(const PhotoPtr& photo) const
{
    if (!photo || photo->file == last_file_)
        return photo ? last_pixels_ : cv::Mat();
    constexpr int enough = 640;
    const auto before = decode(*photo, {enough, 1});
    return before ? before->pixels : cv::Mat();
}

/// In a series, while nothing is due: what was asked for is done, and live pictures are shown.
void CameraWorker::wait_in_series(double until, const std::stop_token& stop)
{
    while (!stop.stop_requested() && clock_.steady() < until) {
        if (work_off())
            look_at_settings();
        bool live = false;
        {
            const std::lock_guard lock(mutex_);
            live = live_on_ && held_.camera;
        }
        const double left = until - clock_.steady();
        try {
            if (live)
                show_live(std::min(patience, milliseconds(std::int64_t(left * 1000) + 1)));
        } catch (const Failure&) { // the next photo says it, and opens it anew
            live = false;
        }
        constexpr double looked = 0.1;
        if (!live)
            clock_.wait_until(std::min(until, clock_.steady() + looked), stop);
    }
}

void CameraWorker::take_one(const DeskOrder& order, PhotoFolder& folder, const SeriesNews& news, const Job& job)
{
    PhotoTaker taker(camera(), folder, clock_);
    taker.compare_with(pixels_before(order.before));
    const TakenPhoto photo = taker.take(order.series.take, job);
    for (const std::string& r : photo.remarks)
        news.told(r);
    news.taken(photo, 1);
}

void CameraWorker::take_here(const DeskOrder& order, const std::stop_token& stop)
{
    std::string why;
    taking_ = true;
    try {
        PhotoFolder folder(order.folder, order.stem);
        SeriesNews news;
        news.taken = [&](const TakenPhoto& photo, std::int64_t) {
            space_.wrote(photo.asked_at, photo.bytes);
            last_file_ = photo.photo->file;
            last_pixels_ = photo.pixels;
            news_.taken(std::make_shared<const TakenPhoto>(photo), space_.photos_left(folder.free_bytes()));
        };
        news.told = news_.told;
        news.waiting = [&](double until) { wait_in_series(until, stop); };
        if (order.is_series())
            why = take_series(held_, order.series, folder, clock_, news, Job(stop)).ended;
        else // what fails is told at once
            take_one(order, folder, news, Job(stop));
    } catch (const Stopped&) {
        why = "stopped";
    } catch (const Failure& failure) {
        why = failure.problem().text();
    }
    taking_ = false;
    news_.ended(why);
    (void)camera(); // where a series lost it, that is the end
}

}
