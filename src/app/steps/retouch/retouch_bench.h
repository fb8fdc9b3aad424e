#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/retouch/retouch_controller.h"
#include "app/steps/retouch/retouch_tool.h"

#include <QWidget>

#include <memory>

class QCheckBox;
class QComboBox;
class QLabel;
class QProgressBar;
class QPushButton;

namespace frenlo::app {

class Player;
class ValueField;

/// Retouch: a brush for what should not be there, the clean plate, dust.
class RetouchBench : public QWidget
{
    Q_OBJECT
public:
    RetouchBench(Viewing& viewing, RetouchController& controller, PictureView& picture, Player& player,
                 QWidget* parent = nullptr);

    void remove() { controller_.remove(); }

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void connect_all();
    void refresh();
    void refresh_spot(const std::optional<Spot>& spot);
    void show_tool();
    [[nodiscard]] HealFrom brush_from() const;
    [[nodiscard]] QString photos_text(const Spot& spot) const;

    Viewing& viewing_;
    RetouchController& controller_;
    PictureView& picture_;
    Player& player_;
    std::unique_ptr<RetouchTool> tool_;

    ValueField* brush_;
    QComboBox* from_;
    QCheckBox* outlines_;
    QPushButton *dust_, *make_plate_, *use_plate_, *see_plate_, *no_plate_;
    QLabel *plate_, *notes_, *what_, *spot_text_;
    QPushButton *heal_from_, *switch_, *remove_, *here_too_, *follow_, *only_here_, *all_photos_, *stop_;
    ValueField *size_, *soft_;
    QProgressBar* progress_;
    QLabel* progress_text_;
    QWidget *spot_rows_, *progress_row_;
};

}
