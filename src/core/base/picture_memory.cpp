#include "core/base/picture_memory.h"

#include <algorithm>
#include <cstdlib>
#include <new>

namespace frenlo {

namespace {

constexpr std::size_t least = 1 << 20; // smaller ones are the system's own business
constexpr std::size_t alignment = 64;
constexpr std::size_t auto_step = 0x7fffffff; // CV_AUTOSTEP of the old interface

std::size_t rounded_up(std::size_t bytes)
{
    return (bytes + alignment - 1) / alignment * alignment;
}

}

PictureMemory::~PictureMemory()
{
    for (const Piece& p : idle_)
        std::free(p.memory);
}

void* PictureMemory::take(std::size_t bytes) const
{
    if (bytes >= least) {
        const std::lock_guard lock(mutex_);
        // The same size: pictures of a run have it. Others would leave room unused.
        const auto found = std::find_if(idle_.rbegin(), idle_.rend(), [&](const Piece& p) { return p.bytes == bytes; });
        if (found != idle_.rend()) {
            void* memory = found->memory;
            idle_bytes_ -= bytes;
            idle_.erase(std::next(found).base());
            return memory;
        }
    }
    void* memory = std::aligned_alloc(alignment, std::max(alignment, bytes));
    if (!memory)
        throw std::bad_alloc();
    return memory;
}

void PictureMemory::give_back(Piece piece) const
{
    if (piece.bytes < least || piece.bytes > budget_) {
        std::free(piece.memory);
        return;
    }
    const std::lock_guard lock(mutex_);
    idle_.push_back(piece);
    idle_bytes_ += piece.bytes;
    while (idle_bytes_ > budget_) {
        idle_bytes_ -= idle_.front().bytes;
        std::free(idle_.front().memory);
        idle_.erase(idle_.begin());
    }
}

cv::UMatData* PictureMemory::allocate(int dims, const int* sizes, int type, void* data, std::size_t* step,
                                      cv::AccessFlag, cv::UMatUsageFlags) const
{
    std::size_t total = std::size_t(CV_ELEM_SIZE(type));
    for (int i = dims - 1; i >= 0; --i) {
        if (step) {
            if (data && step[i] != auto_step)
                total = step[i];
            else
                step[i] = total;
        }
        total *= std::size_t(sizes[i]);
    }
    auto* owner = new cv::UMatData(this);
    owner->size = total;
    owner->data = owner->origdata = static_cast<uchar*>(data ? data : take(rounded_up(total)));
    if (data)
        owner->flags |= cv::UMatData::USER_ALLOCATED;
    return owner;
}

bool PictureMemory::allocate(cv::UMatData* data, cv::AccessFlag, cv::UMatUsageFlags) const
{
    return data != nullptr;
}

void PictureMemory::deallocate(cv::UMatData* data) const
{
    if (!data)
        return;
    if (!(data->flags & cv::UMatData::USER_ALLOCATED))
        give_back({data->origdata, rounded_up(data->size)});
    data->origdata = nullptr;
    delete data;
}

std::size_t PictureMemory::idle_bytes() const
{
    const std::lock_guard lock(mutex_);
    return idle_bytes_;
}

}
