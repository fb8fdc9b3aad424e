#include "app/picture/picture_view.h"
#include "app/picture/player.h"
#include "app/steps/shoot/shoot_bench.h"
#include "app/steps/shoot/shoot_tools.h"
#include "app/steps/shoot/sound_strip.h"
#include "app/steps/step_page.h"
#include "core/timeline/reel_timeline.h"

#include <QApplication>
#include <QLineEdit>

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

/// Shoot as the window sees it.
class ShootPage : public StepPage
{
public:
    explicit ShootPage(const Services& s)
        : session_(s.session), viewing_(s.viewing), player_(s.player), desk_(s.background),
          recent_(s.background, s.store), controller_(s.background, s.session, s.viewing, desk_, recent_),
          reference_(s.background), key_(s.kept, [this] { press_take(); }), view_(new LiveView(desk_)),
          strip_(new SoundStrip(s.session, s.waveforms)), tools_(new ShootTools(controller_, desk_, *view_)),
          bench_(new ShootBench(s.session, s.viewing, controller_, desk_, *view_, reference_, key_))
    {
        view_->set_strip(strip_);
        connect(&s.viewing, &Viewing::step_changed, this, &ShootPage::look_at_step);
        connect(&s.viewing, &Viewing::playhead_changed, this, [this] {
            const FrameIndex now = viewing_.playhead();
            if (!moving_ && is_here() && now != playhead_)
                set_live(false); // somebody looks at a photo
            playhead_ = now;
        });
        connect(&controller_, &ShootController::changed, this, &ShootPage::refresh);
        connect(&controller_, &ShootController::played_changed, this, [this] {
            if (view_->playing()) { // those, from now on
                view_->stop_playing();
                toggle_play();
            }
        });
        connect(&controller_, &ShootController::show_photo, this, [this](ShotIndex shot, PhotoIndex photo) {
            // In a series somebody may be at work elsewhere, or type.
            if (!is_here() || qobject_cast<QLineEdit*>(QApplication::focusWidget()))
                return;
            moving_ = true;
            Q_EMIT show_photo(shot, photo);
            moving_ = false;
        });
        connect(&controller_, &ShootController::photo_taken, this, [this] {
            if (!is_here())
                return;
            view_->flash(ShootBench::tr("photo taken, safe on disk"));
            set_live(true);
        });
        for (const auto signal : {&ShootController::told})
            connect(&controller_, signal, this, &StepPage::told);
        connect(&desk_, &CameraDesk::failed, this, &StepPage::told);
        connect(&desk_, &CameraDesk::found, this, &ShootPage::open_first);
        connect(&desk_, &CameraDesk::closed, this, [this](const QString& why) {
            if (!why.isEmpty())
                Q_EMIT told(why);
            Q_EMIT route_changed();
        });
        connect(&desk_, &CameraDesk::opened, this, &StepPage::route_changed);
        connect(&recent_, &RecentPhotos::arrived, this, &ShootPage::show_recent);
        connect(&reference_, &Reference::changed, this, [this] { view_->set_reference(reference_.image()); });
        connect(&reference_, &Reference::failed, this, &StepPage::told);
        connect(&key_, &TakeKey::failed, this, &StepPage::told);
        connect(&key_, &TakeKey::changed, this, &ShootPage::refresh);
        connect(tools_, &ShootTools::live_wanted, this, &ShootPage::set_live);
        connect(tools_, &ShootTools::play_wanted, this, &ShootPage::toggle_play);
        refresh();
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QWidget* tools() override { return tools_; }
    [[nodiscard]] QWidget* picture() override { return live_ ? view_ : nullptr; }

    [[nodiscard]] RouteState route_state() const override
    {
        const Shot* shot = viewing_.on_reel() ? nullptr : viewing_.shot();
        std::int64_t taken = 0;
        for (std::size_t i = 0; shot && i < shot->photos.size(); ++i)
            taken += shot->photos[i].steps.find<TakenHere>() ? 1 : 0;
        if (taken > 0)
            return {desk_.in_series() ? ShootBench::tr("a series runs") : ShootBench::tr("%1 taken").arg(taken), true};
        return {desk_.is_open() ? desk_.name() : ShootBench::tr("no camera yet"), false, false,
                controller_.taken() == 0};
    }

    [[nodiscard]] std::vector<StepKey> keys() override
    {
        using enum StepKey::Where;
        return {named(ShootBench::tr("The last photos, round and round"),
                      {{Qt::Key_Space}, [this] { toggle_play(); }, step}),
                named(ShootBench::tr("Seen with the live picture"), {{Qt::Key_G}, [this] { next_over(); }, step}),
                named(ShootBench::tr("Live picture, or photo"), {{Qt::Key_L}, [this] { set_live(!live_); }, step})};
    }

    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{key_.key().toString(QKeySequence::NativeText),
                 ShootBench::tr("in Shoot: take a photo; another key can be chosen under Guides and paths")},
                {ShootBench::tr("Space"),
                 ShootBench::tr("in Shoot: the last photos and the live picture, round and round")},
                {ShootBench::tr("G"), ShootBench::tr("in Shoot: what is seen with the live picture")},
                {ShootBench::tr("L"), ShootBench::tr("in Shoot: the live picture, or the photo under the player")}};
    }

    bool end_what_goes_on() override
    {
        if (view_->drawing())
            view_->set_drawing(false);
        else if (view_->playing())
            toggle_play();
        else if (!live_)
            set_live(true);
        else
            return false;
        bench_->refresh();
        return true;
    }

    void left() override
    {
        key_.set_active(false);
        view_->stop_playing();
        view_->set_drawing(false);
        desk_.set_live(false);
    }

