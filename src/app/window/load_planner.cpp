#include "app/window/load_planner.h"

namespace frenlo::app {

LoadPlanner::LoadPlanner(Viewing& viewing, PhotoLoader& loader, Player& player, PictureView& picture, SheetView& sheet)
    : viewing_(viewing), loader_(loader), player_(player), picture_(picture), sheet_(sheet)
{
    when_idle_.setSingleShot(true);
    connect(&when_idle_, &QTimer::timeout, this, &LoadPlanner::plan);
    connect(&viewing, &Viewing::playhead_changed, this, &LoadPlanner::follow_playhead);
    for (const auto signal : {&Viewing::selection_changed, &Viewing::shot_changed})
        connect(&viewing, signal, this, &LoadPlanner::plan);
    connect(&sheet, &SheetView::looked_elsewhere, this, &LoadPlanner::plan);
    connect(&picture, &PictureView::resized, this, &LoadPlanner::plan);
    connect(&player, &Player::state_changed, this, &LoadPlanner::plan);
}

/// While it plays, a plan reaches far enough for some frames, and the next one waits until this frame is on the screen:
/// at 60 frames a second, planning before each took half of the time there is.
void LoadPlanner::follow_playhead()
{
    constexpr std::int64_t enough = 4; // frames; a plan holds eight pictures at least
    const std::int64_t on = viewing_.playhead() - planned_at_;
    if (!player_.playing() || on < 0 || on >= 2 * enough)
        plan();
    else if (on >= enough)
        when_idle_.start(0);
}

void LoadPlanner::plan()
{
    when_idle_.stop();
    planned_at_ = viewing_.playhead();
    const ShotPtr shot = viewing_.shot_ptr();
    ViewState s;
    s.shot = shot.get();
    s.film = viewing_.film();
    s.large = picture_.requests();
    s.can_play = !viewing_.step().tiles;
    s.play_begin = player_.range().begin;
    s.play_end = player_.range().end;
    s.playhead = viewing_.playhead();
    s.playing = player_.playing();
    s.picture_size = picture_.picture_size();
    sheet_.set_player_size(s.picture_size);
    s.playing_budget = loader_.budget() / 3;
    if (shot)
        sheet_.describe(s);
    loader_.want(plan_loads(s));
    if (shot != prepared_for_) {
        const bool other_photos = !shot || !prepared_for_ || shot->photos.size() != prepared_for_->photos.size() ||
                                  shot->photos.front().photo != prepared_for_->photos.front().photo;
        prepared_for_ = shot;
        if (other_photos)
            loader_.prepare(shot ? preparing_order(*shot, viewing_.shown_photo()) : std::vector<PhotoPtr>());
    }
}

}
