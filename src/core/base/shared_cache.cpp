#include "core/base/shared_cache.h"

#include <algorithm>
#include <unistd.h>

namespace frenlo {

std::size_t usual_cache_bytes()
{
    constexpr std::size_t least = 256u << 20, most = 1024u << 20;
    const long pages = sysconf(_SC_PHYS_PAGES), page = sysconf(_SC_PAGESIZE);
    return pages > 0 && page > 0 ? std::clamp(std::size_t(pages) / 8 * std::size_t(page), least, most) : least;
}

}
