#include "core/steps/pace/pace_command.h"

#include "core/base/text.h"
#include "core/command/options.h"
#include "core/project/edits.h"
#include "core/project/project_file.h"
#include "core/steps/pace/flow_edits.h"
#include "core/steps/pace/in_between_check.h"
#include "core/steps/pace/loop_finder.h"
#include "core/steps/pace/pace_edits.h"

#include <CLI/CLI.hpp>

#include <algorithm>
#include <cmath>
#include <iomanip>
#include <iostream>
#include <sstream>

namespace frenlo::command {

namespace {

struct PaceCall
{
    std::string project, shot, hold, photos, rate, paced_at, range, last, at_least, turning, first_hold, last_hold;
    std::vector<std::string> between_at;
    std::optional<Between> between;
    std::optional<int> times, keep_every;
    std::optional<bool> backwards, there_and_back;
    std::optional<int> joint;
    std::optional<double> shutter;
    std::vector<std::string> turned, unturned;
};

/// "A-B" or "A", numbers from 1, both ends included.
std::vector<PhotoIndex> photos_option(const std::string& text, const Shot& shot)
{
    const auto count = static_cast<std::int64_t>(shot.photos.size());
    const auto span =
        text.empty() ? std::pair(std::int64_t(1), count) : span_option(text, count, "photos of this shot");
    std::vector<PhotoIndex> photos;
    for (std::int64_t n = span.first; n <= span.second; ++n)
        photos.emplace_back(n - 1);
    return photos;
}

/// "A-B": photos A to B; "A+4s", "A+96f": so long from photo A on; "all" takes the range away.
std::optional<KeptRange> range_option(const std::string& text, const Shot& shot, Rate rate)
{
    if (text == "all")
        return std::nullopt;
    if (const auto plus = text.find('+'); plus != std::string::npos)
        return KeptRange{photos_option(text.substr(0, plus), shot).front(), length_option(text.substr(plus + 1), rate)};
    const auto photos = photos_option(text, shot);
    return KeptRange{photos.front(), photos.back() + 1};
}

Return return_option(const std::string& text)
{
    if (text == "twice")
        return Return::twice;
    return text == "to-first" ? Return::to_first : Return::once;
}

/// In the order in which a film is thought: rates, holds, range, order, repeats, length.
Project paced(Project project, ShotIndex shot, const PaceCall& call)
{
    if (!call.photos.empty() && call.hold.empty() && call.last.empty())
        throw WrongCall("--photos needs --hold or --last");
    const auto photos = [&] { return photos_option(call.photos, project.shot(shot)); };
    const auto end_hold = [](const std::string& text) {
        return text == "off" ? std::nullopt : std::optional(hold_option(text));
    };
    if (!call.rate.empty())
        project = set_delivered_at(project, rate_option(call.rate));
    if (!call.paced_at.empty())
        project = set_paced_at(project, shot,
                               call.paced_at == "delivered" ? std::nullopt : std::optional(rate_option(call.paced_at)));
    if (call.between)
        project = set_between(project, shot, *call.between);
    for (const std::string& text : call.between_at) {
        const auto colon = text.find(':');
        const auto way = colon == std::string::npos ? std::nullopt : from_word<Between>(text.substr(colon + 1));
        if (!way && text.substr(std::min(colon, text.size())) != ":shot")
            throw WrongCall("--between-at takes photos and a way, as 4-6:mix; or 4-6:shot, not \"" + text + '"');
        project = set_to_next(project, shot, photos_option(text.substr(0, colon), project.shot(shot)), way);
    }
    if (!call.hold.empty())
        project = set_hold(project, shot, photos(), hold_option(call.hold));
    if (call.keep_every)
        project = set_keep_every(project, shot, *call.keep_every);
    if (!call.range.empty())
        project = set_kept(project, shot, range_option(call.range, project.shot(shot), project.delivered_at));
    if (call.backwards)
        project = set_backwards(project, shot, *call.backwards);
    for (const bool backwards : {false, true})
        for (const std::string& text : backwards ? call.turned : call.unturned)
            project = set_part_backwards(project, shot, photos_option(text, project.shot(shot)), backwards);
    if (call.shutter)
        project = set_shutter(project, shot, *call.shutter);
    if (call.there_and_back)
        project = set_there_and_back(project, shot, *call.there_and_back ? return_option(call.turning) : Return::none);
    if (call.joint)
        project = set_joint(project, shot, *call.joint);
    if (call.times || !call.at_least.empty())
        project = set_times(project, shot, call.times.value_or(1),
                            call.at_least.empty() ? std::nullopt
                                                  : std::optional(length_option(call.at_least, project.delivered_at)));
    if (!call.last.empty()) {
        // Without --photos, those in the kept range: what is left out of the film has no part in its length.
        std::vector<PhotoIndex> chosen = photos();
        if (call.photos.empty()) {
            const auto [begin, end] = kept_photos(project, project.shot(shot));
            std::erase_if(chosen, [&, b = begin, e = end](PhotoIndex p) { return p < b || p >= e; });
        }
        project = spread_over(project, shot, chosen, length_option(call.last, project.delivered_at));
    }
    if (!call.first_hold.empty())
        project = set_first_hold(project, shot, end_hold(call.first_hold));
    if (!call.last_hold.empty())
        project = set_last_hold(project, shot, end_hold(call.last_hold));
    return project;
}

struct SpeedCall
{
    std::string project, shot, points;
    Ease ease = Ease::both;
    std::optional<bool> keep_length;
    bool off = false;
};

[[noreturn]] void no_point(const std::string& text)
{
    std::string said = "--points takes PHOTO:PERCENT, photos from 1, percent from 1 to 10000, apart by commas, not \"";
    said.append(text).append("\"");
    throw WrongCall(said);
}

SpeedCourse course_of(const SpeedCall& call, const Shot& shot)
{
    SpeedCourse course = call.off ? SpeedCourse() : speed_course_of(shot);
    if (!call.points.empty())
        course.points.clear();
    std::istringstream all(call.points);
    for (std::string text; std::getline(all, text, ',');) {
        const auto colon = text.find(':');
        if (colon == std::string::npos)
            no_point(text);
        const auto photo = photos_option(text.substr(0, colon), shot);
        const auto percent = numbers_option(text.substr(colon + 1), "a speed is a number of percent");
        if (photo.size() != 1 || percent.size() != 1 || !(percent[0] >= speed_limits.low) ||
            !(percent[0] <= speed_limits.high))
            no_point(text);
        course.points.push_back({shot.photos[photo.front().at()].id, percent[0], call.ease});
    }
    if (call.keep_length)
        course.keep_length = *call.keep_length;
    return course;
}

/// What a shot's timing is by now.
int print_paced(LoadedProject loaded, const std::string& name, const Context& context)
{
    const Project& project = loaded.project;
    const ShotIndex shot = named_shot(project, name);
    if (const double missing = missing_at_end(project, project.shot(shot)); missing > 0) {
        std::ostringstream text;
        text << "the kept range is " << std::fixed << std::setprecision(2) << missing
             << " s longer than the photos that are left from its begin on";
        loaded.problems.push_back({text.str(), {}, "Let it begin earlier or make it shorter"});
    }
    const Schedule schedule = schedule_of(project, project.shot(shot));
    for (const PhotoIndex p : schedule.between_frames())
        loaded.problems.push_back({"the photo falls between two frames and will not be seen",
                                   project.shot(shot).photos[p.at()].photo->file, "Hold it longer or raise the rate"});
    if (context.json) {
        Json frames = Json::array();
        for (const PhotoIndex p : schedule.photo_of_each_frame())
            frames.push_back(p.value + 1); // photo numbers start at 1
        print_json({{"frames", frames},
                    {"rate", schedule.rate().value().text()},
                    {"seconds", schedule.length().value.text()},
                    {"problems", problems_json(loaded.problems)}});
    } else {
        print_project(project, loaded.problems);
    }
    return loaded.problems.empty() ? done : done_with_problems;
}

int pace_shot(const PaceCall& call, const Context& context)
{
    return print_paced(
        change_project(call.project, [&](const Project& p) { return paced(p, named_shot(p, call.shot), call); }),
        call.shot, context);
}

int set_speed(const SpeedCall& call, const Context& context)
{
    return print_paced(change_project(call.project,
                                      [&](const Project& p) {
                                          const ShotIndex shot = named_shot(p, call.shot);
                                          return set_speed_course(p, shot, course_of(call, p.shot(shot)));
                                      }),
                       call.shot, context);
}

int list_in_betweens(const std::string& file, const std::string& name, const Context& context)
{
    const LoadedProject loaded = load_project(file);
    const Shot& shot = loaded.project.shot(named_shot(loaded.project, name));
    std::int64_t made = 0;
    for (const Moment& m : schedule_of(loaded.project, shot).moments())
        made += m.shares.size() > 1 ? m.end - m.begin : 0;
    const auto doubtful = doubtful_in_betweens(loaded.project, shot, Originals(), context.job());
    if (context.json) {
        Json list = Json::array();
        for (const DoubtfulInBetween& d : doubtful)
            list.push_back({{"from", d.photo.value + 1}, {"to", d.next.value + 1}, {"mixed", d.mixed}});
        print_json({{"made", made}, {"doubtful", list}, {"problems", problems_json(loaded.problems)}});
    } else {
        std::cout << counted(made, "frame lies", "frames lie") << " between photos\n";
        for (const DoubtfulInBetween& d : doubtful)
            std::cout << "photo " << d.photo.value + 1 << " to " << d.next.value + 1 << ": "
                      << std::lround(100 * d.mixed) << " % of what differs is only mixed\n";
        print_problems(loaded.problems);
    }
    return loaded.problems.empty() && doubtful.empty() ? done : done_with_problems;
}

struct LoopsCall
{
    std::string project, shot, at_least;
};

int list_loops(const LoopsCall& call, const Context& context)
{
    const LoadedProject loaded = load_project(call.project);
    const Project& project = loaded.project;
    const Shot& shot = project.shot(named_shot(project, call.shot));
    const Seconds least =
        call.at_least.empty() ? Seconds{Fraction(1, 2)} : length_option(call.at_least, project.delivered_at);
    const auto loops = find_loops(project, shot, least, Originals(), context.job());
    if (context.json) {
        Json list = Json::array();
        for (const LoopFound& l : loops)
            list.push_back({{"from", l.first.value + 1}, {"to", l.last.value + 1}, {"score", l.seen}});
        print_json({{"loops", list}, {"problems", problems_json(loaded.problems)}});
    } else {
        for (const LoopFound& l : loops)
            std::cout << "photos " << l.first.value + 1 << " to " << l.last.value + 1 << ": the joint is seen "
                      << l.seen << " times as much as a step from photo to photo\n";
        if (loops.empty())
            std::cout << "no range is long enough\n";
        print_problems(loaded.problems);
    }
    return loaded.problems.empty() ? done : done_with_problems;
}

}

void add_pace_commands(CLI::App& app, Run& run)
{
    auto call = std::make_shared<PaceCall>();
    CLI::App* pace = app.add_subcommand("pace", "Change the timing of a shot; prints its schedule");
    pace->add_option("project", call->project, "The project")->required();
    pace->add_option("--shot", call->shot, "The shot's name")->required();
    pace->add_option("--hold", call->hold, "How long each photo stays: 2f, 0.15s, 1/6s");
    pace->add_option("--photos", call->photos, "With --hold or --last: only these, as A-B; numbers start at 1");
    pace->add_option("--rate", call->rate,
                     "Deliver the project at this rate; shots paced as delivered keep the frames of each photo");
    pace->add_option(
        "--paced-at", call->paced_at,
        "The rate the shot's holds are counted in, so that it keeps its clock time; \"delivered\" for none");
    pace->add_option("--between", call->between,
                     "What a frame shows that begins in one photo and ends in another: one of them (repeat), or all by "
                     "their share of the time (mix), or an in-between of the two (motion)")
        ->transform(CLI::CheckedTransformer(words<Between>()));
    pace->add_option("--between-at", call->between_at,
                     "The same after these photos only, as 4-6:mix; 4-6:shot is as the shot does");
    pace->add_option(
        "--range", call->range,
        "The part that is exported: photos A-B, or A+4s and A+96f for so long from photo A on; \"all\" for "
        "the whole shot");
    pace->add_option("--keep-every", call->keep_every,
                     "Of the photos in the film, the first of each so many; 1 for all")
        ->check(CLI::Range(1, 1'000'000));
    pace->add_option(
            "--joint", call->joint,
            "So many of the last frames become what lies before the kept range, so that it goes round without a "
            "seam; 0: none")
        ->check(CLI::Range(0, most_joint));
    pace->add_option(
            "--shutter", call->shutter,
            "Each picture is blurred by its movement to the next, as if the shutter were open so long: degrees "
            "of the way there, 180 is a half; 0: none")
        ->check(CLI::Range(0.0, full_turn));
    pace->add_option("--part-backwards", call->turned, "These photos are played backwards, A-B, the others as before");
    pace->add_option("--part-forwards", call->unturned, "And these no longer");
    add_switch(*pace, "reverse", call->backwards, "Play the photos backwards");
    CLI::Option* back = add_switch(*pace, "there-and-back", call->there_and_back, "And back again");
    pace->add_option(
            "--turning", call->turning,
            "On the way back: the turning photos once (A B C B, as without this), to-first (A B C B A) or twice "
            "(A B C C B A)")
        ->check(CLI::IsMember({"once", "to-first", "twice"}))
        ->needs(back);
    pace->add_option("--repeat", call->times, "Go through the photos so many times")->check(CLI::Range(1, most_times));
    pace->add_option("--at-least", call->at_least, "Go through them as often as it takes to last this long: 4s, 96f");
    pace->add_option(
        "--last", call->last,
        "The photos (those of --photos, else those in the range) last this long in one pass: whole frames, "
        "the remainder spread evenly");
    pace->add_option("--first-hold", call->first_hold, "The film's first photo stays this long, once; off");
    pace->add_option("--last-hold", call->last_hold, "The film's last photo stays this long, once; off");
    pace->callback([call, &run] { run = [call](const Context& c) { return pace_shot(*call, c); }; });
    auto going = std::make_shared<SpeedCall>();
    CLI::App* speed = app.add_subcommand("speed", "How fast a shot goes, over its photos; prints its schedule");
    speed->add_option("project", going->project, "The project")->required();
    speed->add_option("--shot", going->shot, "The shot's name");
    speed->add_option("--points", going->points,
                      "PHOTO:PERCENT,…: the speed at these photos; 50 is held twice as long");
    speed->add_option("--ease", going->ease, "How it goes from point to point")
        ->transform(CLI::CheckedTransformer(words<Ease>()));
    add_switch(*speed, "keep-length", going->keep_length, "As long as without the course");
    speed->add_flag("--off", going->off, "Takes the course away");
    speed->callback([going, &run] { run = [going](const Context& c) { return set_speed(*going, c); }; });
    auto looking = std::make_shared<LoopsCall>();
    CLI::App* between = app.add_subcommand("in-betweens", "Between which photos movement could not be followed");
    between->add_option("project", looking->project, "The project")->required();
    between->add_option("--shot", looking->shot, "The shot's name");
    between->callback([looking, &run] {
        run = [looking](const Context& c) { return list_in_betweens(looking->project, looking->shot, c); };
    });
    add_timing_command(app, run);
    auto finding = std::make_shared<LoopsCall>();
    CLI::App* loops = app.add_subcommand("loops", "Where a loop of a shot would show least");
    loops->add_option("project", finding->project, "The project")->required();
    loops->add_option("--shot", finding->shot, "The shot's name");
    loops->add_option("--at-least", finding->at_least, "How long it is at least: 2s, 48f; half a second without this");
    loops->callback([finding, &run] { run = [finding](const Context& c) { return list_loops(*finding, c); }; });
}

}
