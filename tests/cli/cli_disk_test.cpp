// The command line among other commands, other users' files and output that goes nowhere.
#include "tests/support/catch.h"
#include "tests/support/cli.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <fstream>
#include <sys/stat.h>

using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("commands that change one project at once lose nothing", "[cli][lock]")
{
    TempFolder t;
    write_run(t / "c" / "A", "a", 6, {400, 300});
    write_run(t / "c" / "B", "b", 20, {16, 16});
    cli(t, "new " + in(t, "p.frenlo") + " --split " + in(t, "c"));
    // One measures for a while, and twenty change the other shot meanwhile.
    std::string script = quoted(FRENLO_CLI) + " light " + in(t, "p.frenlo") + " --shot A & ";
    for (int i = 1; i <= 20; ++i)
        script += quoted(FRENLO_CLI) + " pace " + in(t, "p.frenlo") + " --shot B --hold 3f --photos " +
                  std::to_string(i) + " >/dev/null & ";
    int status = 0;
    output_of(script + "wait", &status);
    const Call info = cli(t, "--json info " + in(t, "p.frenlo"));
    CHECK(info.json().at("shots")[1].at("frames") == 20 * 3);
    const Json project = Json::parse(read_bytes(t / "p.frenlo"));
    CHECK(project.at("shots")[0].at("steps").contains("lighting"));
}

TEST_CASE("what was measured of photos that are others now is not kept, and it is told", "[cli][lock]")
{
    TempFolder t;
    write_run(t / "A", "a", 40, {900, 600});
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "A") + " --hold 1f");
    const std::string measure =
        quoted(FRENLO_CLI) + " steady " + in(t, "p.frenlo") + " --shot A 2>" + in(t, "said") + "; echo $?";
    const std::string change =
        "sleep 0.3; " + quoted(FRENLO_CLI) + " pace " + in(t, "p.frenlo") + " --shot A --range 1-3 >/dev/null";
    // The kept range is no change of the photos; a photo that is gone from the film is.
    CHECK(output_of("(" + change + ") & " + measure + "; wait").starts_with("A: 40 photos"));
    // One photo after another leaves the film for as long as it is measured, whenever it began.
    write_bytes(t / "aside.py",
                "import json,os,time\np='" + (t / "p.frenlo").native() +
                    "'\nfor i in range(30):\n j=json.load(open(p)); j['shots'][0]['photos'][i]['aside']=True\n"
                    " json.dump(j,open(p+'.new','w')); os.replace(p+'.new',p); time.sleep(0.15)\n");
    CHECK(output_of("/usr/bin/python3 " + in(t, "aside.py") + " & " + measure + "; kill %1 2>/dev/null; wait")
              .find("3\n") == 0);
    CHECK_THAT(read_bytes(t / "said"),
               Catch::Contains("p.frenlo") && Catch::Contains("changed while they were measured"));
}

TEST_CASE("a command changes what it was told to change, and leaves what was set before", "[cli][light][steady]")
{
    TempFolder t;
    for (int i = 0; i < 9; ++i)
        write_picture(t / "s" / ("p" + std::to_string(10 + i) + ".png"), in_light(i % 2 * 0.2 - 1));
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s") + " --hold 1f");
    const auto shot = [&] { return Json::parse(read_bytes(t / "p.frenlo")).at("shots")[0].at("steps"); };
    REQUIRE(
        cli(t, "light " + in(t, "p.frenlo") + " --shot s --region 0,0,240,160 --each-colour --strength 80 --window 2s")
            .status == 0);
    const Json before = shot();
    REQUIRE(cli(t, "light " + in(t, "p.frenlo") + " --shot s --by-tone").status == 0);
    CHECK(shot().at("light_region") == before.at("light_region"));
    CHECK(shot().at("lighting").at("each_colour") == true);
    CHECK(shot().at("lighting").at("strength") == 0.8);
    CHECK(shot().at("lighting").at("window_s") == 2);
    CHECK(shot().at("lighting").at("by_tone") == true);
    cli(t, "light " + in(t, "p.frenlo") + " --shot s --no-each-colour --region all");
    CHECK_FALSE(shot().contains("light_region"));
    CHECK(shot().at("lighting").at("each_colour") == false); // set by hand: not as the photos say
    cli(t, "light " + in(t, "p.frenlo") + " --shot s --automatic");
    CHECK_FALSE(shot().at("lighting").contains("each_colour"));
    CHECK_FALSE(shot().at("lighting").contains("window_s")); // its default: as the photos say
    CHECK(shot().at("lighting").at("strength") == 0.8);

    REQUIRE(
        cli(t, "steady " + in(t, "p.frenlo") +
                   " --shot s --way smooth --model shift --limit 30 --crop none --edges mirrored --leave-out 0,0,40,40")
            .status <= 1);
    REQUIRE(cli(t, "steady " + in(t, "p.frenlo") + " --shot s --shape 1:1").status <= 1);
    const Json steady = shot().at("steady");
    CHECK(steady.at("way") == "smooth");
    CHECK(steady.at("movement") == "shift");
    CHECK(steady.at("smoothing").at("most_lost") == 0.3);
    CHECK(steady.at("inside_all") == false);
    CHECK(steady.at("edges") == "mirrored");
    CHECK(steady.at("shape") == Json({1, 1}));
    CHECK(shot().at("region").at("leave_out").size() == 1);
}

