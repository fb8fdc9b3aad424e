#pragma once
#include "app/steps/flicker/flicker_controller.h"
#include "app/widgets/region_row.h"

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
class DeflickerPart : public QWidget
{
    Q_OBJECT
public:
    DeflickerPart(Session& session, Viewing& viewing, FlickerController& flicker_controller, PictureView& picture,
                  QLabel& notice, QWidget* parent = nullptr);
    void refresh();
    /// The photo under the player is another one.
    void refresh_place();

private:
    /// A correction that is made or not, as suits the flicker until somebody decides, and where Lighting has both.
    struct Choice
    {
        QCheckBox* box;
        std::optional<bool> Deflicker::*wish;
        bool Corrected::*done;
        bool by_hand = false;
    };
    void show_choices(const Deflicker& deflicker);
    void choose_again();
    void even();
    [[nodiscard]] QString figures(const Deflicker& deflicker) const;

    Session& session_;
    Viewing& viewing_;
    FlickerController& flicker_controller_;
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
