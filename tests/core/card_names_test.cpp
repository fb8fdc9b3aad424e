// What names, folders and cameras' clocks say of a card, without a look at the pictures.
#include "core/source/finding.h"
#include "core/source/names.h"
#include "core/source/order.h"
#include "core/steps/shoot/series.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <array>
#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

/// A photo that exists by name only. minute: when it was taken; none: it has no time.
PhotoPtr photo(const fs::path& file, std::optional<double> minute = {}, const std::string& camera = {})
{
    auto p = std::make_shared<PhotoFile>();
    p->file = file;
    p->camera = camera;
    if (minute)
        p->captured = CaptureTime{1'800'000'000'000'000 + std::int64_t(*minute * 60e6)};
    return p;
}

std::string names(const std::vector<PhotoPtr>& photos)
{
    std::string all;
    for (const PhotoPtr& p : photos)
        all += (all.empty() ? "" : " ") + p->file.stem().string();
    return all;
}

}

TEST_CASE("folders that cameras name are told from those that people name", "[names]") // CIPA DC-009, DCF 2.0, 3.2.2
{
    for (const char* camera : {"100HARBO", "999_____", "101ABC12", "100harbo", "/card/DCIM/123QUAY1"}) {
        CAPTURE(camera);
        CHECK(is_card_folder(camera));
    }
    for (const char* people : {"099HARBO", "100HARB", "100HARBOR", "10AHARBO", "100HAR-O", "100HARÖ", "", "DCIM"}) {
        CAPTURE(people);
        CHECK_FALSE(is_card_folder(people));
    }
}

TEST_CASE("names made of date and time are no counters", "[names]")
{
    for (const char* time : {"20310412_101501.jpg", "IMG_20260503_104211_01.JPG", "20260503104211.png",
                             "PXL-20261231-235960.jpg", "a 20260503 104211 b.jpg"}) {
        CAPTURE(time);
        CHECK(names_a_time(time));
        CHECK_FALSE(counted(time));
    }
    for (const char* counter : {"HARB4838.JPG", "20261303_104211.jpg", "20260532_104211.jpg", "20260503_244211.jpg",
                                "20260503_106011.jpg", "12026050_3104211.jpg", "120260503_104211.jpg", "20260503.jpg",
                                "19791231_104211.jpg", "film_00012345678901.tif"}) {
        CAPTURE(counter);
        CHECK_FALSE(names_a_time(counter));
        CHECK(counted(counter));
    }
}

TEST_CASE("folders sort before what lies in them, each by its numbers", "[names]")
{
    std::vector<fs::path> paths{"b/10/a2.jpg", "b/9/a10.jpg", "b/9/A9.jpg", "a/z.jpg", "b/a.jpg", "b/10/a1.jpg"};
    std::sort(paths.begin(), paths.end(), natural_path_less);
    const auto at = [&](const char* name) { return std::find(paths.begin(), paths.end(), name) - paths.begin(); };
    CHECK(at("a/z.jpg") == 0);
    CHECK(at("b/9/A9.jpg") < at("b/9/a10.jpg"));
    CHECK(at("b/9/a10.jpg") < at("b/10/a1.jpg"));
    CHECK(at("b/10/a1.jpg") < at("b/10/a2.jpg"));
    // A strict order: whatever is compared, never both ways, and what is between stays between.
    for (const fs::path& a : paths)
        for (const fs::path& b : paths) {
            CHECK_FALSE((natural_path_less(a, b) && natural_path_less(b, a)));
            for (const fs::path& c : paths)
                if (natural_path_less(a, b) && natural_path_less(b, c))
                    CHECK(natural_path_less(a, c));
        }
}

TEST_CASE("photos of two cameras that lie among each other are put apart, the first one's first", "[order][cameras]")
{
    std::vector<PhotoPtr> photos{photo("c/A1.jpg", 5, "Quay"), photo("c/B1.jpg", 1, "Pier"),
                                 photo("c/A2.jpg", 6, "Quay"), photo("c/B2.jpg", 2, "Pier"),
                                 photo("c/A3.jpg", 7, "Quay")};
    separate_cameras(photos);
    CHECK(names(photos) == "B1 B2 A1 A2 A3");
    separate_cameras(photos); // once more changes nothing
    CHECK(names(photos) == "B1 B2 A1 A2 A3");

    // One without a camera goes with those that are called as it is, or else with the one before.
    photos = {photo("c/A1.jpg", 5, "Quay"), photo("c/B1.jpg", 1, "Pier"), photo("c/A2.jpg"), photo("c/x.jpg"),
              photo("c/B2.jpg", 2, "Pier")};
    separate_cameras(photos);
    CHECK(names(photos) == "B1 B2 A1 A2 x");

    // Cameras without a time come last; other folders are other places.
    photos = {photo("c/A1.jpg", {}, "Quay"), photo("c/B1.jpg", 3, "Pier"), photo("d/C1.jpg", 2, "Pier"),
              photo("d/D1.jpg", 1, "Quay")};
    separate_cameras(photos);
    CHECK(names(photos) == "B1 A1 D1 C1");

    // Folders that cameras made beside each other are one place.
    photos = {photo("DCIM/100HARBO/A1.jpg", 5, "Quay"), photo("DCIM/101HARBO/B1.jpg", 1, "Pier"),
              photo("DCIM/102HARBO/A2.jpg", 6, "Quay")};
    separate_cameras(photos);
    CHECK(names(photos) == "B1 A1 A2");
}