TEST_CASE("what is there is replaced only when told to", "[cli][overwrite]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {32, 24});
    write_run(t.path(), "B", 5, {16, 16});
    const std::string mine = read_bytes(t / "B_0002.jpg");
    const std::string call = "--json export " + in(t, "s") + " -o " + in(t, "B_%04d.jpg");
    const Call dry = cli(t, call + " --dry-run");
    CHECK(dry.status == 1);
    CHECK(dry.json().at("existing").size() == 3);
    CHECK_THAT(dry.json().at("problems")[0].at("text").get<std::string>(), Catch::Contains("already"));
    const Call refused = cli(t, call);
    CHECK(refused.status == 3);
    CHECK_THAT(refused.err, Catch::Contains("B_0001.jpg") && Catch::Contains("--overwrite"));
    CHECK(read_bytes(t / "B_0002.jpg") == mine);
    CHECK(cli(t, call + " --overwrite").status == 0);
    CHECK(read_bytes(t / "B_0002.jpg") != mine);
    const Call original = cli(t, "export " + in(t, "s") + " --overwrite -o " +
                                     quoted((t / "s" / "s_%04d.jpg").native())); // never a photo of its own
    CHECK(original.status == 3);
    CHECK_THAT(original.err, Catch::Contains("never changed"));
}

TEST_CASE("a folder is one photo a frame of the rate that is asked for", "[cli][rate]")
{
    TempFolder t;
    write_run(t / "s", "s", 6, {16, 16});
    for (const char* rate : {"12", "24", "30", "7/3"}) {
        const Call c = cli(t, "--json export " + in(t, "s") + " --overwrite -o " + in(t, "f.mp4") + " --rate " + rate);
        CAPTURE(rate);
        CHECK(c.status == 0);
        CHECK(c.json().at("frames") == 6);
    }
    CHECK(
        cli(t, "--json export " + in(t, "s") + " -o " + in(t, "g.mp4") + " --rate 12 --hold 2f").json().at("seconds") ==
        "1"); // 6 * 2 / 12
    CHECK(cli(t, "--json export " + in(t, "s") + " -o " + in(t, "l.gif") + " --hold 0.15s").json().at("seconds") ==
          "9/10");
}

TEST_CASE("what is not there yet says so, and a wrong value says the limit", "[cli][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 4, {16, 16});
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s"));
    struct Row
    {
        std::string arguments;
        int status;
        const char* says;
    };
    for (const Row& row :
         {Row{"export " + in(t, "p.frenlo") + " --reel --shot s -o " + in(t, "f.mp4"), 2, "one of them"},
          Row{"export " + in(t, "p.frenlo"), 2, "--output"},
          Row{"export " + in(t, "p.frenlo") + " --max-bytes many -o " + in(t, "f.mp4"), 2, "2MB"},
          Row{"export --list " + in(t, "none.json"), 3, "cannot be opened"},
          Row{"reel " + in(t, "p.frenlo") + " --join 5:dissolve", 2, "there are 1"},
          Row{"reel " + in(t, "p.frenlo") + " --set nobody", 2, "nobody"},
          Row{"reel " + in(t, "p.frenlo") + " --sound " + in(t, "none.wav"), 3, "none.wav"},
          Row{"export " + in(t, "p.frenlo") + " --between slowly -o " + in(t, "f.mp4"), 2, "slowly"},
          Row{"pace " + in(t, "p.frenlo") + " --shot s --hold 4000s", 2, "3600 s"},
          Row{"pace " + in(t, "p.frenlo") + " --shot s --hold 200000f", 2, "100000 frames"},
          Row{"pace " + in(t, "p.frenlo") + " --shot s --range 2+9f", 1, "longer than the photos"},
          Row{"export " + in(t, "p.frenlo") + " -o " + in(t, "50%done.png"), 3, "number pattern"}}) {
        const Call c = cli(t, row.arguments);
        CAPTURE(row.arguments);
        CHECK(c.status == row.status);
        CHECK_THAT(c.err, Catch::Contains(row.says));
    }
    std::filesystem::create_directories(t / "empty");
    const Json empty = cli(t, "--json scan " + in(t, "empty")).json();
    CHECK(empty.at("problems")[0].at("kind") == "no-photos");
    REQUIRE(mkfifo((t / "pipe.frenlo").c_str(), 0600) == 0);
    CHECK(cli(t, "info " + in(t, "pipe.frenlo"), "timeout 5 ").status == 3);
}

