#pragma once
#include <cstdint>
#include <vector>

namespace frenlo {

/// The sRGB transfer function, IEC 61966-2-1:1999: encoded 0 to 1, linear light 0 to 1, scene white is 1.
double linear_of(double encoded);
double encoded_of(double linear);

/// Linear light of each encoded value of a channel of 8 or 16 bit.
template <class Channel>
const std::vector<float>& linear_table();
template <>
const std::vector<float>& linear_table<std::uint8_t>();
template <>
const std::vector<float>& linear_table<std::uint16_t>();

/// Eight bits, encoded, of linear light in steps of 65,535.
const std::vector<std::uint8_t>& encoded_table();

/// The encoded value of a channel for linear light; below 0 and above 1 are 0 and 1. In 8 bit by a table of 65,536
/// steps of linear light, so fine that the darkest values are still told apart.
template <class Channel>
Channel encoded_channel(double linear);
template <>
std::uint8_t encoded_channel<std::uint8_t>(double linear);
template <>
std::uint16_t encoded_channel<std::uint16_t>(double linear);

}
