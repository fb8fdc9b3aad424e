// Tone by mouse and keys, on the real window with real files.
#include "app/picture/picture_view.h"
#include "app/steps/tone/curve_view.h"
#include "core/picture/picture.h"
#include "core/steps/tone/operations.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_edits.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>

#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// Nine photos that get brighter, on ones, Tone in view.
void bring_in_dawn(Person& p)
{
    for (int i = 0; i < 9; ++i) {
        cv::Mat photo;
        real_scene()(cv::Rect(100, 100, 300, 200)).convertTo(photo, CV_8U, 0.4 + 0.05 * i);
        write_jpeg(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".jpg"), photo, {}, 95);
    }
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.window().viewing().set_step("tone");
    p.wait_for_pictures();
}

const Shot& shot(Person& p)
{
    return *p.window().viewing().shot();
}

double exposure(Person& p, std::int64_t number)
{
    return tone_of(shot(p), PhotoIndex(number - 1)).exposure;
}

QString text_of(Person& p, const char* field)
{
    return p.find<QLineEdit>(q(field))->text();
}

}

TEST_CASE("tone one photo, tone a second, see the middle one blended, undo", "[window][tone]")
{
    Person p;
    bring_in_dawn(p);
    p.click_photo(1);
    p.type_into(q("Exposure"), q("0.8"));
    CHECK(exposure(p, 9) == Approx(0.8)); // holds for the shot
    CHECK(text_of(p, "Exposure") == q("+0.80 stop"));
    p.click_photo(9);
    p.type_into(q("Exposure"), q("-0,8 stop")); // with a decimal comma
    CHECK(exposure(p, 5) == Approx(0).margin(1e-9));
    CHECK(exposure(p, 3) == Approx(0.4));
    p.click_photo(5);
    CHECK(text_of(p, "Exposure") == q("0.00 stop"));
    CHECK(p.find<QLabel>(q("Anchor photos"))->text().contains(q("1 and 9")));
    p.window().session().undo();
    CHECK(exposure(p, 9) == Approx(0.8));
    p.window().session().undo();
    CHECK_FALSE(is_toned(shot(p)));
}

TEST_CASE("what is typed wrong is marked and changes nothing, arrow keys and the cross change it", "[window][tone]")
{
    Person p;
    bring_in_dawn(p);
    p.type_into(q("Warmth"), q("warm"));
    CHECK(p.find(q("Warmth"))->property("wrong").toBool());
    CHECK_FALSE(is_toned(shot(p)));
    p.type_into(q("Warmth"), q("5,200 K")); // with a comma of thousands
    CHECK(tone_of(shot(p), PhotoIndex(0)).warmth == 5200);
    auto* contrast = p.find<QLineEdit>(q("Contrast"));
    contrast->setFocus();
    QTest::keyClick(contrast, Qt::Key_Up);
    QTest::keyClick(contrast, Qt::Key_Up);
    CHECK(tone_of(shot(p), PhotoIndex(0)).contrast == 10);
    p.click(q("Contrast: as before"));
    CHECK(tone_of(shot(p), PhotoIndex(0)).contrast == 0);
    p.click(q("Undo toning"));
    CHECK_FALSE(is_toned(shot(p)));
}

TEST_CASE("the curve is pulled by its points, and one pull is one step", "[window][tone]")
{
    Person p;
    bring_in_dawn(p);
    auto* curve = p.find<app::CurveView>(q("Characteristic curve"));
    const auto pull = [&](app::CurveView::Handle point, int up, Qt::KeyboardModifiers keys = {}) {
        const QPoint from = curve->place_of(point).toPoint();
        QTest::mousePress(curve, Qt::LeftButton, keys, from);
        for (int i = 1; i <= 4; ++i) {
            QMouseEvent move(QEvent::MouseMove, from - QPointF(0, up * i / 4.0),
                             curve->mapToGlobal(from - QPointF(0, up * i / 4.0)), Qt::NoButton, Qt::LeftButton, keys);
            QApplication::sendEvent(curve, &move);
        }
        QTest::mouseRelease(curve, Qt::LeftButton, keys, from - QPoint(0, up));
    };
    pull(app::CurveView::Handle::middle, 20);
    CHECK(exposure(p, 1) > 0.5);
    pull(app::CurveView::Handle::middle, 12, Qt::ShiftModifier);
    CHECK(tone_of(shot(p), PhotoIndex(0)).contrast > 10);
    pull(app::CurveView::Handle::toe, 16);
    CHECK(tone_of(shot(p), PhotoIndex(0)).toe > 0.4);
    pull(app::CurveView::Handle::shoulder, -10);
    CHECK(tone_of(shot(p), PhotoIndex(0)).shoulder < -0.2);
    for (int i = 0; i < 4; ++i)
        p.window().session().undo();
    CHECK_FALSE(is_toned(shot(p)));
}

