#include "app/steps/pace/thinning.h"

#include "core/steps/pace/flow_edits.h"

namespace frenlo::app {

Thinning::Thinning(Background& background, PreviewStore& store, Session& session, Viewing& viewing, QObject* parent)
    : QObject(parent), store_(store), session_(session), viewing_(viewing), task_(background, Rank::measure)
{
    connect(&task_, &Task::progress, this, [this](double fraction) {
        const int photos = int(photos_in_film(*looked_at_));
        Q_EMIT progress(int(fraction * photos), photos);
    });
    connect(&task_, &Task::changed, this, &Thinning::changed);
    connect(&task_, &Task::failed, this, &Thinning::failed);
    connect(&viewing, &Viewing::shot_changed, this, [this] {
        if (viewing_.shot() != looked_at_.get() && (looked_ || running())) {
            stop();
            looked_ = false;
            found_ = {};
            Q_EMIT changed();
        }
    });
}

void Thinning::look()
{
    if (running() || !viewing_.edited_shot())
        return;
    looked_ = false;
    found_ = {};
    looked_at_ = viewing_.edited_shot();
    task_.start(
        {looked_at_->id, "pace"},
        [shot = looked_at_, &store = store_](const Job& job) { return find_stumbles(*shot, Previews(store), job); },
        [this](Stumbles found) {
            if (viewing_.shot() != looked_at_.get())
                return;
            looked_ = true;
            found_ = std::move(found);
            at_ = found_.too_far.size(); // before the first
        });
}

void Thinning::select_found()
{
    Selection s;
    for (const PhotoIndex p : found_.still)
        s.contains(p) ? void() : s.toggle(p);
    viewing_.set_selection(s);
    if (!found_.still.empty())
        viewing_.go_to_photo(found_.still.front());
}

void Thinning::set_found_aside()
{
    const auto photos = found_.still;
    session_.apply([&](const Project& p) { return set_aside(p, viewing_.shot_index(), photos, true); },
                   tr("Set photos without movement aside"));
}

void Thinning::go_to_next_step()
{
    if (found_.too_far.empty() || !viewing_.shot())
        return;
    at_ = at_ + 1 < found_.too_far.size() ? at_ + 1 : 0;
    const PhotoIndex to = found_.too_far[at_];
    const auto held = held_photos(*viewing_.shot());
    const auto here = std::find_if(held.begin(), held.end(), [&](const HeldPhoto& h) { return h.photo == to; });
    Selection both;
    both.choose(to);
    if (here != held.begin() && here != held.end())
        both.toggle(std::prev(here)->photo);
    viewing_.set_selection(both);
    viewing_.go_to_photo(to);
    Q_EMIT changed();
}

void Thinning::fill_steps()
{
    const auto photos = found_.too_far;
    session_.apply([&](const Project& p) { return fill_steps_to(p, viewing_.shot_index(), photos); },
                   tr("Fill steps that are too large"));
}

}
