#include "core/source/transfer.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace frenlo {

namespace {

template <class Channel>
std::vector<float> made_linear_table()
{
    constexpr int most = std::numeric_limits<Channel>::max();
    std::vector<float> t(std::size_t(most) + 1);
    for (int i = 0; i <= most; ++i)
        t[std::size_t(i)] = static_cast<float>(linear_of(double(i) / most));
    return t;
}

std::vector<std::uint8_t> made_encoded_table()
{
    std::vector<std::uint8_t> t(65'536);
    for (std::size_t i = 0; i < t.size(); ++i)
        t[i] = static_cast<std::uint8_t>(std::lround(encoded_of(double(i) / 65'535) * 255));
    return t;
}

}

const std::vector<std::uint8_t>& encoded_table()
{
    static const std::vector<std::uint8_t> table = made_encoded_table();
    return table;
}

double linear_of(double encoded)
{
    return encoded <= 0.04045 ? encoded / 12.92 : std::pow((encoded + 0.055) / 1.055, 2.4);
}

double encoded_of(double linear)
{
    return linear <= 0.0031308 ? linear * 12.92 : 1.055 * std::pow(linear, 1 / 2.4) - 0.055;
}

template <>
const std::vector<float>& linear_table<std::uint8_t>()
{
    static const std::vector<float> table = made_linear_table<std::uint8_t>();
    return table;
}

template <>
const std::vector<float>& linear_table<std::uint16_t>()
{
    static const std::vector<float> table = made_linear_table<std::uint16_t>();
    return table;
}

template <>
std::uint8_t encoded_channel<std::uint8_t>(double linear)
{
    return encoded_table()[static_cast<std::size_t>(std::lround(std::clamp(linear, 0.0, 1.0) * 65'535))];
}

template <>
std::uint16_t encoded_channel<std::uint16_t>(double linear)
{
    return static_cast<std::uint16_t>(std::lround(encoded_of(std::clamp(linear, 0.0, 1.0)) * 65'535));
}

}
