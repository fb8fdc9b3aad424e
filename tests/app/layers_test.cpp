// Layers and retouch by mouse and keys, on the real window with real files; what is exported is looked at.
#include "app/picture/picture_view.h"
#include "core/picture/picture.h"
#include "core/steps/layers/bring_picture_in.h"
#include "core/steps/layers/colour_out.h"
#include "core/steps/layers/layer_edits.h"
#include "core/steps/retouch/retouch_edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <QComboBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTreeWidget>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// So many grey photos on ones, this page of Dress in view.
void bring_in_grey(Person& p, int photos, const char* page)
{
    for (int i = 0; i < photos; ++i)
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"),
                      cv::Mat(400, 600, CV_8UC3, cv::Scalar::all(128)));
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.window().viewing().set_step(page);
    p.wait_for_pictures();
}

const Shot& shot(Person& p)
{
    return *p.window().viewing().shot();
}

Layer layer(Person& p, std::size_t at = 0)
{
    REQUIRE(layers_of(shot(p).steps).size() > at);
    return layers_of(shot(p).steps)[at];
}

cv::Mat frame(Person& p, std::int64_t at)
{
    const auto film = film_of(p.window().session().project(), p.window().viewing().shot_index());
    const auto made = render(film->frame(FrameIndex(at), {.size = film->size()}), Originals());
    REQUIRE(made);
    return *made;
}

bool dark(const cv::Mat& picture, int x, int y)
{
    return picture.at<cv::Vec3b>(y, x)[1] < 70;
}

}

TEST_CASE("A layer is drawn photo by photo, held, rubbed out, switched off, undone and exported")
{
    Person p;
    bring_in_grey(p, 8, "layers");
    p.click(q("Draw"));
    REQUIRE(layers_of(shot(p).steps).size() == 1);
    for (int photo = 0; photo < 5; ++photo) { // five photos, a line farther down each time
        p.window().viewing().go_to_photo(PhotoIndex(photo));
        p.wait_for_pictures();
        p.drag_on_picture({0.2, 0.2 + 0.1 * photo}, {0.8, 0.2 + 0.1 * photo});
    }
    REQUIRE(layer(p).drawings.size() == 5);
    for (int f = 0; f < 5; ++f) {
        const cv::Mat made = frame(p, f);
        for (int line = 0; line < 5; ++line)
            CHECK(dark(made, 300, 80 + 40 * line) == (line == f));
    }
    CHECK_FALSE(dark(frame(p, 6), 300, 240));
    p.find<QSpinBox>(q("Photos that this drawing lies over"))->setValue(3);
    CHECK(dark(frame(p, 6), 300, 240));

    SECTION("rubbed out, it is gone where the hand was")
    {
        p.click(q("Rub out"));
        p.drag_on_picture({0.5, 0.6}, {0.8, 0.6});
        const cv::Mat made = frame(p, 4);
        CHECK(dark(made, 200, 240));
        CHECK_FALSE(dark(made, 400, 240));
        p.key(Qt::Key_Z, Qt::ControlModifier);
        CHECK(dark(frame(p, 4), 400, 240));
    }
    SECTION("a filled shape is closed by itself")
    {
        p.click(q("Fill a shape"));
        p.drag_on_picture({0.3, 0.8}, {0.6, 0.95});
        CHECK(layer(p).drawings.back().strokes.back().kind == StrokeKind::filled);
    }
    SECTION("locked, a hand changes nothing")
    {
        p.click(q("Lock it"));
        p.drag_on_picture({0.2, 0.9}, {0.8, 0.9});
        CHECK(layer(p).drawings.back().strokes.size() == 1);
        p.click(q("Lock it"));
        CHECK_FALSE(layer(p).locked);
    }
    SECTION("exported, each line is on its photo")
    {
        p.export_film(p.folder() / "drawn.mp4");
        output_of("ffmpeg -v error -i " + quoted((p.folder() / "drawn.mp4").native()) + " " +
                  quoted((p.folder() / "drawn_%04d.png").native()));
        for (int f = 0; f < 5; ++f) {
            const auto file = p.folder() / ("drawn_000" + std::to_string(f + 1) + ".png");
            const cv::Mat written = cv::imread(file.string());
            REQUIRE(written.size() == cv::Size(600, 400));
            CHECK(dark(written, 300, 80 + 40 * f));
        }
    }
}

