#pragma once
#include <opencv2/core/mat.hpp>

#include <cstddef>
#include <mutex>
#include <vector>

namespace frenlo {

/// Memory of large pictures, used again instead of being asked of the system each time: fresh pages cost as much as a
/// third of decoding. For a program that makes many pictures of the same sizes; give it to cv::Mat::setDefaultAllocator
/// before the first picture is made, and let it outlive the last. Safe from any thread.
class PictureMemory final : public cv::MatAllocator
{
public:
    /// What the programs have: about three frames of 1080p in linear light.
    static constexpr std::size_t usual_budget = std::size_t(96) << 20;
    /// budget: bytes that may lie idle.
    explicit PictureMemory(std::size_t budget = usual_budget) : budget_(budget) {}
    ~PictureMemory() override;
    PictureMemory(const PictureMemory&) = delete;
    PictureMemory& operator=(const PictureMemory&) = delete;

    cv::UMatData* allocate(int dims, const int* sizes, int type, void* data, std::size_t* step, cv::AccessFlag flags,
                           cv::UMatUsageFlags usage) const override;
    bool allocate(cv::UMatData* data, cv::AccessFlag flags, cv::UMatUsageFlags usage) const override;
    void deallocate(cv::UMatData* data) const override;

    [[nodiscard]] std::size_t idle_bytes() const;

private:
    struct Piece
    {
        void* memory;
        std::size_t bytes;
    };
    [[nodiscard]] void* take(std::size_t bytes) const;
    void give_back(Piece piece) const;

    std::size_t budget_;
    mutable std::mutex mutex_;
    mutable std::vector<Piece> idle_; ///< the longest idle first
    mutable std::size_t idle_bytes_ = 0;
};

}
