// Cards with text: drawn as outlines, sharp at every size, still, rolling or crossing.
#include "core/cards/card_edits.h"
#include "core/cards/card_layout.h"
#include "core/export/export.h"
#include "core/picture/picture.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/source/finding.h"
#include "core/source/photo_source.h"
#include "core/steps/sort/filing.h"
#include "core/timeline/reel_timeline.h"
#include "core/timeline/timeline.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr ShotIndex first{0};

Project with_card(const TextCard& card, Seconds length = {Fraction(2)})
{
    return add_card({}, card, "Title", length, first);
}

cv::Mat frame_of(const Project& p, std::int64_t frame, cv::Size size)
{
    return *render(film_of(p, first)->frame(FrameIndex(frame), {.size = size}), Originals());
}

/// Rows in which something is written: from, to; -1 where nothing is.
std::pair<int, int> written_rows(const cv::Mat& m, const cv::Scalar& backdrop)
{
    cv::Mat away, grey;
    cv::absdiff(m, backdrop, away);
    cv::cvtColor(away, grey, cv::COLOR_BGR2GRAY);
    std::pair<int, int> rows{-1, -1};
    for (int y = 0; y < grey.rows; ++y)
        if (cv::countNonZero(grey.row(y) > 60) > 0) {
            rows.first = rows.first < 0 ? y : rows.first;
            rows.second = y;
        }
    return rows;
}

const TextCard white_on_black{.text = "Harbour", .size = 20, .colour = {255, 255, 255}, .backdrop = {0, 0, 0}};

}

TEST_CASE("a card is a shot: its length in frames, its text in the middle, its colours exact", "[card_text]")
{
    Project p;
    p.delivered_at = Rate(Fraction(30'000, 1'001));
    p = add_card(p, white_on_black, "Title", {Fraction(4)}, first);
    CHECK(film_of(p, first)->frames() == 120); // 4 * 30000 / 1001 = 119.88
    CHECK(film_size(p.shot(first)) == cv::Size(1920, 1080));
    const cv::Mat m = frame_of(p, 10, {480, 270});
    CHECK(m.at<cv::Vec3b>(3, 3) == cv::Vec3b(0, 0, 0));
    const auto [top, bottom] = written_rows(m, {0, 0, 0});
    CHECK((top + bottom) / 2 == Approx(135).margin(10));
    CHECK(bottom - top > 0.1 * 270); // letters of a fifth of the frame
    CHECK(bottom - top < 0.3 * 270);
    double most = 0;
    cv::minMaxLoc(m.reshape(1), nullptr, &most);
    CHECK(most == 255);
    CHECK(film_of(p, first)->runs().size() == 1); // it is rendered once
}

TEST_CASE("a card is as sharp as vectors at every size", "[card_text]")
{
    const Project p = with_card(white_on_black);
    // Enlarged from a small picture an edge is soft; drawn anew it is as sharp as in the small one.
    const auto edge = [](const cv::Mat& m) {
        cv::Mat grey, dx;
        cv::cvtColor(m, grey, cv::COLOR_BGR2GRAY);
        cv::Sobel(grey, dx, CV_32F, 1, 0);
        double most = 0;
        cv::minMaxLoc(cv::abs(dx), nullptr, &most);
        return most;
    };
    const cv::Mat small = frame_of(p, 0, {480, 270}), large = frame_of(p, 0, {3840, 2160});
    cv::Mat enlarged;
    cv::resize(small, enlarged, large.size(), 0, 0, cv::INTER_CUBIC);
    CHECK(edge(large) > 900);
    CHECK(edge(enlarged) < 400);
}

TEST_CASE("a closing list rolls evenly from below the frame to above it", "[card_text]")
{
    TextCard list = white_on_black;
    list.text = "One\tFirst\nTwo\tSecond\n\nThree";
    list.size = 10;
    list.move = CardMove::roll;
    const Project p = with_card(list, {Fraction(4)});
    const auto frames = film_of(p, first)->frames();
    REQUIRE(frames == 96);
    CHECK(film_size(p.shot(first)) == cv::Size(1920, 1080));
    CHECK(film_of(p, first)->runs().size() == 96);
    CHECK(written_rows(frame_of(p, 0, {320, 180}), {0, 0, 0}).first == -1);
    CHECK(written_rows(frame_of(p, 95, {320, 180}), {0, 0, 0}).first == -1);
    // By phase correlation: a step is the way, of drawing less frame, by the steps.
    const double way = (p.shot(first).photos[0].photo->size.height - 1080) * 180 / 1080.0;
    const cv::Mat a = frame_of(p, 47, {320, 180}), b = frame_of(p, 50, {320, 180});
    cv::Mat ga, gb;
    cv::cvtColor(a, ga, cv::COLOR_BGR2GRAY);
    cv::cvtColor(b, gb, cv::COLOR_BGR2GRAY);
    ga.convertTo(ga, CV_32F);
    gb.convertTo(gb, CV_32F);
    CHECK(cv::phaseCorrelate(ga, gb).y == Approx(-3 * way / 95).margin(0.1));
    // Two columns that meet in the middle.
    cv::Mat column;
    cv::reduce(ga, column, 0, cv::REDUCE_MAX);
    CHECK(cv::countNonZero(column.colRange(157, 163) > 128) <= 6);
}

TEST_CASE("a line crosses from right to left, however long", "[card_text]")
{
    TextCard line = white_on_black;
    line.text = "A long line that would never fit into the frame if it stood still";
    line.move = CardMove::cross;
    const Project p = with_card(line);
    const auto frames = film_of(p, first)->frames();
    const auto columns = [&](std::int64_t frame) {
        cv::Mat m = frame_of(p, frame, {320, 180});
        cv::rotate(m, m, cv::ROTATE_90_CLOCKWISE); // rows are columns then
        return written_rows(m, {0, 0, 0});
    };
    CHECK(columns(0).first == -1);
    CHECK(columns(frames / 8).first > 20);
    CHECK(columns(frames - 1).first == -1);
}