TEST_CASE("a grey is picked, the screen shows it, and the key shows what is clipped", "[window][tone]")
{
    Person p;
    cv::Mat photo(200, 300, CV_8UC3, cv::Scalar(90, 120, 150));
    for (int i = 0; i < 3; ++i)
        write_jpeg(p.folder() / "g" / ("g_" + std::to_string(1001 + i) + ".jpg"), photo, {}, 98);
    p.bring_in(p.folder() / "g");
    p.window().viewing().set_step("tone");
    p.wait_for_pictures();
    p.click(q("Pick a grey"));
    p.click_on_picture({0.5, 0.5});
    p.wait_until([&] { return is_toned(shot(p)); }, q("it is made grey"));
    p.wait_for_pictures();
    const cv::Mat made = *render(p.window().viewing().film()->frame(FrameIndex(0), {.size = {30, 20}}), Originals());
    const cv::Vec3b grey = made.at<cv::Vec3b>(10, 15);
    CHECK(std::abs(grey[0] - grey[1]) <= 1);
    CHECK(std::abs(grey[2] - grey[1]) <= 1);
    p.type_into(q("Exposure"), q("4"));
    p.wait_for_pictures();
    auto* picture = p.window().findChild<app::PictureView*>();
    const auto colours = [&] {
        const QImage all = picture->grab().toImage();
        std::set<QRgb> different;
        const QRectF where = picture->place();
        for (int x = 5; x < 60; ++x)
            different.insert(all.pixel(int(where.left()) + x, int(where.center().y())));
        return different.size();
    };
    CHECK(colours() == 1); // all white
    QTest::keyPress(p.sheet().viewport(), Qt::Key_E);
    CHECK(colours() > 1); // stripes
    QTest::keyRelease(p.sheet().viewport(), Qt::Key_E);
    CHECK(colours() == 1);
}

TEST_CASE("two anchors lie side by side, and a click goes to the other one", "[window][tone]")
{
    Person p;
    bring_in_dawn(p);
    p.click_photo(1);
    p.type_into(q("Exposure"), q("1"));
    p.click_photo(9);
    p.type_into(q("Contrast"), q("20"));
    p.wait_for_pictures();
    auto* picture = p.window().findChild<app::PictureView*>();
    CHECK(picture->place().left() > picture->width() / 2.0); // the later one on the right
    QTest::mouseClick(picture, Qt::LeftButton, {}, QPoint(picture->width() / 4, picture->height() / 2));
    CHECK(p.window().viewing().shown_photo() == PhotoIndex(0));
    p.wait_for_pictures();
    CHECK(picture->place().right() < picture->width() / 2.0);
    p.click(q("with the light"));
    p.wait_until([&] { return tone_light_missing(shot(p)) == 0; }, q("light is measured"));
    CHECK(tones_of(shot(p))[8].contrast == 20);
    p.click(q("Two anchors"));
    CHECK(picture->place().center().x() == Approx(picture->width() / 2.0).margin(2));
}

TEST_CASE("a tone is kept under a name and taken by another shot", "[window][tone]")
{
    Person p;
    bring_in_dawn(p);
    p.type_into(q("Colour"), q("30"));
    auto* menu = p.find<QPushButton>(q("Copy or keep"))->menu();
    Q_EMIT menu->aboutToShow();
    auto* name = menu->findChild<QLineEdit*>();
    REQUIRE(name);
    name->setText(q("harbour morning"));
    QTest::keyClick(name, Qt::Key_Return);
    p.click(q("Undo toning"));
    Q_EMIT menu->aboutToShow();
    for (QAction* action : menu->actions())
        if (action->text().contains(q("Take “harbour morning”")))
            action->trigger();
    CHECK(tone_of(shot(p), PhotoIndex(4)).colour == 30);
}

}
