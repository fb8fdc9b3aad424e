// A full card of two days, and forty seconds of which five are wanted.
#include "core/export/export_list.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/tone/tone_values.h"
#include "tests/jobs/jobs.h"
#include "tests/jobs/material.h"
#include "tests/support/card.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("A full card of two days: shots found and named, copied and verified, flicker out, exported with a bad photo")
{
    Person p;
    Card card(p.folder() / "card" / "100HARBO", "HARB", 1);
    std::vector<std::filesystem::path> sunset_photos;
    card.shoot(scene(31), 0); // a test photo
    for (int i = 0; i < 14; ++i)
        card.shoot(hand_moved(3, i), 18);
    card.shoot(hand(4), 20);
    for (int i = 0; i < 24; ++i) { // with flicker of a fifth of a stop, and a camera step of a third
        const double stops = 0.2 * std::sin(2.3 * i) + (i >= 12 ? 1.0 / 3 : 0);
        sunset_photos.push_back(card.shoot(exposed(sunset(5, i / 40.0), stops), 8));
    }
    card.shoot(scene(77), 4000); // a stray
    for (int i = 0; i < 12; ++i)
        card.shoot(walked(9, i), i == 0 ? 80'000 : 6);
    p.bring_in(p.folder() / "card");
    p.look("card-1");
    CHECK(shot(p).parts.size() == 3);
    p.click(q("Make 3 shots"));
    REQUIRE(p.window().session().project().shots.size() == 3);
    p.click(q("Files in order…"));
    p.type_into(q("Folder for the files"), app::to_qt(p.folder() / "films"));
    p.wait_until([&] { return p.sees(q("Copy 50 files")); }, q("the plan"));
    p.look("card-2");
    p.click(q("Copy 50 files"));
    p.wait_until([&] { return p.sees(q("Take it back")); }, q("they are copied"));
    p.look("card-3");
    CHECK_FALSE(p.find(q("Copy 50 files"))->isEnabled());
    CHECK_FALSE(p.sees(q("Notes on the files"))); // what went well is no problem
    int number = 0;
    for (const auto& one : p.window().session().project().shots) {
        const std::string name = "Shot_" + std::to_string(++number);
        int n = 0;
        for (const ShotPhoto& photo : one->photos)
            if (!photo.aside) {
                char digits[16];
                std::snprintf(digits, sizeof digits, "_%04d", ++n);
                CHECK(read_bytes(p.folder() / "films" / name / (name + digits + ".jpg")) ==
                      read_bytes(photo.photo->file));
            }
    }
    p.click(q("Back"));
    p.window().viewing().set_shot(ShotIndex(1));
    p.click(q("Light"));
    p.click(q("Remove flicker"));
    p.wait_until([&] { return shot(p).steps.has<Deflicker>(); }, q("flicker is out"), 60'000);
    p.look("card-4");
    p.click(q("Tone"));
    p.click_photo(2);
    p.type_into(q("Exposure"), q("0.3"));
    p.click_photo(25);
    p.type_into(q("Exposure"), q("0.8"));
    p.look("card-5");
    CHECK(std::count_if(shot(p).photos.begin(), shot(p).photos.end(),
                        [](const ShotPhoto& photo) { return anchor_of(photo) != nullptr; }) == 2);
    p.window().session().save(p.folder() / "card.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
    // In the night one of the photos turns out to be broken.
    write_bytes(shot(p).photos[7].photo->file, "no photo any more");
    p.click(q("Export"));
    p.click(q("Export list"));
    p.click(q("Add all shots"));
    p.look("card-6");
    p.click(q("Start the export list"));
    auto* list = p.find<QTreeWidget>(q("Exports on the list"));
    p.wait_until(
        [&] {
            for (int i = 0; i < list->topLevelItemCount(); ++i)
                if (list->topLevelItem(i)->text(2).contains(q("waits")) ||
                    list->topLevelItem(i)->text(2).contains(q("is written")))
                    return false;
            return list->topLevelItemCount() == 3;
        },
        q("the list is done"), 120'000);
    p.look("card-7");
    int written = 0, failed = 0;
    for (int i = 0; i < list->topLevelItemCount(); ++i) {
        written += list->topLevelItem(i)->text(2).startsWith(QChar(0x2713)) ? 1 : 0;
        failed += list->topLevelItem(i)->text(2).startsWith(q("failed")) ? 1 : 0;
    }
    CHECK(written == 2);
    CHECK(failed == 1);
    CHECK_FALSE(list->topLevelItem(1)->text(0).contains(QLatin1Char('{'))); // it is called by its name
    CHECK_THAT(list->topLevelItem(1)->toolTip(2).toStdString(), Catch::Contains("HARB0023"));
}

TEST_CASE("Forty seconds at 25: five of them are slid along while it plays, into an intermediate codec")
{
    Person p;
    constexpr int photos = 200; // eight seconds stand for forty
    const cv::Mat place = photograph("graf1.png", {320, 240}), thing = cut_out("apple.jpg", 50);
    for (int i = 0; i < photos; ++i) {
        cv::Mat photo = place.clone();
        lay_on(photo, thing, {20.0 + 1.4 * i, 120 + 60 * std::sin(i / 20.0)});
        write_photo(p.folder() / "gate", "G", 1 + i, photo, 3 * i);
    }
    p.bring_in(p.folder() / "gate");
    p.click(q("Pace"));
    p.choose(q("Delivered at"), q("25 fps"));
    p.click(q("Same photos per frame"));
    p.click(q("Range and order"));
    p.type_into(q("Length of the range"), q("5 s"));
    p.look("slide-1");
    p.click(q("Play"));
    p.sheet().setFocus();
    for (int i = 0; i < 30; ++i)
        p.key(Qt::Key_Right, Qt::AltModifier);
    p.key(Qt::Key_Right, Qt::AltModifier | Qt::ShiftModifier);
    p.look("slide-2");
    p.key(Qt::Key_Space);
    REQUIRE(shot(p).pacing.kept);
    CHECK(shot(p).pacing.kept->begin == PhotoIndex(40));
    CHECK(p.window().viewing().timeline().film.frames() == 125);
    p.click(q("Export"));
    p.choose(q("Format"), q("For editing: RDD 36, 10 bit (.mov)"));
    p.type_into(q("File"), app::to_qt(p.folder() / "gate.mov"));
    p.export_now();
    CHECK(probed(p.folder() / "gate.mov", "codec_name") == "prores");
    p.look("slide-3");
}

}