TEST_CASE("text is live, undone by its value, kept in the file and on no disk", "[card_text]")
{
    const Project p = with_card(white_on_black);
    const Project other = change_card(p, first, [](TextCard& c) { c.text = "Pier"; });
    CHECK(cv::norm(frame_of(p, 0, {320, 180}), frame_of(other, 0, {320, 180}), cv::NORM_INF) > 100);
    const Project back = change_card(other, first, [](TextCard& c) { c.text = "Harbour"; });
    CHECK(cv::norm(frame_of(p, 0, {320, 180}), frame_of(back, 0, {320, 180}), cv::NORM_INF) == 0);
    CHECK(film_of(set_card_length(p, first, {Fraction(1, 2)}), first)->frames() == 12);

    const TempFolder t;
    save_new_project(p, t / "p.frenlo");
    const LoadedProject loaded = load_project(t / "p.frenlo");
    CHECK(loaded.problems.empty()); // it is missing nowhere
    CHECK(cv::norm(frame_of(p, 0, {320, 180}), frame_of(loaded.project, 0, {320, 180}), cv::NORM_INF) == 0);
    const std::vector<PhotoPtr> photos{p.shot(first).photos[0].photo};
    CHECK(findings_in_shot(photos).empty());
    for (const FilingStep& step : plan_filing(p, t / "sorted", FilingWay::copy).steps)
        CHECK(step.from.empty()); // there is nothing to copy

    ExportOrder order;
    order.preset = *find_preset("film-small");
    order.file = t / "card.mp4";
    CHECK(run_export(p, order, Originals(), {}).checked);
}

TEST_CASE("cards take the shape of the shots, and their place among them", "[card_text]")
{
    Shot shot;
    shot.name = "s";
    auto photo = std::make_shared<PhotoFile>();
    photo->file = "/s/a.png";
    photo->size = {600, 600};
    shot.photos.push_back({photo});
    const Project p = add_card(add_shot({}, shot), white_on_black, "Title", {Fraction(1)}, first);
    REQUIRE(p.shots.size() == 2);
    CHECK(p.shots[0]->name == "Title");
    CHECK(film_size(p.shot(first)) == cv::Size(1920, 1920));
    CHECK(add_card(p, white_on_black, "Title", {Fraction(1)}, ShotIndex(2)).shots[2]->name != "Title");
}

TEST_CASE("text of every kind is drawn, and none of it breaks anything", "[card_text]")
{
    std::string long_text;
    while (long_text.size() < 10'000)
        long_text += "word ";
    const std::vector<std::string> texts{"",
                                         "\n\n\n",
                                         "שלום עולם",               // from right to left
                                         "e\u0301 a\u0308 o\u0302", // combining marks
                                         "🦀 and 🌊",           // letters that no usual typeface has
                                         std::string(600, 'W'),     // a word that is wider than the frame
                                         long_text,
                                         "\xFF\xFE no text",
                                         "a\tb\tc\n\t\n",
                                         std::string("nought\0inside", 13)};
    for (const std::string& text : texts)
        for (const CardMove move : {CardMove::still, CardMove::roll, CardMove::cross}) {
            TextCard card = white_on_black;
            card.text = text;
            card.size = 5;
            card.move = move;
            const DrawnCard drawn = draw_card(card);
            CHECK(drawn.size.width >= 1920);
            const Project p = with_card(card);
            const cv::Mat m = frame_of(p, 20, {160, 90});
            CHECK(m.size() == cv::Size(160, 90));
        }
    TextCard hebrew = white_on_black;
    hebrew.text = texts[2];
    CHECK(written_rows(frame_of(with_card(hebrew), 0, {320, 180}), {0, 0, 0}).first > 0);
    TextCard nowhere = white_on_black;
    nowhere.typeface = "No Such Typeface At All";
    CHECK(written_rows(frame_of(with_card(nowhere), 0, {320, 180}), {0, 0, 0}).first > 0);
    CHECK(typefaces().front() == "Frenlo Text");
}

TEST_CASE("the presets of cards can be drawn as they are", "[card_text]")
{
    for (const CardPreset& preset : card_presets()) {
        INFO(preset.name);
        const Project p = with_card(preset.card, preset.length);
        CHECK(film_of(p, first)->length() == preset.length);
        const auto backdrop = preset.card.backdrop;
        CHECK(written_rows(frame_of(p, film_of(p, first)->frames() / 2, {320, 180}),
                           {double(backdrop[2]), double(backdrop[1]), double(backdrop[0])})
                  .first >= 0);
    }
}

TEST_CASE("a title before a film leaves the Reel's frame to the photos", "[card][reel]")
{
    TempFolder t;
    write_picture(t / "a.png", cv::Mat(40, 60, CV_8UC3, cv::Scalar::all(90)));
    Shot shot;
    shot.name = "Boat";
    shot.photos.push_back({scanned(t / "a.png"), Frames{2}});
    const Project titles = with_card(white_on_black);
    CHECK(reel_of(titles)->size() == film_of(titles, first)->size()); // nothing but cards: as large as they are
    const Project p = add_card(add_shot({}, shot), white_on_black, "Title", {Fraction(2)}, first);
    REQUIRE(text_card_of(p.shot(first)) != nullptr);
    CHECK(reel_of(p)->size() == cv::Size(60, 40));
}

}
