#pragma once

namespace frenlo {

/// Whether this machine has vectors of eight floats. What takes all the time is compiled twice, for it and for every
/// machine, as the same sums in the same order (no fused ones): all machines give the same to the bit.
/// FRENLO_WIDE marks the copy that may only run where this is true.
#ifdef __x86_64__
#define FRENLO_WIDE [[gnu::target("avx2")]]
inline bool has_wide_vectors()
{
    static const bool has = __builtin_cpu_supports("avx2");
    return has;
}
#else
#define FRENLO_WIDE
constexpr bool has_wide_vectors()
{
    return false;
}
#endif

}
