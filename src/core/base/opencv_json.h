#pragma once
// How OpenCV's small geometry is written as JSON.
#include "core/base/field_json.h"
#include "core/base/transform.h"

#include <opencv2/core.hpp>

namespace frenlo {

/// OpenCV's small geometry: its numbers in a list.
template <class T>
struct NumbersOf;

template <>
struct NumbersOf<cv::Size>
{
    static std::array<int, 2> of(const cv::Size& s) { return {s.width, s.height}; }
    static cv::Size made(const std::array<int, 2>& n) { return {n[0], n[1]}; }
};
template <>
struct NumbersOf<cv::Point2d>
{
    static std::array<double, 2> of(const cv::Point2d& p) { return {p.x, p.y}; }
    static cv::Point2d made(const std::array<double, 2>& n) { return {n[0], n[1]}; }
};
template <class Number>
struct NumbersOf<cv::Rect_<Number>>
{
    static std::array<Number, 4> of(const cv::Rect_<Number>& r) { return {r.x, r.y, r.width, r.height}; }
    static cv::Rect_<Number> made(const std::array<Number, 4>& n) { return {n[0], n[1], n[2], n[3]}; }
};
template <>
struct NumbersOf<Transform> ///< row by row; it must have a way back
{
    static std::array<double, 9> of(const Transform& t)
    {
        std::array<double, 9> n{};
        std::copy(t.val, t.val + 9, n.begin());
        return n;
    }
    static Transform made(const std::array<double, 9>& n)
    {
        const Transform t(n.data());
        if (std::abs(cv::determinant(t)) < 1e-9)
            wrong("a matrix cannot be turned round");
        return t;
    }
};

template <class T>
requires requires(const T& v)
{
    NumbersOf<T>::of(v);
}
struct Coded<T>
{
    using Numbers = decltype(NumbersOf<T>::of(std::declval<const T&>()));
    static Json write(const T& v) { return Coded<Numbers>::write(NumbersOf<T>::of(v)); }
    static T read(const Json& j, const Limits& r) { return NumbersOf<T>::made(Coded<Numbers>::read(j, r)); }
    static Json schema(const Limits& r) { return Coded<Numbers>::schema(r); }
    static T sample(int n, const Limits& r)
    {
        if constexpr (requires(T box) { box.tl(); })
            return NumbersOf<T>::made(Coded<Numbers>::sample(n, {std::max(r.low, 1.0), r.high})); // not empty
        else if constexpr (std::is_same_v<T, Transform>)
            return {1, 0.01, double(n), -0.01, 1, 2.5, 0, 1e-5, 1};
        else
            return NumbersOf<T>::made(Coded<Numbers>::sample(n, r));
    }
};

}
