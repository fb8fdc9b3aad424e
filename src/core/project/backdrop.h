#pragma once
#include <array>
#include <cstdint>

namespace frenlo {

/// What lies behind transparent photos and beside photos of another shape: R, G, B, sRGB-encoded.
using Backdrop = std::array<std::uint8_t, 3>;

}
