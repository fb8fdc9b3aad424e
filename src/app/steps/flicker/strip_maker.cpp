#include "app/steps/flicker/strip_maker.h"

#include "app/work/photo_loader.h"
#include "core/picture/step_pictures.h"

#include <algorithm>

namespace frenlo::app {

namespace {

/// The same photos in the film, lying in the same way: only their light may differ.
bool same_but_light(const Shot& a, const Shot& b)
{
    return a.parts == b.parts && std::equal(a.photos.begin(), a.photos.end(), b.photos.begin(), b.photos.end(),
                                            [&](const ShotPhoto& p, const ShotPhoto& q) {
                                                return p.photo == q.photo && p.turns == q.turns && p.aside == q.aside &&
                                                       p.hold == q.hold && placement_of(a, p) == placement_of(b, q);
                                            });
}

}

StripMaker::StripMaker(Background& background, Session& session, Viewing& viewing, PreviewStore& store, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), store_(store), task_(background, Rank::measure)
{
    connect(&task_, &Task::progress, this, &StripMaker::changed);
    connect(&task_, &Task::changed, this, [this] {
        Q_EMIT changed();
        if (!task_.running() && wanted_)
            start(); // something else may be wanted by now
    });
}

void StripMaker::make(double column)
{
    if (!viewing_.edited_shot())
        return;
    wanted_ = viewing_.edited_shot();
    wanted_column_ = column;
    if (!task_.running())
        start();
}

void StripMaker::start()
{
    if (wanted_ == made_ && wanted_column_ == made_column_)
        return;
    const bool same = made_ && photos_ && same_but_light(*wanted_, *made_);
    if (!same) {
        photos_.reset();
        strip_ = {};
        Q_EMIT changed();
    }
    made_ = wanted_; // whatever becomes of it, it is not tried again
    made_column_ = wanted_column_;
    const auto work = [shot = wanted_, column = wanted_column_, photos = photos_, &store = store_](const Job& job) {
        Made made;
        made.photos = photos ? photos : std::make_shared<const StripPhotos>(strip_photos(*shot, Previews(store), job));
        made.strip = {made.photos->at, to_image(strip_of(*shot, *made.photos, column, Corrections::none)),
                      to_image(strip_of(*shot, *made.photos, column, Corrections::applied))};
        return made;
    };
    task_.start({wanted_->id, "flicker"}, work, [this](Made made) {
        photos_ = std::move(made.photos);
        strip_ = std::move(made.strip);
    });
}

}
