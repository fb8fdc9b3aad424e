#pragma once
#include "app/bench/region_row.h"
#include "app/work/lighter.h"

#include <QWidget>

#include <array>

class QCheckBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;

namespace frenlo::app {

/// How the light is evened, where it is measured, and doing it.
class EveningPart : public QWidget {
    Q_OBJECT
public:
    EveningPart(Session& session, Viewing& viewing, Lighter& lighter, PictureView& picture, QLabel& notice, QWidget* parent = nullptr);
    void refresh();
    /// The photo under the player is another one.
    void refresh_place();

private:
    /// A choice that is on or off, and where Lighting has it.
    struct Choice
    {
        QCheckBox* box;
        bool Lighting::*value;
    };
    void even();
    [[nodiscard]] QString figures(const Lighting& lighting) const;

    Session& session_;
    Viewing& viewing_;
    Lighter& lighter_;
    QLabel& notice_;
    QLineEdit* window_;
    QLineEdit* strength_;
    std::array<Choice, 5> choices_;
    RegionRow* region_;
    QPushButton* even_;
    QPushButton* as_shot_;
    QProgressBar* progress_;
    QLabel* flicker_;
    ShotPtr seen_; ///< the shot that the fields were filled for
};

}
