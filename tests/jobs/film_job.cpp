// Films of several shots.
#include "core/project/edits.h"
#include "core/project/reel.h"
#include "core/timeline/reel_timeline.h"
#include "tests/jobs/jobs.h"
#include "tests/jobs/material.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QTreeWidget>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

std::filesystem::path tone(const std::filesystem::path& file, int hertz, int seconds)
{
    output_of("ffmpeg -v error -y -f lavfi -i sine=" + std::to_string(hertz) + ":r=48000:d=" + std::to_string(seconds) +
              ' ' + quoted(file));
    return file;
}

}

TEST_CASE("A rowing club's film: four shots on fives, an accident of order, three sounds, a title and a closing list")
{
    Person p;
    const char* places[] = {"aero1.jpg", "building.jpg", "graf1.png", "home.jpg"};
    for (int s = 0; s < 4; ++s) {
        const std::string name = "row" + std::to_string(s + 1);
        const cv::Mat place = photograph(places[s], {480, 320}), boat = cut_out("apple.jpg", 60);
        for (int i = 0; i < 10; ++i) {
            const int moment = s == 1 ? (i + 9) % 10 : i; // the second shot's last photo was named as its first
            cv::Mat photo = place.clone();
            lay_on(photo, boat, {40.0 + 42 * moment, 240});
            write_photo(p.folder() / name, name, 1 + i, photo, 600 * s + moment * 3);
        }
        p.bring_in(p.folder() / name);
    }
    p.look("film-1");
    p.window().viewing().set_shot(ShotIndex(1));
    p.click(q("Sort"));
    p.look("film-2");
    p.click(q("Put it last"));
    CHECK(shot(p).photos.back().photo->file.filename() == "row2_0001.jpg");
    for (int s = 0; s < 4; ++s) {
        p.window().viewing().set_shot(ShotIndex(s));
        p.click(q("Pace"));
        p.sheet().setFocus();
        p.key(Qt::Key_5);
    }
    p.choose(q("Delivered at"), q("29.97 fps"));
    p.click(q("Same photos per frame"));
    // A title before all, a list that rolls at the end.
    p.window().viewing().set_shot(ShotIndex(0));
    p.click(q("Dress"));
    p.click(q("Card"));
    p.choose(q("Where the card goes"), q("before this shot"));
    p.look("film-3");
    p.click(q("Title"));
    auto* text = p.find<QPlainTextEdit>(q("Text of the card"));
    text->setFocus();
    text->selectAll();
    QTest::keyClicks(text, q("Early on the water"));
    p.choose(q("Where the card goes"), q("at the very end"));
    p.click(q("Closing list"));
    p.look("film-4");
    p.click(q("Reel"));
    p.look("film-5");
    const auto films = [&] { return reel_of(p.window().session().project())->parts().size(); };
    REQUIRE(films() == 6);
    auto* list = p.find<QTreeWidget>(q("Shots of the Reel"));
    for (int i = 1; i < 4; ++i) {
        list->setCurrentItem(list->topLevelItem(i));
        p.choose(q("How it goes over into the next"), q("dissolve"));
        p.type_into(q("Length of the join"), q("8 f"));
    }
    p.look("film-6");
    // Three sounds, dropped on the window; one is cut too short and stretched back.
    p.window().viewing().set_playhead(FrameIndex(0));
    p.window().take_in({tone(p.folder() / "water.wav", 220, 4)});
    p.wait_until([&] { return p.window().session().project().reel.sound.sounds.size() == 1; }, q("a sound is there"));
    CHECK(p.window().viewing().is_step("sound"));
    p.window().viewing().set_playhead(FrameIndex(120));
    p.window().take_in({tone(p.folder() / "oars.wav", 330, 3), tone(p.folder() / "bell.wav", 440, 2)});
    p.wait_until([&] { return p.window().session().project().reel.sound.sounds.size() == 3; }, q("three sounds"));
    p.look("film-7");
    auto* sounds = p.find<QTreeWidget>(q("Sounds"));
    sounds->setCurrentItem(sounds->topLevelItem(0));
    p.type_into(q("To, in the file"), q("1 s"));
    p.type_into(q("To, in the file"), q("3.5 s"));
    CHECK(p.window().session().project().reel.sound.sounds[0].length() == Seconds{Fraction(7, 2)});
    p.look("film-8");
    const std::int64_t frames = p.window().viewing().film_frames();
    p.click(q("Export"));
    p.type_into(q("Size"), q("480")); // as large as the shots; the title would be larger
    p.export_film(p.folder() / "club.mp4");
    p.look("film-9");
    p.click(q("Sort"));
    p.look("film-10");
    CHECK(probed(p.folder() / "club.mp4", "r_frame_rate") == "30000/1001");
    CHECK(std::stoll(probed(p.folder() / "club.mp4", "nb_frames")) == frames);
}

}
