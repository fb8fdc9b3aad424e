#include "app/sheet/reel_rows.h"
#include "app/steps/reel/reel_hands.h"
#include "app/steps/reel/sound_bench.h"
#include "app/steps/step_page.h"

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

/// The Reel's sound as the window sees it.
class SoundPage : public StepPage
{
public:
    explicit SoundPage(const Services& s)
        : session_(s.session), viewing_(s.viewing), controller_(s.background, s.session),
          bench_(new SoundBench(s.session, s.viewing, s.player, controller_, s.waveforms)),
          rows_(s.session, s.viewing, s.waveforms), hands_(s.session, s.viewing, rows_)
    {
        connect(&s.session, &Session::changed, this, &StepPage::route_changed);
        connect(bench_, &SoundBench::told, this, &StepPage::told);
    }

    [[nodiscard]] QWidget* bench() override { return bench_; }
    [[nodiscard]] QString page_name() const override { return SoundBench::tr("Sound"); }
    [[nodiscard]] RowMeter* row_meter() override { return &rows_; }

    [[nodiscard]] RouteState route_state() const override
    {
        const Soundtrack& track = session_.project().reel.sound;
        if (track.sounds.empty())
            return {SoundBench::tr("no sound")};
        std::error_code ec;
        for (const Sound& s : track.sounds)
            if (!s.muted && !std::filesystem::exists(s.file, ec))
                return {SoundBench::tr("a sound is not there"), true, true};
        return {SoundBench::tr("%n sound(s)", nullptr, int(track.sounds.size())), true};
    }

    [[nodiscard]] std::vector<StepKey> keys() override
    {
        return {
            named(SoundBench::tr("Take the sound out"),
                  {.keys = {Qt::Key_Delete}, .press = [this] { bench_->take_out(); }}),
            named(SoundBench::tr("Split the sound here"), {.keys = {Qt::Key_2}, .press = [this] { bench_->split(); }}),
            named(SoundBench::tr("A beat here"), {.keys = {Qt::Key_T}, .press = [this] { bench_->tap(); }})};
    }
    [[nodiscard]] std::vector<KeyHelp> key_help() const override
    {
        return {{SoundBench::tr("2"),
                 SoundBench::tr("In Sound: two of it: split the sound in hand at the frame under the player")},
                {SoundBench::tr("T"),
                 SoundBench::tr("In Sound: a beat at the frame under the player, also while it plays")},
                {SoundBench::tr("Delete"), SoundBench::tr("In Sound: take the sound in hand out")}};
    }
    bool take_dropped(const std::vector<std::filesystem::path>& files) override
    {
        const bool all_sounds = !files.empty() && std::all_of(files.begin(), files.end(), [](const auto& file) {
            const QString ending = to_qt(file.extension()).toLower();
            return std::find(sound_endings.begin(), sound_endings.end(), ending) != sound_endings.end();
        });
        if (!all_sounds || session_.is_empty())
            return false;
        const Seconds at = viewing_.on_reel() ? bench_->here() : Seconds{};
        viewing_.show_reel();
        viewing_.set_step("sound");
        controller_.bring_in(files, at);
        return true;
    }
    bool end_what_goes_on() override
    {
        if (!controller_.busy())
            return false;
        controller_.stop();
        return true;
    }

private:
    Session& session_;
    Viewing& viewing_;
    SoundController controller_;
    SoundBench* bench_;
    ReelRows rows_;
    ReelHands hands_;
};

}

namespace {

/// Words of the trade for what is here.
constexpr std::array sound_words{
    WhereWords{"Add sounds", "music audio soundtrack voice wav mp3"}, WhereWords{"Find beats", "tempo bpm rhythm"},
    WhereWords{"Loudness to bring it to", "normalise normalize lufs volume"},
    WhereWords{"Record a guide…", "microphone voice over narration"}, WhereWords{"Cross-fade", "blend sounds"}};

}

const StepModule& sound_module()
{
    static const StepModule module{
        {.key = "sound", .about = StepInfo::About::reel},
        QT_TRANSLATE_NOOP("frenlo::app::StepModule", "Reel"),
        [](const Services& s) -> std::unique_ptr<StepPage> { return std::make_unique<SoundPage>(s); },
        sound_words};
    return module;
}

}