TEST_CASE("Text is laid over the photos, keyed along a path, moved by arrow keys, and undone")
{
    Person p;
    bring_in_grey(p, 25, "layers");
    p.click(q("Add text"));
    REQUIRE(layers_of(shot(p).steps).size() == 1);
    auto* text = p.find<QPlainTextEdit>(q("Text of the layer"));
    text->setFocus();
    text->selectAll();
    p.key(Qt::Key_Delete);
    QTest::keyClicks(text, q("Harbour"));
    CHECK(p.window().session().project().shots.back()->name == "Text");
    p.click(q("Place"));
    p.type_into(q("size"), q("40"));
    CHECK(layer(p).keys.at(0).size == Approx(0.4));
    p.click(q("Keys"));
    p.click(q("Set a key here"));
    p.window().viewing().set_playhead(FrameIndex(24));
    p.wait_for_pictures();
    p.drag_on_picture({0.5, 0.5}, {0.75, 0.7}); // at another frame it becomes a key there
    REQUIRE(layer(p).keys.size() == 2);
    CHECK(layer(p).keys[1].at == Seconds{Fraction(1)});
    CHECK(layer(p).keys[1].x == Approx(0.75).margin(0.01));
    CHECK(layer(p).keys[0].x == Approx(0.5));
    const double before = layer(p).keys[1].x;
    p.sheet().setFocus();
    p.key(Qt::Key_Right, Qt::ShiftModifier);
    CHECK(layer(p).keys[1].x == Approx(before + 10.0 / 600));
    p.key(Qt::Key_Left);
    CHECK(layer(p).keys[1].x == Approx(before + 9.0 / 600));
    // A frame in the middle is on the way.
    p.window().viewing().set_playhead(FrameIndex(12));
    p.click(q("Set a key here"));
    REQUIRE(layer(p).keys.size() == 3);
    CHECK(layer(p).keys[1].x == Approx((layer(p).keys[0].x + layer(p).keys[2].x) / 2));
    p.click(q("Remove the key"));
    CHECK(layer(p).keys.size() == 2);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(layer(p).keys.size() == 3);
}

TEST_CASE("A spot is brushed once and healed in every photo, from one place")
{
    Person p;
    const cv::Size size(600, 400);
    for (int i = 0; i < 6; ++i) {
        cv::Mat photo = photo_of_scene(turned_by(0, 1, {0, 0}), size);
        cv::circle(photo, {300, 200}, 8, cv::Scalar(0, 0, 255), -1, cv::LINE_AA);
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"), photo);
    }
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.window().viewing().set_step("retouch");
    p.wait_for_pictures();
    p.type_into(q("brush"), q("1.8"));
    p.click_on_picture({0.5, 0.5});
    p.wait_until(
        [&] { return !retouch_of(shot(p)).spots.empty() && retouch_of(shot(p)).spots[0].offset != cv::Point2d(); },
        q("it was found where the spot is taken from"));
    for (int f = 0; f < 6; ++f) {
        const cv::Vec3b c = frame(p, f).at<cv::Vec3b>(200, 300);
        CHECK_FALSE((c[2] > 150 && c[1] < 60 && c[0] < 60)); // no red left
    }
    p.click(q("Switch it off"));
    CHECK(frame(p, 3).at<cv::Vec3b>(200, 300)[2] > 200);
    p.click(q("Switch it on"));
    p.click(q("Take it away"));
    CHECK(retouch_of(shot(p)).spots.empty());
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(retouch_of(shot(p)).spots.size() == 1);
}

