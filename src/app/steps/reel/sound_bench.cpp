#include "app/steps/reel/sound_bench.h"

#include "app/steps/reel/guide_button.h"
#include "app/steps/reel/word_field.h"
#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"
#include "app/widgets/value_field.h"
#include "core/base/text.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStandardPaths>
#include <QTreeWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

/// "96 f", "4 s", and 0.
std::optional<Seconds> parse_time(const QString& text, Rate rate)
{
    QString number = text.trimmed();
    number.remove(QLatin1Char(' '));
    if (number == QLatin1String("0") || number == QLatin1String("0s") || number == QLatin1String("0f"))
        return Seconds{};
    return parse_length(text, rate);
}

}

SoundBench::SoundBench(Session& session, Viewing& viewing, Player& player, SoundController& controller,
                       Waveforms& waveforms, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), controller_(controller), waveforms_(waveforms),
      compared_(new QLabel), list_(new QTreeWidget), at_(field(tr("Begins in the Reel"), tr("24 f, 1.5 s"), 56)),
      begin_(field(tr("From, in the file"), tr("Where what is heard of the file begins; what is cut stays there"), 56)),
      end_(field(tr("To, in the file"), tr("Where it ends; pulled open again, what was cut is back"), 56)),
      fade_in_(field(tr("Fade in"), tr("24 f, 1.5 s"), 52)), fade_out_(field(tr("Fade out"), tr("24 f, 1.5 s"), 52)),
      level_(new ValueField({tr("level"), tr("How loud it is against its file"), QStringLiteral("dB"), least_level_db,
                             most_level_db, 0, 0.5, 1})),
      tempo_(new ValueField(
          {tr("tempo ×"), tr("How many times as fast; its pitch stays"), QString(), 0.5, 2, 1, 0.01, 2, false})),
      mute_(tool(tr("Mute it"), tr("Not heard, and not written"))),
      round_(tool(tr("Loop it"), tr("The sound begins again until the picture ends"))),
      split_(tool(tr("Split it"), tr("Two sounds of it, at the frame under the player"))),
      take_out_(tool(tr("Take it out"), tr("Takes the sound out of the Reel (Delete); its file stays"))),
      cross_(tool(tr("Cross-fade"), tr("Fades this sound and the one that lies over it into each other"))),
      find_beats_(tool(tr("Find beats"), tr("Listens for beats, and marks them below the waveform"))),
      no_beats_(tool(tr("Remove the beats"), tr("Takes all marks of beats away"))),
      cuts_(tool(tr("Move cuts to beats"), tr("Every cut of the Reel to the beat that is nearest"))),
      holds_(
          tool(tr("Pull holds to beats"), tr("In the shot under the player: photos change on beats; all of it lasts as "
                                             "long as before"))),
      word_(new WordField(session, viewing)), record_(new GuideButton(session, viewing, player, controller)),
      where_(tool(tr("Where is it…"), tr("Shows Frenlo where the file of this sound is now"))),
      loudness_(secondary({})),
      measure_(tool(tr("Measure loudness"), tr("How loud it is as heard, and its highest peak"))),
      target_(field(tr("Loudness to bring it to"), tr("LUFS, as in -16; peaks stay below -1 dB"), 46)),
      bring_(tool(tr("Bring loudness to"), tr("The film is written with this loudness"))),
      as_is_(tool(tr("Keep as it is"), tr("The film is written as loud as its sounds are")))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 8);
    column->setSpacing(6);
    column->addWidget(lengths_part());
    column->addWidget(scrolled(side_by_side(list_part(), sound_part())), 1);
    column->addWidget(marks_row());
    column->addWidget(loudness_row());
    connect(&session, &Session::changed, this, &SoundBench::refresh);
    connect(&viewing, &Viewing::shot_changed, this, &SoundBench::refresh);
    connect(&controller, &SoundController::changed, this, &SoundBench::refresh);
    connect(&waveforms, &Waveforms::changed, this, [this] {
        if (isVisible())
            refresh();
    });
    connect(&controller, &SoundController::failed, this, &SoundBench::told);
    refresh();
}