TEST_CASE("output that cannot be written is an error", "[cli][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 2, {16, 16});
    for (const std::string& call :
         {"scan " + in(t, "s"), "--json scan " + in(t, "s"), std::string("presets"), std::string("--json presets")}) {
        CAPTURE(call);
        int status = 0;
        output_of(quoted(FRENLO_CLI) + " " + call + " 2>" + in(t, "said") + " >/dev/full", &status);
        CHECK(status == 3);
        CHECK_THAT(read_bytes(t / "said"), Catch::Contains("cannot be written"));
    }
}

TEST_CASE("a photo that cannot be read is listed by every command", "[cli][bad]")
{
    TempFolder t;
    for (int i = 0; i < 8; ++i)
        write_picture(t / "s" / ("p" + std::to_string(10 + i) + ".png"), in_light(i % 2 * 0.2 - 1));
    cli(t, "new " + in(t, "p.frenlo") + " " + in(t, "s") + " --hold 1f");
    std::filesystem::remove(t / "s" / "p13.png");
    REQUIRE(mkfifo((t / "s" / "p13.png").c_str(), 0600) == 0);
    for (const char* call : {"info", "light --shot s", "steady --shot s", "pace --shot s --hold 2f"}) {
        const std::string words = call;
        const auto space = std::min(words.find(' '), words.size());
        const Call c =
            cli(t, "--json " + words.substr(0, space) + " " + in(t, "p.frenlo") + words.substr(space), "timeout 60 ");
        CAPTURE(call, c.err);
        CHECK(c.status == 1);
        CHECK_THAT(c.json().at("problems").dump(), Catch::Contains("p13.png"));
        if (words.starts_with("light"))
            CHECK(c.json().at("photos").size() == 7); // it has no brightness, not one of 0
    }
    const Call dry = cli(t, "--json export " + in(t, "p.frenlo") + " --dry-run -o " + in(t, "f.mp4"), "timeout 60 ");
    CHECK(dry.status == 1);
    CHECK_THAT(dry.json().at("problems").dump(), Catch::Contains("p13.png"));
}

TEST_CASE("stopped at any time, by one signal or two, it ends with 130", "[cli][stop]")
{
    TempFolder t;
    write_run(t / "s", "s", 40, {1280, 960});
    std::filesystem::create_directories(t / "out");
    const std::string call = quoted(FRENLO_CLI) + " export " + in(t, "s") + " --hold 9f --overwrite -o " +
                             quoted((t / "out" / "f.mp4").native());
    // From when the process is itself, which /proc tells: before that, a signal is the shell's or the loader's.
    const std::string begun = "until grep -q '^SigBlk:.*[1-9a-f]' /proc/$p/status; do :; done; ";
    for (const char* times : {"0 0", "0 0.05", "0.1 0.2", "0.3 0.01", "0.6 0.1"}) {
        const std::string first = std::string(times).substr(0, std::string(times).find(' ')),
                          second = std::string(times).substr(first.size() + 1);
        CAPTURE(times);
        CHECK(output_of(call + " 2>/dev/null & p=$!; " + begun + "sleep " + first + "; kill -INT $p; sleep " + second +
                        "; kill -TERM $p 2>/dev/null; wait $p; echo $?") == "130\n");
        CHECK(std::filesystem::is_empty(t / "out"));
    }
}

TEST_CASE("a photo held for an hour does not keep a command from stopping", "[cli][stop]")
{
    TempFolder t;
    write_run(t / "s", "s", 1, {640, 480});
    std::filesystem::create_directories(t / "out");
    const Call c = cli(t, "export " + in(t, "s") + " --hold 3600s -o " + quoted((t / "out" / "f.mp4").native()),
                       "timeout --preserve-status -s INT -k 4 0.8 ");
    CHECK(c.status == 130);
    CHECK(std::filesystem::is_empty(t / "out"));
}

}
