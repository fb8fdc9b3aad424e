#include "core/steps/tone/tone_command.h"

#include "core/command/change_measured.h"
#include "core/command/parts.h"
#include "core/project/project_file.h"
#include "core/source/photo_source.h"
#include "core/steps/tone/operations.h"
#include "core/steps/tone/part_tones.h"
#include "core/steps/tone/tone_blend.h"
#include "core/steps/tone/tone_edits.h"

#include <CLI/CLI.hpp>

#include <array>
#include <iostream>

namespace frenlo::command {

namespace {

/// A value of tone as it is said in a call, and in JSON under the name of its field.
struct ToneOption
{
    const char* option;
    ToneValue value;
    const char* help;
};
constexpr std::array<ToneOption, 9> values{{
    {"--exposure", &Tone::exposure, "Stops"},
    {"--contrast", &Tone::contrast, "Percent: the slope at middle grey is 2 to the power of it"},
    {"--toe", &Tone::toe, "Stops by which the lower end is raised"},
    {"--shoulder", &Tone::shoulder, "Stops by which the upper end is raised"},
    {"--warmth", &Tone::warmth, "Kelvin of the light that is to look white; 6504 is as it is, more is warmer"},
    {"--green-magenta", &Tone::green_magenta, "Percent: greener below 0"},
    {"--colour", &Tone::colour, "Percent of chroma more"},
    {"--local-contrast", &Tone::local_contrast, "Percent"},
    {"--corners", &Tone::corners, "Stops by which the corners are lifted"},
}};

struct ToneCall
{
    std::string project, shot, grey, area, state;
    std::optional<std::int64_t> photo;
    std::array<std::optional<double>, values.size()> said;
    std::optional<ToneBlend> blend;
    bool suggest = false, off = false;

