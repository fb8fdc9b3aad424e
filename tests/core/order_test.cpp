#include "core/source/finding.h"
#include "core/source/order.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <algorithm>
#include <random>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

PhotoPtr photo(const std::string& name, std::optional<int> seconds = {})
{
    auto p = std::make_shared<PhotoFile>();
    p->file = "/card/100HARBO/" + name;
    p->size = {96, 64};
    if (seconds)
        p->captured = CaptureTime{*seconds * std::int64_t(1'000'000)};
    return p;
}

std::vector<std::string> names(const std::vector<PhotoPtr>& photos)
{
    std::vector<std::string> list;
    for (const auto& p : photos)
        list.push_back(p->file.filename());
    return list;
}

const Finding* disorder(const std::vector<Finding>& findings)
{
    const auto it = std::find_if(findings.begin(), findings.end(),
                                 [](const Finding& f) { return f.kind == FindingKind::order_disagrees; });
    return it == findings.end() ? nullptr : &*it;
}

}

TEST_CASE("a counter that rolled over goes on from 9999 to 0001", "[order]") // common practice, no source
{
    std::vector<PhotoPtr> photos;
    int time = 0;
    SECTION("as the capture times say")
    {
        for (const char* n : {"H9997.JPG", "H9998.JPG", "H9999.JPG", "H0001.JPG", "H0002.JPG"})
            photos.push_back(photo(n, ++time));
    }
    SECTION("where nothing has a time")
    {
        for (const char* n : {"H9998.JPG", "H9999.JPG", "H0001.JPG", "H0002.JPG"})
            photos.push_back(photo(n));
    }
    SECTION("with the numbers at the turn missing")
    {
        for (const char* n : {"H9990.JPG", "H9995.JPG", "H0003.JPG", "H0004.JPG"})
            photos.push_back(photo(n, ++time));
    }
    SECTION("and not where the times say that the low ones came first")
    {
        for (const char* n : {"H0001.JPG", "H0002.JPG", "H9998.JPG", "H9999.JPG"})
            photos.push_back(photo(n, ++time));
        CHECK(counter_restarts(photos).empty());
    }
    SECTION("and not in a run that never came near the end of its counter")
    {
        for (const char* n : {"H0001.JPG", "H0002.JPG", "H5000.JPG"})
            photos.push_back(photo(n, 100 - ++time));
    }
    auto sorted = photos;
    std::mt19937 random(1);
    std::shuffle(sorted.begin(), sorted.end(), random);
    sort_photos(sorted, PhotoOrder::by_name);
    CHECK(names(sorted) == names(photos));
    if (names(photos).front()[1] == '9') {
        CHECK(counter_restarts(sorted).size() == 1);
        for (const auto& f : findings_in_shot(sorted))
            CHECK_FALSE((f.kind == FindingKind::number_missing && f.text.find("9994") != std::string::npos &&
                         f.text.find(" 5 ") != std::string::npos));
    }
}

TEST_CASE("the fewest photos that are out of line are found", "[order]")
{
    std::vector<PhotoPtr> photos;
    for (const int t : {1, 2, 9, 3, 3, 4, 0, 5})
        photos.push_back(photo("a.jpg", t));
    photos.insert(photos.begin() + 2, photo("b.jpg")); // without a time: never out of line
    CHECK(out_of_line(photos) == std::vector<std::size_t>{3, 7});
    CHECK(out_of_line({}).empty());
    // Against counting: random permutations, the longest non-falling run by trying all.
    std::mt19937 random(3);
    for (int round = 0; round < 40; ++round) {
        std::vector<int> times(9);
        for (auto& t : times)
            t = int(random() % 7);
        photos.clear();
        for (const int t : times)
            photos.push_back(photo("a.jpg", t));
        std::size_t best = 0;
        for (unsigned chosen = 0; chosen < 1U << times.size(); ++chosen) {
            int last = -1;
            std::size_t n = 0;
            bool rises = true;
            for (std::size_t i = 0; i < times.size(); ++i)
                if (chosen >> i & 1U) {
                    rises = rises && times[i] >= last;
                    last = times[i];
                    ++n;
                }
            best = rises ? std::max(best, n) : best;
        }
        CHECK(out_of_line(photos).size() == times.size() - best);
    }
}

TEST_CASE("accidents of the order are told with their remedy", "[order][findings]")
{
    std::vector<PhotoPtr> photos;
    for (int i = 1; i <= 6; ++i)
        photos.push_back(photo("H000" + std::to_string(i) + ".JPG", i));
    CHECK(disorder(findings_in_shot(photos)) == nullptr);
    SECTION("everything backwards")
    {
        std::reverse(photos.begin(), photos.end());
        const auto found = findings_in_shot(photos);
        REQUIRE(disorder(found));
        CHECK(disorder(found)->remedies.front() == Remedy::reverse);
    }
    SECTION("the last photo first")
    {
        std::rotate(photos.begin(), photos.end() - 1, photos.end());
        const auto found = findings_in_shot(photos);
        REQUIRE(disorder(found));
        CHECK(disorder(found)->remedies.front() == Remedy::first_to_end);
    }
    SECTION("names that an editor gave")
    {
        photos[3] = photo("H0002b.JPG", 40);
        photos[2] = photo("A final.JPG", 30);
        const auto found = findings_in_shot(photos);
        REQUIRE(disorder(found));
        CHECK(disorder(found)->remedies.front() == Remedy::order_by_time);
    }
}

TEST_CASE("an edited version beside its original is the same number twice", "[findings]")
{
    const std::string version = GENERATE("HARB4811-edited.jpg", "HARB4811 (2).jpg", "HARB4811_v3_web.jpg");
    const std::vector<PhotoPtr> photos{photo("HARB4811.JPG", 1), photo(version, 1), photo("HARB4812.JPG", 2)};
    const auto found = findings_in_shot(photos);
    const auto it = std::find_if(found.begin(), found.end(),
                                 [](const Finding& f) { return f.kind == FindingKind::number_repeated; });
    REQUIRE(it != found.end());
    CHECK(it->files.size() == 2);
    CHECK(std::count_if(found.begin(), found.end(),
                        [](const Finding& f) { return f.kind == FindingKind::number_repeated; }) == 1);
}

TEST_CASE("what disagrees about the order is told with what would change it", "[order]")
{
    // The third was taken after the fifth.
    const std::vector<PhotoPtr> by_name{photo("a1.jpg", 1), photo("a2.jpg", 2), photo("a3.jpg", 9), photo("a4.jpg", 4),
                                        photo("a5.jpg", 5)};
    auto by_time = by_name;
    std::rotate(by_time.begin() + 2, by_time.begin() + 3, by_time.end());
    auto neither = by_name;
    std::swap(neither[0], neither[1]);
    const auto told = [](const std::vector<PhotoPtr>& photos) {
        const auto found = findings_in_shot(photos);
        REQUIRE(disorder(found));
        return *disorder(found);
    };
    CHECK(told(by_name).remedies == std::vector{Remedy::order_by_time});
    CHECK_THAT(told(by_name).text, Catch::EndsWith("The film goes by the names."));
    CHECK(told(by_time).remedies == std::vector{Remedy::order_by_name});
    CHECK_THAT(told(by_time).text, Catch::EndsWith("The film goes by the times."));
    CHECK(told(neither).remedies == std::vector{Remedy::order_by_time, Remedy::order_by_name});
}

}
