#include "app/work/reel_page.h"
#include "bench/measure.h"
#include "core/project/edits.h"
#include "core/sound/peaks.h"
#include "core/steps/reel/bring_sound_in.h"
#include "core/steps/reel/reel_edits.h"
#include "tests/app/person.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <QEventLoop>

#include <iostream>

namespace frenlo::bench {

using test::Person;
using test::TempFolder;

namespace {

/// Shots that share one photo's file: what is timed here looks at no pixels.
Project many_shots(const PhotoPtr& photo, int shots, int photos)
{
    Project p;
    for (int s = 0; s < shots; ++s) {
        Shot shot;
        shot.name = "shot " + std::to_string(s);
        for (int i = 0; i < photos; ++i)
            shot.photos.push_back({photo, Frames{2}});
        give_ids(shot);
        p.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    }
    return p;
}

void bench_values(const TempFolder& t)
{
    test::write_run(t / "one", "one", 1, {64, 48});
    const Project p = many_shots(test::scanned(t / "one" / "one_0001.jpg"), 200, 100);
    std::optional<app::ReelPage> page;
    std::cout << "a Reel of 200 shots and 20,000 photos\n  its page is made in "
              << 1000 * seconds([&] { page = app::reel_page(p); }) << " ms (aim: it opens in 1000)\n";
    const ReelItemId item = page->film->parts()[100].item.id;
    Project changed;
    std::cout << "  an edit and the page after it "
              << 1000 * seconds([&] {
                     changed = change_reel_item(p, item, [](ReelItem& i) { i.join.kind = JoinKind::dissolve; });
                     page = app::reel_page(changed);
                 })
              << " ms (aim: 30)\n";
    std::cout << "  what is to be written of it " << 1000 * seconds([&] { (void)page->film->runs(); }) << " ms\n";
}

void bench_peaks(const TempFolder& t)
{
    const auto wav = t / "hour.wav", flac = t / "hour.flac", mp3 = t / "hour.mp3";
    test::output_of(
        "ffmpeg -v error -f lavfi -i 'sine=330:r=44100:d=3600,aeval=val(0)*(0.5+0.5*sin(t)):c=same' -ac 2 " +
        test::quoted(wav));
    for (const auto& to : {flac, mp3})
        test::output_of("ffmpeg -v error -i " + test::quoted(wav) + ' ' + test::quoted(to));
    std::cout << "the waveform of one hour of stereo sound\n";
    for (const auto& file : {wav, flac, mp3}) {
        const double other =
            seconds([&] { test::output_of("ffmpeg -v error -threads 2 -i " + test::quoted(file) + " -f null -"); });
        const double own = seconds([&] { (void)peaks_of(file, {}); });
        std::cout << "  " << file.extension().native().substr(1) << ": " << own << " s (aim: 3), " << own / other
                  << " of FFmpeg's program decoding it\n";
    }
}

/// A film of a minute at this rate, with or without sound: how late its frames came against the clock, or against what
/// was heard.
void bench_playing_at(int rate, bool sound)
{
    Person p;
    test::write_run(p.folder() / "r", "r", 24, {640, 360});
    test::output_of("ffmpeg -v error -f lavfi -i sine=330:r=48000:d=60 " + test::quoted(p.folder() / "s.wav"));
    p.bring_in(p.folder() / "r");
    p.window().session().apply(
        [&](const Project& now) {
            Project made = now;
            made.delivered_at = Rate(rate);
            const auto item = reel_items(made)[0].id;
            made = change_reel_item(made, item, [](ReelItem& i) { i.speed = Fraction(1, 1); });
            for (std::int64_t frames = reel_of(made)->frames(); frames < 60LL * rate; frames += reel_of(now)->frames())
                made = add_to_reel(made, made.shots[0]->id);
            return sound ? add_sound(made, whole_sound(p.folder() / "s.wav", {}, {})) : made;
        },
        "a minute");
    p.window().viewing().set_step("reel");
    p.wait_for_pictures();
    auto& player = p.window().player();
    player.set_loop(false);
    p.window().viewing().set_playhead(FrameIndex(0));
    player.play();
    QEventLoop loop; // a person's waiting looks every some milliseconds: too coarse for what is timed here
    QObject::connect(&player, &app::Player::state_changed, &loop, [&] {
        if (!player.playing())
            loop.quit();
    });
    loop.exec();
    const app::TimingMeter& timing = player.timing();
    std::cout << "a minute at " << rate << " fps against " << (sound ? "its sound: " : "the clock: ") << timing.frames()
              << " frames shown, " << timing.left_out() << " left out, late by " << timing.mean_ms()
              << " ms on average, "
              << 100.0 * double(timing.later_than(500'000'000 / rate)) /
                     double(std::max<std::int64_t>(1, timing.frames()))
              << " % by more than half a frame (aim: 0.5)\n";
}

}

void bench_reel()
{
    TempFolder t;
    bench_values(t);
    bench_peaks(t);
}

void bench_playing()
{
    for (const int rate : {24, 60})
        for (const bool sound : {false, true})
            bench_playing_at(rate, sound);
}

}
