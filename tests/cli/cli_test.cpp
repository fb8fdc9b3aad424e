#include "tests/support/card.h"
#include "tests/support/catch.h"
#include "tests/support/cli.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/imgcodecs.hpp>

using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

double parse_seconds(const Json& j)
{
    return std::stod(j.get<std::string>()); // whole seconds
}

}

TEST_CASE("the command line goes from a folder to a film", "[cli]")
{
    TempFolder t;
    write_run(t / "Paper ferry", "ferry", 6, {96, 64});
    const Call scan = cli(t, "--json scan " + in(t, "Paper ferry"));
    REQUIRE(scan.status == 0);
    CHECK(scan.err.empty());
    CHECK(scan.json().at("photos").size() == 6);
    CHECK(scan.json().at("photos")[2].at("number") == 3);
    CHECK(scan.json().at("photos")[2].at("captured") == "2026-05-03T10:00:03");
    CHECK(scan.json().at("shots")[0].at("name") == "Paper ferry");

    const Call made = cli(t, "--json new " + in(t, "p.frenlo") + " " + in(t, "Paper ferry") + " --rate 24 --hold 2f");
    REQUIRE(made.status == 0);
    CHECK(made.json().at("shots")[0].at("frames") == 6 * 2);
    CHECK(made.json().at("shots")[0].at("seconds") == "1/2");
    CHECK(cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "Paper ferry")).status == 3); // it is there already

    const Call paced = cli(t, "--json pace " + in(t, "p.frenlo") + " --shot 'Paper ferry' --hold 3f --photos 2-3");
    REQUIRE(paced.status == 0);
    CHECK(paced.json().at("frames") == Json({1, 1, 2, 2, 2, 3, 3, 3, 4, 4, 5, 5, 6, 6}));
    const Call info = cli(t, "--json info " + in(t, "p.frenlo"));
    CHECK(info.json().at("rate") == "24");
    CHECK(info.json().at("shots")[0].at("seconds") == "7/12"); // 14 / 24

    const Call dry = cli(t, "--json export " + in(t, "p.frenlo") + " -o " + in(t, "f.mp4") + " --dry-run");
    CHECK(dry.status == 0);
    CHECK(dry.json().at("frames") == 14);
    CHECK_FALSE(std::filesystem::exists(t / "f.mp4"));
    const Call film = cli(t, "--json export " + in(t, "p.frenlo") + " -o " + in(t, "f.mp4"));
    REQUIRE(film.status == 0);
    CHECK(film.json().at("checked") == true);
    CHECK(film.json().at("bytes") == std::filesystem::file_size(t / "f.mp4"));
    CHECK(output_of("ffprobe -v error -count_frames -show_entries stream=nb_read_frames -of csv=p=0 " +
                    in(t, "f.mp4")) == "14\n");
}

TEST_CASE("a change of rate keeps the frames, paced-at keeps the clock time", "[cli]")
{
    TempFolder t;
    write_run(t / "s", "s", 4, {16, 16});
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s") + " --rate 12 --hold 1f");
    CHECK(cli(t, "--json pace " + in(t, "p.frenlo") + " --shot s --rate 24").json().at("frames").size() == 4);
    const Call conformed = cli(t, "--json pace " + in(t, "p.frenlo") + " --shot s --paced-at 12");
    CHECK(conformed.json().at("frames") == Json({1, 1, 2, 2, 3, 3, 4, 4}));
    CHECK(cli(t, "--json pace " + in(t, "p.frenlo") + " --shot s --rate 29.97").json().at("rate") == "30000/1001");
    const Call brief = cli(t, "--json pace " + in(t, "p.frenlo") + " --shot s --hold 0.001s --photos 1");
    CHECK(brief.status == 1); // done, but a photo falls between two frames
    CHECK(brief.json().at("problems").size() == 1);
}

TEST_CASE("range, order, repeats and lengths of a shot", "[cli][pace]")
{
    TempFolder t;
    write_run(t / "s", "s", 5, {16, 16});
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s"));
    const auto frames = [&](const std::string& options) {
        const Call c = cli(t, "--json pace " + in(t, "p.frenlo") + " --shot s " + options);
        return c.status == 0 ? c.json().at("frames") : Json(c.err);
    };
    CHECK(frames("--reverse") == Json({5, 4, 3, 2, 1}));
    CHECK(frames("--repeat 2") == Json({5, 4, 3, 2, 1, 5, 4, 3, 2, 1})); // what the call does not speak of stays
    CHECK(frames("--repeat 1 --no-reverse --there-and-back") == Json({1, 2, 3, 4, 5, 4, 3, 2}));
    CHECK(frames("--there-and-back --turning to-first") == Json({1, 2, 3, 4, 5, 4, 3, 2, 1}));
    CHECK(frames("--no-there-and-back --range 2-4") == Json({2, 3, 4}));
    CHECK(frames("--repeat 2") == Json({2, 3, 4, 2, 3, 4})); // what was set before stays
    CHECK(frames("--range 2+2f --repeat 1") == Json({2, 3}));
    CHECK(frames("--range all --keep-every 2") == Json({1, 3, 5}));
    CHECK(frames("--keep-every 1 --last 10f") == Json({1, 1, 2, 2, 3, 3, 4, 4, 5, 5}));
    CHECK(frames("--last 4f --photos 1-2") == Json({1, 1, 2, 2, 3, 3, 4, 4, 5, 5}));
    CHECK(frames("--hold 1f --at-least 11f").size() == 15);
    CHECK(frames("--repeat 1 --first-hold 3f --last-hold 2f") == Json({1, 1, 1, 2, 3, 4, 5, 5}));
    CHECK(frames("--first-hold off --last-hold off --rate 12 --paced-at 24 --between mix").size() == 3); // 2.5, rounded
    const Call film = cli(t, "--json export " + in(t, "p.frenlo") + " -o " + in(t, "f_%04d.png"));
    CHECK(film.json().at("frames") == 3);
    const Call wrong = cli(t, "pace " + in(t, "p.frenlo") + " --shot s --range 4-9");
    CHECK(wrong.status == 2);
    CHECK_THAT(wrong.err, Catch::Contains("4-9") && Catch::Contains("1-5"));
    CHECK(cli(t, "pace " + in(t, "p.frenlo") + " --shot s --photos 1-2").status == 2);
    CHECK(cli(t, "pace " + in(t, "p.frenlo") + " --shot s --turning twice").status == 2);
    CHECK(cli(t, "pace " + in(t, "p.frenlo") + " --shot s --last soon").status == 2);
}

