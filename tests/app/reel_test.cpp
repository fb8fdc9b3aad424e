// The Reel by mouse and keys, on the real window with real files; what is exported is read by FFmpeg's own programs.
#include "app/sheet/sheet_view.h"
#include "app/work/sound_player.h"
#include "core/export/export_list.h"
#include "core/project/edits.h"
#include "core/sound/sound_reader.h"
#include "core/steps/reel/bring_sound_in.h"
#include "core/steps/reel/reel_edits.h"
#include "core/timeline/reel_timeline.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTabBar>
#include <QTreeWidget>

#include <cmath>
#include <fstream>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

const Reel& reel(Person& p)
{
    return p.window().session().project().reel;
}

std::vector<std::string> films(Person& p)
{
    std::vector<std::string> names;
    const auto film = reel_of(p.window().session().project());
    for (const ReelPart& part : film->parts())
        names.push_back(part.shot->name);
    return names;
}

/// Three shots of 12 photos, a photo a frame each.
void bring_in_three(Person& p)
{
    for (const char* name : {"one", "two", "three"}) {
        write_run(p.folder() / name, name, 12, {96, 64});
        p.bring_in(p.folder() / name);
    }
    for (int shot = 0; shot < 3; ++shot) {
        p.window().viewing().set_shot(ShotIndex(shot));
        p.window().viewing().set_step("pace");
        p.window().viewing().set_selection({});
        p.key(Qt::Key_1);
    }
}

/// A tone, 16 bit: seconds long.
std::filesystem::path tone(const std::filesystem::path& file, int seconds)
{
    output_of("ffmpeg -v error -y -f lavfi -i sine=440:r=48000:d=" + std::to_string(seconds) + ' ' + quoted(file));
    return file;
}

}

TEST_CASE("Three shots and a card become a Reel: ordered, joined, used twice, exported, undone")
{
    Person p;
    bring_in_three(p);
    p.window().viewing().set_step("card");
    p.click(q("Title"));
    REQUIRE(p.window().session().project().shots.size() == 4);
    const Reel before = reel(p);

    // The last tab of the Sheet and the station open each other.
    auto* tabs = p.find<QTabBar>(q("Shots"));
    tabs->setCurrentIndex(tabs->count() - 1);
    CHECK(p.window().viewing().on_reel());
    CHECK(p.window().viewing().is_step("reel"));
    tabs->setCurrentIndex(1);
    CHECK_FALSE(p.window().viewing().on_reel());
    CHECK(p.window().viewing().is_step("card"));
    // So do the keys that go from tab to tab.
    p.window().viewing().set_shot(ShotIndex(3));
    p.key(Qt::Key_PageDown, Qt::ControlModifier);
    CHECK(p.window().viewing().on_reel());
    p.key(Qt::Key_PageUp, Qt::ControlModifier);
    CHECK_FALSE(p.window().viewing().on_reel());
    p.click(q("Reel"));
    CHECK(tabs->currentIndex() == tabs->count() - 1);
    CHECK(films(p).size() == 4);
    const std::int64_t frames = p.window().viewing().film_frames();
    CHECK(frames == reel_of(p.window().session().project())->frames());

    // Up with the keys, once more with the button, a dissolve of twelve frames.
    auto* list = p.find<QTreeWidget>(q("Shots of the Reel"));
    const auto order = films(p);
    list->setCurrentItem(list->topLevelItem(1));
    p.key(Qt::Key_Up, Qt::AltModifier);
    CHECK(films(p)[0] == order[1]);
    p.choose(q("Shot to add"), q("three"));
    p.click(q("Add the shot"));
    CHECK(films(p).size() == 5);
    CHECK(std::count(reel(p).items.begin(), reel(p).items.end(), ReelItem{}) == 0);
    list->setCurrentItem(list->topLevelItem(0));
    p.choose(q("How it goes over into the next"), q("dissolve"));
    p.type_into(q("Length of the join"), q("8 f"));
    REQUIRE(reel(p).items.size() == 5);
    CHECK(reel(p).items[0].join.kind == JoinKind::dissolve);
    CHECK(reel(p).items[0].join.length == Seconds{Fraction(8, 24)});
    p.type_into(q("Speed"), q("1/2"));
    CHECK(reel(p).items[0].speed == Fraction(1, 2));
    p.type_into(q("Speed"), q("fast"));
    CHECK(reel(p).items[0].speed == Fraction(1, 2));
    p.window().viewing().set_playhead(FrameIndex(4));
    p.type_into(q("Chapter"), q("It begins"));
    REQUIRE(reel(p).markers.size() == 1);
    CHECK(reel(p).markers[0].at == Seconds{Fraction(4, 24)});

    // The frame under the player is a mix of two films while one goes over into the other.
    const auto film = reel_of(p.window().session().project());
    const FrameRange join = film->parts()[0].join;
    REQUIRE(join.frames() == 8);
    CHECK(film->frame(join.begin + 3, {.size = {96, 64}}).parts.size() == 2);
    p.window().viewing().set_playhead(join.begin + 3);
    p.wait_for_pictures();

    // A press below the photos scrubs; it cannot pull a hold.
    const auto holds = p.window().session().project().shot(ShotIndex(0)).photos[0].hold;
    const QRect at = p.find<app::SheetView>(q("Sheet"))->frame_in_view(FrameIndex(2));
    p.drag_on_sheet({at.right() - 1, at.center().y()}, {at.right() + 60, at.center().y()});
    CHECK(p.window().session().project().shot(ShotIndex(0)).photos[0].hold == holds);

    // What is looked at is what is exported.
    p.click(q("Export"));
    CHECK(p.window().viewing().on_reel());
    p.export_film(p.folder() / "out" / "reel.mp4");
    CHECK(
        output_of("ffprobe -v error -count_frames -select_streams v -show_entries stream=nb_read_frames -of csv=p=0 " +
                  quoted(p.folder() / "out" / "reel.mp4")) == std::to_string(film->frames()) + "\n");
    CHECK(output_of("ffprobe -v error -show_chapters -of csv " + quoted(p.folder() / "out" / "reel.mp4"))
              .find("It begins") != std::string::npos);

    while (!(reel(p) == before))
        p.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(films(p) == order);
}

