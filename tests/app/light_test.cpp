// Light by mouse and keys, on the real window with real files.
#include "app/picture/picture_view.h"
#include "app/steps/flicker/light_plot.h"
#include "app/steps/flicker/light_strip.h"
#include "core/picture/picture.h"
#include "core/steps/flicker/flicker_edits.h"
#include "core/steps/pace/pace_edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QSlider>

#include <array>
#include <cmath>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// A tripod shot whose exposure wanders; from photo 21 on a lamp is on; photo 10 is a flash.
void write_flickering(const std::filesystem::path& folder)
{
    const std::array<double, 9> factor{1.02, 0.985, 1.01, 0.98, 1.025, 0.99, 1.015, 0.985, 1.0};
    for (std::size_t i = 0; i < 36; ++i) {
        cv::Mat photo;
        real_scene()(cv::Rect(100, 100, 600, 400))
            .convertTo(photo, CV_8U, 0.55 * factor[i * 4 % 9] * (i >= 20 ? 1.25 : 1) * (i == 9 ? 1.5 : 1));
        write_jpeg(folder / ("l_" + std::to_string(1001 + i) + ".jpg"), photo, {}, 95);
    }
}

/// That shot, on ones.
void bring_in_flickering(Person& p)
{
    write_flickering(p.folder() / "l");
    p.bring_in(p.folder() / "l");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
}

/// What neighbouring frames of a film differ by in their mean, shares, the largest of frames 24 to 36.
double largest_change(const std::filesystem::path& film, const std::filesystem::path& scratch)
{
    std::filesystem::create_directories(scratch);
    output_of("ffmpeg -v error -y -i " + quoted(film.native()) + " " + quoted((scratch / "%04d.png").native()));
    double most = 0, before = 0;
    for (int i = 24; i <= 36; ++i) {
        const cv::Mat frame = cv::imread((scratch / ("00" + std::to_string(i) + ".png")).native());
        REQUIRE_FALSE(frame.empty());
        const double mean = cv::mean(frame)[1];
        if (before > 0)
            most = std::max(most, std::abs(mean / before - 1));
        before = mean;
    }
    return most;
}

}

