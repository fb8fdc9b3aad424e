// Steady by mouse and keys, on the real window with real files.
#include "app/picture/picture_view.h"
#include "app/steps/steady/motion_plot.h"
#include "core/steps/steady/steady_edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <QLabel>
#include <QListWidget>

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <random>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// Photos of one scene, each knocked by whole pixels; photo 4 is black.
void write_knocked(const std::filesystem::path& folder)
{
    const cv::Point knocks[] = {{0, 0}, {6, -3}, {-4, 5}, {0, 0}, {3, 7}, {-8, -2}};
    for (int i = 0; i < 6; ++i)
        write_jpeg(folder / ("k_000" + std::to_string(i + 1) + ".jpg"),
                   i == 3 ? cv::Mat::zeros(600, 900, CV_8UC3)
                          : real_scene()(cv::Rect(cv::Point(100, 100) - knocks[i], cv::Size(900, 600))).clone(),
                   {}, 95);
}

double worst_shift(const std::filesystem::path& film, const std::filesystem::path& scratch)
{
    std::filesystem::create_directories(scratch);
    output_of("ffmpeg -v error -y -i " + quoted(film.native()) + " " + quoted((scratch / "%04d.png").native()));
    std::vector<cv::Mat> frames;
    for (const int i : {1, 2, 3, 5, 6}) // 4 is black
        frames.push_back(cv::imread((scratch / ("000" + std::to_string(i) + ".png")).native()));
    return largest_shift(frames);
}

}

