// Steady by mouse and keys, on the real window with real files.
#include "app/bench/steady/motion_plot.h"
#include "app/picture/picture_view.h"
#include "core/document/steady_edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QLabel>
#include <QListWidget>

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include <array>
#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// Photos of one scene, each knocked by whole pixels; photo 4 is black.
void write_knocked(const std::filesystem::path& folder)
{
    const cv::Mat scene = cv::imread("/usr/share/doc/opencv-doc/examples/data/aloeL.jpg");
    REQUIRE_FALSE(scene.empty());
    const cv::Point knocks[] = {{0, 0}, {6, -3}, {-4, 5}, {0, 0}, {3, 7}, {-8, -2}};
    for (int i = 0; i < 6; ++i)
        write_jpeg(folder / ("k_000" + std::to_string(i + 1) + ".jpg"),
                   i == 3 ? cv::Mat::zeros(600, 900, CV_8UC3) : scene(cv::Rect(cv::Point(100, 100) - knocks[i], cv::Size(900, 600))).clone(), {}, 95);
}

double worst_shift(const std::filesystem::path& film, const std::filesystem::path& scratch)
{
    std::filesystem::create_directories(scratch);
    output_of("ffmpeg -v error -y -i " + quoted(film.native()) + " " + quoted((scratch / "%04d.png").native()));
    double worst = 0;
    cv::Mat first;
    for (int i = 1; i <= 6; ++i) {
        if (i == 4)
            continue; // the black one
        cv::Mat grey = cv::imread((scratch / ("000" + std::to_string(i) + ".png")).native(), cv::IMREAD_GRAYSCALE), window;
        REQUIRE_FALSE(grey.empty());
        grey.convertTo(grey, CV_64F);
        if (first.empty())
            first = grey;
        cv::createHanningWindow(window, grey.size(), CV_64F);
        const cv::Point2d shift = cv::phaseCorrelate(first, grey, window); // independent: Foroosh, Zerubia, Berthod 2002
        worst = std::max(worst, std::hypot(shift.x, shift.y));
    }
    return worst;
}

void export_to(Person& p, const std::filesystem::path& file)
{
    p.key(Qt::Key_4, Qt::ControlModifier);
    p.type_into(q("File"), app::to_qt(file));
    p.wait_until([&] { return p.find<QLabel>(q("What will be written"))->text().contains(q("frames")); }, q("the plan"));
    p.click(q("Export the film"));
    p.wait_until([&] { return p.find<QLabel>(q("State of the export"))->text().contains(q("checked")); }, q("the film"), 120'000);
}

}

