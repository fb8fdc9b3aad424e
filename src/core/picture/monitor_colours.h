#pragma once
#include <opencv2/core/mat.hpp>

#include <memory>
#include <string>

namespace frenlo {

/// From sRGB to what a monitor has to be told to show it, by the monitor's profile (ICC.1), relative colorimetric. For
/// the screen only: nothing that is written or measured goes through it. Safe from any thread.
class MonitorColours
{
public:
    /// Null where the profile is none for red, green and blue, or where it changes nothing.
    static std::shared_ptr<const MonitorColours> of_profile(const std::string& icc);
    ~MonitorColours();
    MonitorColours(const MonitorColours&) = delete;
    MonitorColours& operator=(const MonitorColours&) = delete;

    /// B G R, 8 bit, in place.
    void apply(cv::Mat& bgr) const;

private:
    explicit MonitorColours(void* transform) : transform_(transform) {}
    void* transform_;
};

}
