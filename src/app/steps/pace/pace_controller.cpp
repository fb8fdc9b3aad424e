#include "app/steps/pace/pace_controller.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace frenlo::app {

PaceController::PaceController(Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing)
{
}

void PaceController::apply(const std::function<Project(const Project&, ShotIndex)>& edit, const QString& name,
                           std::uint64_t gesture)
{
    if (viewing_.edited_shot()) // those of the Reel are of many shots
        session_.apply([&](const Project& p) { return edit(p, viewing_.shot_index()); }, name, gesture);
}

PhotoIndex PaceController::here() const
{
    const Schedule& schedule = viewing_.schedule();
    return schedule.frames() > 0 ? schedule.photo_at(viewing_.playhead()) : PhotoIndex(-1);
}

void PaceController::set_hold(Hold hold)
{
    const auto photos = viewing_.chosen_or_all();
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_hold(p, s, photos, hold); }, tr("Set hold"));
}

void PaceController::lengthen(std::int64_t frames)
{
    const auto photos = viewing_.chosen_or_all();
    apply([&](const Project& p, ShotIndex s) { return frenlo::lengthen(p, s, photos, frames); },
          frames > 0 ? tr("Hold longer") : tr("Hold shorter"));
}

bool PaceController::length_is_of_range() const
{
    const Shot* shot = viewing_.shot();
    return shot && viewing_.selection().empty() && shot->pacing.kept &&
           !std::holds_alternative<Seconds>(shot->pacing.kept->extent);
}

std::vector<PhotoIndex> PaceController::photos_of_length() const
{
    if (!length_is_of_range())
        return viewing_.chosen_or_all();
    std::set<PhotoIndex> kept;
    for (const FrameSpan& span : viewing_.timeline().film.spans())
        kept.insert(span.photo);
    return {kept.begin(), kept.end()};
}

void PaceController::spread(Seconds length)
{
    const auto photos = photos_of_length();
    apply([&](const Project& p, ShotIndex s) { return spread_over(p, s, photos, length); }, tr("Spread over a length"));
}

void PaceController::fit(Seconds length)
{
    const auto photos = photos_of_length();
    apply([&](const Project& p, ShotIndex s) { return fit_to(p, s, photos, length); }, tr("Fit to a length"));
}

void PaceController::speed(Fraction speed)
{
    const auto photos = viewing_.chosen_or_all();
    apply([&](const Project& p, ShotIndex s) { return change_speed(p, s, photos, speed); }, tr("Change the speed"));
}

std::optional<Seconds> PaceController::length_of_chosen() const
{
    if (!viewing_.shot())
        return std::nullopt;
    try {
        return length_of_photos(session_.project(), *viewing_.shot(), photos_of_length());
    } catch (const Failure&) { // holds whose sum is no fraction of 64 bits: nothing that could be shown
        return std::nullopt;
    }
}

void PaceController::pull_hold(const std::vector<PhotoIndex>& photos, std::int64_t frames, std::uint64_t gesture)
{
    apply(
        [&](const Project& project, ShotIndex s) {
            const Shot& shot = project.shot(s);
            Hold hold = hold_of_frames(frames, project, shot);
            if (shot.steps.has<SpeedCourse>()) { // what is seen is its hold at its speed
                const double percent = speeds_of(shot).at(photos.front().at());
                hold = Seconds{length_of(frames, project.delivered_at).value *
                               Fraction(std::llround(percent * 100), 10'000)};
            }
            return frenlo::set_hold(project, s, photos, hold);
        },
        tr("Set hold"), gesture);
}

void PaceController::set_first_hold(std::optional<Hold> hold, std::uint64_t gesture)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_first_hold(p, s, hold); }, tr("Hold the first photo"),
          gesture);
}

void PaceController::set_last_hold(std::optional<Hold> hold, std::uint64_t gesture)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_last_hold(p, s, hold); }, tr("Hold the last photo"),
          gesture);
}

void PaceController::deliver_at(Rate rate, RateIntent intent)
{
    session_.apply([&](const Project& p) { return frenlo::deliver_at(p, rate, intent); }, tr("Set the delivery rate"));
}

void PaceController::set_paced_at(std::optional<Rate> rate)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_paced_at(p, s, rate); }, tr("Set the pacing rate"));
}

void PaceController::set_between(Between between)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_between(p, s, between); },
          between == Between::mix      ? tr("Mix between photos")
          : between == Between::motion ? tr("Make in-betweens")
                                       : tr("Repeat between photos"));
}

void PaceController::set_to_next(const std::vector<PhotoIndex>& photos, std::optional<Between> between)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_to_next(p, s, photos, between); },
          tr("Set what lies behind a photo"));
}

void PaceController::set_part_backwards(const std::vector<PhotoIndex>& photos, bool backwards)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_part_backwards(p, s, photos, backwards); },
          backwards ? tr("Play a part backwards") : tr("Play a part forwards"));
}

void PaceController::set_shutter(double degrees, std::uint64_t gesture)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_shutter(p, s, degrees); }, tr("Blur what moves"),
          gesture);
}

