#include "app/window/next_step.h"

#include "app/window/notice_bar.h"
#include "app/work/lengths.h"

#include <algorithm>

namespace frenlo::app {

NextStep::NextStep(Session& session, Viewing& viewing, NoticeBar& notice, std::vector<Way> ways, QObject* parent)
    : QObject(parent), session_(session), viewing_(viewing), notice_(notice), ways_(std::move(ways))
{
    connect(&session, &Session::photos_added, this, &NextStep::offer);
    connect(&session, &Session::started, this, [this] { ++offer_; });
    connect(&viewing, &Viewing::step_changed, this, [this] { // somebody has gone on
        ++offer_;
        if (!said_.isEmpty() && notice_.text() == said_)
            notice_.hide();
        said_.clear();
    });
}

QString NextStep::what_came(const Shot& shot) const
{
    const auto shown = in_film(shot);
    const auto photos = int(std::count(shown.begin(), shown.end(), true));
    const auto first = std::find(shown.begin(), shown.end(), true);
    if (first == shown.end())
        return {};
    const Hold hold = shot.photos[std::size_t(first - shown.begin())].hold;
    const QString held = hold == Hold(Frames{1})   ? tr("on ones")
                         : hold == Hold(Frames{2}) ? tr("on twos")
                                                   : tr("%1 each").arg(QString::fromStdString(shown_hold(hold)));
    const QString length =
        length_in_full(schedule_of(session_.project(), shot).frames(), session_.project().delivered_at);
    switch (shot.kind) {
    case ShotKind::hand_moved:
        return tr("%n hand-moved photo(s), %1, %2.", nullptr, photos).arg(held, length);
    case ShotKind::time_lapse:
        return tr("%n photo(s) taken at equal intervals, %1, %2.", nullptr, photos).arg(held, length);
    case ShotKind::walked:
        return tr("%n photo(s) taken while walking, %1, %2.", nullptr, photos).arg(held, length);
    case ShotKind::unknown:
        break;
    }
    return tr("%n photo(s), %1, %2.", nullptr, photos).arg(held, length);
}

void NextStep::offer()
{
    if (session_.is_empty())
        return;
    const ShotPtr shot = session_.project().shots.back();
    if (!shot->parts.empty()) // a card: its shots come first, and Sort says so
        return;
    const QString came = what_came(*shot);
    if (came.isEmpty() || !notice_.text().isEmpty()) // something else is said
        return;
    said_ = came;
    notice_.show_quiet(said_);
    const std::uint64_t offer = ++offer_;
    for (const Way& way : ways_)
        way.page->suggest(shot, [this, offer, came, way, id = shot->id](const QString& question) {
            const auto now = session_.project().find_shot(id);
            if (offer != offer_ || !now || notice_.text() != came) // answered, closed, or overtaken
                return;
            said_ = came + QLatin1Char(' ') + question;
            notice_.show_quiet(said_, {{tr("Go to %1").arg(way.station), [this, id, way] {
                                            if (const auto at = session_.project().find_shot(id))
                                                viewing_.set_shot(*at);
                                            way.go();
                                        }}});
        });
}

}
