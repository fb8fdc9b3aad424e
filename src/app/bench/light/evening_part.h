#pragma once
#include "app/bench/region_row.h"
#include "app/work/lighter.h"

#include <QWidget>

#include <array>
#include <optional>

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
    /// A correction that is made or not, as suits the flicker until somebody decides, and where Lighting has both.
    struct Choice
    {
        QCheckBox* box;
        std::optional<bool> Lighting::*wish;
        bool Corrected::*done;
        bool by_hand = false;
    };
    void show_choices(const Lighting& lighting);
    void choose_again();
    void even();
    [[nodiscard]] QString figures(const Lighting& lighting) const;

    Session& session_;
    Viewing& viewing_;
    Lighter& lighter_;
    QLabel& notice_;
    QLineEdit* window_;
    QLineEdit* strength_;
    std::array<Choice, 4> choices_;
    QCheckBox* moving_;
    QPushButton* again_; ///< corrections as the photos say, after one was set by hand
    RegionRow* region_;
    QPushButton* even_;
    QPushButton* as_shot_;
    QProgressBar* progress_;
    QLabel* flicker_;
    ShotPtr seen_; ///< the shot that the fields were filled for
};

}
