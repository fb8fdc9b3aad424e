#include "app/steps/flicker/strip_maker.h"

#include "app/work/photo_loader.h"
#include "core/steps/steady/steady_values.h"

#include <algorithm>

namespace frenlo::app {

namespace {

/// The same photos in the film, lying in the same way: only their light may differ.
bool same_but_light(const Shot& a, const Shot& b)
{
    return steadying_of(a) == steadying_of(b) && a.parts == b.parts &&
           std::equal(a.photos.begin(), a.photos.end(), b.photos.begin(), b.photos.end(), [](const ShotPhoto& p, const ShotPhoto& q) {
               return p.photo == q.photo && p.turns == q.turns && p.aside == q.aside && p.hold == q.hold && alignment_of(p) == alignment_of(q);
           });
}

}

StripMaker::StripMaker(Background& background, Session& session, Viewing& viewing, PreviewStore& store, QObject* parent)
    : QObject(parent), background_(background), session_(session), viewing_(viewing), store_(store)
{}

void StripMaker::make(double column)
{
    if (!viewing_.shot())
        return;
    wanted_ = session_.project().shots[viewing_.shot_index().at()];
    wanted_column_ = column;
    if (!running_)
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
        fraction_ = 0;
        Q_EMIT changed();
    }
    running_ = true;
    stop_ = {};
    const Job job(stop_.get_token(), [this, self = QPointer<QObject>(this), &background = background_](double fraction, std::string_view) {
        background.post(self, [this, fraction] {
            fraction_ = fraction;
            Q_EMIT changed();
        });
    });
    background_.run(
        this,
        [shot = wanted_, column = wanted_column_, photos = photos_, &store = store_, job] {
            return Background::guarded([&] {
                Made made;
                made.photos = photos ? photos : std::make_shared<const StripPhotos>(strip_photos(*shot, Previews(store), job));
                made.strip = {made.photos->at, to_image(strip_of(*shot, *made.photos, column, Corrections::none)),
                              to_image(strip_of(*shot, *made.photos, column, Corrections::applied))};
                return made;
            });
        },
        [this, shot = wanted_, column = wanted_column_](Result<Made> made) {
            running_ = false;
            made_ = shot;
            made_column_ = column;
            fraction_ = 1;
            photos_ = made ? made->photos : nullptr;
            strip_ = made ? std::move(made->strip) : Strip();
            Q_EMIT changed();
            start(); // something else may be wanted by now
        });
}

}