TEST_CASE("a clock that was set back is seen where the numbers go on", "[order][clock]")
{
    const auto at = [](const std::vector<PhotoPtr>& photos) { return clock_set_back(photos); };
    CHECK(at({photo("A0001.jpg", 10), photo("A0002.jpg", 11), photo("A0003.jpg", 2), photo("A0004.jpg", 3)}) ==
          std::vector<std::size_t>{2});
    CHECK(at({photo("A0001.jpg", 10), photo("A0002.jpg", 9.5)}).empty()); // half a minute: cameras mend that themselves
    CHECK(at({photo("A0001.jpg", 10), photo("A0040.jpg", 2)}).empty());   // too far apart in number
    CHECK(at({photo("A0001.jpg", 10), photo("B0002.jpg", 2)}).empty());   // another name
    CHECK(at({photo("A0002.jpg", 10), photo("A0001.jpg", 2)}).empty());   // the numbers go back, too
    CHECK(at({photo("A0001.jpg"), photo("A0002.jpg", 2)}).empty());
    CHECK(at({}).empty());
}

TEST_CASE("a copy lies beside its original, and a drawing that is held is none", "[findings][copies]")
{
    CHECK(copied_from("c/HARB0012.JPG", "c/HARB0012(1).JPG"));
    CHECK(copied_from("c/HARB0012.JPG", "c/HARB0012 - copy.JPG"));
    CHECK(copied_from("DCIM/100HARBO/HARB0012.JPG", "DCIM/101HARBO/HARB0012 2.JPG"));
    CHECK_FALSE(copied_from("c/film_0001.svg", "c/film_0002.svg"));    // the same run
    CHECK_FALSE(copied_from("c/HARB0012.JPG", "d/HARB0012 copy.JPG")); // another place
}

TEST_CASE("files of the same content are found together, by bytes and not by a fingerprint", "[findings][copies]")
{
    TempFolder t;
    const auto file = [&](const char* name, const char* content, const char* fingerprint) {
        write_bytes(t / name, content);
        auto p = std::make_shared<PhotoFile>();
        p->file = t / name;
        p->fingerprint = fingerprint;
        return p;
    };
    const std::vector<PhotoPtr> photos{file("a copy.jpg", "one", "1"), file("a.jpg", "one", "1"),
                                       file("b.jpg", "two", "1"), // the same fingerprint by chance
                                       file("c.jpg", "one", ""), file("d.jpg", "three", "3")};
    const auto copies = copies_among(photos);
    REQUIRE(copies.size() == 1);
    CHECK(copies[0] == std::vector<fs::path>{t / "a.jpg", t / "a copy.jpg"}); // the plain name first
    fs::remove(t / "a.jpg");
    CHECK(copies_among(photos).empty()); // what is gone is told elsewhere, and is nobody's copy
    CHECK(copies_among({}).empty());
    const std::vector<fs::path> some{"x/HARB4838.jpg", "x/b.jpg", "x/c.jpg", "x/d.jpg"};
    CHECK(some_names(some) == "HARB4838.jpg and 3 more");
    CHECK(some_names(std::span(some).first(1)) == "HARB4838.jpg");
}

TEST_CASE("every kind of finding has a name of its own, and what is out of its shot's way has a remedy", "[findings]")
{
    std::set<std::string_view> all;
    for (int kind = 0; kind <= int(FindingKind::profile_odd); ++kind)
        CHECK(all.insert(kind_name(FindingKind(kind))).second);
    for (const FindingKind kind : {FindingKind::turned, FindingKind::unlike})
        CHECK_FALSE(usual_remedies(kind).empty());
    for (const FindingKind kind : {FindingKind::not_a_photo, FindingKind::folder_unreadable})
        CHECK(usual_remedies(kind).empty());
}

TEST_CASE("photo i of a series is due at i times the time between them, whatever came before", "[shoot][series]")
{
    const SeriesOrder order{.count = 0, .every = 0.1, .delay = 3};
    CHECK(due_after(order, 0) == 3);
    CHECK(due_after(order, 1) == 3.1);
    // Not added up: after a hundred thousand photos it is where one multiplication puts it.
    CHECK(due_after(order, 100'000) == 3 + 100'000 * 0.1);
    CHECK(due_after({.count = 4, .every = 0, .delay = 2}, 3) == 2); // as fast as it goes
    CHECK(shown_span(45) == "45 s");
    CHECK(shown_span(5'400) == "90 min");
    CHECK(shown_span(9'600) == "2 h 40 min");
    CHECK(shown_span(4 * 3'600 + 20) == "4 h");
    CHECK(shown_span(43'000) == "12 h");
}

}
