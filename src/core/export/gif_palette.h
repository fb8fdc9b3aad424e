#pragma once
// Private to export/: the colours of a loop.
#include <opencv2/core/mat.hpp>

#include <memory>
#include <vector>

struct liq_attr;
struct liq_histogram;

namespace frenlo {

/// Which of the colours that are hard to tell from each other count more.
enum class DarkColours
{
    as_seen, ///< as libimagequant does: light ones
    count    ///< all alike as they are coded: of dark pictures in many colours more is seen than of light ones
};

/// Chooses the colours in which all pictures of a loop look most like themselves: libimagequant's, over all of them at
/// once. Pictures are B G R or B G R A of 8 bits; what is more transparent than not has no colour.
class PaletteChooser
{
public:
    /// colours: 2 to 256.
    explicit PaletteChooser(int colours, DarkColours dark = DarkColours::as_seen);
    ~PaletteChooser();

    void look_at(const cv::Mat& picture);
    /// B G R, at least one and at most as many as were asked for; what was looked at is forgotten. Throws Failure
    /// without a file.
    [[nodiscard]] std::vector<cv::Vec3b> choose();

private:
    struct Free
    {
        void operator()(liq_attr* a) const;
        void operator()(liq_histogram* h) const;
    };
    double gamma_;
    std::unique_ptr<liq_attr, Free> settings_;
    std::unique_ptr<liq_histogram, Free> seen_;
    bool empty_ = true;
};

}
