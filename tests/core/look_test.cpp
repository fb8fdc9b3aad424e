// Looks: what must not matter to them, and what must.
#include "core/source/sharpness.h"
#include "core/steps/sort/odd_photos.h"
#include "core/steps/sort/photo_signature.h"
#include "tests/support/card.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/imgproc.hpp>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

PhotoSignature look(const cv::Mat& m)
{
    return signature_of(m);
}

cv::Mat noisy(const cv::Mat& m, std::uint64_t seed, double sigma)
{
    cv::Mat noise(m.size(), CV_16SC3), out;
    cv::RNG rng(seed);
    rng.fill(noise, cv::RNG::NORMAL, 0, sigma);
    cv::add(m, noise, out, {}, CV_8U);
    return out;
}

cv::Mat shifted(const cv::Mat& m, double x, double y)
{
    cv::Mat out;
    cv::warpAffine(m, out, cv::Matx23d(1, 0, x, 0, 1, y), m.size(), cv::INTER_LINEAR, cv::BORDER_REFLECT);
    return out;
}

/// Photos of a list of pictures, without files.
std::vector<Candidate> candidates(const std::vector<cv::Mat>& pictures, double interval = 15)
{
    std::vector<Candidate> list;
    for (std::size_t i = 0; i < pictures.size(); ++i) {
        auto photo = std::make_shared<PhotoFile>();
        photo->file = "/card/HARB" + std::to_string(1000 + i) + ".JPG";
        photo->size = {480, 320};
        photo->captured = CaptureTime{std::int64_t(double(i) * interval * 1e6)};
        list.push_back({photo, true, signature_of(pictures[i])});
    }
    return list;
}

std::vector<std::size_t> all_of(const std::vector<Candidate>& list)
{
    std::vector<std::size_t> at(list.size());
    for (std::size_t i = 0; i < at.size(); ++i)
        at[i] = i;
    return at;
}

}

TEST_CASE("noise, exposure, gamma, a knock and another size leave a photo like itself", "[look]")
{
    const int seed = GENERATE(1, 4, 9);
    const cv::Mat photo = hand_moved(seed, 3);
    const PhotoSignature original = look(photo);
    cv::Mat gamma, small, deep, alpha;
    cv::Mat table(1, 256, CV_8U);
    for (int i = 0; i < 256; ++i)
        table.at<std::uint8_t>(i) = cv::saturate_cast<std::uint8_t>(255 * std::pow(i / 255.0, 1.4));
    cv::LUT(photo, table, gamma);
    cv::resize(photo, small, {160, 107}, 0, 0, cv::INTER_AREA);
    photo.convertTo(deep, CV_16U, 257);
    cv::cvtColor(photo, alpha, cv::COLOR_BGR2BGRA);
    const std::pair<const char*, cv::Mat> same[] = {{"noise", noisy(photo, 5, 12)},
                                                    {"a stop brighter", exposed(photo, 1)},
                                                    {"a stop darker", exposed(photo, -1)},
                                                    {"gamma", gamma},
                                                    {"a knock of a fortieth of the frame", shifted(photo, 12, -8)},
                                                    {"a thumbnail", small},
                                                    {"16 bit", deep},
                                                    {"with alpha", alpha},
                                                    {"a subject that moved on", hand_moved(seed, 30)}};
    for (const auto& [what, picture] : same) {
        CAPTURE(what);
        CHECK(unlike(original, look(picture)) < 0.35);
        CHECK(unlike(look(picture), original) == Approx(unlike(original, look(picture))).margin(0.05));
    }
    CHECK(unlike(original, original) < 0.05); // what noise takes from any correlation
    CHECK(unlike(look(by_lamp(seed, false)), look(by_lamp(seed, true))) < 0.45);
}

TEST_CASE("a hand, a cloth and another scene are unlike", "[look]")
{
    const PhotoSignature photo = look(hand_moved(1, 3));
    CHECK(unlike(photo, look(hand(6))) > 0.45);
    CHECK(unlike(photo, look(cloth({40, 60, 190}, 2))) > 0.6);
    CHECK(unlike(photo, look(cloth({20, 160, 235}, 3))) > 0.6);
    CHECK(unlike(photo, look(slate(3))) > 0.45);
    CHECK(unlike(photo, look(scene(17))) > 0.45);
}

TEST_CASE("brightness is in stops of linear light", "[look]") // IEC 61966-2-1, Rec. ITU-R BT.709-6
{
    const auto plain = [](int v) { return look(cv::Mat(32, 48, CV_8UC3, cv::Scalar::all(v))).stops; };
    CHECK(plain(255) == Approx(0).margin(1e-6));
    CHECK(plain(188) == Approx(-1).margin(0.02));                // sRGB 188 is 0.50 of white
    CHECK(plain(118) == Approx(std::log2(0.1812)).margin(0.02)); // 118: 18 % grey
    const auto one = [](cv::Scalar bgr) { return look(cv::Mat(32, 48, CV_8UC3, bgr)).stops; };
    CHECK(one({0, 255, 0}) == Approx(std::log2(0.7152)).margin(1e-3));
    CHECK(one({0, 0, 255}) == Approx(std::log2(0.2126)).margin(1e-3));
    CHECK(one({255, 0, 0}) == Approx(std::log2(0.0722)).margin(1e-3));
}

