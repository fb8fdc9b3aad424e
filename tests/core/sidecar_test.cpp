// XMP sidecars (ISO 16684-1): read when photos come in, written only when asked, other fields kept. What is written is
// read back by exiftool.
#include "core/source/inspect.h"
#include "core/source/sidecar.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/sort/write_sidecars.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
namespace fs = std::filesystem;

namespace {

std::string other_programs(int rating, const std::string& more = {})
{
    return "<x:xmpmeta xmlns:x='adobe:ns:meta/'><rdf:RDF xmlns:rdf='http://www.w3.org/1999/02/22-rdf-syntax-ns#'>"
           "<rdf:Description rdf:about='' xmlns:xmp='http://ns.adobe.com/xap/1.0/' "
           "xmlns:dc='http://purl.org/dc/elements/1.1/' xmp:Rating='" +
           std::to_string(rating) + "' xmp:Label='Sky' dc:format='image/jpeg'" + more + "/></rdf:RDF></x:xmpmeta>";
}

Project brought_in(const fs::path& folder)
{
    const std::array<fs::path, 1> places{folder};
    return add_scanned({}, scan(places, {}, {}), std::nullopt, Division::one_shot, "s");
}

}

TEST_CASE("A rating and a label come in, a rejected photo is set aside")
{
    const TempFolder t;
    write_run(t / "s", "a", 4);
    write_bytes(t / "s" / "a_0001.xmp", other_programs(4));
    write_bytes(t / "s" / "a_0002.jpg.xmp", other_programs(-1));
    write_bytes(t / "s" / "a_0003.XMP", "no XMP at all");
    const Project project = brought_in(t / "s");
    const PhotoList& photos = project.shot(ShotIndex(0)).photos;
    REQUIRE(photos.size() == 4);
    CHECK(photos[0].photo->rating == 4);
    CHECK(photos[0].photo->label == "Sky");
    CHECK_FALSE(photos[0].aside);
    CHECK(photos[1].photo->rating == -1);
    CHECK(photos[1].aside);
    CHECK(photos[2].photo->rating == 0);
    CHECK_FALSE(photos[3].aside);
}

TEST_CASE("Sidecars are written beside the photos, and bring holds, turns and what is aside back")
{
    const TempFolder t;
    write_run(t / "s", "a", 3);
    write_bytes(t / "s" / "a_0002.xmp", other_programs(3, " xmlns:q='http://example.org/q/' q:Mine='7'"));
    Project project = brought_in(t / "s");
    auto shot = std::make_shared<Shot>(project.shot(ShotIndex(0)));
    shot->photos.edit(0).hold = Seconds{Fraction(1, 6)};
    shot->photos.edit(1).aside = true;
    shot->photos.edit(2).turns = 3;
    project.shots[0] = shot;
    const SidecarReport report = write_sidecars(project, std::nullopt, {});
    CHECK(report.problems.empty());
    CHECK(report.written == 3);

    const std::string told =
        output_of("exiftool -s -Rating -Label -Format -Hold -Aside -Mine " + quoted((t / "s" / "a_0002.xmp").native()));
    for (const char* word : {"3", "Sky", "image/jpeg", "True", "7"}) {
        INFO(told);
        CHECK(told.find(word) != std::string::npos);
    }
    CHECK(write_sidecars(project, std::nullopt, {}).unchanged == 3);

    const Project again = brought_in(t / "s");
    const PhotoList& photos = again.shot(ShotIndex(0)).photos;
    CHECK(photos[0].hold == Hold(Seconds{Fraction(1, 6)}));
    CHECK(photos[1].aside);
    CHECK(photos[2].turns == 3);
}

TEST_CASE("A sidecar that is no XMP is told and left alone")
{
    const TempFolder t;
    write_run(t / "s", "a", 2);
    write_bytes(t / "s" / "a_0001.xmp", "my notes");
    const SidecarReport report = write_sidecars(brought_in(t / "s"), std::nullopt, {});
    REQUIRE(report.problems.size() == 1);
    CHECK(report.problems.front().text().find("a_0001.xmp") != std::string::npos);
    CHECK(read_bytes(t / "s" / "a_0001.xmp") == "my notes");
    CHECK(report.written == 1);
}

}