QWidget* SoundBench::lengths_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* said = new QHBoxLayout;
    compared_->setAccessibleName(tr("Picture against sound"));
    said->addWidget(compared_);
    said->addStretch();
    said->addWidget(loudness_);
    column->addLayout(said);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    column->addLayout(row);
    const auto add = [&](LengthRemedy remedy, const QString& name, const QString& tip) {
        QPushButton* b = tool(remedy == LengthRemedy::hold_last ? tr("Hold the last") : name, tip);
        b->setAccessibleName(name);
        connect(b, &QPushButton::clicked, this, [this, remedy, name] { apply_remedy(remedy, name); });
        row->addWidget(b);
        remedies_.emplace_back(remedy, b);
    };
    add(LengthRemedy::fit_picture, tr("Fit the shots"), tr("All shots a little faster or slower, to the frame"));
    add(LengthRemedy::hold_last, tr("Hold the last photo"),
        tr("The last photo stays until the sound is over, or the last shot ends with it"));
    add(LengthRemedy::repeat_shot, tr("Repeat it"), tr("The last shot once more and again, until the sound is over"));
    add(LengthRemedy::cut_sound, tr("Cut the sound"), tr("Where the picture ends"));
    add(LengthRemedy::fade_sound, tr("Fade the sound"), tr("Cut where the picture ends, and faded over two seconds"));
    add(LengthRemedy::loop_sound, tr("Loop the sound"), tr("The last sound again until the picture ends"));
    add(LengthRemedy::change_tempo, tr("Change tempo"),
        tr("The last sound faster or slower, at the same pitch, so that it ends with the picture"));
    row->addStretch();
    return part;
}

QWidget* SoundBench::list_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    list_->setAccessibleName(tr("Sounds"));
    list_->setColumnCount(3);
    list_->setHeaderLabels({tr("Sound"), tr("begins"), tr("ends")});
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setFrameShape(QFrame::NoFrame);
    list_->setMinimumHeight(64);
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (const int c : {1, 2})
        list_->header()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
    column->addWidget(list_, 1);
    auto* add = tool(tr("Add…"), tr("From the frame under the player on: WAV, FLAC, MP3, Ogg, Opus, AAC, or the "
                                    "sound of a video"));
    add->setAccessibleName(tr("Add sounds"));
    column->addLayout(line_of({add, split_, mute_, where_}));
    connect(add, &QPushButton::clicked, this, &SoundBench::ask_sounds);
    connect(split_, &QPushButton::clicked, this, &SoundBench::split);
    connect(take_out_, &QPushButton::clicked, this, &SoundBench::take_out);
    connect(cross_, &QPushButton::clicked, this, [this] {
        const Sound* a = chosen();
        if (!a)
            return;
        for (const Sound& b : session_.project().reel.sound.sounds)
            if (b.id != a->id && b.at < a->until() && a->at < b.until()) {
                session_.apply([&](const Project& p) { return cross_fade(p, a->id, b.id); }, tr("Cross-fade"));
                return;
            }
        Q_EMIT told(tr("No other sound lies over this one."));
    });
    connect(list_, &QTreeWidget::currentItemChanged, this, &SoundBench::refresh_sound);
    return part;
}

