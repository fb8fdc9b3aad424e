#include "core/base/picture_memory.h"
#include "tests/support/catch.h"

#include <opencv2/core.hpp>

#include <thread>
#include <vector>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

cv::Mat made_in(const PictureMemory& memory, cv::Size size)
{
    cv::Mat m;
    m.allocator = const_cast<PictureMemory*>(&memory);
    m.create(size, CV_8UC3);
    return m;
}

}

TEST_CASE("the memory of a large picture is used again, within the budget", "[memory]")
{
    constexpr std::size_t megabyte = 1 << 20;
    PictureMemory memory(8 * megabyte);
    const cv::Size large(1024, 1024); // 3 MB
    const uchar* first = nullptr;
    {
        cv::Mat m = made_in(memory, large);
        CHECK(m.isContinuous());
        CHECK(m.step == 1024 * 3);
        m.setTo(cv::Scalar(1, 2, 3));
        first = m.data;
        CHECK(memory.idle_bytes() == 0);
        const cv::Mat part = m(cv::Rect(10, 10, 5, 5)); // keeps it
        m.release();
        CHECK(memory.idle_bytes() == 0);
        CHECK(part.at<cv::Vec3b>(0, 0) == cv::Vec3b(1, 2, 3));
    }
    CHECK(memory.idle_bytes() == 3 * megabyte);
    CHECK(made_in(memory, large).data == first);
    CHECK(made_in(memory, {1000, 1000}).data != first); // another size
    {
        std::vector<cv::Mat> many;
        for (int i = 0; i < 5; ++i)
            many.push_back(made_in(memory, large));
    }
    CHECK(memory.idle_bytes() <= 8 * megabyte);
    const auto before = memory.idle_bytes();
    made_in(memory, {10, 10}); // small ones are not kept
    CHECK(memory.idle_bytes() == before);
    CHECK_FALSE(made_in(memory, {0, 0}).data);
}

TEST_CASE("pictures come and go from several threads", "[memory]")
{
    PictureMemory memory(64 << 20);
    std::vector<std::thread> threads;
    std::vector<int> wrong(4, 0);
    for (int t = 0; t < 4; ++t)
        threads.emplace_back([&, t] {
            for (int i = 0; i < 60; ++i) {
                cv::Mat m = made_in(memory, {700 + 100 * (i % 3), 600});
                m.setTo(cv::Scalar::all(t));
                wrong[std::size_t(t)] += m.at<cv::Vec3b>(m.rows - 1, m.cols - 1)[2] != t;
            }
        });
    for (auto& t : threads)
        t.join();
    CHECK(wrong == std::vector<int>(4, 0));
}

}
