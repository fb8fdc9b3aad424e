// Dress by mouse and keys, on the real window with real files; the exported film is measured by phase correlation.
#include "app/picture/picture_view.h"
#include "core/cards/card_edits.h"
#include "core/picture/picture.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>
#include <QComboBox>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// Thirteen photos of one scene, on ones, Dress in view.
void bring_in_still_scene(Person& p)
{
    const cv::Mat photo = photo_of_scene(cv::Matx33d::eye());
    for (int i = 0; i < 13; ++i)
        write_jpeg(p.folder() / "d" / ("d_" + std::to_string(1001 + i) + ".jpg"), photo, {}, 95);
    p.bring_in(p.folder() / "d");
    p.window().viewing().set_step("pace");
    p.key(Qt::Key_1);
    p.window().viewing().set_step("frame");
    p.wait_for_pictures();
}

const Shot& shot(Person& p)
{
    return *p.window().viewing().shot();
}

const cv::Rect2d& box(Person& p, std::size_t view)
{
    return view_of(shot(p).photos[views_of(shot(p)).at(view).at()])->box;
}

}

TEST_CASE("A view is drawn, a second one is drifted to, turned round, eased, undone, exported and measured")
{
    Person p;
    bring_in_still_scene(p);
    p.click(q("16:9"));
    CHECK(film_size(shot(p)) == cv::Size(900, 506)); // 900 / 16 * 9
    p.click_photo(1);
    p.click(q("New view here"));
    REQUIRE(views_of(shot(p)).size() == 1);
    p.click_photo(13);
    p.click(q("New view here"));
    REQUIRE(views_of(shot(p)).size() == 2);
    CHECK(box(p, 1).width < box(p, 0).width);
    p.wait_for_pictures();
    // Pulled by its lower right corner it keeps its shape; the one across stays.
    const cv::Rect2d before = box(p, 1);
    p.drag_on_picture({before.br().x, before.br().y}, {before.x + before.width * 0.8, before.y + before.height * 0.8});
    CHECK(box(p, 1).width == Approx(before.width * 0.8).epsilon(0.02));
    CHECK(box(p, 1).width / box(p, 1).height == Approx(before.width / before.height));
    CHECK(box(p, 1).x == Approx(before.x).margin(0.01));
    // Moved by its middle.
    const cv::Rect2d small = box(p, 1);
    const QPointF middle(small.x + small.width / 2, small.y + small.height / 2);
    p.drag_on_picture(middle, middle + QPointF(0.1, 0.05));
    CHECK(box(p, 1).x == Approx(small.x + 0.1).margin(0.01));
    CHECK(box(p, 1).y == Approx(small.y + 0.05).margin(0.01));
    CHECK(box(p, 1).width == Approx(small.width));
    p.key(Qt::Key_Z, Qt::ControlModifier); // one drag is one step
    CHECK(box(p, 1).x == Approx(small.x));
    p.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);

    const cv::Rect2d first = box(p, 0), last = box(p, 1);
    p.click(q("Drift the other way"));
    CHECK(box(p, 0) == last);
    CHECK(box(p, 1) == first);
    p.choose(q("How the drift begins and ends"), q("slow at both ends"));
    CHECK(framing_of(shot(p)).ease == Ease::both);
    p.choose(q("How the drift begins and ends"), q("evenly"));

    p.export_film(p.folder() / "drift.mp4");
    output_of("ffmpeg -v error -y -i " + quoted((p.folder() / "drift.mp4").native()) + " " +
              quoted((p.folder() / "%04d.png").native()));
    const auto views = views_of_frames(shot(p), p.window().viewing().schedule());
    REQUIRE(views.size() == 13);
    for (const int n : {3, 7, 11}) {
        // The frame against the scene's own part that the path has there, by phase correlation.
        const cv::Mat frame =
            cv::imread((p.folder() / ("00" + std::string(n < 10 ? "0" : "") + std::to_string(n) + ".png")).native());
        REQUIRE_FALSE(frame.empty());
        const cv::Rect2d b = views[std::size_t(n - 1)].box;
        const double across = b.width * 900 / frame.cols, down = b.height * 600 / frame.rows;
        const cv::Matx23d to_photo(across, 0, b.x * 900 + across / 2 - 0.5, 0, down, b.y * 600 + down / 2 - 0.5);
        cv::Mat expected;
        cv::warpAffine(photo_of_scene(cv::Matx33d::eye()), expected, to_photo, frame.size(),
                       cv::INTER_CUBIC | cv::WARP_INVERSE_MAP, cv::BORDER_REPLICATE);
        INFO(n);
        CHECK(largest_shift({expected, frame}) < 0.2);
    }
}