TEST_CASE("measure, look at the doubtful photo, crop, undo, and the exported film holds still", "[window][steady]")
{
    Person p;
    write_knocked(p.folder() / "k");
    p.bring_in(p.folder() / "k");
    p.window().viewing().set_step(app::Step::pace);
    p.key(Qt::Key_1); // all on ones, whatever kind it was taken for
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    // The black photo comes in set aside where a covered lens was seen; here it is wanted in the film.
    if (photos_in_film(shot()) < 6) {
        p.window().session().apply([&](const Project& project) { return set_aside(project, ShotIndex(0), std::array{PhotoIndex(3)}, false); }, q("test"));
        REQUIRE(photos_in_film(shot()) == 6);
    }
    export_to(p, p.folder() / "before.mp4");
    CHECK(worst_shift(p.folder() / "before.mp4", p.folder() / "before") > 4);

    p.key(Qt::Key_3, Qt::ControlModifier);
    const Project before = p.window().session().project();
    p.click(q("Hold the photos still"));
    p.wait_until([&] { return shot().steady.has_value(); }, q("it is measured"), 60'000);
    CHECK(reference_photo(shot()).has_value());
    auto* doubts = p.find<QListWidget>(q("Photos to look at"));
    REQUIRE(doubts->count() == 1);
    CHECK(doubts->item(0)->text().contains(q("k_0004")));
    QTest::mouseClick(doubts->viewport(), Qt::LeftButton, {}, doubts->visualItemRect(doubts->item(0)).center());
    CHECK(p.window().viewing().selection().current() == PhotoIndex(3));
    CHECK(p.find<QLabel>(q("How this photo lies"))->text().contains(q("k_0004")));

    auto* plot = p.find<app::MotionPlot>(q("Movement over the photos"));
    CHECK(plot->points() == 6);
    QTest::mouseClick(plot->childAt(plot->rect().center()), Qt::LeftButton, {}, QPoint(plot->width() / 2, plot->height() / 2));
    const PhotoIndex in_the_middle = p.window().viewing().selection().current();
    CHECK((in_the_middle == PhotoIndex(2) || in_the_middle == PhotoIndex(3)));
    p.click_photo(4);

    // It is moved by hand, blinking against the reference, and is no longer in doubt.
    const Transform lay = shot().photos[3].alignment->from_reference;
    p.click(q("Move by hand"));
    auto& view = *p.window().findChild<app::PictureView*>();
    CHECK(view.blinking());
    p.key(Qt::Key_Right);
    p.key(Qt::Key_Down, Qt::ShiftModifier);
    const Motion by = motion_of(shot().photos[3].alignment->from_reference * lay.inv(), {900, 600});
    CHECK(by.shift.x == Approx(-0.1).margin(0.01));
    CHECK(by.shift.y == Approx(-1).margin(0.01));
    CHECK(doubts->count() == 0);
    CHECK(p.window().viewing().selection().current() == PhotoIndex(3)); // the keys did not go on
    p.key(Qt::Key_Escape);
    CHECK_FALSE(view.blinking());
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(shot().photos[3].alignment->from_reference == lay);
    CHECK(doubts->count() == 1);

    const cv::Rect inside = shot().steady->frame;
    CHECK(inside.width < 900);
    p.click(q("Whole frame"));
    CHECK(shot().steady->frame == cv::Rect(0, 0, 900, 600));
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(shot().steady->frame == inside);
    export_to(p, p.folder() / "after.mp4");
    CHECK(worst_shift(p.folder() / "after.mp4", p.folder() / "after") < 0.2);

    p.key(Qt::Key_3, Qt::ControlModifier);
    p.click_photo(2);
    p.click(q("Hold to this photo"));
    p.wait_until([&] { return reference_photo(shot()) == PhotoIndex(1); }, q("it is measured against photo 2"), 60'000);
    p.key(Qt::Key_Z, Qt::ControlModifier); // one step each
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(p.window().session().project() == before);
    p.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    p.click(q("As shot again"));
    CHECK_FALSE(shot().steady);
}

TEST_CASE("B shows a photo as shot for as long as it is held, and Stop leaves all as it was", "[window][steady][picture]")
{
    Person p;
    write_knocked(p.folder() / "k");
    p.bring_in(p.folder() / "k");
    p.key(Qt::Key_3, Qt::ControlModifier);
    const Project before = p.window().session().project();
    p.click(q("Hold the photos still"));
    p.click(q("Stop"));
    p.wait_until([&] { return p.sees(q("Hold the photos still")) || p.sees(q("Measure again")); }, q("it stops"));
    if (!p.window().viewing().shot()->steady) // it may have been done already
        CHECK(p.window().session().project() == before);
    if (!p.window().viewing().shot()->steady)
        p.click(q("Hold the photos still"));
    p.wait_until([&] { return p.window().viewing().shot()->steady.has_value(); }, q("it is measured"), 60'000);
    p.click_photo(6);
    auto& view = *p.window().findChild<app::PictureView*>();
    const auto seen = [&] {
        p.wait_for_pictures();
        return view.grab().toImage();
    };
    const QImage steady = seen();
    QTest::keyPress(&p.sheet(), Qt::Key_B);
    const QImage raw = seen();
    CHECK(raw != steady);
    QTest::keyRelease(&p.sheet(), Qt::Key_B);
    CHECK(seen() == steady);
}
