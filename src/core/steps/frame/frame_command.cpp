#include "core/steps/frame/frame_command.h"

#include "core/base/text.h"
#include "core/command/change_measured.h"
#include "core/picture/picture.h"
#include "core/project/project_file.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "core/steps/frame/level.h"

#include <CLI/CLI.hpp>

#include <array>
#include <cmath>
#include <iostream>
#include <map>
#include <sstream>

namespace frenlo::command {

namespace {

struct DressCall
{
    std::string project, shot, shape, also, not_for, crop, miniature, bars, fade_in, fade_out, fade_colour;
    std::vector<std::string> views;
    std::optional<FrameFit> fit;
    std::optional<Beyond> beyond;
    std::optional<Ease> ease;
    std::optional<double> ease_strength, straighten, grain;
    std::string lens, uprights;
    std::optional<bool> grain_held;
    std::string bars_easing;
    std::vector<std::string> copy_to;
    bool turn_round = false, no_views = false, off = false;
};

cv::Rect2d share_box(const std::string& text)
{
    const std::string what = "a box is X,Y,W,H in shares of the picture, 0 to 1";
    const auto n = numbers_option(text, what);
    if (n.size() != 4 || n[2] <= 0 || n[3] <= 0)
        throw WrongCall(what + ", not \"" + text + '"');
    for (const double v : n)
        if (std::abs(v) > share_limits.high)
            throw WrongCall("the box \"" + text + "\" lies too far beyond the picture");
    return {n[0], n[1], n[2], n[3]};
}

struct ViewOption
{
    std::int64_t number = 0;
    DriftView view;
};

/// "N:X,Y,W,H" or "N:X,Y,W,H:TURN".
ViewOption view_option(const std::string& text)
{
    const auto first = text.find(':'), second = text.find(':', first == std::string::npos ? first : first + 1);
    ViewOption v;
    std::istringstream number(text.substr(0, first));
    char rest = 0;
    if (first == std::string::npos || !(number >> v.number) || number >> rest)
        throw WrongCall("a view is PHOTO:X,Y,W,H or PHOTO:X,Y,W,H:TURN, not \"" + text + '"');
    v.view.box = share_box(text.substr(first + 1, second == std::string::npos ? second : second - first - 1));
    if (second != std::string::npos) {
        const auto turn = numbers_option(text.substr(second + 1), "the turn of a view is in degrees");
        if (turn.size() != 1 || std::abs(turn[0]) > turn_limits.high)
            throw WrongCall("the turn of a view is -180 to 180 degrees, not \"" + text.substr(second + 1) + '"');
        v.view.turn = turn[0];
    }
    return v;
}

Miniature miniature_option(const std::string& text, Miniature m)
{
    const std::string what = "--miniature takes X,Y,WIDTH or X,Y,WIDTH,ANGLE, in shares of the frame and degrees";
    const auto n = numbers_option(text, what);
    if (n.size() != 3 && n.size() != 4)
        throw WrongCall(what + ", not \"" + text + '"');
    m.x = n[0];
    m.y = n[1];
    m.width = n[2];
    m.angle = n.size() == 4 ? n[3] : 0;
    if (std::abs(m.x) > 1.5 || std::abs(m.y) > 1.5 || m.width < 0 || m.width > 2 || std::abs(m.angle) > 180)
        throw WrongCall("the band \"" + text + "\" lies beyond the frame");
    return m;
}

/// "-12" is -0.12.
double percent_option(const std::string& text, const Limits& limits, const std::string& name)
{
    const auto n = numbers_option(text, name + " takes percent");
    if (n.size() != 1 || n[0] / 100 < limits.low || n[0] / 100 > limits.high)
        throw WrongCall(name + " takes " + std::to_string(std::lround(limits.low * 100)) + " to " +
                        std::to_string(std::lround(limits.high * 100)) + " percent, or find; not \"" + text + '"');
    return n[0] / 100;
}

/// "K1" or "K1,K2"; "none".
Lens lens_option(const std::string& text)
{
    if (text == "none")
        return {};
    const std::string what = "--lens takes K1 or K1,K2, as -0.08 for a barrel; or none";
    const auto n = numbers_option(text, what);
    const Lens lens{n.empty() ? 0 : n[0], n.size() > 1 ? n[1] : 0};
    if (n.empty() || n.size() > 2 || lens.k1 < lens_k1_limits.low || lens.k1 > lens_k1_limits.high ||
        lens.k2 < lens_k2_limits.low || lens.k2 > lens_k2_limits.high)
        throw WrongCall(what + "; not \"" + text + '"');
    return lens;
}

FilmShape shape_option(const std::string& text)
{
    const auto shape = parse_shape(text);
    if (!shape)
        throw WrongCall("\"" + text + "\" is no shape; 16:9, 4:5, 2.39:1, 1080x1350 and as-photos are");
    return *shape;
}

void change(Framing& f, const DressCall& call, Rate rate)
{
    if (!call.shape.empty())
        f.shape = shape_option(call.shape);
    if (call.fit)
        f.fit = *call.fit;
    if (call.beyond)
        f.beyond = *call.beyond;
    if (call.crop == "none")
        f.crop.reset();
    else if (!call.crop.empty())
        f.crop = share_box(call.crop);
    if (call.straighten)
        f.straighten = *call.straighten;
    if (call.uprights != "find" && !call.uprights.empty())
        f.uprights = percent_option(call.uprights, uprights_limits, "--uprights");
    if (call.ease)
        f.ease = *call.ease;
    if (call.ease_strength)
        f.ease_strength = *call.ease_strength / 100;
    if (call.bars == "none")
        f.bars.reset();
    else if (!call.bars.empty())
        f.bars = Letterbox{shape_option(call.bars).ratio, f.bars.value_or(Letterbox()).easing};
    if (f.bars && f.bars->shape <= Fraction(0))
        throw WrongCall("--bars takes the shape that they leave, as 2.39");
    if (f.bars && !call.bars_easing.empty())
        f.bars->easing = length_option(call.bars_easing, rate);
    if (call.miniature == "none")
        f.miniature.reset();
    else if (!call.miniature.empty())
        f.miniature = miniature_option(call.miniature, f.miniature.value_or(Miniature()));
    if (call.grain && *call.grain <= 0)
        f.grain.reset();
    else if (call.grain)
        f.grain = Grain{*call.grain / 100, f.grain.value_or(Grain()).held};
    if (f.grain && call.grain_held)
        f.grain->held = *call.grain_held;
    if (!call.fade_in.empty())
        f.fades.in = length_option(call.fade_in, rate);
    if (!call.fade_out.empty())
        f.fades.out = length_option(call.fade_out, rate);
    if (!call.fade_colour.empty())
        f.fades.colour = colour_option(call.fade_colour);
}

Project dressed(const Project& now, ShotIndex shot, const DressCall& call)
{
    if (call.off)
        return drop_dress(now, shot);
    Project p = now;
    if (!call.also.empty())
        p = dress_for(p, shot, shape_option(call.also));
    if (!call.not_for.empty())
        p = drop_shape(p, shot, shape_option(call.not_for));
    p = change_framing(p, shot, [&](Framing& f) { change(f, call, now.delivered_at); });
    if (!call.lens.empty())
        p = set_lens(p, shot, lens_option(call.lens));
    if (call.no_views || !call.views.empty()) // those that are said are all
        p = drop_views(p, shot);
    for (const std::string& text : call.views) {
        const ViewOption v = view_option(text);
        const auto photos = std::int64_t(p.shot(shot).photos.size());
        if (v.number < 1 || v.number > photos)
            throw WrongCall("the shot has photos 1 to " + std::to_string(photos) + ", not " + std::to_string(v.number));
        p = set_view(p, shot, PhotoIndex(v.number - 1), v.view);
    }
    if (call.turn_round)
        p = turn_drift_round(p, shot);
    std::vector<ShotId> others;
    for (const std::string& name : call.copy_to)
        others.push_back(p.shot(named_shot(p, name)).id);
    return others.empty() ? p : copy_dress(p, shot, others);
}

Json dress_json(const Project& project, const Shot& shot, const std::vector<Problem>& problems)
{
    const Framing f = framing_of(shot);
    Json j;
    j["shot"] = shot.name;
    j["shape"] = shape_text(f.shape);
    j["other_shapes"] = Json::array();
    for (const FilmShape& shape : shapes_beside(shot))
        j["other_shapes"].push_back(shape_text(shape));
    const cv::Size size = film_size(shot);
    j["width"] = size.width;
    j["height"] = size.height;
    j["straighten"] = f.straighten;
    j["uprights"] = f.uprights * 100;
    j["lens"] = {lens_of(shot).k1, lens_of(shot).k2};
    j["enlargement"] = enlargement(shot);
    j["frames"] = Json::array();
    for (const FrameView& v : views_of_frames(shot, schedule_of(project, shot)))
        j["frames"].push_back({{"box", {v.box.x, v.box.y, v.box.width, v.box.height}}, {"turn", v.turn}});
    j["problems"] = Json::array();
    for (const Problem& p : problems)
        j["problems"].push_back({{"file", json_path(p.file)}, {"text", p.text()}});
    return j;
}

/// From the photo in the middle of the shot.
Upright found_upright(const Shot& shot)
{
    const auto photos = held_photos(shot);
    if (photos.empty())
        throw Failure({"the shot has no photo in its film", {}, "Bring one back in Sort"});
    constexpr int side = 1024;
    const auto picture = render(request_for_shares(shot, std::array{Share{photos[photos.size() / 2].photo}},
                                                   fitted(undressed_size(shot), {side, side})),
                                Originals());
    if (!picture)
        throw Failure(picture.error());
    const auto found = find_uprights(*picture);
    if (!found)
        throw Failure({"the photo in the middle of the shot has too few long upright lines that agree",
                       shot.photos[photos[photos.size() / 2].photo.at()].photo->file, "Say how far, in percent"});
    return *found;
}

int dress_shot(const DressCall& call, const Context& context)
{
    const Project as_it_was = load_project(call.project).project;
    const Shot& before = as_it_was.shot(named_shot(as_it_was, call.shot));
    const auto upright = call.uprights == "find" ? std::optional(found_upright(before)) : std::nullopt;
    const LoadedProject loaded = change_project(call.project, [&](const Project& now) {
        const Project p = dressed(now, same_shot(now, before), call);
        return upright ? make_upright(p, same_shot(p, before), *upright) : p;
    });
    const Shot& shot = loaded.project.shot(same_shot(loaded.project, before));
    if (context.json) {
        print_json(dress_json(loaded.project, shot, loaded.problems));
    } else {
        const cv::Size size = film_size(shot);
        const auto views = views_of(shot).size();
        std::cout << shot.name << ": " << size.width << " x " << size.height
                  << (views > 0 ? ", " + counted(std::int64_t(views), "view", "views") : std::string()) << '\n';
        if (const double more = enlargement(shot); more > 1.005)
            std::cout << "where a view is smallest the film shows " << std::round(more * 100)
                      << " % of the pixels that the photo has along a side\n";
        print_problems(loaded.problems);
    }
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_frame_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<DressCall>();
    CLI::App* c = app.add_subcommand("dress", "The frame: shape, crop, drift through views, looks");
    c->add_option("project", call->project, "The project")->required();
    c->add_option("--shot", call->shot, "The shot; the only one where there is one");
    c->add_option("--shape", call->shape, "16:9, 4:5, 2.39:1, 1080x1350, as-photos");
    c->add_option(
        "--also", call->also,
        "9:16: the shot is dressed for this shape, too; what else is said holds for it. Export chooses by its "
        "size or --shape");
    c->add_option("--not-for", call->not_for, "It is no longer dressed for this shape");
    c->add_option("--fit", call->fit, "Whether the photo fills the frame, or lies inside it with bars")
        ->transform(CLI::CheckedTransformer(
            std::map<std::string, FrameFit>{{"fill", FrameFit::fill}, {"inside", FrameFit::inside}}));
    c->add_option("--beyond", call->beyond, "What is seen beside the photo: the backdrop, or the photo blurred")
        ->transform(CLI::CheckedTransformer(
            std::map<std::string, Beyond>{{"backdrop", Beyond::backdrop}, {"blurred", Beyond::blurred}}));
    c->add_option("--crop", call->crop, "X,Y,W,H in shares of the picture, 0 to 1; none");
    c->add_option("--straighten", call->straighten, "Degrees that the photos are turned clockwise")
        ->check(CLI::Range(-45.0, 45.0));
    c->add_option("--uprights", call->uprights,
                  "Percent that what leans together at the top is drawn apart there; find: and the turn, from the long "
                  "lines of the photo in the middle");
    c->add_option(
        "--lens", call->lens,
        "K1[,K2] of what the lens did to straight lines, r in halves of the diagonal: below 0 a barrel; none");
    c->add_option("--view", call->views, "PHOTO:X,Y,W,H[:TURN]: the film drifts from view to view")
        ->expected(1)
        ->multi_option_policy(CLI::MultiOptionPolicy::TakeAll);
    c->add_flag("--no-views", call->no_views, "No drift");
    c->add_flag("--other-way", call->turn_round, "Drift the other way");
    c->add_option("--ease", call->ease, "How the drift begins and ends")
        ->transform(CLI::CheckedTransformer(std::map<std::string, Ease>{
            {"none", Ease::none}, {"in", Ease::in}, {"out", Ease::out}, {"both", Ease::both}}));
    c->add_option("--ease-strength", call->ease_strength, "Percent")->check(CLI::Range(0.0, 100.0));
    c->add_option("--miniature", call->miniature, "X,Y,WIDTH[,ANGLE] of the sharp band, shares of the frame; none");
    c->add_option("--bars", call->bars, "Bars over the picture that leave this shape, 2.39; none");
    c->add_option("--bars-ease", call->bars_easing, "They come in, and go, in this time: 1s, 12f");
    c->add_option("--grain", call->grain, "Percent of film grain")->check(CLI::Range(0.0, 100.0));
    add_switch(*c, "grain-held", call->grain_held,
               "The grain stays with the photo, instead of being new on every frame");
    c->add_option("--fade-in", call->fade_in, "1s, 12f");
    c->add_option("--fade-out", call->fade_out, "1s, 12f");
    c->add_option("--fade-colour", call->fade_colour, "#RRGGBB");
    c->add_option("--copy-to", call->copy_to, "Other shots that are to be dressed alike");
    c->add_flag("--off", call->off, "As shot");
    c->callback([call, &run] { run = [call](const Context& context) { return dress_shot(*call, context); }; });
}

}