TEST_CASE("Sound is laid under the Reel, cut, pulled open, brought to the picture's length, and written with it")
{
    Person p;
    bring_in_three(p);
    const auto sound = tone(p.folder() / "tone.wav", 4);
    p.click(q("Reel"));
    p.wait_for_pictures(); // the row of the station's pages is there
    p.click(q("Sound"));
    REQUIRE(p.window().viewing().is_step("sound"));
    CHECK(p.find<QLabel>(q("Picture against sound"))->text() == q("no sound yet"));
    p.window().session().apply([&](const Project& project) { return add_sound(project, whole_sound(sound, {}, {})); },
                               q("Add a sound"));
    REQUIRE(reel(p).sound.sounds.size() == 1); // 96 frames under 36
    CHECK_THAT(p.find<QLabel>(q("Picture against sound"))->text().toStdString(), Catch::Contains("60 frames"));

    p.type_into(q("From, in the file"), q("1 s"));
    p.type_into(q("To, in the file"), q("2 s"));
    CHECK(reel(p).sound.sounds[0].length() == Seconds{Fraction(1)});
    p.type_into(q("To, in the file"), q("3.5 s"));
    p.type_into(q("Fade out"), q("12 f"));
    CHECK(reel(p).sound.sounds[0].fade_out == Seconds{Fraction(1, 2)});
    p.window().viewing().set_playhead(FrameIndex(24));
    p.find<app::SheetView>(q("Sheet"))->setFocus();
    p.key(Qt::Key_2);
    REQUIRE(reel(p).sound.sounds.size() == 2);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.key(Qt::Key_T);
    REQUIRE(reel(p).sound.beats.size() == 1);
    CHECK(reel(p).sound.beats[0] == Seconds{Fraction(1)});
    auto* word = p.find<QComboBox>(q("Word here"));
    word->setFocus();
    word->lineEdit()->clear();
    QTest::keyClicks(word->lineEdit(), q("oh"));
    QTest::keyClick(word->lineEdit(), Qt::Key_Return);
    p.wait_until([&] { return p.sheet().hasFocus(); }, q("the keys are the Sheet's again"));
    REQUIRE(reel(p).sound.words.size() == 1);

    p.click(q("Hold the last photo")); // the sound is 60 frames, the picture 36
    CHECK(reel_lengths(p.window().session().project()).picture == 60);
    CHECK(p.window().viewing().film_frames() == 60);
    p.key(Qt::Key_Z, Qt::ControlModifier);
    p.click(q("Cut the sound"));
    CHECK(reel_lengths(p.window().session().project()).picture_longer_by() == 0);
    p.click(q("Measure loudness"));
    p.wait_until([&] { return p.find<QLabel>(q("Loudness"))->text().contains(q("LUFS")); }, q("loudness is measured"));
    p.click(q("Bring loudness to"));
    CHECK(reel(p).sound.loudness == -16.0);

    p.click(q("Export"));
    p.export_film(p.folder() / "out" / "reel.mp4");
    const auto file = p.folder() / "out" / "reel.mp4";
    const std::string streams =
        output_of("ffprobe -v error -show_entries stream=codec_type,duration -of csv=p=0 " + quoted(file));
    CHECK_THAT(streams, Catch::Contains("audio"));
    CHECK(SoundReader(file).counted_length({}).value.approx() == Approx(1.5).margin(0.05)); // 36 frames
}

