#include "tests/support/full_project.h"

#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/layers/layer_values.h"
#include "core/steps/steady/steady_values.h"

namespace frenlo::test {

namespace {

PhotoPtr photo_file(int number)
{
    auto p = std::make_shared<PhotoFile>();
    p->file = "/films/harbour/sails/HARB" + std::to_string(1000 + number) + ".png";
    p->bytes = std::uintmax_t(123'456 + number);
    p->modified_ns = 1'795'777'593'646'659'394 + number;
    p->format = PhotoFormat::png;
    p->size = {1600, 1067};
    p->orientation = 6;
    p->captured = CaptureTime{1'777'804'924'060'000 + number};
    p->camera = "Quayside Quayside Q1";
    p->exposure = {Fraction(1, 30), Fraction(28, 5), 200, Fraction(85, 2)};
    p->alpha = true;
    p->fingerprint = "c83f7758231e8a8fb42c641469759f06";
    p->pictures = 90;
    p->picture = 10 + number;
    p->stamp = Fraction(1001 * number, 2500);
    p->averaged = 4;
    p->drawing = "<svg/>";
    p->rating = 3;
    p->label = "Sky";
    p->merged = {"/films/harbour/sails/HARB2001.png"};
    return p;
}

Alignment alignment()
{
    Alignment a;
    a.from_film = {1, 0.01, 2.5, -0.01, 1, -1.5, 0, 0.00001, 1};
    a.from_before = Transform{1, 0, 0.25, 0, 1, 0.5, 0, 0, 1};
    a.target = cv::Point2d(812.5, 400.25);
    a.residual_px = 0.125;
    a.inliers = 0.75;
    a.left_px = 0.0625;
    a.reference = true;
    a.lens = {0.125, -0.0625};
    a.doubt = "few points agree";
    return a;
}

PhotoLight light()
{
    PhotoLight l;
    l.change.stops = -2.25;
    l.change.target = -2;
    l.change.correction = {{0.25, 0.5, 0.125}, {0.25, 0, -0.25, 0.5, 0.125}, std::vector<double>(12, 0.0625)};
    l.change.steps = -0.375;
    l.change.outlier = true;
    l.after = -2.0625;
    l.remedy = LightRemedy::mixed;
    l.jump = LightJump{0.5, LightJump::Cause::camera, false};
    return l;
}

ShotPhoto photo(int number)
{
    ShotPhoto p;
    p.photo = photo_file(number);
    p.id = PhotoId{0x1234567890abcde0ULL + std::uint64_t(number)};
    p.hold = Seconds{Fraction(5, 24)};
    p.aside = true;
    p.flaw = "HARB1001.png: the file is cut off.";
    p.turns = 3;
    p.lens = {-0.0625, 0.03125};
    p.backwards = true;
    p.fill = true;
    p.to_next = Between::mix;
    p.what_there_is = true;
    p.marker_card = true;
    p.marked = true;
    p.steps.set(alignment());
    p.steps.set(light());
    p.grouping = GroupingOverride::stays;
    p.remarks = {{FindingKind::unlike,
                  {p.photo->file},
                  "HARB1001.png shows something that reaches in.",
                  usual_remedies(FindingKind::unlike)}};
    return p;
}

Pacing pacing()
{
    Pacing p;
    p.paced_at = Rate(Fraction(25, 2));
    p.between = Between::mix;
    p.keep_every = 2;
    p.kept = KeptRange{PhotoIndex(1), Seconds{Fraction(7, 3)}};
    p.backwards = true;
    p.there_and_back = Return::to_first;
    p.joint = 7;
    p.shutter = 0.5;
    p.times = 3;
    p.at_least = Seconds{Fraction(9, 2)};
    p.first_hold = Frames{4};
    p.last_hold = Seconds{Fraction(1, 2)};
    return p;
}

Steadying steadying()
{
    Steadying s;
    s.way = SteadyWay::smooth;
    s.movement = Movement::shift;
    s.size = {1600, 1067};
    s.smoothing = {2.5, 0.25};
    s.inside_all = false;
    s.edges = Edges::mirrored;
    s.shape = {16, 9};
    s.crop = {10, 20, 1500, 800};
    s.trusted = {3, 2, {10, 5, -1, 0, 7, 9}};
    return s;
}

Deflicker deflicker()
{
    Deflicker l;
    l.window_s = 2.5;
    l.found_window_s = 1.25;
    l.strength = 0.75;
    l.each_colour = true;
    l.by_tone = false;
    l.by_place = true;
    l.camera_steps = true;
    l.leave_out_moving = false;
    l.kind = {0.125, 3.0625, 5, true, FlickerKind::Tones::highlights, true};
    l.corrected = {true, true, true, true};
    l.before = {0.125, 0.25, 0.0625, 0.5};
    l.after = {0.01, 0.02, 0.03, 0.04};
    return l;
}

}

namespace {

Reel reel(ShotId shot, PhotoId first, PhotoId last)
{
    Reel r;
    const Join join{JoinKind::wipe, {Fraction(5, 8)}, JoinPlace::after, {1, 2, 3}, 90, 40};
    r.items = {{ReelItemId{0x11}, shot, first, last, Fraction(3, 2), Seconds{Fraction(7, 2)}, join}};
    r.left_out = {ShotId{0x22}};
    r.frame = cv::Size(1080, 1350);
    r.fit = ReelFit::fill;
    r.markers = {{{Fraction(1, 3)}, "The sail is up"}};
    Sound s;
    s.id = SoundId{0x33};
    s.file = "/films/harbour/morning.flac";
    s.file_length = {Fraction(30)};
    s.at = {Fraction(1, 24)};
    s.begin = {Fraction(2)};
    s.end = {Fraction(9)};
    s.lasts = Seconds{Fraction(20)};
    s.tempo = Fraction(11, 10);
    s.level_db = -6.5;
    s.fade_in = {Fraction(1, 2)};
    s.fade_out = {Fraction(3, 2)};
    s.muted = true;
    r.sound = {{s}, {{Fraction(1, 2)}, {Fraction(1)}}, {{{Fraction(1)}, {Fraction(3, 2)}, "oh"}}, -16.5};
    Layer name;
    name.id = LayerId{0x44};
    name.name = "Nameplate";
    name.shot = shot;
    name.keys = {{.at = {Fraction(1, 2)}, .x = 0.75}};
    r.steps.set(Layers{{name}});
    return r;
}

}

Project full_project()
{
    Shot shot;
    shot.id = ShotId{0xfedcba0987654321ULL};
    shot.name = "Sails";
    shot.photos = {photo(1), photo(2), photo(3)};
    shot.kind = ShotKind::walked;
    shot.parts = {{"First sail", PhotoIndex(0), PhotoIndex(2), "after a marker card", ShotKind::hand_moved}};
    shot.pause = Seconds{Fraction(90)};
    shot.backdrop = {10, 20, 30};
    shot.resolved = {"copy/HARB1001.png/HARB1002.png"};
    shot.pacing = pacing();
    shot.steps.set(SteadyRegion{{{{0.25, 0.125, 0.5, 0.25}}, {{0, 0, 0.125, 0.125}}}});
    shot.steps.set(LightRegion{{{{0.5, 0.125, 0.25, 0.25}}, {{0.75, 0.75, 0.125, 0.125}}}});
    shot.steps.set(steadying());
    shot.steps.set(deflicker());
    Project project;
    project.delivered_at = Rate(Fraction(30000, 1001));
    project.reel = reel(shot.id, shot.photos[0].id, shot.photos[1].id);
    project.shots.push_back(std::make_shared<const Shot>(std::move(shot)));
    return project;
}

}
