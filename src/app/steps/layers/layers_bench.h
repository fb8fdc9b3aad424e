#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/layers/layer_list.h"
#include "app/steps/layers/layers_controller.h"
#include "app/steps/layers/layers_tool.h"

#include <QWidget>

#include <memory>
#include <vector>

class QLabel;
class QPushButton;

namespace frenlo::app {

class ColourPage;
class LayerPage;
class PenPage;
class Player;

/// Layers: what lies over the photos or behind them, and pages of what can be set of the one in hand.
class LayersBench : public QWidget
{
    Q_OBJECT
public:
    LayersBench(Session& session, Viewing& viewing, LayersController& controller, PictureView& picture, Player& player,
                QWidget* parent = nullptr);

    void nudge(int x, int y);
    [[nodiscard]] bool has_tool() const { return tool_ != nullptr; }

Q_SIGNALS:
    void show_shot(ShotId shot);
    void pick_colour(QPointF at);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    QWidget* list_part();
    void fill_films();
    void add_picture();
    void open_page(LayerPage* page);
    void refresh();
    void refresh_pages(const Layer* layer);
    void follow_playhead();
    void show_tool();

    Session& session_;
    Viewing& viewing_;
    LayersController& controller_;
    PictureView& picture_;
    Player& player_;
    std::unique_ptr<LayersTool> tool_;
    bool picking_ = false; ///< the next click on the picture says which colour goes
    LayerList* list_;
    QPushButton* add_film_;
    QPushButton *up_, *down_, *lock_, *remove_, *go_;
    QLabel* empty_;
    PenPage* pen_;
    ColourPage* colour_;
    LayerPage *text_, *place_;
    std::vector<std::pair<LayerPage*, QPushButton*>> pages_;
    LayerPage* page_; ///< that was asked for; another one is seen where it does not apply
};

}