TEST_CASE("The frame is dragged on the picture, straightened by a line, dressed in bars and fades, and undressed")
{
    Person p;
    bring_in_still_scene(p);
    p.click(q("1:1"));
    p.wait_for_pictures();
    const cv::Rect2d was = still_view(framing_of(shot(p)), {900, 600}).box;
    p.drag_on_picture({0.5, 0.5}, {0.6, 0.5});
    REQUIRE(framing_of(shot(p)).crop);
    CHECK(framing_of(shot(p)).crop->x == Approx(was.x + 0.1).margin(0.01));
    p.click(q("Draw level"));
    p.drag_on_picture({0.2, 0.5}, {0.8, 0.5 + 0.6 * 900 * std::tan(3 * M_PI / 180) / 600}); // three degrees down
    CHECK(framing_of(shot(p)).straighten == Approx(-3).margin(0.3));
    p.choose(q("Bars"), q("2.39:1"));
    CHECK(framing_of(shot(p)).bars->shape == Fraction(239, 100));
    p.type_into(q("Fade out"), q("6 f"));
    CHECK(framing_of(shot(p)).fades.out == Seconds{Fraction(1, 4)});
    p.type_into(q("Own shape"), q("1080x1350"));
    CHECK(film_size(shot(p)) == cv::Size(1080, 1350));
    p.type_into(q("Own shape"), q("nonsense"));
    CHECK(film_size(shot(p)) == cv::Size(1080, 1350));
    p.click(q("Boxes")); // the film as it will be
    p.wait_for_pictures();
    CHECK(p.window().findChild<app::PictureView*>()->tool() == nullptr);
    p.click(q("Undress"));
    CHECK_FALSE(is_dressed(shot(p)));
}

TEST_CASE("The lens is set for all photos, walls are found upright, and Steady is told to look again", "[dress][lens]")
{
    Person p;
    bring_in_still_scene(p);
    const auto k1 = [&] { return lens_of(shot(p)).k1; };
    p.type_into(q("k1"), q("-0.08"));
    CHECK(k1() == Approx(-0.08));
    for (const ShotPhoto& photo : shot(p).photos)
        CHECK(photo.lens.k1 == Approx(-0.08));
    p.type_into(q("k2"), q("-0.1")); // with it the photo is still unfolded, with more it would not be
    const Lens before = lens_of(shot(p));
    p.type_into(q("k1"), q("-0.3"));
    CHECK(lens_of(shot(p)) == before);
    CHECK(p.find<QLineEdit>(q("k1"))->text().contains(q("0.080"))); // the field says what is
    p.type_into(q("k2"), q("0"));
    p.type_into(q("lean"), q("12"));
    CHECK(framing_of(shot(p)).uprights == Approx(0.12));
    p.wait_for_pictures();
    p.look("dress-lens");
    // Of a scene without walls nothing is found, and that is said.
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(framing_of(shot(p)).uprights == 0);
    p.click(q("Undo"));
    CHECK(k1() == Approx(-0.08));
}

TEST_CASE("A card is made, written on, lengthened, rolled and undone")
{
    Person p;
    bring_in_still_scene(p);
    p.window().viewing().set_step("card");
    p.click(q("Title"));
    REQUIRE(text_card_of(shot(p)));
    CHECK(p.window().viewing().shot_index() == ShotIndex(0)); // before the shot that was looked at
    p.wait_for_pictures();
    auto* text = p.find<QPlainTextEdit>(q("Text of the card"));
    text->setFocus();
    text->selectAll();
    QTest::keyClicks(text, q("Low tide"));
    CHECK(text_card_of(shot(p))->text == "Low tide");
    p.type_into(q("Length"), q("2 s"));
    CHECK(p.window().viewing().film()->frames() == 48);
    p.choose(q("How the card moves"), q("rolls up"));
    CHECK(text_card_of(shot(p))->move == CardMove::roll);
    p.wait_for_pictures();
    p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(text_card_of(shot(p))->move == CardMove::still);
    p.export_film(p.folder() / "card.mp4");
    CHECK(
        output_of("ffprobe -v error -count_frames -select_streams v -show_entries stream=nb_read_frames -of csv=p=0 " +
                  quoted((p.folder() / "card.mp4").native())) == "48\n");
}

}