    void change(Tone& tone) const
    {
        for (std::size_t i = 0; i < values.size(); ++i)
            if (said[i])
                tone.*(values[i].value) = *said[i];
    }
    [[nodiscard]] bool says_something() const
    {
        return !grey.empty() || std::any_of(said.begin(), said.end(), [](const auto& v) { return v.has_value(); });
    }
};

const char* told(AnchorSuggestion::Why why)
{
    switch (why) {
    case AnchorSuggestion::Why::first:
        return "first";
    case AnchorSuggestion::Why::last:
        return "last";
    case AnchorSuggestion::Why::darkest:
        return "darkest";
    case AnchorSuggestion::Why::brightest:
        return "brightest";
    }
    return "";
}

Json tone_json(const Shot& shot, const std::vector<Problem>& problems, const std::optional<ToneFigures>& figures)
{
    Json j;
    j["photos"] = Json::array();
    const std::vector<Tone> tones = tones_of(shot);
    const auto shown = in_film(shot);
    for (std::size_t i = 0; i < tones.size(); ++i) {
        if (!shown[i])
            continue;
        Json photo{{"file", json_path(shot.photos[i].photo->file)}, {"anchor", anchor_of(shot.photos[i]) != nullptr}};
        Fields<Tone>::table.apply([&](const auto&... f) { ((photo[f.name] = tones[i].*(f.member)), ...); });
        if (const auto* light = shot.photos[i].steps.find<ToneLight>())
            photo["stops"] = light->stops;
        j["photos"].push_back(std::move(photo));
    }
    j["blend"] = Words<ToneBlend>::words[std::size_t(shot.steps.get<Toning>().blend)];
    if (figures) {
        j["flicker"] = figures->flicker;
        j["toned_flicker"] = figures->toned;
        j["suggested"] = Json::array();
        for (const AnchorSuggestion& s : suggested_anchors(shot))
            j["suggested"].push_back({{"photo", s.photo.value + 1}, {"why", told(s.why)}});
    }
    j["parts"] = Json::array();
    for (const PartTone& part : shot.steps.get<Toning>().parts) {
        Json one;
        Fields<Tone>::table.apply([&](const auto&... f) { ((one[f.name] = part.tone.*(f.member)), ...); });
        const Area* area = part.where.area ? find_area(shot, *part.where.area) : nullptr;
        const State* state = part.where.state ? find_state(shot, *part.where.state) : nullptr;
        one["area"] = area ? Json(area->name) : Json();
        one["state"] = state ? Json(state->name) : Json();
        j["parts"].push_back(std::move(one));
    }
    j["problems"] = problems_json(problems);
    return j;
}

PhotoIndex numbered_photo(const Shot& shot, std::int64_t number)
{
    if (number < 1 || std::size_t(number) > shot.photos.size())
        throw WrongCall("the shot has photos 1 to " + std::to_string(shot.photos.size()) + ", not " +
                        std::to_string(number));
    return PhotoIndex(number - 1);
}

/// "X,Y" in pixels of the photo as seen.
cv::Point place_option(const std::string& text)
{
    int x = 0, y = 0;
    char comma = 0, rest = 0;
    std::istringstream in(text);
    if (!(in >> x >> comma >> y) || comma != ',' || in >> rest)
        throw WrongCall("--grey takes a place in the photo, X,Y in pixels, not \"" + text + '"');
    return {x, y};
}

/// The first photo in the film that is an anchor; the first one where there is none.
PhotoIndex photo_to_look_at(const Shot& shot, const ToneCall& call)
{
    if (call.photo)
        return numbered_photo(shot, *call.photo);
    if (const auto anchors = anchors_of(shot); !anchors.empty())
        return anchors.front();
    const auto shown = in_film(shot);
    const auto first = std::find(shown.begin(), shown.end(), true);
    return PhotoIndex(first == shown.end() ? 0 : first - shown.begin());
}

Project toned(const Project& project, ShotIndex index, const ToneCall& call, const std::optional<WhitePoint>& white)
{
    Project p = call.blend ? set_tone_blend(project, index, *call.blend) : project;
    if (!call.says_something())
        return p;
    const auto change = [&](Tone& tone) {
        if (white) {
            tone.warmth = white->kelvin;
            tone.green_magenta = white->green_magenta;
        }
        call.change(tone);
    };
    const ToneWhere where{named_area(p.shot(index), call.area), named_state(p.shot(index), call.state)};
    if (!where.everywhere()) {
        Tone tone = part_tone(p.shot(index), where);
        change(tone);
        return set_part_tone(p, index, where, tone);
    }
    if (!call.photo)
        return change_tone(p, index, change);
    const PhotoIndex photo = numbered_photo(p.shot(index), *call.photo);
    Tone tone = tone_of(p.shot(index), photo);
    change(tone);
    return set_anchor(p, index, photo, tone);
}

bool follows_light(const Shot& shot)
{
    return toning_of(shot) && toning_of(shot)->blend == ToneBlend::light && anchors_of(shot).size() > 1;
}

int tone_shot(const ToneCall& call, const Context& context)
{
    const Project as_it_was = load_project(call.project).project;
    const ShotIndex place = named_shot(as_it_was, call.shot);
    const Shot& before = as_it_was.shot(place);
    if (before.photos.empty())
        throw Failure({"there are no photos in this shot", {}, "Bring photos into the shot"});
    std::optional<WhitePoint> white;
    if (!call.grey.empty())
        white = white_at(before, photo_to_look_at(before, call), place_option(call.grey), Originals());
    LoadedProject loaded = change_project(call.project, [&](const Project& now) {
        const ShotIndex index = same_shot(now, before);
        const ToneWhere where{named_area(now.shot(index), call.area), named_state(now.shot(index), call.state)};
        return !call.off            ? toned(now, index, call, white)
               : where.everywhere() ? drop_tone(now, index)
                                    : set_part_tone(now, index, where, Tone());
    });
    const auto shot = [&]() -> const Shot& { return loaded.project.shot(same_shot(loaded.project, before)); };
    std::optional<ToneFigures> figures;
    if (call.suggest || (follows_light(shot()) && tone_light_missing(shot()) > 0)) {
        const Edit edit =
            measure_tone_light(loaded.project, same_shot(loaded.project, before))(MeasuredFrom(), context.job());
        loaded = change_measured(call.project, shot(), [&](const Project& now, ShotIndex) { return edit(now); });
    }
    if (call.suggest)
        figures = tone_figures(shot(), Originals(), context.job());
    if (context.json) {
        print_json(tone_json(shot(), loaded.problems, figures));
        return loaded.problems.empty() ? done : done_with_problems;
    }
    const auto anchors = anchors_of(shot());
    std::cout << shot().name << ": "
              << (!is_toned(shot())    ? "as shot"
                  : anchors.size() < 2 ? "one tone for all photos"
                                       : std::to_string(anchors.size()) + " anchor photos")
              << '\n';
    if (figures)
        std::cout << "flicker " << figures->flicker << " stop, toned " << figures->toned << '\n';
    if (figures)
        for (const AnchorSuggestion& s : suggested_anchors(shot()))
            std::cout << "photo " << s.photo.value + 1 << ": the " << told(s.why) << " one\n";
    print_problems(loaded.problems);
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_tone_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<ToneCall>();
    CLI::App* tone =
        app.add_subcommand("tone", "Set the tone of a shot, or of an anchor photo; prints the tone of each photo");
    tone->add_option("project", call->project, "The project")->required();
    tone->add_option("--shot", call->shot, "The shot's name")->required();
    tone->add_option("--photo", call->photo,
                     "This photo becomes an anchor; between anchors tone is blended. Without it: the whole shot, all "
                     "of its anchors");
    for (std::size_t i = 0; i < values.size(); ++i) {
        Limits limits;
        Fields<Tone>::table.apply(
            [&](const auto&... f) { ((f.member == values[i].value ? void(limits = f.range) : void()), ...); });
        tone->add_option(values[i].option, call->said[i], values[i].help)->check(CLI::Range(limits.low, limits.high));
    }
    tone->add_option("--grey", call->grey,
                     "What is to be grey: a place in the photo, X,Y in pixels; sets warmth and "
                     "green to magenta");
    const std::map<std::string, ToneBlend> blends{{"time", ToneBlend::time}, {"light", ToneBlend::light}};
    tone->add_option("--blend", call->blend, "What tone follows from one anchor photo to the next: time, or light")
        ->transform(CLI::CheckedTransformer(blends));
    tone->add_flag("--suggest", call->suggest,
                   "Measure how bright the photos are and how much they flicker, and say which are worth being "
                   "anchors");
    tone->add_option("--area", call->area, "On top of it, in the area of this name (areas)");
    tone->add_option("--in-state", call->state, "On top of it, in the state of this name (areas)");
    tone->add_flag("--off", call->off, "As shot again");
    tone->callback([call, &run] { run = [call](const Context& c) { return tone_shot(*call, c); }; });
}

}
