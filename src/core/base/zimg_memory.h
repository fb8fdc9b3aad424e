#pragma once
// The memory that zimg works in, and its graphs, with owners.
#include <cstdint>
#include <cstdlib>
#include <memory>
#include <new>
#include <zimg.h>

namespace frenlo::zimg {

constexpr std::size_t alignment = 64; ///< of all memory that it works in

struct FreeGraph
{
    void operator()(zimg_filter_graph* g) const { zimg_filter_graph_free(g); }
};
struct FreeMemory
{
    void operator()(void* p) const { std::free(p); }
};
using Memory = std::unique_ptr<std::uint8_t, FreeMemory>;

inline Memory memory_of(std::size_t bytes)
{
    auto* p = static_cast<std::uint8_t*>(std::aligned_alloc(alignment, (bytes / alignment + 1) * alignment));
    if (!p)
        throw std::bad_alloc();
    return Memory(p);
}

}