TEST_CASE("The clean plate is made, looked at, and takes a wire out between two photos")
{
    Person p;
    const cv::Size size(600, 400);
    const cv::Mat scene = photo_of_scene(turned_by(0, 1, {0, 0}), size);
    constexpr int photos = 7;
    for (int i = 0; i < photos; ++i) {
        cv::Mat photo = scene.clone();
        cv::line(photo, {120 + 60 * i, 0}, {120 + 60 * i, 220}, cv::Scalar(0, 0, 255), 4);
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"), photo);
    }
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.window().session().save(p.folder() / "w.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
    p.window().viewing().set_step("retouch");
    p.wait_for_pictures();
    p.click(q("Make the clean plate"));
    p.wait_until([&] { return plate_of(shot(p)).has_value(); }, q("the plate is there"), 60'000);
    CHECK(std::filesystem::exists(p.folder() / "d clean plate.png"));
    CHECK(p.window().viewing().film_frames() == photos);
    p.click(q("Look at it"));
    p.wait_for_pictures();
    p.click(q("Look at it"));
    p.choose(q("What heals"), q("takes a support out by the clean plate"));
    p.type_into(q("brush"), q("1"));
    p.window().viewing().go_to_photo(PhotoIndex(0));
    p.wait_for_pictures();
    p.drag_on_picture({0.2, 0.0}, {0.2, 0.56});
    REQUIRE(retouch_of(shot(p)).spots.size() == 1);
    p.window().viewing().go_to_photo(PhotoIndex(photos - 1));
    p.wait_for_pictures();
    p.click(q("Place it here too"));
    p.drag_on_picture({0.2, 0.3}, {0.8, 0.3}); // it is carried to where the wire is here
    REQUIRE(retouch_of(shot(p)).spots[0].keys.size() == 2);
    for (int f = 0; f < photos; ++f) {
        const cv::Vec3b c = frame(p, f).at<cv::Vec3b>(100, 120 + 60 * f),
                        truth = scene.at<cv::Vec3b>(100, 120 + 60 * f);
        CHECK(cv::norm(cv::Vec3d(c) - cv::Vec3d(truth)) < 30);
    }
}

TEST_CASE("What is drawn on one layer decides what of another shows, which casts a shadow")
{
    Person p;
    bring_in_grey(p, 2, "layers");
    p.click(q("Draw"));
    p.drag_on_picture({0.1, 0.25}, {0.4, 0.25});
    const auto paper = [](const Project& project) { // over the upper left half
        const Stroke half{.kind = StrokeKind::filled, .colour = {255, 255, 255}, .points = {0, 0, 1, 1, 0, 1, 0, 1, 1}};
        Layer layer;
        layer.name = "Sheet of paper";
        layer.drawings = {{.photo = project.shots[0]->photos[0].id, .photos = 2, .strokes = {half}}};
        return add_layer(project, {.shot = project.shots[0]->id}, layer).project;
    };
    p.window().session().apply(paper, q("Add paper"));
    p.wait_for_pictures();
    CHECK(frame(p, 0).at<cv::Vec3b>(60, 100)[1] > 250);
    auto* list = p.find<QTreeWidget>(q("List of layers"));
    list->setCurrentItem(list->topLevelItem(0));
    p.click(q("Look"));
    p.choose(q("What of it shows"), q("where “Drawing” is"));
    REQUIRE(layer(p, 1).matte);
    const cv::Mat made = frame(p, 0);
    CHECK(made.at<cv::Vec3b>(100, 150)[1] > 250);               // on the bar
    CHECK(std::abs(made.at<cv::Vec3b>(60, 100)[1] - 128) <= 1); // and nowhere else
    p.choose(q("What of it shows"), q("where “Drawing” is not"));
    CHECK(frame(p, 0).at<cv::Vec3b>(60, 100)[1] > 250);
    p.choose(q("What of it shows"), q("all of it"));
    CHECK_FALSE(layer(p, 1).matte);

    p.click(q("Shadow"));
    p.click(q("casts one"));
    REQUIRE(layer(p, 1).shadow);
    p.type_into(q("towards"), q("0"));
    p.type_into(q("far"), q("5"));
    p.type_into(q("soft"), q("0.1"));
    p.type_into(q("strong"), q("100"));
    const cv::Mat shaded =
        frame(p, 0); // the paper's edge goes from (600, 0) to (0, 400); 20 px beside it is its shadow
    CHECK(dark(shaded, 308, 200));
    CHECK(std::abs(shaded.at<cv::Vec3b>(200, 340)[1] - 128) <= 2);
}

TEST_CASE("A green backdrop is picked on the picture, and a picture lies behind the figure")
{
    Person p;
    for (int i = 0; i < 2; ++i) {
        cv::Mat photo(400, 600, CV_8UC3, cv::Scalar(70, 190, 40));
        cv::rectangle(photo, {200, 100}, {399, 399}, cv::Scalar(60, 60, 190), -1);
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"), photo);
    }
    write_picture(p.folder() / "sky.png", cv::Mat(400, 600, CV_8UC3, cv::Scalar(220, 120, 60)));
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("layers");
    p.wait_for_pictures();
    p.click(q("Colour"));
    p.click(q("Take a colour out of the photos"));
    p.click_on_picture({0.1, 0.5});
    p.wait_until([&] { return shot(p).steps.has<ColourOut>(); }, q("the colour is picked"));
    const Backdrop picked = shot(p).steps.get<ColourOut>().colour; // from a preview, which is a little lossy
    CHECK(std::abs(picked[0] - 40) <= 2);
    CHECK(std::abs(picked[1] - 190) <= 2);
    CHECK(std::abs(picked[2] - 70) <= 2);
    p.window().session().apply(
        [&](const Project& project) {
            return add_picture_layer(project, {.shot = shot(p).id}, picture_shot(p.folder() / "sky.png")).project;
        },
        q("a sky"));
    p.wait_for_pictures();
    p.click(q("When"));
    p.choose(q("Over or behind the photos"), q("behind the photos"));
    const cv::Mat made = frame(p, 0);
    const auto near = [&](int x, int y, cv::Vec3b to) {
        return cv::norm(cv::Vec3d(made.at<cv::Vec3b>(y, x)) - cv::Vec3d(to)) < 12;
    };
    CHECK(near(100, 200, {220, 120, 60}));
    CHECK(near(300, 250, {60, 60, 190}));
    p.click(q("Colour"));
    CHECK_FALSE(p.sees(q("Keep the colour"))); // of the picture that is in hand: it has none
}

TEST_CASE("A spot follows a thing that moves, and heals it in these photos only")
{
    Person p;
    constexpr int photos = 6;
    const cv::Size size(600, 400);
    for (int i = 0; i < photos; ++i) {
        cv::Mat photo = photo_of_scene(turned_by(0, 1, {0, 0}), size);
        cv::circle(photo, {150 + 40 * i, 200}, 10, cv::Scalar(0, 0, 255), -1, cv::LINE_AA);
        cv::circle(photo, {153 + 40 * i, 197}, 3, cv::Scalar(255, 255, 255), -1, cv::LINE_AA);
        write_picture(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".png"), photo);
    }
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.window().viewing().set_step("retouch");
    p.window().viewing().go_to_photo(PhotoIndex(0));
    p.wait_for_pictures();
    p.type_into(q("brush"), q("2.4"));
    p.click_on_picture({150.0 / 600, 0.5});
    REQUIRE(retouch_of(shot(p)).spots.size() == 1);
    p.wait_until([&] { return p.find(q("Follow what is under it"))->isEnabled(); }, q("what heals it is found"));
    p.click(q("Follow what is under it"));
    p.wait_until([&] { return retouch_of(shot(p)).spots[0].keys.size() >= photos; }, q("it is followed"), 60'000);
    for (int i = 0; i < photos; ++i) {
        const auto at = points_at(retouch_of(shot(p)).spots[0], shot(p), PhotoIndex(i));
        REQUIRE(at.size() == 1);
        CHECK(cv::norm(at[0] - cv::Point2d((150.0 + 40 * i) / 600, 0.5)) < 3.0 / 600);
    }
    p.click(q("Only in these photos")); // this one
    CHECK(points_at(retouch_of(shot(p)).spots[0], shot(p), PhotoIndex(3)).empty());
    p.click(q("In all photos"));
    CHECK(points_at(retouch_of(shot(p)).spots[0], shot(p), PhotoIndex(3)).size() == 1);
}

}
