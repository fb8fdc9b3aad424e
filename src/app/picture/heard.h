#pragma once
#include "core/time/rate.h"

#include <cstdint>
#include <optional>

namespace frenlo::app {

/// A part of a film, from where in it, and whether it begins again behind its end.
struct HeardRange
{
    Seconds begin, end;
    Seconds from; ///< within them
    bool loops = false;
};

/// What is heard while a film plays. While it is, it keeps the time: sound cannot wait.
class Heard
{
public:
    virtual ~Heard() = default;
    /// Whether there is anything to hear; what was heard before ends.
    virtual bool start(const HeardRange& what) = 0;
    virtual void stop() = 0;
    /// Since start(), of what was heard; nothing where nothing plays.
    [[nodiscard]] virtual std::optional<std::int64_t> now_ns() = 0;
    /// A moment of it, once, while nothing plays.
    virtual void touch(Seconds from, Seconds length) = 0;
};

}
