#pragma once
// OpenCV's small geometry as values that have hashes (fields.h).
#include "core/base/fields.h"

#include <opencv2/core/matx.hpp>
#include <opencv2/core/types.hpp>

namespace frenlo {

template <class Number>
struct HashOf<cv::Size_<Number>>
{
    static std::size_t of(const cv::Size_<Number>& s) { return mixed_hash(hash_of(s.width), hash_of(s.height)); }
};
template <class Number>
struct HashOf<cv::Point_<Number>>
{
    static std::size_t of(const cv::Point_<Number>& p) { return mixed_hash(hash_of(p.x), hash_of(p.y)); }
};
template <class Number>
struct HashOf<cv::Rect_<Number>>
{
    static std::size_t of(const cv::Rect_<Number>& r) { return mixed_hash(hash_of(r.tl()), hash_of(r.size())); }
};
template <class Number, int Rows, int Columns>
struct HashOf<cv::Matx<Number, Rows, Columns>>
{
    static std::size_t of(const cv::Matx<Number, Rows, Columns>& m)
    {
        std::size_t h = 0;
        for (const Number v : m.val)
            h = mixed_hash(h, hash_of(v));
        return h;
    }
};

}
