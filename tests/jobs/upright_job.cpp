// A chess game to a tune, a lighthouse that turns, a walk in raw, and a figure shot here.
#include "core/project/reel.h"
#include "core/project/speed_course.h"
#include "core/steps/frame/frame_values.h"
#include "core/steps/reel/reel_edits.h"
#include "core/steps/steady/steady_values.h"
#include "core/timeline/reel_timeline.h"
#include "tests/jobs/jobs.h"
#include "tests/jobs/material.h"
#include "tests/support/catch.h"
#include "tests/support/dng.h"
#include "tests/support/photos.h"

#include <opencv2/imgproc.hpp>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>

#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("A chess game in thirteen photos: 0.15 s, at least four seconds, upright at 30, to a tune's beat")
{
    Person p;
    const cv::Mat board = photograph("chessboard.png", {800, 1000});
    for (int i = 0; i < 13; ++i) {
        cv::Mat photo = board.clone();
        cv::circle(photo, {120 + 45 * i, 700 - 30 * i}, 40, cv::Scalar(40, 50, 160), cv::FILLED, cv::LINE_AA);
        write_photo(p.folder() / "chess", "CH", 1 + i, photo, 9 * i);
    }
    p.bring_in(p.folder() / "chess");
    p.click(q("Pace"));
    p.type_into(q("Hold"), q("0.15 s"));
    p.click(q("Range and order"));
    p.type_into(q("At least"), q("4 s"));
    p.look("chess-1");
    CHECK(p.window().viewing().film_frames() >= 96);
    // A tune of two beats a second, dropped on the window.
    output_of("ffmpeg -v error -y -f lavfi -i \"aevalsrc='sin(2*PI*880*t)*exp(-25*mod(t,0.5))':d=8\" " +
              quoted(p.folder() / "tune.wav"));
    p.window().take_in({p.folder() / "tune.wav"});
    p.wait_until([&] { return !p.window().session().project().reel.sound.sounds.empty(); }, q("the tune is there"));
    p.click(q("Find beats"));
    p.wait_until([&] { return p.window().session().project().reel.sound.beats.size() > 8; }, q("beats are found"));
    p.look("chess-2");
    const auto holds = [&] {
        std::vector<Hold> all;
        for (const ShotPhoto& photo : p.window().session().project().shots[0]->photos)
            all.push_back(photo.hold);
        return all;
    };
    const auto even = holds();
    p.click(q("Pull holds to beats"));
    p.look("chess-3");
    CHECK(holds() != even);
    p.click(q("Cut the sound"));
    CHECK(reel_lengths(p.window().session().project()).picture_longer_by() == 0);
    p.click(q("Export"));
    p.choose(q("Format"), q("Film, upright 1080 × 1350, 30 fps (.mp4)"));
    p.type_into(q("File"), app::to_qt(p.folder() / "chess.mp4"));
    p.export_now();
    p.look("chess-4");
    CHECK(probed(p.folder() / "chess.mp4", "width,height") == "1080,1350");
    CHECK(probed(p.folder() / "chess.mp4", "r_frame_rate") == "30/1");
}

namespace {

/// Renders of a lighthouse whose beam turns once in 24, with alpha.
void write_lighthouse(const std::filesystem::path& folder, int renders, cv::Size size, int quality)
{
    for (int i = 0; i < renders; ++i) {
        cv::Mat m(size, CV_8UC4, cv::Scalar(0, 0, 0, 0));
        const double w = size.width, h = size.height, turn = 2 * CV_PI * i / 24;
        cv::rectangle(m, cv::Rect2d(w * 0.44, h * 0.35, w * 0.12, h * 0.6), cv::Scalar(60, 60, 210, 255), cv::FILLED);
        cv::rectangle(m, cv::Rect2d(w * 0.42, h * 0.25, w * 0.16, h * 0.1), cv::Scalar(60, 200, 230, 255), cv::FILLED);
        cv::line(m, cv::Point2d(w * 0.5, h * 0.3),
                 cv::Point2d(w * (0.5 + 0.4 * std::cos(turn)), h * (0.3 + 0.2 * std::sin(turn))),
                 cv::Scalar(80, 220, 250, 255), std::max(1, int(h / 40)), cv::LINE_AA);
        if (quality < 50)
            cv::blur(m, m, {3, 3});
        char name[32];
        std::snprintf(name, sizeof name, "light_%04d.png", i + 1);
        write_picture(folder / name, m);
    }
}

}

