#pragma once
#include "app/sheet/sheet_actions.h"
#include "app/steps/sort/findings.h"
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/sort/card_edits.h"

#include <QObject>

namespace frenlo::app {

/// What is done in Sort, for its keys, buttons and the Sheet alike: each is one edit of the session.
class SortController : public QObject, public TileActions
{
    Q_OBJECT
public:
    SortController(Background& background, Session& session, Viewing& viewing, Findings& findings,
                   QObject* parent = nullptr);

    /// The photo that the keys stand on is the first or last of its shot. gesture: see History::push.
    void first_here(std::uint64_t gesture = 0);
    void last_here(std::uint64_t gesture = 0);
    void set_first(PhotoIndex photo, std::uint64_t gesture) override;
    void set_last(PhotoIndex photo, std::uint64_t gesture) override;
    /// X: set the selected photos aside, or bring them back when all of them are.
    void toggle_aside();
    [[nodiscard]] bool all_chosen_are_aside() const;
    void split();
    [[nodiscard]] bool can_split() const;
    /// With the next shot, or the next part of a card.
    void join();
    [[nodiscard]] bool can_join() const;
    void order(PhotoOrder order);
    void reverse();
    void first_to_end();
    /// The selected photos, to where the photo "before" is.
    void move(PhotoIndex before) override;
    /// One place back or on.
    void nudge(int by) override;
    void turn(int quarters);
    void make_shots();
    void make_one_shot();
    /// Looks for shots again, in the background; nothing for the pause that the photos themselves suggest.
    void search_again(std::optional<Seconds> pause);
    /// The pause that ends a part now.
    [[nodiscard]] std::optional<Seconds> pause() const { return pause_; }

    /// All in one step.
    void remedy(std::span<const ToLookAt> findings, Remedy remedy);
    void leave(std::span<const ToLookAt> findings);

Q_SIGNALS:
    void pause_changed();
    void failed(const QString& message);

private:
    void apply(const std::function<Project(const Project&)>& edit, const QString& name, std::uint64_t gesture = 0);
    void refresh_pause();

    Background& background_;
    Session& session_;
    Viewing& viewing_;
    Findings& findings_;
    Task search_;
    std::optional<Seconds> pause_;
    ShotPtr pause_of_;
};

/// "Hold the one before": what a remedy is called on its button.
QString remedy_text(Remedy remedy);

}
