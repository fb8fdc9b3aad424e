#include "app/steps/reel/word_field.h"

#include "app/widgets/layouts.h"
#include "core/steps/reel/reel_edits.h"

#include <QLineEdit>
#include <QSignalBlocker>

#include <algorithm>

namespace frenlo::app {

WordField::WordField(Session& session, Viewing& viewing, QWidget* parent)
    : QComboBox(parent), session_(session), viewing_(viewing)
{
    setEditable(true);
    setInsertPolicy(QComboBox::NoInsert);
    setMinimumWidth(90);
    setAccessibleName(tr("Word here"));
    lineEdit()->setAccessibleName(tr("Word here"));
    setToolTip(tr("A word, a syllable or the shape of a mouth, from the frame under the player to the next word: "
                  "typed, or one that was used before. Empty takes it away"));
    connect(lineEdit(), &QLineEdit::editingFinished, this, &WordField::set_word);
    connect(this, &QComboBox::activated, this, [this] {
        lineEdit()->setModified(true);
        set_word();
    });
}

Seconds WordField::here() const
{
    return length_of(viewing_.playhead().value, session_.project().delivered_at);
}

void WordField::refresh()
{
    QStringList words{tr("closed"), tr("open"), tr("wide"), tr("round"), tr("teeth")};
    for (const SoundWord& w : session_.project().reel.sound.words)
        if (const QString text = QString::fromStdString(w.text); !words.contains(text))
            words << text;
    const QSignalBlocker quiet(this);
    if (count() != words.size()) {
        clear();
        addItems(words);
    }
}

void WordField::follow_playhead()
{
    const Seconds now = here();
    QString word;
    for (const SoundWord& w : session_.project().reel.sound.words)
        if (w.begin == now)
            word = QString::fromStdString(w.text);
    show_text(lineEdit(), word);
}

/// A word lasts until the next one, or half a second.
void WordField::set_word()
{
    if (!lineEdit()->isModified())
        return;
    lineEdit()->setModified(false);
    const Seconds at = here();
    const std::string text = currentText().trimmed().toStdString();
    session_.apply(
        [&](const Project& p) {
            return change_reel(p, [&](Reel& r) {
                auto& words = r.sound.words;
                std::erase_if(words, [&](const SoundWord& w) { return w.begin == at; });
                if (!text.empty())
                    words.push_back({at, {at.value + Fraction(1, 2)}, text});
                std::sort(words.begin(), words.end(),
                          [](const SoundWord& a, const SoundWord& b) { return a.begin < b.begin; });
                for (std::size_t i = 0; i + 1 < words.size(); ++i)
                    words[i].end = std::min(words[i].end, words[i + 1].begin);
            });
        },
        tr("Set a word"));
}

}