TEST_CASE("even the light, see the flash marked, take the lamp out, undo, and the exported film does not flicker",
          "[window][light]")
{
    Person p;
    bring_in_flickering(p);
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    REQUIRE(photos_in_film(shot()) == 36);
    p.export_film(p.folder() / "before.mp4");
    p.key(Qt::Key_4, Qt::ControlModifier);
    const Project before = p.window().session().project();
    p.click(q("Remove flicker"));
    p.wait_until([&] { return shot().steps.has<Deflicker>(); }, q("it is evened"), 60'000);
    CHECK(deflicker_of(shot())->after.shared <
          0.1 * deflicker_of(shot())->before.shared); // the flash is in the first, the lamp in neither
    CHECK(p.find<QLabel>(q("Flicker"))->text().contains(q("→")));
    CHECK(p.find<app::LightPlot>(q("Brightness over the photos"))->points() == 36);

    auto* list = p.find<QListWidget>(q("Steps and photos to look at"));
    REQUIRE(list->count() == 2);
    CHECK(list->item(0)->text().contains(q("l_1010")));
    CHECK(list->item(1)->text().contains(q("l_1021")));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
    CHECK(p.window().viewing().selection().current() == PhotoIndex(9));
    CHECK(p.find<QLabel>(q("Light of this photo"))->text().startsWith(q("▲")));

    // B: as shot, for as long as it is held.
    auto& view = *p.window().findChild<app::PictureView*>();
    const auto seen = [&] {
        p.wait_for_pictures();
        return view.grab().toImage();
    };
    p.click_photo(4);
    const QImage even = seen();
    QTest::keyPress(&p.sheet(), Qt::Key_B);
    CHECK(seen() != even);
    QTest::keyRelease(&p.sheet(), Qt::Key_B);
    CHECK(seen() == even);
    p.export_film(p.folder() / "after.mp4");
    const double was = largest_change(p.folder() / "before.mp4", p.folder() / "b"),
                 is = largest_change(p.folder() / "after.mp4", p.folder() / "a");
    CAPTURE(was, is);
    CHECK(was > 0.03);
    CHECK(is < 0.01);

    // The lamp is taken out, and is back by undo.
    p.key(Qt::Key_4, Qt::ControlModifier);
    const double step = light_of(shot().photos[20])->after - light_of(shot().photos[19])->after;
    CHECK(step == Approx(std::log2(std::pow(1.25, 2.2))).margin(0.12)); // of linear light, by a power of 2.2
    list->item(1)->setCheckState(Qt::Unchecked);
    p.wait_until([&] { return !light_of(shot().photos[20])->jump->kept; }, q("the step is taken out"), 60'000);
    CHECK(light_of(shot().photos[20])->after - light_of(shot().photos[19])->after == Approx(0).margin(0.06));
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(light_of(shot().photos[20])->jump->kept);

    p.type_into(q("How much is evened"), q("0 %"));
    p.wait_until([&] { return deflicker_of(shot())->strength == 0; }, q("it is measured again"), 60'000);
    p.type_into(q("Changes that stay"), q("long"));
    CHECK(p.find(q("Changes that stay"))->property("wrong").toBool());
    p.key(Qt::Key_Escape);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(p.window().session().project() == before);
    p.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    p.click(q("Undo flicker removal"));
    CHECK_FALSE(deflicker_of(shot()));
}

TEST_CASE("draw where light is measured, settle a flash, see the shot as a strip and split", "[window][light]")
{
    Person p;
    bring_in_flickering(p);
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    p.key(Qt::Key_4, Qt::ControlModifier);
    const Project before = p.window().session().project();
    p.click(q("Outside"));
    p.drag_on_picture({0.1, 0.2}, {0.4, 0.7});
    REQUIRE(light_region(shot()).leave_out.size() == 1);
    CHECK(light_region(shot()).leave_out[0].x == Approx(0.1).margin(0.01));
    CHECK(light_region(shot()).leave_out[0].height == Approx(0.5).margin(0.02));
    CHECK(p.find<QLabel>(q("Where is measured"))->text() == q("all but a part"));
    p.key(Qt::Key_Escape);
    p.click(q("Inside"));
    p.drag_on_picture({0.5, 0.1}, {0.95, 0.9});
    CHECK(light_region(shot()).look_at.size() == 1);
    p.key(Qt::Key_Escape);
    p.click(q("All"));
    CHECK(light_region(shot()) == Region());
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(light_region(shot()).look_at.size() == 1);
    for (const char* choice : {"Darks and lights separately", "Each area by itself"}) {
        auto* box = p.find<QCheckBox>(q(choice));
        box->click();
    }
    p.click(q("Remove flicker"));
    p.wait_until([&] { return shot().steps.has<Deflicker>(); }, q("it is evened"), 60'000);
    CHECK(deflicker_of(shot())->by_tone);
    CHECK(light_of(shot().photos[3])->change.correction.by_place.size() == 12);
    CHECK(p.find<QLabel>(q("Flicker"))->text().contains(q("from place to place")));

    // The flash is marked; it is left as it is, mixed from its neighbours, set aside, each undone.
    constexpr PhotoIndex flash(9);
    auto* list = p.find<QListWidget>(q("Steps and photos to look at"));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(0)).center());
    REQUIRE(p.window().viewing().selection().current() == flash);
    auto* remedy = p.find<QComboBox>(q("What is done about this photo"));
    const auto decide = [&](const char* words) { // by keys, as somebody does who has tabbed there
        remedy->setFocus();
        for (int steps = remedy->findText(q(words)) - remedy->currentIndex(); steps > 0; --steps)
            QTest::keyClick(remedy, Qt::Key_Down);
    };
    CHECK(list->item(0)->text().contains(q("▲")));
    decide("left as shot");
    CHECK(light_of(shot().photos[9])->remedy == LightRemedy::as_shot);
    CHECK_FALSE(list->item(0)->text().contains(q("▲")));
    CHECK(*light_now(shot(), flash) - *light_now(shot(), flash - 1) > 0.5);
    decide("mixed from its neighbours");
    CHECK(request_for_shares(shot(), std::array{Share{flash}}, {300, 200}).parts.size() == 2);
    decide("set aside");
    CHECK(shot().photos[9].aside);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK_FALSE(shot().photos[9].aside);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(light_of(shot().photos[9])->remedy == LightRemedy::as_shot);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(to_look_at(shot().photos[9]));

    // The strip: a flash is a stripe in the upper half only; a click goes to its photo.
    p.click(q("Strip"));
    auto* strip = p.window().findChild<app::LightStrip*>();
    p.wait_until([&] { return strip->strip().photos.size() == 36; }, q("the strip"));
    const auto brightness = [](const QImage& image, int column) {
        double sum = 0;
        for (int y = 0; y < image.height(); ++y)
            sum += qGray(image.pixel(column, y));
        return sum / image.height();
    };
    CHECK(brightness(strip->strip().before, 9) > 1.2 * brightness(strip->strip().before, 8));
    CHECK(brightness(strip->strip().after, 9) < 1.1 * brightness(strip->strip().after, 8));
    const QImage middle = strip->strip().before;
    p.find<QSlider>(q("Column of the strip"))->setValue(15);
    p.wait_until([&] { return strip->strip().before != middle; }, q("another column"));
    QTest::mouseClick(strip, Qt::LeftButton, {}, QPoint(int(strip->width() * 20.5 / 36), 10));
    CHECK(p.window().viewing().selection().current() == PhotoIndex(20));

    // Split: the left half is the photo as it was shot.
    auto& view = *p.window().findChild<app::PictureView*>();
    p.click_photo(10);
    p.wait_for_pictures();
    const QImage even = view.grab().toImage();
    p.click(q("Split"));
    p.wait_for_pictures();
    const QImage split = view.grab().toImage();
    const QRect place = view.place().toRect();
    const QPoint left(place.left() + place.width() / 4, place.center().y()),
        right(place.right() - place.width() / 4, place.center().y());
    CHECK(qGray(split.pixel(left)) > qGray(even.pixel(left)) + 10);
    CHECK(split.pixel(right) == even.pixel(right));
    p.click(q("Split"));
    for (int n = 0; n < 3; ++n)
        p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(p.window().session().project() == before);
}

TEST_CASE("light that was measured is kept when names change meanwhile, and not when photos do", "[window][light]")
{
    Person p;
    bring_in_flickering(p);
    const auto shot = [&]() -> const Shot& { return *p.window().viewing().shot(); };
    p.key(Qt::Key_4, Qt::ControlModifier);
    p.click(q("Remove flicker"));
    p.click_photo(3);
    p.window().session().apply([](const Project& project) { return toggle_mark(project, ShotIndex(0), PhotoIndex(2)); },
                               q("Mark"));
    p.window().session().apply(
        [](const Project& project) { return rename_shot(project, ShotIndex(0), "Sails at dusk"); }, q("Rename"));
    REQUIRE_FALSE(deflicker_of(shot())); // it is still measuring
    p.wait_until([&] { return shot().steps.has<Deflicker>(); }, q("it is evened"), 60'000);
    CHECK(shot().photos[2].marked);
    CHECK(shot().name == "Sails at dusk");

    const Project even = p.window().session().project();
    p.click(q("Remove flicker again"));
    p.click_photo(5);
    p.key(Qt::Key_X); // set aside while it is measured
    p.wait_until([&] { return p.sees(q("Remove flicker again")); }, q("it has ended"), 60'000);
    CHECK(shot().photos[4].aside);
    CHECK(deflicker_of(shot()) == deflicker_of(even.shot(ShotIndex(0)))); // as it was before
    p.key(Qt::Key_X);
    CHECK(p.window().session().project() == even);
}

}