QWidget* SoundBench::sound_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    mute_->setCheckable(true);
    round_->setCheckable(true);
    column->addLayout(line_of({secondary(tr("at")), at_, secondary(tr("heard")), begin_, secondary(tr("to")), end_}));
    column->addLayout(line_of({secondary(tr("fades in")), fade_in_, secondary(tr("out")), fade_out_, cross_}));
    column->addLayout(line_of({level_, tempo_}));
    column->addLayout(line_of({round_, take_out_}));
    column->addStretch();
    take_time(at_, tr("Move the sound"), [](Sound& s, Seconds t) { s.at = t; });
    take_time(begin_, tr("Cut the sound"), [](Sound& s, Seconds t) { s.begin = t; });
    take_time(end_, tr("Cut the sound"), [](Sound& s, Seconds t) { s.end = t; });
    take_time(fade_in_, tr("Fade the sound in"), [](Sound& s, Seconds t) { s.fade_in = t; });
    take_time(fade_out_, tr("Fade the sound out"), [](Sound& s, Seconds t) { s.fade_out = t; });
    for (ValueField* f : {level_, tempo_})
        connect(f, &ValueField::begun, this, [this] { ++gesture_; });
    connect(level_, &ValueField::edited, this,
            [this](double v) { change(tr("Set the level"), [&](Sound& s) { s.level_db = v; }); });
    connect(tempo_, &ValueField::edited, this, [this](double v) {
        constexpr int steps = 10'000;
        change(tr("Set the tempo"), [&](Sound& s) { s.tempo = Fraction(std::lround(v * steps), steps); });
    });
    connect(mute_, &QPushButton::clicked, this, [this](bool on) {
        ++gesture_;
        change(on ? tr("Mute") : tr("Let it be heard"), [&](Sound& s) { s.muted = on; });
    });
    connect(round_, &QPushButton::clicked, this, [this](bool on) {
        ++gesture_;
        const Seconds end = length_of(viewing_.film_frames(), rate());
        change(tr("Loop the sound"), [&](Sound& s) {
            s.lasts = on && end > s.at ? std::optional(Seconds{end.value - s.at.value}) : std::nullopt;
        });
    });
    return part;
}

QWidget* SoundBench::marks_row()
{
    auto* part = new QWidget;
    auto* line = line_of({find_beats_, no_beats_, cuts_, holds_, secondary(tr("word")), word_});
    line->setContentsMargins(0, 0, 0, 0);
    part->setLayout(line);
    connect(find_beats_, &QPushButton::clicked, &controller_, &SoundController::find_beats);
    connect(no_beats_, &QPushButton::clicked, this, [this] {
        session_.apply([](const Project& p) { return change_reel(p, [](Reel& r) { r.sound.beats.clear(); }); },
                       tr("Take the beats away"));
    });
    connect(holds_, &QPushButton::clicked, this, &SoundBench::pull_holds);
    connect(cuts_, &QPushButton::clicked, this, [this] { session_.apply(cuts_to_beats, tr("Cuts to beats")); });
    connect(&viewing_, &Viewing::playhead_changed, this, [this] {
        if (isVisible())
            follow_playhead();
    });
    return part;
}

QWidget* SoundBench::loudness_row()
{
    auto* part = new QWidget;
    auto* line = line_of({measure_, bring_, target_, secondary(tr("LUFS")), as_is_, record_});
    line->setContentsMargins(0, 0, 0, 0);
    part->setLayout(line);
    loudness_->setAccessibleName(tr("Loudness"));
    target_->setText(QStringLiteral("-16"));
    connect(record_, &GuideButton::told, this, &SoundBench::told);
    connect(where_, &QPushButton::clicked, this, &SoundBench::ask_where);
    connect(measure_, &QPushButton::clicked, &controller_, &SoundController::measure_loudness);
    connect(bring_, &QPushButton::clicked, this, [this] {
        bool number = false;
        const double lufs = target_->text().trimmed().replace(QChar(0x2212), QLatin1Char('-')).toDouble(&number);
        const bool wrong = !number || lufs < -70 || lufs > 0;
        mark_wrong(target_, wrong);
        if (!wrong)
            session_.apply([&](const Project& p) { return change_reel(p, [&](Reel& r) { r.sound.loudness = lufs; }); },
                           tr("Bring to a loudness"));
    });
    connect(as_is_, &QPushButton::clicked, this, [this] {
        session_.apply([](const Project& p) { return change_reel(p, [](Reel& r) { r.sound.loudness.reset(); }); },
                       tr("Keep the loudness as it is"));
    });
    return part;
}

Seconds SoundBench::here() const
{
    return length_of(viewing_.playhead().value, rate());
}