TEST_CASE("A rendered lighthouse: quick renders are edited, final ones swapped in, one turn looped, a nameplate")
{
    Person p;
    write_lighthouse(p.folder() / "quick", 40, {240, 180}, 20);
    write_lighthouse(p.folder() / "final", 40, {960, 720}, 90);
    p.bring_in(p.folder() / "quick");
    p.choose(q("Backdrop"), q("white"));
    p.look("light-1");
    p.click(q("Pace"));
    p.click(q("Range and order"));
    p.click(q("Find a loop"));
    p.wait_until([&] { return shot(p).pacing.kept.has_value(); }, q("a loop is kept"), 60'000);
    p.look("light-2");
    CHECK(p.window().viewing().film_frames() == 24);
    p.click(q("Holds and rate"));
    p.type_into(q("Hold of the film's first photo"), q("1 s"));
    CHECK(p.window().viewing().film_frames() == 23 + 24);
    p.click(q("Dress"));
    p.click(q("Layers"));
    p.click(q("Add text"));
    auto* text = p.find<QPlainTextEdit>(q("Text of the layer"));
    text->setFocus();
    text->selectAll();
    QTest::keyClicks(text, q("North pier"));
    p.click(q("Place"));
    p.type_into(q("size"), q("12"));
    p.drag_on_picture({0.5, 0.5}, {0.8, 0.9});
    p.click(q("Shadow"));
    p.click(q("casts one"));
    p.look("light-3");
    p.click(q("Sort"));
    p.click(q("Swap photos…"));
    p.answer_folder(p.folder() / "final");
    p.wait_until([&] { return p.sees(q("Swap 40 photos")); }, q("the plan is shown"));
    p.click(q("Swap 40 photos"));
    CHECK(shot(p).photos[0].photo->file.parent_path() == p.folder() / "final");
    CHECK(p.window().viewing().film_frames() == 23 + 24);
    p.export_film(p.folder() / "light.mp4");
    p.look("light-4");
    CHECK(probed(p.folder() / "light.mp4", "width,height") == "960,720");
}

TEST_CASE("A walked avenue in raw: smooth, bars of 2.39, three views, miniature, and a clip twenty times as fast")
{
    Person p;
    const cv::Mat avenue = photograph("leuvenB.jpg", {1400, 700});
    cv::RNG random(5);
    for (int i = 0; i < 20; ++i) {
        const double shake = random.uniform(-6.0, 6.0), drop = random.uniform(-5.0, 5.0);
        const cv::Matx33d t = turned_by(random.uniform(-0.4, 0.4), 1, {-30.0 * i + shake, drop}, {300, 200});
        cv::Mat photo, light;
        cv::warpPerspective(avenue, photo, t * cv::Matx33d(1, 0, -60, 0, 1, -80, 0, 0, 1), {600, 400},
                            cv::INTER_LINEAR);
        photo.convertTo(light, CV_32F, 1 / 255.0);
        cv::pow(light, 2.2, light);
        cv::cvtColor(light, light, cv::COLOR_BGR2RGB);
        write_dng(p.folder() / "walk" / ("A_" + std::to_string(1001 + i) + ".dng"), light);
    }
    p.bring_in(p.folder() / "walk");
    p.look("avenue-1");
    p.click(q("Pace"));
    p.choose(q("Delivered at"), q("23.976 fps"));
    p.click(q("Same photos per frame"));
    p.sheet().setFocus();
    p.key(Qt::Key_4);
    p.click(q("Steady"));
    p.click(q("Smooth path"));
    p.click(q("Smooth the path"));
    p.wait_until([&] { return shot(p).steps.has<Steadying>(); }, q("the path is smooth"), 120'000);
    p.look("avenue-2");
    p.click(q("Dress"));
    p.choose(q("Bars"), q("2.39:1"));
    for (const int photo : {1, 10, 20}) {
        p.click_photo(photo);
        p.click(q("New view here"));
    }
    p.wait_for_pictures();
    p.drag_on_picture({0.9, 0.9}, {0.75, 0.75});
    p.click(q("on"));
    p.look("avenue-3");
    CHECK(views_of(shot(p)).size() == 3);
    CHECK(framing_of(shot(p)).miniature);
    p.export_film(p.folder() / "avenue.mp4");
    CHECK(probed(p.folder() / "avenue.mp4", "r_frame_rate") == "24000/1001");

    // A long clip, twenty times as fast, with jumps on purpose.
    std::filesystem::create_directories(p.folder() / "clip");
    output_of(
        "ffmpeg -v error -y -f lavfi -i testsrc2=size=320x180:rate=25:duration=40 -c:v libx264 -pix_fmt yuv420p " +
        quoted(p.folder() / "clip" / "street.mp4"));
    p.bring_in(p.folder() / "clip");
    p.window().viewing().set_shot(ShotIndex(1));
    p.click(q("Sort"));
    p.choose(q("Take from the clip"), q("what makes it faster"));
    p.wait_until([&] { return shot(p).photos.size() == 50; }, q("1000 / 20 photos"));
    p.look("avenue-4");
    p.click(q("Pace"));
    p.click(q("Range and order"));
    p.sheet().setFocus();
    for (const int photo : {10, 25, 40}) {
        p.window().viewing().go_to_photo(PhotoIndex(photo - 1));
        p.key(Qt::Key_M);
    }
    p.look("avenue-5");
    p.click(q("Set aside at marks"));
    CHECK(photos_in_film(shot(p)) == 50 - 3 * 2);
}

TEST_CASE("Twenty photos shot here on twos, one anew, four averaged, with sound, uncompressed")
{
    Person p;
    p.click(q("Shoot with a camera"));
    p.wait_until([&] { return p.sees(q("Take photo")) && p.find(q("Take photo"))->isEnabled(); }, q("it opens"));
    p.click(q("Camera"));
    if (p.find<QComboBox>(q("Camera in use"))->currentText() != q("Simulated camera")) {
        p.choose(q("Camera in use"), q("Simulated camera"));
        p.wait_until([&] { return p.find(q("Take photo"))->isEnabled(); }, q("the simulated one opens"));
    }
    p.look("shot-1");
    p.click(q("Lock all"));
    p.click(q("Take"));
    p.type_into(q("Folder for the photos"), app::to_qt(p.folder() / "set"));
    const auto photos = [&] { return p.window().viewing().shot() ? shot(p).photos.size() : 0; };
    const auto take = [&] {
        const std::size_t before = photos();
        p.key(Qt::Key_T);
        p.wait_until([&] { return photos() > before && p.find(q("Take photo"))->isEnabled(); }, q("it is taken"));
    };
    p.sheet().setFocus();
    for (int i = 0; i < 16; ++i)
        take();
    p.type_into(q("Pictures averaged"), q("4"));
    p.sheet().setFocus();
    for (int i = 0; i < 4; ++i)
        take();
    p.click_photo(5);
    p.click(q("Retake"));
    p.wait_until([&] { return photos() == 21; }, q("one anew"));
    p.look("shot-2");
    CHECK(p.window().viewing().film_frames() == 20 * 2);
    output_of("ffmpeg -v error -y -f lavfi -i sine=440:d=1.6666666 " + quoted(p.folder() / "hum.wav"));
    p.window().take_in({p.folder() / "hum.wav"});
    p.wait_until([&] { return !p.window().session().project().reel.sound.sounds.empty(); }, q("the sound is there"));
    p.look("shot-3");
    p.click(q("Export"));
    p.choose(q("Format"), q("Uncompressed, AVI (.avi)"));
    p.type_into(q("File"), app::to_qt(p.folder() / "figure.avi"));
    const auto said = [&] { return p.find<QLabel>(q("What will be written"))->text(); };
    p.wait_until([&] { return said().contains(q("free")); }, q("the space is said"));
    p.look("shot-4");
    p.export_now();
    const auto size = std::filesystem::file_size(p.folder() / "figure.avi");
    CHECK(size > 40ull * 1920 * 1080 * 3);
    CHECK_FALSE(output_of("ffprobe -v error -select_streams a -show_entries stream=codec_name -of csv=p=0 " +
                          quoted(p.folder() / "figure.avi"))
                    .empty());
}

}
