#pragma once
#include "app/steps/step_page.h"

#include <QHash>
#include <QObject>

#include <vector>

class QAction;
class QMenu;
class QWidget;

namespace frenlo::app {

/// All keys without Ctrl, of the window and of its steps: which of several meanings a key has depends on the step in
/// view. A field, list or button that has the focus keeps the keys that it is worked with.
class KeyTable : public QObject
{
    Q_OBJECT
public:
    /// window: where the keys work. sheet: where held keys, and those that are the Sheet's otherwise, work.
    KeyTable(Viewing& viewing, QWidget& window, QWidget& sheet);

    /// step: whose keys they are; empty for the window's.
    void add(std::string_view step, std::vector<StepKey> keys);

    /// Fills the menu with all that has an entry and applies now, the step's own first.
    void fill(QMenu& menu);
    /// All entries, whatever step is in view; for "Where is …?" and for tests.
    [[nodiscard]] std::vector<StepKey> entries() const;

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Meaning
    {
        std::string_view step;
        StepKey key;
        bool held = false; ///< by the menu
    };
    void add_entry(QMenu& menu, Meaning& meaning);
    [[nodiscard]] bool applies(const Meaning& meaning) const;
    void press(const QKeySequence& keys);
    bool on_sheet(const QKeySequence& keys, bool pressed, bool again);

    Viewing& viewing_;
    QWidget& window_;
    QWidget& sheet_;
    std::vector<Meaning> meanings_;
    QHash<QKeySequence, QAction*> actions_;
};

}