TEST_CASE("a shot is held still, and how each photo lies is told", "[cli][steady]")
{
    TempFolder t;
    const cv::Mat& scene = real_scene();
    const cv::Point knocks[] = {{0, 0}, {5, -3}, {-7, 2}, {2, 8}};
    for (int i = 0; i < 4; ++i)
        write_picture(t / "s" / ("p" + std::to_string(i + 1) + ".png"),
                      scene(cv::Rect(cv::Point(100, 100) - knocks[i], cv::Size(900, 600))));
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s"));
    const Call c = cli(t, "--json steady " + in(t, "p.frenlo") + " --shot s --model shift --reference 1");
    REQUIRE(c.status == 0);
    const Json j = c.json();
    CHECK_THAT(j.at("reference").get<std::string>(), Catch::EndsWith("p1.png"));
    REQUIRE(j.at("photos").size() == 4);
    for (std::size_t i = 0; i < 4; ++i) {
        const Json& photo = j.at("photos")[i];
        CHECK(std::abs(photo.at("matrix")[0][2].get<double>() - knocks[i].x) < 0.05);
        CHECK(std::abs(photo.at("matrix")[1][2].get<double>() - knocks[i].y) < 0.05);
        CHECK(photo.at("doubtful") == false);
    }
    // The part of photo 1 that all show is 900 - 12 wide and 600 - 11 high; the largest 3:2 in it 883.5 x 589, in whole
    // pixels, whatever the last hundredth of a pixel says.
    const auto crop = j.at("crop").get<std::vector<int>>();
    CHECK((crop[2] >= 881 && crop[2] <= 884));
    CHECK((crop[3] >= 587 && crop[3] <= 589));
    CHECK(cli(t, "--json export " + in(t, "p.frenlo") + " -o " + in(t, "f.mp4") + " --dry-run").json().at("width") ==
          crop[2] / 2 * 2);
    CHECK(cli(t, "--json steady " + in(t, "p.frenlo") + " --shot s --crop none").json().at("crop") ==
          Json({0, 0, 900, 600}));
    CHECK(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --off").status == 0);
    CHECK(cli(t, "--json steady " + in(t, "p.frenlo") + " --shot s --crop none --shape 1:1").json().at("crop") ==
          Json({150, 0, 600, 600}));
    CHECK(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --shape wide").status == 2);
    CHECK(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --reference 9").status == 2);
    CHECK(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --region 0,0,9").status == 2);
    write_picture(t / "s" / "p3.png", cv::Mat::zeros(600, 900, CV_8UC3));
    const Call black = cli(t, "--json steady " + in(t, "p.frenlo") + " --shot s");
    CHECK(black.status == 1);
    CHECK(black.json().at("photos")[2].at("doubtful") == true);
}

TEST_CASE("a walked shot is made smooth, and its path and its film are told", "[cli][steady][walk]")
{
    TempFolder t;
    std::vector<cv::Matx33d> poses;
    for (int i = 0; i < 12; ++i) {
        poses.push_back(turned_by(0, 1, {4.0 * i + (i % 3 - 1) * 5, (i * 7) % 4 * 2.0 - 3}));
        write_picture(t / "s" / ("p" + std::to_string(10 + i) + ".png"), photo_of_scene(poses.back()));
    }
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s") + " --hold 1f");
    const Call c = cli(t, "--json steady " + in(t, "p.frenlo") +
                              " --shot s --way smooth --model shift --strength 24f --limit 20 --reference 3");
    REQUIRE(c.status == 0);
    const Json j = c.json();
    const auto shift = [](const Json& matrix) {
        return cv::Point2d(matrix[0][2].get<double>(), matrix[1][2].get<double>());
    };
    std::vector<cv::Point2d> film;
    for (std::size_t i = 0; i < 12; ++i) {
        const Json& photo = j.at("photos")[i];
        // From the reference photo to this one, as measured.
        const cv::Matx33d truth = poses[i] * poses[2].inv();
        CHECK(cv::norm(shift(photo.at("matrix")) - cv::Point2d(truth(0, 2), truth(1, 2))) < 0.2);
        // And where the film shows one place of the scene.
        film.push_back(cv::Point2d(poses[i](0, 2), poses[i](1, 2)) - shift(photo.at("film_matrix")));
    }
    for (std::size_t i = 2; i < 12; ++i)
        CHECK(cv::norm(film[i] - 2 * film[i - 1] + film[i - 2]) < 1.5); // as shot up to 15
    CHECK(j.at("lost").get<double>() < 0.2);
    const Call target = cli(t, "--json steady " + in(t, "p.frenlo") +
                                   " --shot s --way smooth --model shift --limit 60 --target 300,200,300,200 "
                                   "--target-photo 4 --crop none --edges mirrored");
    REQUIRE(target.status == 0);
    const Json targeted = target.json();
    for (const Json& photo : targeted.at("photos")) { // the target stays where it is
        const cv::Point2d in_film =
            cv::Point2d(photo.at("target")[0].get<double>(), photo.at("target")[1].get<double>()) -
            shift(photo.at("film_matrix"));
        const Json& first = targeted.at("photos")[0];
        CHECK(
            cv::norm(in_film - (cv::Point2d(first.at("target")[0].get<double>(), first.at("target")[1].get<double>()) -
                                shift(first.at("film_matrix")))) < 0.05);
    }
    CHECK(targeted.at("crop") == Json({0, 0, 900, 600}));
    CHECK(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --way smooth --strength soon").status == 2);
    CHECK(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --way smooth --target 0,0,9").status == 2);
    CHECK(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --leave-out 0,0,2000,9").status == 2);
}

TEST_CASE("the light of a shot is evened, and what was done is told", "[cli][light]")
{
    TempFolder t;
    const std::array<double, 9> factor{1.1, 0.92, 1.06, 0.9, 1.12, 0.97, 1.07, 0.93, 1.0};
    cv::Mat photo;
    constexpr std::size_t count = 27; // of nine photos nobody could tell flicker from the day's light
    for (std::size_t i = 0; i < count; ++i) {
        real_scene()(cv::Rect(100, 100, 600, 400)).convertTo(photo, CV_8U, 0.7 * factor[i * 4 % factor.size()]);
        write_picture(t / "s" / ("p" + std::to_string(10 + i) + ".png"), photo);
    }
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s") + " --hold 1f");
    const Call c = cli(t, "--json light " + in(t, "p.frenlo") + " --shot s --window 2s");
    REQUIRE(c.status == 0);
    const Json j = c.json();
    REQUIRE(j.at("photos").size() == count);
    CHECK(j.at("flicker_before").get<double>() > 0.1);
    CHECK(j.at("flicker_after").get<double>() < 0.02);
    for (const Json& p : j.at("photos")) {
        CHECK(p.at("after_stops").get<double>() == Approx(p.at("target").get<double>()).margin(0.05));
        CHECK(p.at("stops").get<double>() + p.at("gain_stops").get<double>() ==
              Approx(p.at("target").get<double>()).margin(0.05));
        CHECK(p.at("suspect") == false);
    }
    // What is exported has lost its flicker, measured on the stills.
    const auto spread_of = [&](const char* name) {
        cli(t, "export " + in(t, "p.frenlo") + " -o " + in(t, (std::string(name) + "_%04d.png").c_str()));
        double low = 1e9, high = 0;
        for (int i = 1; i <= 9; ++i) {
            const double mean =
                cv::mean(cv::imread((t / (std::string(name) + "_000" + std::to_string(i) + ".png")).native()))[1];
            low = std::min(low, mean);
            high = std::max(high, mean);
        }
        return high / low;
    };
    CHECK(spread_of("even") < 1.03);
    CHECK(cli(t, "light " + in(t, "p.frenlo") + " --shot s --off").status == 0);
    CHECK(spread_of("shot") > 1.15);
    CHECK(cli(t, "--json light " + in(t, "p.frenlo") + " --shot s --strength 0 --region 0,0,300,200").status == 0);
    const Call parts =
        cli(t, "--json light " + in(t, "p.frenlo") + " --shot s --by-tone --by-place --mix 4 --leave-as-shot 7");
    REQUIRE(parts.status == 0);
    const Json shown = parts.json().at("photos");
    CHECK(shown[2].at("gain_stops_by_tone").size() == 5);
    CHECK(shown[2].at("gain_stops_by_place").size() == 12);
    CHECK(shown[3].at("mixed") == true);
    CHECK(shown[3].at("after_stops").get<double>() ==
          Approx((shown[2].at("after_stops").get<double>() + shown[4].at("after_stops").get<double>()) / 2));
    CHECK(shown[6].at("gain_stops") == 0);
    CHECK(shown[6].at("after_stops") == shown[6].at("stops"));
    CHECK(parts.json().at("by_place_before").get<double>() < 0.02); // a plain gain flickers
    const Call wrong = cli(t, "light " + in(t, "p.frenlo") + " --shot s --mix 99");
    CHECK(wrong.status == 2);
    CHECK(wrong.err.find("1 to 27") != std::string::npos);
    CHECK(cli(t, "light " + in(t, "p.frenlo") + " --shot s --window soon").status == 2);
    CHECK(cli(t, "light " + in(t, "p.frenlo") + " --shot s --region 0,0,9000,2").status == 2);
    CHECK(cli(t, "light " + in(t, "p.frenlo") + " --shot s --strength 200").status == 2);
}

TEST_CASE("a step in the light is kept or taken out as the call says, and stays decided", "[cli][light]")
{
    TempFolder t;
    for (int i = 0; i < 20; ++i)
        write_picture(t / "s" / ("p" + std::to_string(10 + i) + ".png"), in_light(i < 9 ? -1.5 : -0.8));
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s") + " --hold 1f");
    const auto jump = [&](const std::string& options) {
        const Call c = cli(t, "--json light " + in(t, "p.frenlo") + " --shot s " + options);
        REQUIRE(c.status == 0);
        const Json j = c.json();
        REQUIRE(j.at("steps").size() == 1);
        CHECK(j.at("steps")[0].at("photo") == 10);
        CHECK(j.at("steps")[0].at("stops").get<double>() == Approx(0.7).margin(0.03));
        return j.at("photos")[9].at("after_stops").get<double>() - j.at("photos")[8].at("after_stops").get<double>();
    };
    CHECK(jump("") == Approx(0.7).margin(0.03));
    CHECK(jump("--take-out-step 10") == Approx(0).margin(0.03));
    CHECK(jump("") == Approx(0).margin(0.03)); // as was decided
    CHECK(jump("--keep-step 10") == Approx(0.7).margin(0.03));
}

TEST_CASE("tone is set for a shot and at anchors, and what each photo gets is told", "[cli][tone]")
{
    TempFolder t;
    for (int i = 0; i < 5; ++i)
        write_picture(t / "d" / ("d_000" + std::to_string(i + 1) + ".png"),
                      cv::Mat(40, 60, CV_8UC3, cv::Scalar(60 + 10 * i, 80 + 10 * i, 100 + 10 * i)));
    const std::string project = in(t, "p.frenlo");
    REQUIRE(cli(t, "new " + project + " " + in(t, "d")).status <= 1); // such plain photos are remarked on
    const std::string tone = "tone " + project + " --shot d --json ";
    Json j = cli(t, tone + "--exposure 0.5 --warmth 5200").json();
    REQUIRE(j["photos"].size() == 5);
    CHECK(j["photos"][3]["exposure"] == 0.5);
    CHECK(j["photos"][3]["warmth"] == 5200);
    CHECK(j["photos"][3]["anchor"] == false);
    j = cli(t, tone + "--photo 1 --exposure 1").json();
    CHECK(j["photos"][0]["anchor"] == true);
    CHECK(j["photos"][0]["warmth"] == 5200); // what the call does not say stays
    j = cli(t, tone + "--photo 5 --exposure -1").json();
    CHECK(j["photos"][2]["exposure"].get<double>() == Approx(0).margin(1e-9));
    j = cli(t, tone + "--blend light").json();
    CHECK(j["blend"] == "light");
    CHECK(j["photos"][1]["stops"].get<double>() < j["photos"][2]["stops"].get<double>());
    CHECK(j["photos"][2]["exposure"].get<double>() < 0); // nearer to the bright one in stops
    j = cli(t, tone + "--suggest").json();
    REQUIRE(j["suggested"].size() == 2);
    CHECK(j["suggested"][0]["why"] == "darkest");
    CHECK(j["flicker"].get<double>() < 0.05);
    j = cli(t, tone + "--photo 3 --grey 10,10").json();
    CHECK(j["photos"][2]["warmth"].get<double>() < 5000);
    REQUIRE(cli(t, "export " + project + " -o " + in(t, "f_%04d.png")).status <= 1);
    const cv::Mat grey = cv::imread((t / "f_0003.png").native());
    cv::Vec3b p = grey.at<cv::Vec3b>(10, 10);
    CHECK(std::abs(p[0] - p[2]) <= 1);
    j = cli(t, tone + "--off").json();
    CHECK(j["photos"][0]["exposure"] == 0);
    REQUIRE(cli(t, "export " + project + " --overwrite -o " + in(t, "f_%04d.png")).status <= 1);
    CHECK(cv::imread((t / "f_0003.png").native()).at<cv::Vec3b>(10, 10) == cv::Vec3b(80, 100, 120)); // bit for bit
    for (const char* wrong : {"--photo 9 --exposure 1", "--contrast 300", "--grey ten", "--blend moon"})
        CHECK(cli(t, tone + wrong).status == 2);
    CHECK(cli(t, tone + "--grey 400,10").status == 3);
}

TEST_CASE("a folder is exported as it is, and --split makes the shots that scan finds", "[cli]")
{
    TempFolder t;
    write_run(t / "c" / "a", "a", 2, {32, 24});
    write_run(t / "c" / "b", "b", 3, {32, 24});
    CHECK(cli(t, "--json export " + in(t, "c") + " -o " + in(t, "l.gif") + " --hold 0.1s").json().at("seconds") ==
          "1/2");
    CHECK(cli(t, "--json new " + in(t, "p.frenlo") + " " + in(t, "c") + " --split").json().at("shots").size() == 2);
    const Call which = cli(t, "export " + in(t, "p.frenlo") + " -o " + in(t, "f.mp4"));
    CHECK(which.status == 2);
    CHECK_THAT(which.err, Catch::Contains("--shot"));
    CHECK(cli(t, "export " + in(t, "p.frenlo") + " --shot b -o " + quoted((t / "o" / "b_%04d.jpg").native())).status ==
          0);
    CHECK(std::filesystem::exists(t / "o" / "b_0003.jpg"));
}

TEST_CASE("wrong calls say what is wrong and end with 2", "[cli][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {16, 16});
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s"));
    for (const std::string& arguments :
         {std::string("nonsense"), std::string("scan"), "new " + in(t, "q.frenlo") + " " + in(t, "s") + " --rate fast",
          "new " + in(t, "q.frenlo") + " " + in(t, "s") + " --hold x",
          "pace " + in(t, "p.frenlo") + " --shot other --hold 2f",
          "pace " + in(t, "p.frenlo") + " --shot s --hold 2f --photos 2-9",
          "export " + in(t, "p.frenlo") + " -o x.unknown", "export " + in(t, "p.frenlo") + " -o x.mp4 --size big",
          "export " + in(t, "p.frenlo") + " -o x.mp4 --preset none"}) {
        const Call c = cli(t, arguments);
        CAPTURE(arguments, c.err);
        CHECK(c.status == 2);
        CHECK_FALSE((c.err + c.out).empty());
    }
    CHECK_FALSE(std::filesystem::exists(t / "q.frenlo"));
}

TEST_CASE("what cannot be done ends with 3 and names the file", "[cli][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {640, 480});
    CHECK(cli(t, "scan " + in(t, "nowhere")).status == 3);
    const Call info = cli(t, "info " + in(t, "none.frenlo"));
    CHECK(info.status == 3);
    CHECK_THAT(info.err, Catch::Contains("none.frenlo"));
    const Call read_only = cli(t, "export " + in(t, "s") + " -o /sys/f.mp4");
    CHECK(read_only.status == 3);
    CHECK_THAT(read_only.err, Catch::Contains("/sys/f.mp4"));
    CHECK(cli(t, "scan " + in(t, "s") + "/none.jpg").status == 3);
    std::filesystem::create_directories(t / "empty");
    CHECK(cli(t, "scan " + in(t, "empty")).status == 1);
    CHECK(cli(t, "new " + in(t, "e.frenlo") + " " + in(t, "empty")).status == 3);
}

TEST_CASE("a disk that fills up is told, and nothing is left", "[cli][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 12, {640, 480});
    std::filesystem::create_directories(t / "out");
    // A limit on the size of files stands in for the full disk: the same error on the same path.
    for (const char* name : {"f.mp4", "l.gif", "s_%04d.png"}) {
        const Call c = cli(t, "export " + in(t, "s") + " -o " + quoted((t / "out" / name).native()), "ulimit -f 20; ");
        CAPTURE(name, c.err);
        CHECK(c.status == 3);
        CHECK_THAT(c.err, Catch::Contains("Make room"));
        CHECK(std::filesystem::is_empty(t / "out"));
    }
}

TEST_CASE("stopped by Ctrl+C it cleans up and ends with 130", "[cli]")
{
    TempFolder t;
    write_run(t / "s", "s", 40, {1280, 960});
    std::filesystem::create_directories(t / "out");
    const Call c = cli(t, "export " + in(t, "s") + " --hold 9f -o " + quoted((t / "out" / "f.mp4").native()),
                       "timeout --preserve-status -s INT 0.7 ");
    CHECK(c.status == 130);
    CHECK_THAT(c.err, Catch::Contains("stopped"));
    CHECK(std::filesystem::is_empty(t / "out"));
}

TEST_CASE("problems are listed and the status says that there are some", "[cli]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {32, 24});
    write_bytes(t / "s" / "s_0002.jpg", "");
    const Call scan = cli(t, "--json scan " + in(t, "s"));
    CHECK(scan.status == 1);
    CHECK(scan.json().at("problems")[0].at("kind") == "empty");
    CHECK(scan.json().at("photos")[1].at("state") == "empty");
    CHECK(scan.json().at("aside").size() == 1);
    CHECK(cli(t, "export " + in(t, "s") + " -o " + in(t, "f.mp4")).status == 1);
}

TEST_CASE("every command explains itself, and presets are listed", "[cli]")
{
    TempFolder t;
    for (const char* command : {"", "scan", "new", "info", "pace", "steady", "light", "export", "presets"}) {
        const Call help = cli(t, std::string(command) + " --help");
        CHECK(help.status == 0);
        CHECK_THAT(help.out, Catch::Contains("Usage"));
    }
    CHECK(cli(t, "--json presets").json().size() >= 5);
}

TEST_CASE("a card is scanned into its shots, with reasons, kinds and what was set aside", "[cli][scan]")
{
    TempFolder t;
    Card card(t / "100HARBO", "HARB", 9990);
    for (int i = 0; i < 14; ++i)
        card.shoot(hand_moved(1, i), 11 + i * 5 % 9);
    card.shoot(hand(1), 12);
    for (int i = 0; i < 12; ++i)
        card.shoot(sunset(2, i / 11.0), 20);
    for (int i = 0; i < 10; ++i)
        card.shoot(hand_moved(3, i), i == 0 ? 1200 : 9 + i * 3 % 10);
    const Call scan = cli(t, "--json scan " + in(t, "100HARBO"));
    REQUIRE(scan.status == 1); // the counter's turn is told
    const Json j = scan.json();
    REQUIRE(j.at("shots").size() == 3);
    const auto end = [&](int shot, bool first) {
        const auto& photos = j.at("shots")[std::size_t(shot)].at("photos");
        return std::filesystem::path(first ? photos.front().get<std::string>() : photos.back().get<std::string>())
            .filename()
            .native();
    };
    CHECK(end(0, true) == "HARB9990.JPG");
    CHECK(end(0, false) == "HARB0004.JPG"); // over the turn of the counter
    CHECK(end(1, true) == "HARB0006.JPG");
    CHECK(end(1, false) == "HARB0017.JPG");
    CHECK(end(2, true) == "HARB0018.JPG");
    CHECK(j.at("shots")[1].at("reason") == "after a marker card");
    CHECK(j.at("shots")[2].at("reason") == "new scene after 20 min");
    CHECK(j.at("confidence") == "high");
    CHECK(j.at("look_at_borders").empty());
    CHECK(j.at("shots")[0].at("kind") == "hand-moved");
    CHECK(j.at("shots")[1].at("kind") == "time-lapse");
    CHECK(j.at("marker_cards").size() == 1);
    CHECK(j.at("aside") == j.at("marker_cards"));
    CHECK(parse_seconds(j.at("pause")) > 20);

    CHECK(cli(t, "--json scan --one-shot " + in(t, "100HARBO")).json().at("shots").size() == 1);
    CHECK(cli(t, "--json scan --pause 3600s " + in(t, "100HARBO")).json().at("pause") == "3600");
    CHECK(cli(t, "--json scan --close " + in(t, "100HARBO")).json().at("shots").size() == 3);
    CHECK(cli(t, "scan --pause soon " + in(t, "100HARBO")).status == 2);
    CHECK(cli(t, "scan --pause 12f " + in(t, "100HARBO")).status == 2);
    const Call text = cli(t, "scan " + in(t, "100HARBO"));
    CHECK_THAT(text.out, Catch::Contains("hand-moved") && Catch::Contains("ends a shot"));

    const Call made = cli(t, "--json new --split " + in(t, "p.frenlo") + " " + in(t, "100HARBO"));
    REQUIRE(made.json().at("shots").size() == 3);
    CHECK(made.json().at("shots")[0].at("photos") == 14);
    CHECK(made.json().at("shots")[1].at("photos") == 12); // the marker card is in the project, and not in the film
    const Call one = cli(t, "--json new " + in(t, "q.frenlo") + " " + in(t, "100HARBO"));
    REQUIRE(one.json().at("shots").size() == 1);
    CHECK(one.json().at("shots")[0].at("photos") == 14 + 1 + 12 + 10);
}

TEST_CASE("a Reel is put together, listed and written with its sound, from a script", "[cli][reel]")
{
    TempFolder t;
    write_run(t / "a", "a", 4, {96, 64});
    REQUIRE(cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "a") + " --hold 3f").status == 0);
    REQUIRE(cli(t, "card " + in(t, "p.frenlo") + " --text T --name T --length 12f").status == 0);
    output_of("ffmpeg -v error -f lavfi -i sine=440:r=44100:d=2 " + in(t, "s.wav"));
    const Call made =
        cli(t, "--json reel " + in(t, "p.frenlo") + " --set T,a,T --join 1:dissolve:4f --join 2:dip:4f:before:#FF0000" +
                   " --speed 3:1/2 --sound " + in(t, "s.wav") +
                   "@6f --level 1:-6 --fade 1:0,12f --marker 12f:Two --beat 6f");
    REQUIRE(made.status == 0);
    const Json reel = made.json();
    REQUIRE(reel.at("items").size() == 3);
    CHECK(reel.at("items")[0].at("shot") == "T");
    CHECK(reel.at("items")[0].at("join") == "dissolve:4f");
    CHECK(reel.at("items")[1].at("begin") == 12);
    CHECK(reel.at("items")[2].at("end") == 12 + 12 + 2 * 12);
    CHECK(reel.at("frames") == 48);
    CHECK(reel.at("seconds") == "2");
    CHECK(reel.at("sounds")[0].at("begin") == "1/4");
    CHECK(reel.at("sound_seconds") == "9/4");
    CHECK(cli(t, "--json reel " + in(t, "p.frenlo")).json().at("items") == reel.at("items"));
    // Where the sound goes on, the picture is held; then both are as long.
    const Json held = cli(t, "--json reel " + in(t, "p.frenlo") + " --one-length hold-last").json();
    CHECK(held.at("frames") == 54);
    const Call film = cli(t, "--json export " + in(t, "p.frenlo") + " --reel -o " + in(t, "r.mp4"));
    REQUIRE(film.status == 0);
    CHECK(film.json().at("frames") == 54);
    CHECK(output_of("ffprobe -v error -select_streams a -show_entries stream=codec_name -of csv=p=0 " +
                    in(t, "r.mp4")) == "aac\n");
    // A list of exports, twice: the second time nothing is left to do.
    write_bytes(t / "list.json", R"({"project": "p.frenlo", "exports": [
        {"reel": true, "preset": "film", "file": "out/{shot} {version}.mp4", "max_bytes": 120000},
        {"shot": "a", "preset": "loop", "file": "out/c.gif"}]})");
    const Call list = cli(t, "--json export --list " + in(t, "list.json"));
    CHECK(list.status == 0);
    CHECK(list.json().at("exports")[0].at("state") == "done");
    CHECK(list.json().at("exports")[0].at("bytes") <= 120'000);
    CHECK(std::filesystem::exists(t / "out" / "c.gif"));
    const auto before = std::filesystem::last_write_time(t / "out" / "c.gif");
    CHECK(cli(t, "--json export --list " + in(t, "list.json")).status == 0);
    CHECK(std::filesystem::last_write_time(t / "out" / "c.gif") == before);
}

TEST_CASE("layers are added, moved, listed and switched from a script, and lie over what is written", "[cli][layers]")
{
    TempFolder t;
    for (int i = 0; i < 12; ++i)
        write_picture(t / "d" / ("d_" + std::to_string(1001 + i) + ".png"),
                      cv::Mat(100, 200, CV_8UC3, cv::Scalar::all(0)));
    write_picture(t / "sign.png", cv::Mat(40, 40, CV_8UC3, cv::Scalar(0, 255, 0)));
    const std::string project = in(t, "p.frenlo"), layers = "--json layers " + project + " --shot d ";
    REQUIRE(cli(t, "new " + project + " " + in(t, "d") + " --hold 1f").status <= 1);
    Json j =
        cli(t, layers + "--add-picture " + in(t, "sign.png") + " --frames 2-12 --at 0.25,0.5 --to 0.75,0.5 --size 20")
            .json();
    REQUIRE(j.at("layers").size() == 1);
    CHECK(j["layers"][0]["kind"] == "picture");
    CHECK(j["layers"][0]["name"] == "sign");
    CHECK(j["layers"][0]["begin"] == 1);
    CHECK(j["layers"][0]["end"] == 12);
    CHECK(j["layers"][0]["on"] == true);
    REQUIRE(cli(t, "export " + project + " --shot d -o " + in(t, "o_%04d.png")).status <= 1);
    const auto green = [&](int frame, int x) {
        const cv::Mat written =
            cv::imread((t / ("o_00" + std::string(frame < 10 ? "0" : "") + std::to_string(frame) + ".png")).string());
        REQUIRE_FALSE(written.empty());
        return written.at<cv::Vec3b>(50, x)[1] > 200;
    };
    CHECK_FALSE(green(1, 50));
    CHECK(green(2, 50)); // at the beginning of its way
    CHECK(green(12, 150));
    CHECK_FALSE(green(12, 50));
    j = cli(t, layers + "--add-text Ahoy --opacity 50").json();
    CHECK(j["layers"][1]["kind"] == "text");
    j = cli(t, layers + "--off 1").json();
    CHECK(j["layers"][0]["on"] == false);
    CHECK(cli(t, layers + "--on 1").json()["layers"][0]["on"] == true);
    CHECK(cli(t, layers + "--up 1").json()["layers"][1]["name"] == "sign");
    CHECK(cli(t, layers + "--layer 1 --matte 2 --inverse").json()["notes"].empty());
    CHECK(cli(t, layers + "--remove 2").json()["notes"].size() == 1);
    for (const char* wrong : {"--frames 5-2", "--at 3", "--layer 9 --size 10", "--matte 1 --layer 7", "--on 4"})
        CHECK(cli(t, layers + "--layer 1 " + wrong).status == 2);
    CHECK(cli(t, layers + "--add-picture " + in(t, "nothing.png")).status == 3);
    CHECK(cli(t, "--json layers " + project + " --reel --add-text Title --frames 1-6").json()["layers"].size() == 1);
}

TEST_CASE("spots are healed and dust is found from a script", "[cli][retouch]")
{
    TempFolder t;
    for (int i = 0; i < 4; ++i) {
        cv::Mat photo = painted({240, 160}, 7);
        photo = with_noise(photo, 2, std::uint64_t(i));
        photo(cv::Rect(100, 70, 9, 9)).setTo(cv::Scalar(0, 0, 255));
        write_picture(t / "d" / ("d_" + std::to_string(1001 + i) + ".png"), photo);
    }
    const std::string project = in(t, "p.frenlo"), retouch = "--json retouch " + project + " --shot d ";
    REQUIRE(cli(t, "new " + project + " " + in(t, "d") + " --hold 1f").status <= 1);
    Json j = cli(t, retouch + "--spot 0.435,0.465,0.035 --photos 2-3").json();
    REQUIRE(j.at("spots").size() == 1);
    CHECK(j["spots"][0]["x"] == 0.435);
    CHECK(j["spots"][0]["r"] == 0.035);
    CHECK(j["spots"][0]["begin"] == 1);
    CHECK(j["spots"][0]["end"] == 3);
    CHECK(j["spots"][0]["from"] == "around");
    REQUIRE(cli(t, "export " + project + " --shot d -o " + in(t, "o_%04d.png")).status <= 1);
    for (int f = 1; f <= 4; ++f) {
        const cv::Vec3b c = cv::imread((t / ("o_000" + std::to_string(f) + ".png")).string()).at<cv::Vec3b>(74, 104);
        const bool red = c[2] > 200 && c[1] < 50;
        CHECK(red == (f == 1 || f == 4));
    }
    j = cli(t, retouch + "--plate make --line 0.1,0.1,0.1,0.9,0.01 --from plate").json();
    CHECK(j["spots"].size() == 2);
    CHECK(std::filesystem::exists(t / "d clean plate.png"));
    CHECK(cli(t, retouch + "--remove 1 --remove 2").json()["spots"].empty());
    CHECK(cli(t, retouch + "--dust").status <= 1);
    for (const char* wrong :
         {"--spot 1,2", "--spot a,b,c", "--photos 9-9 --spot 0.5,0.5,0.1", "--plate x", "--remove 5"})
        CHECK(cli(t, retouch + wrong).status == 2);
}

TEST_CASE("own presets, a list looked ahead, and a shot for two shapes, from a script", "[cli][export]")
{
    TempFolder t;
    for (int i = 0; i < 3; ++i)
        write_picture(t / "d" / ("d_" + std::to_string(1001 + i) + ".png"), painted({480, 320}, i));
    const std::string project = in(t, "p.frenlo");
    REQUIRE(cli(t, "new " + project + " " + in(t, "d") + " --hold 1f").status <= 1);
    Json j = cli(t, "--json presets --keep Club --from film-small --size 200x250 --max-bytes 1MB --least 3s").json();
    CHECK(std::count_if(j.begin(), j.end(), [](const Json& p) { return p["own"] == true; }) == 1);
    j = cli(t, "--json export " + project + " --preset Club --dry-run -o " + in(t, "c.mp4")).json();
    CHECK(j["width"] == 200);
    CHECK(j["height"] == 250);
    CHECK(cli(t, "presets --keep film").status == 3);
    CHECK(cli(t, "presets --keep x --from nothing").status == 2);
    write_bytes(t / "list.json",
                R"({"project": "p.frenlo", "exports": [{"shot": "d", "preset": "Club", "file": "a.mp4"},
        {"shot": "d", "preset": "film", "file": "a.mp4"}]})");
    auto looked = cli(t, "--json export --dry-run --list " + in(t, "list.json"));
    CHECK(looked.status == 1);
    j = looked.json();
    CHECK(j["photos"] == 3);
    CHECK(j["exports"][1]["problems"].size() >= 1);
    CHECK_FALSE(std::filesystem::exists(t / "a.mp4"));
    CHECK(cli(t, "presets --forget Club").status == 0);
    CHECK(cli(t, "export " + project + " --preset Club --dry-run -o " + in(t, "c.mp4")).status == 2);

    const std::string dress = "--json dress " + project + " --shot d ";
    REQUIRE(cli(t, dress + "--shape 16:9 --crop 0,0,1,0.84").status <= 1);
    j = cli(t, dress + "--also 9:16 --crop 0.3,0,0.375,1").json();
    CHECK(j["shape"] == "9:16");
    CHECK(j["other_shapes"] == Json::parse(R"(["16:9"])"));
    j = cli(t, "--json export " + project + " --shape 16:9 --dry-run -o " + in(t, "w.mp4")).json();
    CHECK(j["width"].get<int>() > j["height"].get<int>());
    j = cli(t, "--json export " + project + " --dry-run -o " + in(t, "u.mp4")).json();
    CHECK(j["width"].get<int>() < j["height"].get<int>());
    CHECK(cli(t, dress + "--not-for 9:16").json()["shape"] == "16:9");
}

TEST_CASE("areas and states from a script", "[cli][areas]")
{
    TempFolder t;
    for (int i = 0; i < 3; ++i) {
        cv::Mat photo(160, 240, CV_8UC3, cv::Scalar::all(100));
        if (i == 2)
            photo(cv::Rect(150, 60, 50, 50)).setTo(cv::Scalar(10, 10, 220));
        write_picture(t / "d" / ("d_" + std::to_string(1001 + i) + ".png"), photo);
    }
    const std::string project = in(t, "p.frenlo"), of_shot = project + " --shot d ", areas = "--json areas " + of_shot;
    REQUIRE(cli(t, "new " + project + " " + in(t, "d") + " --hold 1f").status <= 1);
    const auto green = [&](int frame, cv::Point at) {
        REQUIRE(cli(t, "export " + of_shot + "-o " + in(t, "o_%04d.png") + " --overwrite").status <= 1);
        return int(cv::imread((t / ("o_000" + std::to_string(frame) + ".png")).string()).at<cv::Vec3b>(at)[1]);
    };
    Json j = cli(t, areas + "--add Window:0.1,0.1,0.4,0.1,0.4,0.6,0.1,0.6 --soft 0 --photos 2-3").json();
    REQUIRE(j.at("areas").size() == 1);
    CHECK(j["areas"][0]["begin"] == 1);
    CHECK(j["areas"][0]["points"].size() == 8);
    REQUIRE(cli(t, "--json tone " + of_shot + "--area Window --exposure 1").json().at("parts").size() == 1);
    CHECK(green(1, {60, 50}) == 100);
    CHECK(green(2, {60, 50}) > 130);
    CHECK(green(2, {200, 20}) == 100);
    j = cli(t, areas + "--add-state Night --once-more Night").json();
    CHECK(j["states"].size() == 1);
    CHECK(j["photos"] == Json::parse(R"([null, null, null, "Night", "Night", "Night"])"));
    REQUIRE(cli(t, "tone " + of_shot + "--in-state Night --exposure -2").status <= 1);
    CHECK(green(4, {200, 20}) < 60);
    CHECK(green(1, {200, 20}) == 100);
    CHECK(cli(t, areas + "--switch 5:").json()["photos"][4].is_null());
    SECTION("things that appear before the plate")
    {
        REQUIRE(cli(t, areas + "--remove Window --remove-state Night").status <= 1);
        REQUIRE(cli(t, "retouch " + of_shot + "--plate 1").status <= 1);
        j = cli(t, areas + "--find-things").json();
        REQUIRE(j["areas"].size() >= 2);
        CHECK(j["areas"][0]["shows"] == "plate");
        CHECK(j["areas"][1]["photo"] == 3);
    }
    for (const char* wrong : {"--add x", "--add x:1,2", "--remove Nothing", "--switch 9:Night", "--switch 1:Day",
                              "--add y:all --shows 99", "--once-more Day"})
        CHECK(cli(t, areas + wrong).status == 2);
    CHECK(cli(t, "tone " + of_shot + "--area Nothing --exposure 1").status == 2);
}

TEST_CASE("speed, in-betweens and what lies behind single photos, by the command line")
{
    TempFolder t;
    for (int i = 0; i < 9; ++i)
        write_picture(t / "d" / ("p_" + std::to_string(1001 + i) + ".png"),
                      photo_of_scene(turned_by(0, 1, {3.0 * i, 0}), {300, 200}));
    const std::string project = in(t, "s.frenlo");
    REQUIRE(cli(t, "new " + project + " " + in(t, "d") + " --hold 2f").status <= 1);
    const auto paced = [&](const std::string& more) { return cli(t, "--json speed " + project + " " + more); };
    const auto slow = paced("--points 1:100,5:50,9:100 --ease none");
    REQUIRE(slow.status == 0);
    // 2 frames at 100, 87.5, 75, 62.5, 50, 62.5, … percent: worked out apart.
    double frames = 0;
    for (const double percent : {100.0, 87.5, 75.0, 62.5, 50.0, 62.5, 75.0, 87.5, 100.0})
        frames += 2 * 100 / percent;
    CHECK(slow.json().at("frames").size() == std::size_t(std::lround(frames)));
    CHECK(paced("--keep-length").json().at("frames").size() == 18);
    CHECK(paced("--points 3:0").status == 2);
    CHECK(paced("--points 30:50").status == 2);
    CHECK(paced("--points 3").status == 2);
    CHECK(paced("--points 3:nan").status == 2);
    CHECK(paced("--off").json().at("frames").size() == 18);

    REQUIRE(cli(t, "pace " + project + " --shot d --between motion --between-at 3-4:mix").status == 0);
    const auto between = cli(t, "--json in-betweens " + project);
    CHECK(between.json().at("made") == 8); // behind each photo but the last
    CHECK(between.json().at("doubtful").empty());
    CHECK(cli(t, "pace " + project + " --shot d --between-at 3-4").status == 2);
    CHECK(cli(t, "pace " + project + " --shot d --between-at 3-4:slowly").status == 2);
    CHECK(cli(t, "pace " + project + " --shot d --between-at 3-4:shot").status == 0);
    // The second frame lies half a step on.
    REQUIRE(cli(t, "export " + project + " --shot d -o " + in(t, "f_%04d.png")).status == 0);
    const cv::Mat made = cv::imread((t / "f_0002.png").string()),
                  truth = photo_of_scene(turned_by(0, 1, {1.5, 0}), {300, 200});
    const cv::Rect inside(20, 20, 260, 160);
    CHECK(cv::norm(made(inside), truth(inside), cv::NORM_L2) <
          0.5 * cv::norm(cv::imread((t / "f_0001.png").string())(inside), truth(inside), cv::NORM_L2));
    CHECK(cli(t, "export " + project + " --shot d --between motion --rate 48 -o " + in(t, "g_%04d.png")).status == 0);
    CHECK(std::filesystem::exists(t / "g_0036.png"));
}

TEST_CASE("lens, uprights, parts backwards and the shutter, from a script", "[cli][dress][pace]")
{
    const TempFolder t;
    for (int i = 1; i <= 6; ++i)
        write_picture(t / "s" / ("s_000" + std::to_string(i) + ".png"), painted({320, 200}, i));
    const std::string project = in(t, "p.frenlo"), dress = "--json dress " + project + " --shot s ";
    REQUIRE(cli(t, "new " + project + " " + in(t, "s") + " --hold 1f").status <= 1);
    Json j = cli(t, dress + "--lens=-0.08,0.02 --uprights=12.5").json();
    CHECK(j["lens"] == Json({-0.08, 0.02}));
    CHECK(j["uprights"] == 12.5);
    CHECK(j["width"] < 320); // what is kept lies inside of what was drawn apart
    CHECK(cli(t, dress + "--lens=-0.08").json()["lens"] == Json({-0.08, 0.0}));
    CHECK(cli(t, dress + "--lens none --uprights=0").json()["width"] == 320);
    for (const char* wrong : {"--lens=-0.9", "--lens x", "--lens 0.1,0.1,0.1", "--uprights 80", "--uprights steep"}) {
        CAPTURE(wrong);
        CHECK(cli(t, dress + wrong).status == 2);
    }
    const Call folds = cli(t, dress + "--lens=-0.3,-0.2");
    CHECK(folds.status == 3);
    CHECK(folds.err.find("over each other") != std::string::npos);
    const Call none = cli(t, dress + "--uprights find"); // blots have no walls
    CHECK(none.status == 3);
    CHECK(none.err.find("upright lines") != std::string::npos);
    const std::string pace = "--json pace " + project + " --shot s ";
    CHECK(cli(t, pace + "--part-backwards 2-4").json()["frames"] == Json({1, 4, 3, 2, 5, 6}));
    CHECK(cli(t, pace + "--part-forwards 3").json()["frames"] == Json({1, 2, 3, 4, 5, 6})); // two parts of one photo
    CHECK(cli(t, pace + "--part-backwards 7").status == 2);
    CHECK(cli(t, pace + "--shutter 361").status == 2);
    REQUIRE(cli(t, pace + "--shutter 180").status == 0);
    REQUIRE(cli(t, "export " + project + " --shot s -o " + in(t, "f_%04d.png")).status <= 1);
    const cv::Mat first = cv::imread((t / "f_0001.png").native()),
                  photo = cv::imread((t / "s" / "s_0001.png").native());
    REQUIRE(first.size() == photo.size());
    CHECK(cv::norm(first, photo, cv::NORM_INF) > 5); // on its way to another picture
    const cv::Mat last = cv::imread((t / "f_0006.png").native()), end = cv::imread((t / "s" / "s_0006.png").native());
    CHECK(cv::norm(last, end, cv::NORM_INF) == 0);
}

TEST_CASE("shoot takes photos with the simulated camera, and collect puts a project into one folder", "[cli][shoot]")
{
    const TempFolder t;
    const Call taken =
        cli(t, "shoot --camera simulated:160x90 --count 5 --every 0.2s --lock --json -o " + in(t, "set"));
    REQUIRE(taken.status == 0);
    const Json json = taken.json();
    REQUIRE(json["photos"].size() == 5);
    for (const auto& file : json["photos"])
        CHECK(std::filesystem::exists(file.get<std::string>()));
    CHECK(json["missed"] == 0);
    CHECK(cli(t, "shoot --count 1 --average 3 --camera simulated:160x90 -o " + in(t, "set")).status == 0);
    CHECK(std::filesystem::exists(t / "set" / "photo_0006.png")); // nothing is replaced
    CHECK(cli(t, "shoot --camera pinhole -o " + in(t, "set")).status == 3);
    CHECK(cli(t, "shoot --every soon -o " + in(t, "set")).status == 2);
    CHECK(cli(t, "shoot --set exposure=fast -o " + in(t, "set")).status == 2);
    CHECK(cli(t, "shoot -o /proc/nowhere").status == 3);
    const Call settings = cli(t, "shoot --set exposure=1/50 --settings --json");
    CHECK(settings.json()["settings"][0]["value"] == "1/50 s");

    REQUIRE(cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "set")).status == 0);
    const Call collected = cli(t, "collect " + in(t, "p.frenlo") + " --json -o " + in(t, "all"));
    REQUIRE(collected.status == 0);
    CHECK(collected.json()["files"] == 6);
    CHECK(cli(t, "info " + in(t, "all/p.frenlo")).status == 0);
}

}
