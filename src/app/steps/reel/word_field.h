#pragma once
#include "app/work/session.h"
#include "app/work/viewing.h"

#include <QComboBox>

namespace frenlo::app {

/// The word, the syllable or the shape of a mouth that begins at the frame under the player: shown, and set.
class WordField : public QComboBox
{
    Q_OBJECT
public:
    WordField(Session& session, Viewing& viewing, QWidget* parent = nullptr);

    /// What can be chosen: shapes of a mouth to begin with, and whatever was written by hand.
    void refresh();
    /// Of the frame that is under the player now.
    void follow_playhead();

private:
    void set_word();
    [[nodiscard]] Seconds here() const;

    Session& session_;
    Viewing& viewing_;
};

}
