#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/retouch/area_tool.h"
#include "app/steps/retouch/areas_controller.h"

#include <QWidget>

#include <memory>

class QComboBox;
class QLabel;
class QPushButton;
class QTreeWidget;

namespace frenlo::app {

class Player;
class ValueField;

/// Areas: parts of the picture in which tone or retouching holds, or that another photo shows.
class AreasPart : public QWidget
{
    Q_OBJECT
public:
    AreasPart(Viewing& viewing, AreasController& controller, PictureView& picture, Player& player,
              QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void connect_all();
    void refresh();
    void refresh_hand();
    void fill_list();
    void show_tool();
    void draw(AreaTool::Hand hand);
    [[nodiscard]] QString what_text(const Area& area) const;

    Viewing& viewing_;
    AreasController& controller_;
    PictureView& picture_;
    Player& player_;
    std::unique_ptr<AreaTool> tool_;
    AreaTool::Hand hand_ = AreaTool::Hand::takes;
    std::vector<AreaId> ids_; ///< of the list's lines

    QTreeWidget* list_;
    QPushButton *outline_, *brush_area_, *all_, *things_, *remove_;
    ValueField *brush_, *soft_;
    QComboBox *shows_, *side_, *state_;
    QStringList state_names_; ///< the lines of the last one
    QPushButton *from_here_, *until_here_, *all_photos_, *here_too_;
    QLabel *empty_, *notes_, *where_;
    QWidget* hand_rows_;
};

}
