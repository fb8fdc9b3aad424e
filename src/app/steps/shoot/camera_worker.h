#pragma once
#include "app/steps/shoot/live_picture.h"
#include "core/steps/shoot/series.h"

#include <condition_variable>
#include <deque>
#include <functional>
#include <memory>
#include <mutex>
#include <thread>

namespace frenlo::app {

/// What is to be taken, and where it goes on the disk.
struct DeskOrder
{
    SeriesOrder series{.count = 1};
    std::filesystem::path folder;
    std::string stem;
    PhotoPtr before{}; ///< the photo that it is compared with; null: none

    [[nodiscard]] bool is_series() const { return series.count != 1 || series.delay > 0; }
};

/// A thread that has a camera from opening it until it is closed or gone: shows live pictures, does what is asked for,
/// takes photos and series.
class CameraWorker
{
public:
    /// What it says, from its thread.
    struct News
    {
        std::function<void(const std::string& name)> opened;
        std::function<void(std::vector<CameraSetting>)> settings;
        std::function<void()> live; ///< there is one to take; not again until it was taken
        std::function<void(std::shared_ptr<const TakenPhoto>, std::optional<std::int64_t> photos_left)> taken;
        std::function<void(const std::string&)> told;
        std::function<void(const std::string& why)> ended; ///< of an order; why: empty where all was taken
        std::function<void(const std::string&)> failed;    ///< the camera refused something
        std::function<void(const std::string& why)> gone;  ///< the last that it says
    };
    CameraWorker(std::string address, News news);
    /// Waits for the camera to come to an end of what it does.
    ~CameraWorker();
    CameraWorker(const CameraWorker&) = delete;
    CameraWorker& operator=(const CameraWorker&) = delete;

    /// Does not wait: it ends when the camera lets it.
    void end();
    [[nodiscard]] bool has_ended() const { return ended_; }

    void set_live(bool on);
    void set_wish(const LiveWish& wish);
    /// The newest, once.
    std::optional<LivePicture> take_live();
    void ask(std::function<void(Camera&)> work);
    void take(const DeskOrder& order);
    void stop_taking();

private:
    void run(const std::stop_token& stop);
    void compare_clocks();
    void serve(const std::stop_token& stop);
    void show_live(std::chrono::milliseconds patience);
    void look_at_settings();
    bool work_off();
    void put(std::function<void()> work);
    [[nodiscard]] Camera& camera() const;
    [[nodiscard]] cv::Mat pixels_before(const PhotoPtr& photo) const;
    void take_here(const DeskOrder& order, const std::stop_token& stop);
    void take_one(const DeskOrder& order, PhotoFolder& folder, const SeriesNews& news, const Job& job);
    void wait_in_series(double until, const std::stop_token& stop);

    const std::string address_;
    const News news_;

    // Of the thread alone.
    SeriesCamera held_; ///< null while it is to be opened anew
    MachineClock clock_;
    std::vector<CameraSetting> settings_;
    std::chrono::steady_clock::time_point settings_at_{};
    SpaceWatch space_;
    std::filesystem::path last_file_; ///< the last photo that was taken, and its pixels
    cv::Mat last_pixels_;
    bool taking_ = false;

    // Of both.
    std::mutex mutex_;
    std::condition_variable_any woken_;
    std::deque<std::function<void()>> work_;
    bool live_on_ = true;
    LiveWish wish_;
    std::optional<LivePicture> newest_;
    std::stop_source stop_taking_;
    std::atomic<bool> ended_ = false;
    std::jthread thread_; ///< last: it uses the others
};

}
