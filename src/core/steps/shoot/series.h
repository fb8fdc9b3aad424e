#pragma once
#include "core/steps/shoot/taking.h"

#include <functional>

namespace frenlo {

/// Photos one after another, by the clock.
struct SeriesOrder
{
    std::int64_t count = 0; ///< 0: until it is stopped
    double every = 0;       ///< seconds from the beginning of one photo to that of the next; 0: at once
    double delay = 0;       ///< seconds before the first
    TakeOrder take{};
};

/// When photo i of a series is due, seconds after it was started: counted from the start, so that nothing adds up.
double due_after(const SeriesOrder& order, std::int64_t photo);

/// What a series says while it runs, from its own thread.
struct SeriesNews
{
    std::function<void(const TakenPhoto& photo, std::int64_t number)> taken{};
    std::function<void(const std::string&)> told{}; ///< something that somebody should know in the morning
    /// While it waits: until this time on the steady clock the camera is free. Returns at that time at the latest.
    std::function<void(double until)> waiting{};
};

struct SeriesResult
{
    std::int64_t photos = 0;
    std::int64_t missed = 0; ///< times at which no photo was taken: the one before took too long, or the camera failed
    double latest = 0;       ///< seconds that a photo was asked for behind its time, at most
    std::string ended{};     ///< why, where it was before its end
};

/// A camera that can be opened anew.
struct SeriesCamera
{
    std::unique_ptr<Camera> camera;
    std::function<std::unique_ptr<Camera>()> open_again{}; ///< empty: it cannot
};

/// Takes a series. A photo that fails is told and the next one tried at its time; after two failures the camera is
/// opened anew. Ends before its end where the disk is full, after ten failures in a row, or when it is stopped: what
/// was taken stays.
SeriesResult take_series(SeriesCamera& camera, const SeriesOrder& order, PhotoFolder& folder, SeriesClock& clock,
                         const SeriesNews& news, const Job& job);

/// "45 s", "90 min", "2 h 40 min", "12 h", for people.
std::string shown_span(double seconds);

}
