// Clips by mouse and keys, on the real window with real files.
#include "core/picture/monitor_colours.h"
#include "core/source/colour_profile.h"
#include "core/steps/sort/clip_taking.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/dng.h"
#include "tests/support/photos.h"

#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QLabel>

#include <fstream>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

void write_clip(const std::filesystem::path& file)
{
    std::filesystem::create_directories(file.parent_path());
    output_of("ffmpeg -v error -y -f lavfi -i testsrc2=size=160x96:rate=25:duration=4 -c:v libx264 -bf 3 -pix_fmt "
              "yuv420p " +
              quoted(file.native()));
}

}

TEST_CASE("A clip comes in as a shot, is thinned out, and undone")
{
    Person p;
    write_clip(p.folder() / "c" / "ferry.mp4");
    p.bring_in(p.folder() / "c");
    const auto photos = [&] { return p.window().viewing().shot()->photos.size(); };
    REQUIRE(photos() == 100);
    CHECK(p.window().viewing().shot()->pacing.paced_at == Rate(25));
    p.wait_for_pictures();

    p.choose(q("Take from the clip"), q("what makes it faster"));
    p.wait_until([&] { return photos() == 5; }, q("20 times as fast: 100 / 20 photos"));
    auto* value = p.find<QDoubleSpinBox>(q("How many"));
    value->setFocus();
    value->selectAll();
    QTest::keyClicks(value, q("4"));
    QTest::keyClick(value, Qt::Key_Return);
    p.wait_until([&] { return photos() == 25; }, q("4 times as fast"));
    CHECK(p.window().viewing().shot()->photos[3].photo->picture == 12);
    p.find<QCheckBox>(q("average the rest"))->click();
    p.wait_until([&] { return p.window().viewing().shot()->photos[3].photo->averaged == 4; }, q("four averaged"));
    p.wait_for_pictures();
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.wait_until([&] { return photos() == 5; }, q("undone twice"));
}

TEST_CASE("A raw photo, a drawing and a clip's pictures are exported in one shot")
{
    Person p;
    const auto folder = p.folder() / "m";
    write_clip(folder / "c.mp4");
    write_dng(folder / "a.dng", cv::Mat3f(96, 160, cv::Vec3f(0.2F, 0.3F, 0.4F)));
    std::ofstream(folder / "b.svg") << "<svg xmlns='http://www.w3.org/2000/svg' width='160' height='96'>"
                                       "<rect width='160' height='96' fill='#208040'/></svg>";
    p.bring_in(folder);
    p.wait_for_pictures();
    REQUIRE(p.window().viewing().shot()->photos.size() == 2);
    p.window().viewing().set_step("sort");
    p.click(q("Join"));
    p.wait_until([&] { return p.window().viewing().shot()->photos.size() == 102; },
                 q("the clip's pictures are behind"));
    p.export_film(p.folder() / "all.mp4");
    CHECK(
        output_of("ffprobe -v error -count_frames -select_streams v -show_entries stream=nb_read_frames -of csv=p=0 " +
                  quoted((p.folder() / "all.mp4").native())) != "0\n");
}

TEST_CASE("Pictures on the screen go through the monitor's profile")
{
    Person p;
    cv::Mat photo(60, 90, CV_8UC3, cv::Scalar(40, 160, 90));
    write_jpeg(p.folder() / "s" / "a_0001.jpg", photo, {}, 100);
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    const auto request = request_for_photo(*p.window().viewing().shot(), PhotoIndex(0), {90, 60});
    const auto shown = [&] {
        p.window().loader().want({{request, app::Quality::exact}});
        p.wait_until([&] { return p.window().loader().has(request, app::Quality::exact); }, q("the picture"));
        return p.window().loader().best(request).pixelColor(45, 30);
    };
    const QColor plain = shown();
    // A monitor with red and green exchanged must be told them exchanged.
    const std::string swapped = icc_of_primaries({0.30F, 0.60F, 0.64F, 0.33F, 0.15F, 0.06F});
    const auto monitor = MonitorColours::of_profile(swapped);
    REQUIRE(monitor);
    p.window().loader().show_on(monitor);
    const QColor there = shown();
    CHECK(std::abs(there.red() - plain.green()) <= 2);
    CHECK(std::abs(there.green() - plain.red()) <= 2);
    CHECK(std::abs(there.blue() - plain.blue()) <= 2);
    CHECK_FALSE(MonitorColours::of_profile(srgb_icc())); // nothing to do
    CHECK_FALSE(MonitorColours::of_profile("no profile"));
}

}
