// Something that builds itself, and two states of one room.
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/retouch/retouch_edits.h"
#include "core/steps/retouch/retouch_values.h"
#include "core/steps/steady/steady_values.h"
#include "tests/jobs/jobs.h"
#include "tests/jobs/material.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <QLabel>
#include <QTabBar>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("A chest that was emptied builds itself: no drift, no wire, there and back, 1,500 pixels")
{
    Person p;
    constexpr int pieces = 8;
    write_chest(p.folder() / "chest", pieces, {1620, 1080});
    p.bring_in(p.folder() / "chest");
    p.look("chest-1");
    p.click(q("Steady"));
    p.click(q("Hold the photos still"));
    p.wait_until([&] { return shot(p).steps.has<Steadying>(); }, q("the photos are held"), 120'000);
    p.click(q("Dress"));
    p.click(q("Retouch"));
    p.click_photo(pieces + 1); // the empty one
    p.look("chest-2");
    p.click(q("Use this photo"));
    CHECK(plate_of(shot(p)) == PhotoIndex(pieces));
    p.click_photo(1);
    p.choose(q("What heals"), q("takes a support out by the clean plate"));
    p.type_into(q("brush"), q("0.8"));
    p.drag_on_picture({0.29, 0.19}, {0.51, 0.41});
    p.look("chest-3");
    REQUIRE(retouch_of(shot(p)).spots.size() == 1);
    p.click(q("Pace"));
    p.click(q("All photos")); // one of them was looked at, and is selected still
    p.type_into(q("Hold"), q("0.2 s"));
    CHECK(p.window().viewing().film_frames() == (pieces + 1) * 24 / 5);
    p.click(q("Range and order"));
    p.click(q("Backwards"));
    p.click(q("There and back"));
    p.look("chest-4");
    CHECK(p.window().viewing().schedule().photo_at(FrameIndex(0)) == PhotoIndex(pieces)); // the clean plate first
    p.click(q("Export"));
    p.type_into(q("File"), app::to_qt(p.folder() / "chest.webp"));
    p.type_into(q("Size"), q("1500"));
    p.export_now();
    p.look("chest-5");
    CHECK(p.find<QLabel>(q("What will be written"))->text().contains(q("1500")));
}

TEST_CASE("A workshop by day and by lamplight: two films from the same photos, with the same corrections")
{
    Person p;
    const cv::Size size(900, 600);
    for (int i = 0; i < 12; ++i) {
        cv::Mat photo = hand_held(photograph("fruits.jpg", size), i, 6);
        if (i >= 6) { // warm and dark
            photo.convertTo(photo, CV_8U, 0.45);
            photo = photo + cv::Scalar(0, 8, 24);
        }
        write_photo(p.folder() / "shop", "W", 11 + i, photo, 4 * i);
    }
    p.bring_in(p.folder() / "shop");
    p.look("states-1");
    if (p.sees(q("Make one shot"))) // one place, one shot
        p.click(q("Make one shot"));
    p.click(q("Steady"));
    p.click(q("Hold the photos still"));
    p.wait_until([&] { return shot(p).steps.has<Steadying>(); }, q("the photos are held"), 120'000);
    for (const int first : {1, 7}) {
        p.window().viewing().set_shot(ShotIndex(0));
        p.click(q("Pace"));
        p.click(q("Range and order"));
        p.type_into(q("First kept photo"), QString::number(first));
        p.type_into(q("Last kept photo"), QString::number(first + 5));
        p.look(first == 1 ? "states-2" : "states-3");
        p.click(q("Keep as a version of its own"));
        p.click(q("Holds and rate"));
        p.type_into(q("Total length"), q("1.5 s"));
        CHECK(p.window().viewing().film_frames() == 36);
        CHECK(shot(p).steps.has<Steadying>());
    }
    p.look("states-4");
    CHECK(p.window().session().project().shots.size() == 3);
}

}
