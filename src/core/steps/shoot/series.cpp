#include "core/steps/shoot/series.h"

#include "core/base/text.h"

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace frenlo {

double due_after(const SeriesOrder& order, std::int64_t photo)
{
    return order.delay + double(photo) * order.every;
}

std::string shown_span(double seconds)
{
    constexpr double minute = 60, hour = 3600;
    const auto whole = [](double v) { return std::to_string(std::llround(v)); };
    if (seconds < 2 * minute)
        return whole(seconds) + " s";
    if (seconds < 2 * hour)
        return whole(seconds / minute) + " min";
    constexpr double finely = 10 * hour; // beyond that nobody counts minutes
    const auto minutes = std::llround(seconds / minute) % 60;
    if (seconds >= finely || minutes == 0)
        return whole(seconds / hour) + " h";
    return std::to_string(std::llround(seconds / minute) / 60) + " h " + std::to_string(minutes) + " min";
}

namespace {

class Series
{
public:
    Series(SeriesCamera& camera, const SeriesOrder& order, PhotoFolder& folder, SeriesClock& clock,
           const SeriesNews& news, const Job& job)
        : camera_(camera), order_(order), folder_(folder), clock_(clock), news_(news), job_(job),
          taker_(*camera.camera, folder, clock), start_(clock.steady())
    {
    }

    SeriesResult run()
    {
        std::int64_t slot = 0; // which of the series' times is next
        while ((order_.count == 0 || slot < order_.count) && !job_.stopping() && result_.ended.empty()) {
            const double due = start_ + due_after(order_, slot);
            wait(due);
            if (job_.stopping())
                break;
            const double late = clock_.steady() - due;
            if (order_.every > 0 && late >= order_.every) { // its time is over, and that of the next has come
                ++slot;
                miss();
                continue;
            }
            if (order_.every > 0)
                result_.latest = std::max(result_.latest, late);
            if (take(slot) || order_.every > 0)
                ++slot;
        }
        if (result_.missed > 0)
            tell("At " + counted(result_.missed, "time", "times") +
                 " no photo was taken: the one before was not done, or the camera did not answer.");
        return result_;
    }

private:
    void wait(double due)
    {
        constexpr double before = 0.08; // live pictures end so long before, that the camera is free in time
        if (news_.waiting && due - clock_.steady() > before)
            news_.waiting(due - before);
        if (clock_.steady() < due)
            clock_.wait_until(due, job_.token());
    }

    void tell(const std::string& what) const
    {
        if (news_.told)
            news_.told(what);
    }

    void miss() { ++result_.missed; }

    bool take(std::int64_t slot)
    {
        const std::string number = "photo " + std::to_string(result_.photos + 1);
        try {
            if (!camera_.camera)
                open();
            const TakenPhoto photo = taker_.take(order_.take, job_);
            failures_ = 0;
            ++result_.photos;
            for (const std::string& r : photo.remarks)
                tell(photo.photo->file.filename().string() + ": " + r);
            if (news_.taken)
                news_.taken(photo, result_.photos);
            watch(number);
            job_.report(order_.count > 0 ? double(slot + 1) / double(order_.count) : 0, number);
            return true;
        } catch (const Stopped&) {
            return false;
        } catch (const Failure& failure) {
            failed(number, failure);
            return false;
        }
    }

    void failed(const std::string& number, const Failure& failure)
    {
        constexpr int enough = 2;
        const int most = order_.every > 0 ? 10 : 3; // somebody waits, or nobody does before the morning
        tell(number + ": " + failure.problem().text());
        ++failures_;
        if (order_.every > 0)
            miss();
        if (failures_ >= enough && camera_.open_again)
            camera_.camera.reset(); // it is opened anew at the next time
        const bool full = folder_.free_bytes() == 0 || failure.problem().what.starts_with("the disk is full");
        if (failures_ >= most || full || (!camera_.camera && !camera_.open_again))
            result_.ended = failure.problem().text();
        if (order_.every <= 0 && result_.ended.empty()) // no time is set for the next: not at once again
            clock_.wait_until(clock_.steady() + 0.5, job_.token());
    }

    void open()
    {
        camera_.camera = camera_.open_again();
        taker_.use(*camera_.camera);
        tell("The camera was opened again.");
    }

    void watch(const std::string& number)
    {
        if (const auto by = taker_.clocks().jumped())
            tell("The computer's clock was set by " + std::to_string(std::llround(*by)) + " s before " + number +
                 "; the series keeps its time, and the photos theirs.");
        const auto left = taker_.space().seconds_left(folder_.free_bytes());
        if (left && *left < SpaceWatch::warn_seconds && !warned_) {
            warned_ = true;
            tell("The disk will be full in " + shown_span(*left) + " at this rate.");
        }
    }

    SeriesCamera& camera_;
    const SeriesOrder& order_;
    PhotoFolder& folder_;
    SeriesClock& clock_;
    const SeriesNews& news_;
    const Job& job_;
    PhotoTaker taker_;
    double start_;
    SeriesResult result_;
    int failures_ = 0;
    bool warned_ = false;
};

}

SeriesResult take_series(SeriesCamera& camera, const SeriesOrder& order, PhotoFolder& folder, SeriesClock& clock,
                         const SeriesNews& news, const Job& job)
{
    if (!camera.camera)
        camera.camera = camera.open_again();
    return Series(camera, order, folder, clock, news, job).run();
}

}
