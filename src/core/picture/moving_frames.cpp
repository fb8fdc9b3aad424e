#include "core/picture/moving_frames.h"

#include "core/base/shared_cache.h"

#include <tbb/task_arena.h>

#include <utility>

namespace frenlo {

namespace {

using EndResult = Result<std::shared_ptr<const Composed>>;
using MotionPtr = std::shared_ptr<const DenseMotion>;

/// A frame as it is before it moves on.
struct EndKey : CacheKey<EndResult, 25>
{
    FrameRequest request;
    Depth depth;
    WhichPixels pixels;

    EndKey(FrameRequest frame, Depth at, WhichPixels which) : request(std::move(frame)), depth(at), pixels(which) {}
    bool operator==(const EndKey& o) const { return request == o.request && depth == o.depth && pixels == o.pixels; }
    [[nodiscard]] std::size_t hash() const
    {
        return mixed_hash(mixed_hash(hash_of(request), std::size_t(depth)), std::size_t(pixels));
    }
};

struct MotionKey : CacheKey<MotionPtr, 12>
{
    EndKey from, to;

    MotionKey(EndKey a, EndKey b) : from(std::move(a)), to(std::move(b)) {}
    bool operator==(const MotionKey& o) const { return from == o.from && to == o.to; }
    [[nodiscard]] std::size_t hash() const { return mixed_hash(from.hash(), to.hash()); }
};

template <class... Pictures>
std::size_t bytes_of(const Pictures&... pictures)
{
    return (std::size_t(0) + ... + (pictures.total() * pictures.elemSize()));
}

std::size_t bytes_of(const DenseMotion& m)
{
    return bytes_of(m.forth, m.back, m.first, m.second, m.first_only, m.second_only, m.forth_off, m.back_off,
                    m.unmoved) +
           m.layer.bytes();
}

/// Whoever makes something others wait for does nothing else meanwhile: it could be something that waits for this.
template <class Key, class Make>
typename Key::Value made_once(SharedCache* cache, const Key& key, const Make& make)
{
    if (!cache)
        return make().first;
    return cache->get_or_make(key, [&] { return tbb::this_task_arena::isolate([&] { return make(); }); });
}

}

Result<MovingFrames> moving_frames(const FrameRequest& request, cv::Size size, Depth depth, const PhotoSource& source,
                                   const ComposeAlone& compose)
{
    const auto [cache, pixels] = source.memory();
    const auto end = [&, which = pixels](std::size_t i) {
        FrameRequest alone{.size = size, .parts = {request.parts[i]}};
        alone.parts.front().weight = 1;
        return EndKey(std::move(alone), depth, which);
    };
    const EndKey from = end(0), to = end(1);
    MovingFrames moving;
    for (const auto& [key, picture] : {std::pair(&from, &moving.ends[0]), std::pair(&to, &moving.ends[1])}) {
        EndResult made = made_once(cache, *key, [&, frame = &key->request]() -> std::pair<EndResult, std::size_t> {
            auto composed = compose(*frame);
            if (!composed) // told again whenever it is asked for
                return {tl::unexpected(std::move(composed.error())), 0};
            const std::size_t bytes = bytes_of(composed->canvas);
            return {std::make_shared<const Composed>(std::move(*composed)), bytes};
        });
        if (!made)
            return tl::unexpected(std::move(made.error()));
        *picture = std::move(*made);
    }
    moving.motion = made_once(cache, MotionKey(from, to), [&]() -> std::pair<MotionPtr, std::size_t> {
        auto motion = std::make_shared<const DenseMotion>(dense_motion(moving.ends[0]->canvas, moving.ends[1]->canvas));
        return {motion, bytes_of(*motion)};
    });
    return moving;
}

}