TEST_CASE("While sound is heard it keeps the time of the picture")
{
    Person p;
    bring_in_three(p);
    p.window().session().apply(
        [&](const Project& project) { return add_sound(project, whole_sound(tone(p.folder() / "t.wav", 3), {}, {})); },
        q("Add a sound"));
    p.click(q("Reel"));
    p.wait_for_pictures();
    auto& player = p.window().player();
    player.set_loop(false);
    p.window().viewing().set_playhead(FrameIndex(0));
    player.play();
    p.wait_until([&] { return !player.playing(); }, q("the Reel is over"));
    CHECK(p.window().viewing().playhead() == FrameIndex(35));
    CHECK(player.timing().frames() > 0);
}

TEST_CASE("A guide track is recorded while the Reel plays, a sound that is gone is found again")
{
    Person p;
    bring_in_three(p);
    p.window().session().save(p.folder() / "r.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
    p.click(q("Reel"));
    p.wait_for_pictures();
    p.click(q("Sound"));
    p.window().viewing().set_playhead(FrameIndex(6));
    p.click(q("Record a guide…"));
    p.wait_until([&] { return !p.window().player().playing(); }, q("the Reel is over"));
    p.click(q("End recording"));
    p.wait_until([&] { return reel(p).sound.sounds.size() == 1; }, q("the recording is there"));
    const Sound guide = reel(p).sound.sounds[0];
    CHECK(guide.file == p.folder() / "Guide.wav");
    CHECK(guide.at == Seconds{Fraction(6, 24)});
    CHECK(guide.file_length.value.approx() > 1.0); // 30 frames of 24
    std::filesystem::rename(guide.file, p.folder() / "elsewhere.wav");
    p.window().viewing().set_playhead(FrameIndex(0));
    CHECK(p.sees(q("Where is it…")));
}

namespace {

/// Hears as fast as it is told to.
class HandMadeOutput : public app::SoundOutput
{
public:
    explicit HandMadeOutput(std::vector<float>& all, std::int64_t& heard) : all_(all), heard_(heard) {}
    std::int64_t room() override { return heard_ + 9'600 - std::int64_t(all_.size()) / 2; }
    void write(std::span<const float> pairs) override { all_.insert(all_.end(), pairs.begin(), pairs.end()); }
    std::int64_t heard() override { return std::min(heard_, std::int64_t(all_.size()) / 2); }

private:
    std::vector<float>& all_;
    std::int64_t& heard_;
};

}

TEST_CASE(
    "What is played is the mix from the frame under the player on, round and round, and the clock is what was heard")
{
    Person p;
    Soundtrack track;
    track.sounds = {whole_sound(tone(p.folder() / "t.wav", 2), {}, {})};
    std::vector<float> all;
    std::int64_t heard = 0;
    app::SoundPlayer player([&] { return std::make_unique<HandMadeOutput>(all, heard); });
    CHECK_FALSE(player.start({{}, {Fraction(1)}, {}, false})); // nothing to hear
    CHECK_FALSE(player.now_ns());
    player.set_track(track);
    REQUIRE(player.start({{Fraction(1, 4)}, {Fraction(1)}, {Fraction(1, 2)}, true}));
    p.wait_until([&] { return all.size() == 2 * 9'600; }, q("it reads ahead"));
    CHECK(player.now_ns() == 0);
    heard = 36'000; // half a second to the end, and a quarter of the way again
    p.wait_until([&] { return all.size() == 2 * 45'600; }, q("it goes on"));
    CHECK(player.now_ns() == 750'000'000);
    std::vector<float> truth(2 * 24'000);
    SoundReader reader(p.folder() / "t.wav");
    reader.read(24'000, truth);
    for (std::size_t i = 0; i < truth.size(); i += 501)
        CHECK(all[i] == Approx(truth[i]).margin(1e-5));
    reader.read(12'000, truth);
    for (std::size_t i = 0; i + 2 * 24'000 < all.size() && i < truth.size(); i += 501)
        CHECK(all[i + 2 * 24'000] == Approx(truth[i]).margin(1e-5));
    player.stop();
    CHECK_FALSE(player.now_ns());
}

TEST_CASE("Exports wait on a list, are written one after another, and the list survives a kill")
{
    Person p;
    bring_in_three(p);
    p.window().session().save(p.folder() / "r.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
    p.click(q("Export"));
    p.wait_for_pictures();
    p.type_into(q("File"), app::to_qt(p.folder() / "out" / "first.mp4"));
    p.wait_until([&] { return p.find<QPushButton>(q("Put on the export list"))->isEnabled(); }, q("it can be listed"));
    p.click(q("Put on the export list"));
    auto* list = p.find<QTreeWidget>(q("Exports on the list"));
    REQUIRE(list->topLevelItemCount() == 1);
    p.choose(q("Format of all shots"), q("Loop, 600 pixels, 128 colours"));
    p.click(q("Add all shots"));
    REQUIRE(list->topLevelItemCount() == 4);
    // Another order, one less.
    list->setCurrentItem(list->topLevelItem(3));
    p.key(Qt::Key_Up, Qt::AltModifier);
    CHECK(list->topLevelItem(2)->text(1).contains(q("three")));
    list->setCurrentItem(list->topLevelItem(3));
    p.click(q("Remove it"));
    REQUIRE(list->topLevelItemCount() == 3);
    p.wait_until(
        [&] {
            std::size_t kept = 0;
            std::error_code ec;
            for (const auto& e : std::filesystem::directory_iterator(p.places().kept / "exports", ec))
                if (e.path().extension() == ".json")
                    kept += read_export_list(e.path()).exports.size();
            return kept == 3;
        },
        q("the list is kept"));

    // What was on it is there after a kill, with the project as it was when it was listed.
    p.kill_and_restart();
    p.window().open(p.folder() / "r.frenlo");
    p.wait_until([&] { return !p.window().session().is_empty(); }, q("it opens"));
    p.window().session().apply([](const Project& project) { return remove_shot(project, ShotIndex(2)); }, q("less"));
    p.click(q("Export"));
    p.wait_for_pictures();
    p.click(q("Export list · 3 waiting"));
    p.wait_for_pictures();
    list = p.find<QTreeWidget>(q("Exports on the list"));
    REQUIRE(list->topLevelItemCount() == 3);
    p.click(q("Start the export list"));
    p.wait_until(
        [&] {
            for (int i = 0; i < list->topLevelItemCount(); ++i)
                if (!list->topLevelItem(i)->text(2).startsWith(QChar(0x2713)))
                    return false;
            return true;
        },
        q("all are written"));
    CHECK(std::filesystem::exists(p.folder() / "out" / "first.mp4"));
    CHECK(std::filesystem::exists(p.folder() / "three loop-small 1.gif"));
    p.click(q("Remove what is done"));
    CHECK(list->topLevelItemCount() == 0);
    CHECK(std::filesystem::exists(p.folder() / "three loop-small 1.gif"));
}

TEST_CASE("All shots go on the export list but those that were taken out of the Reel")
{
    Person p;
    bring_in_three(p);
    p.window().session().save(p.folder() / "r.frenlo");
    p.wait_until([&] { return p.window().session().saved(); }, q("it is saved"));
    p.window().session().apply(
        [](Project project) { // as a shot is that a layer shows
            project.reel.left_out = {project.shots[1]->id};
            return project;
        },
        q("Leave a shot out"));
    p.click(q("Export"));
    p.wait_for_pictures();
    p.click(q("Export list"));
    p.wait_for_pictures();
    p.click(q("Add all shots"));
    auto* list = p.find<QTreeWidget>(q("Exports on the list"));
    REQUIRE(list->topLevelItemCount() == 2);
    for (int i = 0; i < 2; ++i)
        CHECK_FALSE(list->topLevelItem(i)->text(1).contains(
            QString::fromStdString(p.window().session().project().shots[1]->name)));
}

TEST_CASE("Keys for photos do nothing on the Reel's page, which shows photos of many shots", "[reel][keys]")
{
    Person p;
    for (const char* name : {"one", "two"})
        write_run(p.folder() / name, name, 3, {96, 64});
    p.bring_in(p.folder() / "one");
    p.bring_in(p.folder() / "two");
    p.window().viewing().set_shot(ShotIndex(0));
    p.window().viewing().show_reel();
    REQUIRE(p.window().viewing().on_reel());
    p.click_photo(5); // of the second shot; the one before it has three
    const Project before = p.window().session().project();
    for (const Qt::Key key : {Qt::Key_4, Qt::Key_Plus, Qt::Key_Minus, Qt::Key_X, Qt::Key_BracketLeft, Qt::Key_M}) {
        CAPTURE(int(key));
        p.sheet().setFocus();
        p.key(key);
        CHECK(p.window().session().project() == before);
    }
    p.key(Qt::Key_Left, Qt::AltModifier); // slides the kept range of a shot
    CHECK(p.window().session().project() == before);
    CHECK(p.window().viewing().edited_shot() == nullptr);
    p.window().viewing().set_shot(ShotIndex(1));
    CHECK(p.window().viewing().edited_shot() == p.window().session().project().shots[1]);
}

}