const Sound* SoundBench::chosen() const
{
    const auto& sounds = session_.project().reel.sound.sounds;
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    return row >= 0 && std::size_t(row) < sounds.size() ? &sounds[std::size_t(row)] : nullptr;
}

void SoundBench::change(const QString& name, const std::function<void(Sound&)>& how)
{
    if (const Sound* s = chosen())
        session_.apply([&, id = s->id](const Project& p) { return change_sound(p, id, how); }, name, gesture_);
}

void SoundBench::take_time(QLineEdit* field, const QString& name, const std::function<void(Sound&, Seconds)>& how)
{
    connect(field, &QLineEdit::editingFinished, this, [this, field, name, how] {
        if (!field->isModified())
            return;
        const auto time = parse_time(field->text(), rate());
        mark_wrong(field, !time);
        ++gesture_;
        if (time)
            change(name, [&](Sound& s) { how(s, *time); });
    });
}

void SoundBench::ask_sounds()
{
    QString kinds = QStringLiteral("*.mp4 *.mov *.mkv *.webm *.avi");
    for (const QLatin1String ending : sound_endings)
        kinds += QStringLiteral(" *") + ending;
    const QStringList files = QFileDialog::getOpenFileNames(
        this, tr("Add sounds"), QStandardPaths::writableLocation(QStandardPaths::MusicLocation),
        tr("Sounds and videos (%1)").arg(kinds) + QStringLiteral(";;") + tr("All files (*)"));
    std::vector<std::filesystem::path> paths;
    for (const QString& f : files)
        paths.push_back(from_qt(f));
    if (!paths.empty())
        controller_.bring_in(paths, here());
}

void SoundBench::take_out()
{
    if (const Sound* s = chosen())
        session_.apply([id = s->id](const Project& p) { return remove_sound(p, id); }, tr("Take the sound out"));
}

void SoundBench::split()
{
    if (const Sound* s = chosen())
        session_.apply([id = s->id, at = here()](const Project& p) { return split_sound(p, id, at); },
                       tr("Split the sound"));
}

void SoundBench::tap()
{
    session_.apply(
        [at = here()](const Project& p) { return change_reel(p, [&](Reel& r) { r.sound.beats.push_back(at); }); },
        tr("Tap a beat"));
}

void SoundBench::apply_remedy(LengthRemedy remedy, const QString& name)
{
    const auto done = with_remedy(session_.project(), remedy);
    if (!done) {
        Q_EMIT told(tr("That does not bring picture and sound to one length here. Try another way."));
        return;
    }
    session_.apply([&](const Project&) { return *done; }, name);
}

void SoundBench::pull_holds()
{
    const ReelPage* reel = viewing_.reel();
    if (!reel || !viewing_.film())
        return;
    const ReelPart part = reel->film->parts()[reel->film->part_at(viewing_.playhead())];
    session_.apply([&](const Project& p) { return film_to_beats(p, part); }, tr("Holds to beats"));
}

void SoundBench::ask_where()
{
    const Sound* s = chosen();
    if (!s)
        return;
    const QString file = QFileDialog::getOpenFileName(this, tr("Where is %1?").arg(to_qt(s->file.filename())),
                                                      to_qt(s->file.parent_path()));
    if (!file.isEmpty())
        controller_.replace_file(s->id, from_qt(file));
}