void PaceController::make_longer(int times)
{
    apply(
        [&](const Project& p, ShotIndex s) {
            std::vector<PhotoIndex> all;
            for (std::size_t i = 0; i < p.shot(s).photos.size(); ++i)
                all.emplace_back(std::int64_t(i));
            return frenlo::set_between(change_speed(p, s, all, Fraction(1, times)), s, Between::motion);
        },
        tr("Make it %1 times longer").arg(times));
}

void PaceController::hold_as_taken()
{
    const auto photos = viewing_.chosen_or_all();
    apply([&](const Project& p, ShotIndex s) { return frenlo::hold_as_taken(p, s, photos); },
          tr("Hold as they were taken"));
}

void PaceController::hold_as_tapped(PhotoIndex first, const std::vector<double>& taps)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::hold_as_tapped(p, s, first, taps); },
          tr("Hold as tapped"));
}

void PaceController::vary_holds(std::int64_t frames, std::uint32_t seed)
{
    const auto photos = viewing_.chosen_or_all();
    apply([&](const Project& p, ShotIndex s) { return frenlo::vary_holds(p, s, photos, frames, seed); },
          tr("Vary the holds"));
}

void PaceController::set_speed_at(PhotoIndex photo, double percent, std::uint64_t gesture)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_speed_at(p, s, photo, percent); },
          tr("Set the speed"), gesture);
}

void PaceController::move_speed_point(PhotoId point, PhotoIndex to, double percent, std::uint64_t gesture)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::move_speed_point(p, s, point, to, percent); },
          tr("Set the speed"), gesture);
}

void PaceController::remove_speed_point(PhotoId point)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::remove_speed_point(p, s, point); },
          tr("Take a speed away"));
}

void PaceController::change_speed_course(const std::function<void(SpeedCourse&)>& how, const QString& name,
                                         std::uint64_t gesture)
{
    apply(
        [&](const Project& p, ShotIndex s) {
            SpeedCourse course = speed_course_of(p.shot(s));
            how(course);
            return set_speed_course(p, s, std::move(course));
        },
        name, gesture);
}

void PaceController::keep_from_here()
{
    if (here().value >= 0)
        keep_from(here());
}

void PaceController::keep_to_here()
{
    if (here().value >= 0)
        keep_to(here());
}

void PaceController::keep_from(PhotoIndex photo, std::uint64_t gesture)
{
    // What plays first is kept first: backwards, that is the end of the photos.
    const bool backwards = viewing_.shot() && viewing_.shot()->pacing.backwards;
    apply([&](const Project& p,
              ShotIndex s) { return backwards ? frenlo::keep_to(p, s, photo) : frenlo::keep_from(p, s, photo); },
          tr("Set the kept range"), gesture);
}

void PaceController::keep_to(PhotoIndex photo, std::uint64_t gesture)
{
    const bool backwards = viewing_.shot() && viewing_.shot()->pacing.backwards;
    apply([&](const Project& p,
              ShotIndex s) { return backwards ? frenlo::keep_from(p, s, photo) : frenlo::keep_to(p, s, photo); },
          tr("Set the kept range"), gesture);
}

void PaceController::fix_length(std::optional<std::variant<PhotoCount, Seconds>> extent)
{
    apply([&](const Project& p, ShotIndex s) { return fix_kept(p, s, extent); },
          extent ? tr("Fix the length of the range") : tr("Free the length of the range"));
}

void PaceController::slide(std::int64_t photos, std::uint64_t gesture)
{
    apply([&](const Project& p, ShotIndex s) { return slide_kept(p, s, photos); }, tr("Slide the kept range"), gesture);
}

void PaceController::keep_all()
{
    apply([](const Project& p, ShotIndex s) { return set_kept(p, s, std::nullopt); }, tr("Keep the whole shot"));
}

void PaceController::keep_as_version()
{
    const ShotIndex made = place_of_version(session_.project(), viewing_.shot_index());
    apply([](const Project& p, ShotIndex s) { return frenlo::keep_as_version(p, s); }, tr("Keep as a version"));
    viewing_.set_shot(made);
}

void PaceController::set_keep_every(int every)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_keep_every(p, s, every); },
          tr("Keep every Nth photo"));
}

void PaceController::set_backwards(bool backwards)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_backwards(p, s, backwards); }, tr("Play backwards"));
}

void PaceController::set_joint(int frames)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_joint(p, s, frames); }, tr("Mix over the joint"));
}

void PaceController::set_there_and_back(Return back)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_there_and_back(p, s, back); }, tr("There and back"));
}

void PaceController::set_times(int times, std::optional<Seconds> at_least)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_times(p, s, times, at_least); }, tr("Repeat"));
}

void PaceController::mark_here()
{
    const PhotoIndex photo = here();
    if (photo.value >= 0)
        apply([&](const Project& p, ShotIndex s) { return toggle_mark(p, s, photo); }, tr("Mark"));
}

void PaceController::set_aside_at_marks(int photos)
{
    apply([&](const Project& p, ShotIndex s) { return frenlo::set_aside_at_marks(p, s, photos); },
          tr("Set photos aside at the marks"));
}

void PaceController::clear_marks()
{
    apply([](const Project& p, ShotIndex s) { return frenlo::clear_marks(p, s); }, tr("Take the marks away"));
}

}
