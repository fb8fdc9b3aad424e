#include "core/steps/steady/trust_map.h"

#include <algorithm>
#include <cmath>

namespace frenlo {

namespace {
constexpr int across = 24;
}

cv::Rect2d TrustMap::cell(int column, int row) const
{
    return {double(column) / columns, double(row) / rows, 1.0 / columns, 1.0 / rows};
}

TrustCount::TrustCount(cv::Size size) : size_(size)
{
    shape_.columns = across;
    shape_.rows = std::max(1, int(std::lround(double(across) * size.height / std::max(1, size.width))));
    tried_.assign(std::size_t(shape_.columns * shape_.rows), 0);
    agreed_ = tried_;
}

std::size_t TrustCount::cell_of(const cv::Point2f& p) const
{
    const int x = std::clamp(int((p.x + 0.5F) / float(size_.width) * float(shape_.columns)), 0, shape_.columns - 1);
    const int y = std::clamp(int((p.y + 0.5F) / float(size_.height) * float(shape_.rows)), 0, shape_.rows - 1);
    return std::size_t(y * shape_.columns + x);
}

void TrustCount::add(const Prepared& from, const Link& link)
{
    const cv::Rect2d frame(0, 0, size_.width, size_.height);
    for (const cv::Point2f& p : from.points)
        if (frame.contains(moved(link.transform, p)))
            ++tried_[cell_of(p)];
    for (const cv::Point2f& p : link.trusted)
        ++agreed_[cell_of(p)];
}

TrustMap TrustCount::map() const
{
    TrustMap map = shape_;
    for (std::size_t i = 0; i < tried_.size(); ++i)
        map.tenths.push_back(tried_[i] == 0
                                 ? std::int8_t(-1)
                                 : std::int8_t(std::min(10, int(std::lround(10.0 * agreed_[i] / tried_[i])))));
    return map;
}

Region still_background(const TrustMap& map)
{
    constexpr int mostly = 7;
    std::vector<bool> still;
    for (const auto tenths : map.tenths)
        still.push_back(tenths >= mostly);
    if (std::find(still.begin(), still.end(), false) == still.end())
        return {};
    return {boxes_of(still, map.columns), {}};
}

}