TEST_CASE("what fills the frame is told, and how much structure there is", "[look]")
{
    CHECK(look(cloth({40, 60, 190}, 2)).filled > 0.9);
    CHECK(look(cv::Mat(320, 480, CV_8UC3, cv::Scalar(6, 6, 6))).contrast < 0.5);
    CHECK(look(scene(3)).contrast > 5);
    const PhotoSignature tiny = look(cv::Mat(1, 1, CV_8UC3, cv::Scalar(10, 200, 30)));
    CHECK_FALSE(tiny.empty());
    CHECK(tiny.filled == 1);
}

TEST_CASE("a standing camera's background stays, a walked one's does not", "[look]")
{
    CHECK(stands_still(look(hand_moved(2, 0)), look(hand_moved(2, 25))) > 0.7);
    CHECK(stands_still(look(walked(2, 0)), look(walked(2, 12))) < 0.4);
    const PhotoSignature wall = look(cv::Mat(320, 480, CV_8UC3, cv::Scalar(90, 90, 90)));
    CHECK(stands_still(wall, wall) == 1); // nothing to compare
    std::vector<cv::Mat> walk, still;
    for (int i = 0; i < 16; ++i) {
        walk.push_back(walked(2, i));
        still.push_back(hand_moved(2, i));
    }
    CHECK(viewpoint_travels(candidates(walk)));
    CHECK_FALSE(viewpoint_travels(candidates(still)));
    walk.resize(5);
    CHECK_FALSE(viewpoint_travels(candidates(walk))); // too few to tell
}

TEST_CASE("sharpness falls with blur and does not follow the exposure", "[look]")
{
    const cv::Mat photo = noisy(hand_moved(3, 2), 9, 2);
    double last = sharpness_of(photo);
    for (const double sigma : {0.8, 1.4, 2.2, 3.5}) {
        cv::Mat soft;
        cv::GaussianBlur(photo, soft, {}, sigma);
        CHECK(sharpness_of(soft) < last);
        last = sharpness_of(soft);
    }
    CHECK(sharpness_of(exposed(photo, -0.8)) == Approx(sharpness_of(photo)).epsilon(0.15));
}

TEST_CASE("odd photos are found in their place, and nothing else", "[look][odd]")
{
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < 20; ++i)
        pictures.push_back(hand_moved(1, i));
    const auto runs = [&] {
        const auto list = candidates(pictures);
        return odd_runs(list, all_of(list));
    };
    CHECK(runs().empty());
    SECTION("one in the middle")
    {
        pictures[9] = cloth({40, 60, 190}, 1);
        REQUIRE(runs().size() == 1);
        CHECK(runs()[0].begin == 9);
        CHECK(runs()[0].end == 10);
        CHECK(runs()[0].marker_cards == std::vector<std::size_t>{9});
        CHECK(runs()[0].separates);
    }
    SECTION("three in a row")
    {
        pictures[9] = hand(1);
        pictures[10] = hand(2);
        pictures[11] = hand(1);
        REQUIRE(runs().size() == 1);
        CHECK(runs()[0].end - runs()[0].begin == 3);
    }
    SECTION("the first and the last photo of a card")
    {
        pictures.front() = hand(1);
        pictures.back() = slate(2);
        REQUIRE(runs().size() == 2);
        CHECK(runs()[0].end == 1);
        CHECK(runs()[1].begin == 19);
    }
    SECTION("a covered lens is an accident inside a shot")
    {
        pictures[9] = cv::Mat(pictures[9].size(), CV_8UC3, cv::Scalar(4, 4, 4));
        REQUIRE(runs().size() == 1);
        CHECK_FALSE(runs()[0].separates);
    }
    SECTION("another scene that lasts")
    {
        for (std::size_t i = 11; i < pictures.size(); ++i)
            pictures[i] = hand_moved(8, int(i));
        CHECK(runs().empty());
    }
    SECTION("a lamp that stays on is no other scene")
    {
        for (std::size_t i = 0; i < pictures.size(); ++i)
            pictures[i] = by_lamp(1, i >= 10);
        CHECK(runs().empty());
    }
}

TEST_CASE("another scene is another shot, with times and without, and however short the pause", "[odd]")
{
    std::vector<cv::Mat> pictures;
    for (int i = 0; i < 12; ++i)
        pictures.push_back(hand_moved(i < 6 ? 1 : 8, i));
    auto list = candidates(pictures);
    const bool timed = GENERATE(true, false);
    for (auto& c : list) {
        auto photo = std::make_shared<PhotoFile>(*c.photo);
        if (!timed)
            photo->captured.reset();
        c.photo = photo;
    }
    const auto found = find_shots(list).shots;
    REQUIRE(found.size() == 2);
    CHECK(found[1].begin == 6);
    CHECK(found[1].reason == "new scene");
    CHECK((found[0].kind == ShotKind::unknown) == !timed);
}

}