void SoundBench::refresh()
{
    if (!viewing_.on_reel())
        return;
    const Soundtrack& track = session_.project().reel.sound;
    const std::int64_t picture = viewing_.film_frames();
    const std::int64_t sound = reel_sound_frames(session_.project()), longer = picture - sound;
    const QString by = tr("%n frame(s)", nullptr, int(std::abs(longer))) +
                       tr(" (%1 s)").arg(double(std::abs(longer)) / rate().value().approx(), 0, 'g', 3);
    compared_->setText(sound == 0    ? tr("no sound yet")
                       : longer == 0 ? tr("picture and sound are equally long")
                       : longer > 0  ? tr("picture <b>%1</b> longer").arg(by)
                                     : tr("sound <b>%1</b> longer").arg(by));
    for (const auto& [remedy, button] : remedies_) {
        const bool of_short_picture = remedy == LengthRemedy::repeat_shot || remedy == LengthRemedy::cut_sound ||
                                      remedy == LengthRemedy::fade_sound;
        const bool of_long_picture = remedy == LengthRemedy::loop_sound;
        button->setVisible(sound > 0 && longer != 0 && !(of_short_picture && longer > 0) &&
                           !(of_long_picture && longer < 0));
    }
    const int row = std::max(0, list_->indexOfTopLevelItem(list_->currentItem()));
    {
        const QSignalBlocker quiet(list_);
        list_->clear();
        std::error_code ec;
        for (const Sound& s : track.sounds) {
            auto* item = new QTreeWidgetItem(list_);
            const bool there = std::filesystem::exists(s.file, ec);
            const auto broken = waveforms_.problem(s.file);
            item->setText(0, to_qt(s.file.filename()) +
                                 (!there   ? tr(" · is not there")
                                  : broken ? tr(" · cannot be read")
                                           : QString()) +
                                 (s.muted ? tr(" · muted") : QString()));
            item->setToolTip(0, broken ? QString::fromStdString(broken->text()) : to_qt(s.file));
            const auto time = [&](Seconds t) { return viewing_.length_text((t.value * rate().value()).rounded()); };
            item->setText(1, time(s.at));
            item->setText(2, time(s.until()));
        }
        if (list_->topLevelItemCount() > 0)
            list_->setCurrentItem(list_->topLevelItem(std::min(row, list_->topLevelItemCount() - 1)));
    }
    QString loud = controller_.busy()       ? tr("listening…")
                   : controller_.loudness() ? tr("%1 LUFS, peak %2 dB")
                                                  .arg(controller_.loudness()->integrated, 0, 'f', 1)
                                                  .arg(controller_.loudness()->true_peak, 0, 'f', 1)
                                            : QString();
    if (track.loudness)
        loud += tr(" brought to %1 LUFS").arg(*track.loudness, 0, 'f', 1);
    loudness_->setText(loud);
    const bool some = !track.sounds.empty() && !controller_.busy();
    for (QWidget* w : std::initializer_list<QWidget*>{find_beats_, measure_, bring_})
        w->setEnabled(some);
    as_is_->setVisible(track.loudness.has_value());
    find_beats_->setVisible(track.beats.empty());
    no_beats_->setVisible(!track.beats.empty());
    cuts_->setEnabled(!track.beats.empty());
    holds_->setEnabled(!track.beats.empty());
    refresh_sound();
}

void SoundBench::refresh_sound()
{
    const Sound* s = chosen();
    for (QWidget* w : std::initializer_list<QWidget*>{at_, begin_, end_, fade_in_, fade_out_, level_, tempo_, mute_,
                                                      round_, split_, cross_, take_out_})
        w->setEnabled(s != nullptr);
    word_->refresh();
    follow_playhead();
    if (!s)
        return;
    const auto seconds = [](Seconds t) { return tr("%1 s").arg(QString::number(t.value.approx(), 'g', 6)); };
    show_text(at_, seconds(s->at));
    show_text(begin_, seconds(s->begin));
    show_text(end_, seconds(s->end));
    show_text(fade_in_, seconds(s->fade_in));
    show_text(fade_out_, seconds(s->fade_out));
    level_->show_value(s->level_db);
    tempo_->show_value(s->tempo.approx());
    mute_->setChecked(s->muted);
    round_->setChecked(s->lasts.has_value());
}

/// At every frame that plays: only what depends on it.
void SoundBench::follow_playhead()
{
    const Seconds now = here();
    word_->follow_playhead();
    const Sound* s = chosen();
    split_->setEnabled(s && !s->lasts && now > s->at && now < s->until());
    std::error_code ec; // it may have been moved while the Reel is looked at
    where_->setVisible(s && !std::filesystem::exists(s->file, ec));
}

}
