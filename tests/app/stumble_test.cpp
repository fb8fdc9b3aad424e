// Parts that play backwards, movement that is blurred, and places where a film stumbles, in the window.
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <QAbstractButton>
#include <QLabel>

#include <vector>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

}

TEST_CASE("a part is played backwards, what moves is blurred, and a step that is too large is filled", "[window][pace]")
{
    Person p;
    std::filesystem::create_directories(p.folder() / "s");
    const cv::Mat scene = real_scene()(cv::Rect(20, 30, 480, 320));
    double x = 60;
    for (int i = 0; i < 14; ++i) {
        cv::Mat photo = scene.clone();
        x += i == 0 ? 0 : i == 8 ? 60 : 18; // one photo was forgotten
        cv::circle(photo, {int(x), 160}, 34, cv::Scalar(30, 40, 220), -1, cv::LINE_AA);
        for (int k = -20; k <= 20; k += 10)
            cv::line(photo, {int(x) + k, 140}, {int(x) + k, 180}, cv::Scalar(230, 230, 230), 2, cv::LINE_AA);
        write_jpeg(p.folder() / "s" / ("s_00" + std::string(i < 10 ? "0" : "") + std::to_string(i) + ".jpg"), photo);
    }
    p.bring_in(p.folder() / "s");
    p.key(Qt::Key_2, Qt::ControlModifier);
    p.click(q("Range and order"));
    const auto order = [&] {
        std::vector<std::int64_t> all;
        for (const FrameSpan& s : p.window().viewing().schedule().spans())
            all.push_back(s.photo.value + 1);
        return all;
    };
    CHECK_FALSE(p.find(q("Selection backwards"))->isEnabled());
    p.click_photo(3);
    p.click_photo(6, Qt::ShiftModifier);
    p.click(q("Selection backwards"));
    CHECK(order() == std::vector<std::int64_t>{1, 2, 6, 5, 4, 3, 7, 8, 9, 10, 11, 12, 13, 14});
    CHECK(p.find<QAbstractButton>(q("Selection backwards"))->isChecked());
    p.look("pace-part-backwards");
    p.click(q("Selection backwards"));
    CHECK(order().at(2) == 3);
    p.key(Qt::Key_Escape);
    // The step that is too large.
    p.click(q("Find stumbles"));
    p.wait_until([&] { return p.sees(q("Steps that are too large")); }, q("it is found"));
    CHECK(p.find<QLabel>(q("Steps that are too large"))->text().startsWith(q("1 ")));
    p.click(q("Next step that is too large"));
    CHECK(p.window().viewing().selection().photos() == std::vector{PhotoIndex(7), PhotoIndex(8)});
    p.look("pace-stumble");
    p.click(q("Make in-betweens"));
    CHECK(p.window().viewing().shot()->pacing.between == Between::motion);
    CHECK(p.window().viewing().shot()->photos[7].to_next == Between::motion);
    CHECK(p.window().viewing().shot()->photos[3].to_next == Between::repeat);
    // What moves is blurred; the field has an end.
    p.click(q("Flow"));
    p.type_into(q("shutter"), q("180"));
    CHECK(p.window().viewing().shot()->pacing.shutter == Approx(0.5));
    p.click_photo(3);
    p.wait_for_pictures();
    p.look("pace-shutter");
    p.type_into(q("shutter"), q("900"));
    CHECK(p.window().viewing().shot()->pacing.shutter == Approx(0.5)); // there is no such shutter
    p.click(q("Undo"));
    CHECK(p.window().viewing().shot()->pacing.shutter == 0);
}

}