TEST_CASE("measure, look at the doubtful photo, crop, undo, and the exported film holds still", "[window][steady]")
{
    Person p;
    write_knocked(p.folder() / "k");
    p.bring_in(p.folder() / "k");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1); // all on ones, whatever kind it was taken for
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    // The black photo comes in set aside where a covered lens was seen; here it is wanted in the film.
    if (photos_in_film(shot()) < 6) {
        p.window().session().apply(
            [&](const Project& project) { return set_aside(project, ShotIndex(0), std::array{PhotoIndex(3)}, false); },
            q("test"));
        REQUIRE(photos_in_film(shot()) == 6);
    }
    p.export_film(p.folder() / "before.mp4");
    CHECK(worst_shift(p.folder() / "before.mp4", p.folder() / "before") > 4);

    p.key(Qt::Key_3, Qt::ControlModifier);
    const Project before = p.window().session().project();
    p.click(q("Hold the photos still"));
    p.wait_until([&] { return shot().steps.has<Steadying>(); }, q("it is measured"), 60'000);
    CHECK(reference_photo(shot()).has_value());
    p.click(q("Photo by photo"));
    auto* doubts = p.find<QListWidget>(q("Photos to look at"));
    REQUIRE(doubts->count() == 1);
    CHECK(doubts->item(0)->text().contains(q("k_0004")));
    QTest::mouseClick(doubts->viewport(), Qt::LeftButton, {}, doubts->visualItemRect(doubts->item(0)).center());
    CHECK(p.window().viewing().selection().current() == PhotoIndex(3));
    CHECK(p.find<QLabel>(q("How this photo lies"))->text().contains(q("k_0004")));

    p.click(q("Whole shot"));
    auto* plot = p.find<app::MotionPlot>(q("Movement over the photos"));
    CHECK(plot->points() == 6);
    QTest::mouseClick(plot->childAt(plot->rect().center()), Qt::LeftButton, {},
                      QPoint(plot->width() / 2, plot->height() / 2));
    const PhotoIndex in_the_middle = p.window().viewing().selection().current();
    CHECK((in_the_middle == PhotoIndex(2) || in_the_middle == PhotoIndex(3)));
    p.click_photo(4);
    p.click(q("Photo by photo"));

    // It is moved by hand, blinking against the reference, and is no longer in doubt.
    const Transform lay = alignment_of(shot().photos[3])->from_film;
    p.click(q("Move by hand"));
    auto& view = *p.window().findChild<app::PictureView*>();
    CHECK(view.blinking());
    p.key(Qt::Key_Right);
    p.key(Qt::Key_Down, Qt::ShiftModifier);
    const Transform shifted = alignment_of(shot().photos[3])->from_film;
    p.key(Qt::Key_PageDown, Qt::ShiftModifier);
    CHECK(motion_of(alignment_of(shot().photos[3])->from_film.inv() * shifted, {900, 600}).turn_degrees ==
          Approx(0.1).margin(0.001));
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(alignment_of(shot().photos[3])->from_film == shifted);
    const Motion by = motion_of(alignment_of(shot().photos[3])->from_film * lay.inv(), {900, 600});
    CHECK(by.shift.x == Approx(-0.1).margin(0.01));
    CHECK(by.shift.y == Approx(-1).margin(0.01));
    CHECK(doubts->count() == 0);
    CHECK(p.window().viewing().selection().current() == PhotoIndex(3)); // the keys did not go on
    p.key(Qt::Key_Escape);
    CHECK_FALSE(view.blinking());
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(alignment_of(shot().photos[3])->from_film == lay);
    CHECK(doubts->count() == 1);

    p.click(q("Whole shot"));
    const cv::Rect inside = steadying_of(shot())->crop;
    CHECK(inside.width < 900);
    p.click(q("Extend edges"));
    CHECK(steadying_of(shot())->crop == cv::Rect(0, 0, 900, 600));
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(steadying_of(shot())->crop == inside);
    p.export_film(p.folder() / "after.mp4");
    CHECK(worst_shift(p.folder() / "after.mp4", p.folder() / "after") < 0.2);

    p.key(Qt::Key_3, Qt::ControlModifier);
    p.click_photo(2);
    p.click(q("Use this photo"));
    p.wait_until([&] { return reference_photo(shot()) == PhotoIndex(1); }, q("it is measured against photo 2"), 60'000);
    p.key(Qt::Key_Z, Qt::ControlModifier); // one step each
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(p.window().session().project() == before);
    p.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    p.click(q("Undo steadying"));
    CHECK_FALSE(steadying_of(shot()));
}

namespace {

/// In Steady, with a shot of these photos on ones.
struct InSteady : Person
{
    explicit InSteady(const std::function<void(const std::filesystem::path&)>& write)
    {
        write(folder() / "k");
        bring_in(folder() / "k");
        window().viewing().set_step("pace");
        key(Qt::Key_1);
        key(Qt::Key_3, Qt::ControlModifier);
    }
    [[nodiscard]] const Shot& shot() { return *window().viewing().shot(); }
    [[nodiscard]] app::PictureView& view() { return *window().findChild<app::PictureView*>(); }
    void hold_still()
    {
        click(q("Hold the photos still"));
        wait_until([&] { return shot().steps.has<Steadying>(); }, q("it is measured"), 60'000);
    }
    [[nodiscard]] QImage seen()
    {
        wait_for_pictures();
        return view().grab().toImage();
    }
};

/// A walk: aside, with every step felt.
void write_walked(const std::filesystem::path& folder)
{
    std::mt19937 random(8);
    std::normal_distribution<double> normal(0, 4);
    for (int i = 0; i < 24; ++i)
        write_jpeg(folder / ("w_" + std::to_string(1001 + i) + ".jpg"),
                   photo_of_scene(turned_by(0, 1, {-40 + 3.5 * i + normal(random), 20 - 1.5 * i + normal(random)})), {},
                   95);
}

/// How a film trembles: what neighbouring steps differ by, root mean square, pixels.
double tremble(const std::filesystem::path& film, const std::filesystem::path& scratch)
{
    std::filesystem::create_directories(scratch);
    output_of("ffmpeg -v error -y -i " + quoted(film.native()) + " -vf scale=900:600 " +
              quoted((scratch / "%04d.png").native()));
    std::vector<cv::Point2d> steps;
    cv::Mat before;
    for (int i = 1; i <= 24; ++i) {
        cv::Mat grey =
                    cv::imread((scratch / (std::string(i < 10 ? "000" : "00") + std::to_string(i) + ".png")).native(),
                               cv::IMREAD_GRAYSCALE),
                window;
        REQUIRE_FALSE(grey.empty());
        grey.convertTo(grey, CV_64F);
        cv::createHanningWindow(window, grey.size(), CV_64F);
        if (!before.empty())
            steps.push_back(cv::phaseCorrelate(before, grey, window)); // Foroosh, Zerubia, Berthod 2002
        before = grey;
    }
    double sum = 0;
    for (std::size_t i = 1; i < steps.size(); ++i)
        sum += std::pow(cv::norm(steps[i] - steps[i - 1]), 2);
    return std::sqrt(sum / double(steps.size()));
}

}

TEST_CASE("a walked shot: smooth it, make it stronger, follow a thing in it, and the exported film no longer trembles",
          "[window][steady][walk]")
{
    InSteady p(write_walked);
    p.export_film(p.folder() / "before.mp4");
    p.key(Qt::Key_3, Qt::ControlModifier);
    p.click(q("Smooth path"));
    p.click(q("Smooth the path"));
    p.wait_until([&] { return p.shot().steps.has<Steadying>(); }, q("it is measured"), 60'000);
    CHECK(steadying_of(p.shot())->way == SteadyWay::smooth);
    CHECK(p.find<QLabel>(q("What was measured"))->text().contains(q("left")));
    p.export_film(p.folder() / "after.mp4");
    const double before = tremble(p.folder() / "before.mp4", p.folder() / "b"),
                 after = tremble(p.folder() / "after.mp4", p.folder() / "a");
    CAPTURE(before, after);
    CHECK(before > 6);
    CHECK(after < 0.15 * before);

    p.key(Qt::Key_3, Qt::ControlModifier);
    const Steadying first = *steadying_of(p.shot());
    p.type_into(q("Most that is lost"), q("1 %"));
    p.wait_until([&] { return steadying_of(p.shot())->smoothing.most_lost < 0.011; }, q("it is smoothed again"));
    CHECK(lost_to_crop(p.shot()) <= 0.013); // and a pixel that the box is not whole by
    p.type_into(q("Strength of the smoothing"), q("12 f"));
    p.wait_until([&] { return steadying_of(p.shot())->smoothing.strength_s == 0.5; }, q("it is smoothed again"));
    p.type_into(q("Strength of the smoothing"), q("much"));
    CHECK(p.find(q("Strength of the smoothing"))->property("wrong").toBool());
    p.key(Qt::Key_Escape);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(*steadying_of(p.shot()) == first);

    // A thing in the picture stays where it is. The plane of the scene moves as a whole: all of it stays, then.
    p.type_into(q("Most that is lost"), q("60 %"));
    p.wait_until([&] { return steadying_of(p.shot())->smoothing.most_lost > 0.5; }, q("it is smoothed again"));
    p.click_photo(12);
    p.click(q("Follow…"));
    p.drag_on_picture({0.35, 0.3}, {0.65, 0.7});
    p.wait_until([&] { return follows_target(p.shot()); }, q("the target is followed"), 60'000);
    CHECK(p.view().tool() == nullptr);
    const auto film_place = [&](std::size_t i) {
        return moved(alignment_of(p.shot().photos[i])->from_film.inv(), *alignment_of(p.shot().photos[i])->target);
    };
    for (std::size_t i = 0; i < 24; ++i) {
        REQUIRE(alignment_of(p.shot().photos[i])->target);
        CHECK(cv::norm(film_place(i) - film_place(0)) < 0.05);
    }
    p.click(q("Follow nothing"));
    CHECK_FALSE(follows_target(p.shot()));
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(follows_target(p.shot()));
}

TEST_CASE("where to look is drawn on the photo, by box and brush, proposed, and taken back", "[window][steady][region]")
{
    InSteady p(write_knocked);
    CHECK(p.find<QLabel>(q("Where is measured"))->text() == q("whole photo"));
    p.click(q("Inside"));
    CHECK(p.view().tool());
    p.drag_on_picture({0.1, 0.2}, {0.6, 0.9});
    REQUIRE(steady_region(p.shot()).look_at.size() == 1);
    const cv::Rect2d r = steady_region(p.shot()).look_at[0];
    CHECK(r.x == Approx(0.1).margin(0.005));
    CHECK(r.y == Approx(0.2).margin(0.005));
    CHECK(r.br().x == Approx(0.6).margin(0.005));
    CHECK(r.br().y == Approx(0.9).margin(0.005));
    p.click_on_picture({0.5, 0.5}); // a click is no box
    CHECK(steady_region(p.shot()).look_at.size() == 1);
    p.click(q("Outside"));
    p.click(q("Brush"));
    const QImage before = p.seen();
    p.drag_on_picture({0.2, 0.5}, {0.5, 0.5});
    REQUIRE_FALSE(steady_region(p.shot()).leave_out.empty());
    const auto left_out = [&](double x, double y) {
        return std::any_of(steady_region(p.shot()).leave_out.begin(), steady_region(p.shot()).leave_out.end(),
                           [&](const cv::Rect2d& b) { return b.contains(cv::Point2d(x, y)); });
    };
    CHECK(left_out(0.35, 0.5));
    CHECK(left_out(0.2, 0.5));
    CHECK_FALSE(left_out(0.35, 0.6));
    CHECK_FALSE(left_out(0.6, 0.5));
    CHECK(p.seen() != before); // it is seen
    p.sheet().setFocus();
    p.key(Qt::Key_Escape);
    CHECK_FALSE(p.view().tool());
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(steady_region(p.shot()).leave_out.empty());
    CHECK_FALSE(p.find(q("Trust"))->isEnabled()); // nothing was measured yet
    p.hold_still();
    const QImage plain = p.seen();
    p.click(q("Trust"));
    CHECK(p.seen() != plain);
    p.click(q("Trust"));
    CHECK_FALSE(p.view().tool());
    p.click(q("All"));
    CHECK(steady_region(p.shot()) == Region());
    p.click(q("Suggest"));
    CHECK(steady_region(p.shot()) == still_background(steadying_of(p.shot())->trusted));
}

TEST_CASE("a photo is compared, aligned to another, by points, and left as shot", "[window][steady]")
{
    InSteady p(write_knocked);
    p.hold_still();
    p.click(q("Photo by photo"));
    const PhotoIndex reference = *reference_photo(p.shot());
    const PhotoIndex photo = reference == PhotoIndex(5) ? PhotoIndex(1) : PhotoIndex(5);
    p.click_photo(int(photo.value) + 1);
    const auto lies = [&] { return alignment_of(p.shot().photos[photo.at()])->from_film; };
    const Transform right = lies();

    const QImage plain = p.seen();
    std::vector<QImage> ways;
    for (const char* how : {"Split", "See-through", "Difference"}) {
        p.click(q(how));
        ways.push_back(p.seen());
        CHECK(ways.back() != plain);
    }
    CHECK(ways[0] != ways[1]);
    CHECK(ways[1] != ways[2]);
    p.click(q("Split"));
    p.drag_on_picture({0.5, 0.5}, {0.9, 0.5});
    CHECK(p.seen() != ways[0]);
    p.sheet().setFocus();
    p.key(Qt::Key_Escape);
    CHECK(p.seen() == plain);

    // Moved wrongly, it finds back: against the reference, and against a neighbour.
    const auto spoil = [&] {
        p.window().session().apply(
            [&](const Project& project) {
                return nudge_photo(project, ShotIndex(0), photo, {25, -14});
            },
            q("test"));
        REQUIRE(corner_distance(lies(), right, {900, 600}) > 20);
    };
    spoil();
    p.click(q("Align"));
    p.wait_until([&] { return corner_distance(lies(), right, {900, 600}) < 0.2; }, q("it is aligned again"));
    spoil();
    p.choose(q("Photo to align to"), photo == PhotoIndex(5) ? q("the one before") : q("the next one"));
    p.choose(q("This photo moved by"), q("shift"));
    p.click(q("Align"));
    p.wait_until([&] { return corner_distance(lies(), right, {900, 600}) < 0.3; }, q("it is aligned to its neighbour"));

    // By two points, clicked on the other photo and on this one; coarsely, and made exact on the photos.
    spoil();
    p.choose(q("Photo to align to"), q("the reference"));
    p.click(q("By points"));
    for (const cv::Point2d& at : {cv::Point2d(200, 150), cv::Point2d(700, 450)}) {
        const cv::Point2d there = moved(right, at);
        p.click_on_picture({(at.x + 0.5) / 900, (at.y + 0.5) / 600});
        p.click_on_picture({(there.x + 0.5) / 900, (there.y + 0.5) / 600});
    }
    p.click(q("Take the points"));
    p.wait_until([&] { return corner_distance(lies(), right, {900, 600}) < 0.2; }, q("it lies by the points"));
    CHECK_FALSE(p.view().tool());
    p.click(q("Leave as shot"));
    CHECK(lies() == Transform::eye());
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(corner_distance(lies(), right, {900, 600}) < 0.2);

    // The photo that costs most of the crop is named, and a click goes there.
    p.click(q("Whole shot"));
    const auto costly = costliest_photo(p.shot());
    REQUIRE(costly);
    p.click(q("The photo that costs most"));
    CHECK(p.window().viewing().selection().current() == costly->photo);
    p.choose(q("Shape of the crop"), q("1 : 1"));
    CHECK(std::abs(steadying_of(p.shot())->crop.width - steadying_of(p.shot())->crop.height) <= 1);
    p.choose(q("Shape of the crop"), q("as the photos"));
    p.click(q("Mirror edges"));
    CHECK(steadying_of(p.shot())->edges == Edges::mirrored);
    CHECK_FALSE(steadying_of(p.shot())->inside_all);
}

TEST_CASE("a shot that changes while it is measured keeps what was done to it", "[window][steady]")
{
    InSteady p(write_knocked);
    p.click(q("Hold the photos still"));
    p.window().session().apply(
        [&](const Project& project) {
            return move_photos(project, ShotIndex(0), std::array{PhotoIndex(5)}, PhotoIndex(0));
        },
        q("test"));
    p.wait_until([&] { return p.shot().steps.has<Steadying>(); }, q("it is measured"), 60'000);
    const auto at = [&](const char* name) {
        return std::find_if(p.shot().photos.begin(), p.shot().photos.end(),
                            [&](const ShotPhoto& photo) { return photo.photo->file.filename() == name; });
    };
    CHECK(at("k_0006.jpg") == p.shot().photos.begin()); // where it was moved to
    const Transform between =
        alignment_of(*at("k_0006.jpg"))->from_film * alignment_of(*at("k_0002.jpg"))->from_film.inv();
    CHECK(motion_of(between, {900, 600}).shift.x == Approx(-8 - 6).margin(0.1)); // and as it was knocked
    CHECK(motion_of(between, {900, 600}).shift.y == Approx(-2 + 3).margin(0.1));
}

TEST_CASE("B shows a photo as shot for as long as it is held", "[window][steady][picture]")
{
    Person p;
    write_knocked(p.folder() / "k");
    p.bring_in(p.folder() / "k");
    p.key(Qt::Key_3, Qt::ControlModifier);
    p.click(q("Hold the photos still"));
    p.wait_until([&] { return p.window().viewing().shot()->steps.has<Steadying>(); }, q("it is measured"), 60'000);
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

}
