#pragma once
#include "app/picture/player.h"
#include "app/steps/reel/sound_controller.h"
#include "app/work/waveforms.h"

#include <QWidget>

#include <functional>

class QLabel;
class QLineEdit;
class QPushButton;
class QTreeWidget;

namespace frenlo::app {

class GuideButton;
class ValueField;
class WordField;

/// What is heard under the Reel: sounds, how long they are against the picture, beats, words, loudness.
class SoundBench : public QWidget
{
    Q_OBJECT
public:
    SoundBench(Session& session, Viewing& viewing, Player& player, SoundController& controller, Waveforms& waveforms,
               QWidget* parent = nullptr);

    void take_out();
    void split();
    [[nodiscard]] Seconds here() const; ///< the frame under the player
    void tap();                         ///< a beat there

Q_SIGNALS:
    void told(const QString& message);

private:
    QWidget* lengths_part();
    QWidget* list_part();
    QWidget* sound_part();
    QWidget* marks_row();
    QWidget* loudness_row();
    void refresh();
    void refresh_sound();
    void follow_playhead();
    void ask_sounds();
    void change(const QString& name, const std::function<void(Sound&)>& how);
    void take_time(QLineEdit* field, const QString& name, const std::function<void(Sound&, Seconds)>& how);
    void apply_remedy(LengthRemedy remedy, const QString& name);
    void pull_holds();
    void ask_where();
    [[nodiscard]] const Sound* chosen() const;
    [[nodiscard]] Rate rate() const { return session_.project().delivered_at; }

    Session& session_;
    Viewing& viewing_;
    SoundController& controller_;
    Waveforms& waveforms_;
    std::uint64_t gesture_ = std::uint64_t(9) << 60; ///< apart from those of other benches
    QLabel* compared_;
    std::vector<std::pair<LengthRemedy, QPushButton*>> remedies_;
    QTreeWidget* list_;
    QLineEdit* at_;
    QLineEdit* begin_;
    QLineEdit* end_;
    QLineEdit* fade_in_;
    QLineEdit* fade_out_;
    ValueField* level_;
    ValueField* tempo_;
    QPushButton* mute_;
    QPushButton* round_;
    QPushButton* split_;
    QPushButton* take_out_;
    QPushButton* cross_;
    QPushButton* find_beats_;
    QPushButton* no_beats_;
    QPushButton* cuts_;
    QPushButton* holds_;
    WordField* word_;
    GuideButton* record_;
    QPushButton* where_;
    QLabel* loudness_;
    QPushButton* measure_;
    QLineEdit* target_;
    QPushButton* bring_;
    QPushButton* as_is_;
};

}