private:
    [[nodiscard]] bool is_here() const { return viewing_.is_step("shoot"); }

    void look_at_step()
    {
        if (!is_here())
            return;
        player_.stop();
        key_.set_active(true);
        playhead_ = viewing_.playhead();
        desk_.set_live(true);
        live_ = true;
        if (!desk_.is_open() && !desk_.opening())
            desk_.look_for_cameras();
        controller_.look_for_left_lying();
        controller_.look(); // for what was done elsewhere
    }

    /// The camera that was used, else the first that is there: a real one goes before the simulated.
    void open_first()
    {
        if (desk_.looking() || !is_here() || desk_.is_open() || desk_.opening() || opened_first_)
            return;
        if (!desk_.found_cameras().empty()) {
            opened_first_ = true;
            desk_.open(desk_.found_cameras().front().address);
        }
    }

    void press_take()
    {
        if (desk_.in_series())
            desk_.stop();
        else if (desk_.is_open())
            controller_.take();
        else
            Q_EMIT told(ShootBench::tr("No camera is open: choose one on the page Camera."));
    }

    void set_live(bool on)
    {
        if (on != live_) {
            live_ = on;
            if (!on)
                view_->stop_playing();
            Q_EMIT picture_changed();
        }
        tools_->set_live(live_);
    }

    void next_over() { tools_->choose_next(); }

    void toggle_play()
    {
        if (view_->playing()) {
            view_->stop_playing();
        } else {
            set_live(true);
            const NextPhoto next = controller_.next();
            const auto images = recent_.get(next.before);
            const Rate rate = next.shot ? pacing_rate(session_.project(), *next.shot) : session_.project().delivered_at;
            std::vector<PlayedPhoto> played;
            for (std::size_t i = std::min(next.before.size(), controller_.played()); i-- > 0;)
                played.push_back({images[i], length_of(next.holds[i], rate).value.approx()});
            view_->play(std::move(played), length_of(next.place.hold, rate).value.approx());
        }
        tools_->set_live(live_);
    }

    void show_recent()
    {
        const NextPhoto next = controller_.next();
        const auto count = std::min<std::size_t>(next.before.size(), LiveLook::most_photos);
        auto images = recent_.get({next.before.begin(), next.before.begin() + std::ptrdiff_t(count)});
        std::erase_if(images, [](const QImage& i) { return i.isNull(); });
        view_->set_photos(std::move(images));
    }

    /// When the next photo begins in the Reel, seconds; nothing where its shot is not in it.
    [[nodiscard]] std::optional<double> begin_in_reel(const NextPhoto& next) const
    {
        const auto reel = reel_of(session_.project());
        const double rate = session_.project().delivered_at.value().approx();
        if (!next.shot) // a new shot: at the end
            return double(reel->frames()) / rate;
        for (const ReelPart& part : reel->parts())
            if (part.item.shot == next.shot->id)
                return double(part.frames.begin.value) / rate + next.seconds;
        return std::nullopt;
    }

    void show_sound(const NextPhoto& next, Rate rate)
    {
        const auto begin = strip_->has_sound() ? begin_in_reel(next) : std::nullopt;
        if (begin)
            strip_->show_time(*begin, *begin + length_of(next.place.hold, rate).value.approx());
        if (begin.has_value() == strip_->isHidden()) {
            strip_->setVisible(begin.has_value());
            view_->lay_out();
        }
    }

    void refresh()
    {
        if (!is_here())
            return;
        const NextPhoto next = controller_.next();
        const Rate rate = next.shot ? pacing_rate(session_.project(), *next.shot) : session_.project().delivered_at;
        view_->set_texts(next.place.in_place_of          ? ShootBench::tr("next: photo %1 anew").arg(next.number + 1)
                         : controller_.plan().take.trial ? ShootBench::tr("next: a trial")
                                                         : ShootBench::tr("next: photo %1").arg(next.number + 1),
                         {});
        view_->set_paths(controller_.paths(), next.number);
        tools_->set_key(key_.key().toString(QKeySequence::NativeText));
        reference_.choose(controller_.followed());
        reference_.go_to(next.seconds);
        show_sound(next, rate);
        show_recent();
        Q_EMIT route_changed();
    }

    Session& session_;
    Viewing& viewing_;
    Player& player_;
    CameraDesk desk_;
    RecentPhotos recent_;
    ShootController controller_;
    Reference reference_;
    mutable TakeKey key_; ///< what it is is read when it is first asked for
    LiveView* view_;
    SoundStrip* strip_;
    ShootTools* tools_;
    ShootBench* bench_;
    FrameIndex playhead_; ///< as it was last
    bool live_ = true;
    bool moving_ = false; ///< the player, by a photo that was taken
    bool opened_first_ = false;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array words{WhereWords{"Take photo", "capture shutter grab snapshot camera"},
                           WhereWords{"Retake", "replace again redo"},
                           WhereWords{"Start series", "interval intervalometer timelapse time-lapse unattended"},
                           WhereWords{"Lock all", "manual exposure drift automatic"},
                           WhereWords{"What is seen with the live picture", "onion skin overlay compare blink"},
                           WhereWords{"Draw a path", "motion path trajectory guide ease marks"},
                           WhereWords{"Pictures averaged", "noise stack denoise"},
                           WhereWords{"Exposures", "bracket hdr"},
                           WhereWords{"Magnifier", "focus peaking zoom loupe"},
                           WhereWords{"Clipped", "zebra overexposed blown highlights"},
                           WhereWords{"Shape that stays light", "mask aspect safe area"},
                           WhereWords{"Camera in use", "webcam tether dslr usb"},
                           WhereWords{"Change the key that takes a photo", "shortcut foot switch remote"}};

}

const StepModule& shoot_module()
{
    static const StepModule module{
        {.key = "shoot", .from_nothing = true},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Shoot"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<ShootPage>(s); },
        words};
    return module;
}

}
