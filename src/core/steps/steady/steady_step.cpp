#include "core/steps/steady/film_crop.h"
#include "core/steps/steady/steady_codecs.h"
#include "core/steps/steady/steady_command.h"
#include "core/steps/step.h"

namespace frenlo {

namespace {

/// For each photo the one before it that was measured.
std::vector<std::optional<std::size_t>> measured_before(const Shot& shot)
{
    std::vector<std::optional<std::size_t>> before(shot.photos.size());
    std::optional<std::size_t> last;
    for (std::size_t i = 0; i < shot.photos.size(); ++i) {
        before[i] = last;
        if (alignment_of(shot.photos[i]))
            last = i;
    }
    return before;
}

/// A photo whose lens was set otherwise after it was measured is to be looked at.
void doubt_other_lenses(const ShotEdit& edit)
{
    Shot& now = edit.now;
    for (std::size_t i = 0; i < now.photos.size(); ++i) {
        const ShotPhoto* old = edit.photo_before(i);
        const Alignment* lies = alignment_of(now.photos[i]);
        if (!old || !lies || old->lens == now.photos[i].lens)
            continue;
        if (lies->lens != now.photos[i].lens && lies->doubt.empty())
            now.photos.edit(i).steps.edit<Alignment>().doubt = another_lens;
        else if (lies->lens == now.photos[i].lens && lies->doubt == another_lens)
            now.photos.edit(i).steps.edit<Alignment>().doubt.clear();
    }
}

/// How a photo lies holds for it as it was seen, among the photos that it was measured with: of one that is turned, of
/// another size or from another shot it is forgotten, and the way of a walk is broken where another photo comes before.
/// The film's crop is that of the photos there are.
void follow(const ShotEdit& edit)
{
    Shot& now = edit.now;
    const auto before = measured_before(edit.before);
    std::optional<std::size_t> last;
    for (std::size_t i = 0; i < now.photos.size(); ++i) {
        const Alignment* lies = alignment_of(now.photos[i]);
        if (!lies)
            continue;
        const ShotPhoto* old = edit.photo_before(i);
        if (old && !old->steps.shares<Alignment>(now.photos[i].steps)) { // measured by this very edit
            last = i;
            continue;
        }
        if (!edit.lies_as_before(i)) {
            if (old && old->photo->size != now.photos[i].photo->size)
                now.steps.drop<Steadying>(); // measured in other pixels
            now.photos.edit(i).steps.drop<Alignment>();
            continue;
        }
        if (lies->from_before && last && edit.was[*last] != before[*edit.was[i]])
            now.photos.edit(i).steps.edit<Alignment>().from_before.reset();
        last = i;
    }
    doubt_other_lenses(edit);
    if (steadying_of(now) && !same_crop(now, edit.before))
        fit_crop(now);
}

std::optional<cv::Size> film_size(const Shot& shot)
{
    const Steadying* steady = steadying_of(shot);
    return steady ? std::optional(steady->crop.size()) : std::nullopt;
}

std::optional<Placement> placement(const Shot& shot, const ShotPhoto& photo)
{
    const Steadying* steady = steadying_of(shot);
    const Alignment* lies = alignment_of(photo);
    if (!steady || !lies)
        return std::nullopt;
    return Placement{lies->from_film, steady->size, steady->crop, steady->edges};
}

}

const Step& steady_step()
{
    static const Step step{
        .name = "steady",
        .photo_values = {step_coding<OfPhoto, Alignment>("How it lies in the film's plane, where it was measured")},
        .shot_values = {step_coding<OfShot, SteadyRegion>("What Steady looks at, of each photo"),
                        step_coding<OfShot, Steadying>("How the shot is steadied; absent: as shot")},
        .follow = follow,
        .pictures = {.film_size = film_size, .placement = placement},
        .add_commands = command::add_steady_commands};
    return step;
}

}
