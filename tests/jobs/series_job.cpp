// Numbered stills for an editor, and drawings with smoke over them.
#include "app/steps/pace/timing_files.h"
#include "core/steps/layers/layer_values.h"
#include "tests/jobs/jobs.h"
#include "tests/jobs/material.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/imgcodecs.hpp>
#include <QLabel>
#include <QTreeWidget>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("Stills shot for 12 a second: the stumble is found, a lossless film and a dopesheet go to the editor")
{
    Person p;
    constexpr int stills = 60, stumble = 37;
    write_numbered(p.folder() / "walk", stills, stumble, {640, 360});
    p.bring_in(p.folder() / "walk");
    p.look("walk-1");
    p.click(q("Pace"));
    p.choose(q("Delivered at"), q("12 fps"));
    p.look("walk-2");
    p.click(q("Same photos per frame"));
    CHECK(p.window().viewing().film_frames() == stills);
    // Along the film by key, as one looks for what is wrong.
    p.click_photo(30);
    for (int i = 0; i < 5; ++i)
        p.key(Qt::Key_Period);
    CHECK(p.window().viewing().playhead() == FrameIndex(34));
    p.click(q("Range and order"));
    p.click(q("Find stumbles"));
    p.wait_until([&] { return p.sees(q("Set aside what does not move")); }, q("the stumble is found"), 60'000);
    p.look("walk-3");
    p.click(q("Select"));
    CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(stumble)});
    p.click(q("Set aside what does not move"));
    CHECK(p.window().viewing().film_frames() == stills - 1);
    p.click(q("Flow"));
    p.look("walk-4");
    app::TimingFiles(p.window().session(), p.window().viewing()).write(app::to_qt(p.folder() / "walk.csv"));
    CHECK(std::filesystem::file_size(p.folder() / "walk.csv") > 1'000);
    p.export_film(p.folder() / "walk.mkv");
    p.look("walk-5");
    CHECK(probed(p.folder() / "walk.mkv", "codec_name") == "ffv1");
    CHECK(probed(p.folder() / "walk.mkv", "r_frame_rate") == "12/1");
    // Bit for bit what was shot, apart from the photo that stumbled.
    std::filesystem::create_directories(p.folder() / "back");
    output_of("ffmpeg -v error -i " + quoted(p.folder() / "walk.mkv") + " -pix_fmt bgr24 " +
              quoted(p.folder() / "back/%d.png"));
    const auto differs = [&](const char* written, const char* shot_as) {
        return cv::norm(cv::imread((p.folder() / "back" / written).native()),
                        cv::imread((p.folder() / "walk" / shot_as).native()), cv::NORM_INF);
    };
    CHECK(differs("1.png", "walk_0001.png") == 0);
    CHECK(differs("38.png", "walk_0039.png") == 0);
    CHECK(differs("59.png", "walk_0060.png") == 0);
}

TEST_CASE("Sixteen drawings, smoke drawn over the chimney, and a second version without it")
{
    Person p;
    constexpr int drawings = 16;
    write_drawings(p.folder() / "cottage", drawings);
    p.bring_in(p.folder() / "cottage");
    p.look("smoke-1");
    p.click(q("Pace"));
    p.type_into(q("Hold"), q("1/8 s"));
    CHECK(p.window().viewing().film_frames() == drawings * 24 / 8);
    p.click(q("Dress"));
    p.click(q("Layers"));
    p.look("smoke-2");
    p.click(q("Draw"));
    for (int i = 0; i < drawings; ++i) {
        p.window().viewing().go_to_photo(PhotoIndex(i));
        p.wait_for_pictures();
        p.drag_on_picture({0.7, 0.28}, {0.7 + 0.01 * (i % 4), 0.18});
        p.drag_on_picture({0.7 + 0.01 * (i % 4), 0.18}, {0.74 + 0.01 * (i % 3), 0.08});
    }
    p.look("smoke-3");
    CHECK(layers_of(shot(p).steps)[0].drawings.size() == drawings);
    p.export_film(p.folder() / "with.mkv");
    p.click(q("Dress"));
    auto* list = p.find<QTreeWidget>(q("List of layers"));
    list->topLevelItem(0)->setCheckState(0, Qt::Unchecked);
    p.wait_until([&] { return !layers_of(shot(p).steps)[0].on; }, q("it is switched off"));
    p.export_film(p.folder() / "without.mkv");
    p.look("smoke-4");
    const auto md5 = [&](const char* file) {
        return output_of("ffmpeg -v error -i " + quoted(p.folder() / file) + " -f md5 -");
    };
    CHECK(md5("with.mkv") != md5("without.mkv"));
}

}
