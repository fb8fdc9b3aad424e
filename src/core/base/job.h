#pragma once
#include "core/base/problem.h"

#include <functional>
#include <stop_token>
#include <string>
#include <string_view>

namespace frenlo {

/// The one argument that long work takes: where it says how far it is, and where it learns that it should stop.
/// report() may be called from any thread; the function given must allow that.
class Job
{
public:
    using Report = std::function<void(double fraction, std::string_view what)>;

    Job() = default;
    explicit Job(std::stop_token stop, Report report = {}) : stop_(std::move(stop)), report_(std::move(report)) {}

    /// fraction: 0 to 1 of the whole work. what: what is being done, for people: "photo 12 of 48".
    void report(double fraction, std::string_view what) const
    {
        if (report_)
            report_(fraction, what);
    }
    [[nodiscard]] const std::stop_token& token() const { return stop_; }
    [[nodiscard]] bool stopping() const { return stop_.stop_requested(); }
    /// Throws Stopped when the user has asked to stop. Polled a row or a photo at a time.
    void check() const
    {
        if (stopping())
            throw Stopped();
    }

private:
    std::stop_token stop_;
    Report report_;
};

}
