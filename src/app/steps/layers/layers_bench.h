#pragma once
#include "app/picture/picture_view.h"
#include "app/steps/layers/layer_list.h"
#include "app/steps/layers/layers_controller.h"
#include "app/steps/layers/layers_tool.h"

#include <QWidget>

#include <memory>
#include <vector>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;
class QSpinBox;

namespace frenlo::app {

class Player;
class ValueField;

/// Layers: what lies over the photos or behind them, where it is and when, and what of it shows.
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
    /// What can be set of the layer in hand, a few rows at a time.
    enum class Page
    {
        pen,
        text,
        place,
        keys,
        when,
        look,
        shadow,
        colour
    };
    struct OfPage
    {
        Page page;
        QString name;
        QWidget* rows;
        QPushButton* button = nullptr;
    };
    QWidget* list_part();
    QWidget* when_part();
    QWidget* place_part();
    QWidget* keys_part();
    QWidget* look_part();
    QWidget* shadow_part();
    QWidget* colour_part();
    QWidget* pen_part();
    void change(const QString& name, const std::function<void(Layer&)>& how);
    void take_frames();
    void take_matte(int which);
    void fill_films();
    void add_picture();
    void refresh();
    [[nodiscard]] bool has(Page page, const std::optional<Layer>& layer) const;
    void refresh_pages(const std::optional<Layer>& layer);
    void refresh_layer(const Layer& layer);
    void refresh_place(const Layer& layer);
    void refresh_matte(const Layer& layer);
    void refresh_colour(const std::optional<Layer>& layer);
    void refresh_pen(const Layer& layer);
    void show_tool();
    void take_hand(LayerHand hand);
    void go_to_key(int by);

    Session& session_;
    Viewing& viewing_;
    LayersController& controller_;
    PictureView& picture_;
    Player& player_;
    std::unique_ptr<LayersTool> tool_;
    LayerHand hand_ = LayerHand::place;
    Backdrop pen_colour_{34, 38, 42};

    LayerList* list_;
    QPushButton* add_film_;
    QPushButton *up_, *down_, *lock_, *remove_, *go_;
    QLabel* empty_;
    QPlainTextEdit* text_;
    QLineEdit *name_, *from_, *to_;
    QComboBox *side_, *hold_, *end_;
    std::vector<ValueField*> place_;
    QPushButton *key_here_, *key_back_, *key_on_, *key_gone_;
    QComboBox *ease_, *way_, *again_;
    QComboBox* blend_;
    ValueField* edge_;
    QCheckBox* shadow_;
    std::vector<ValueField*> shadow_fields_;
    QComboBox* matte_;
    QPushButton *pick_, *keep_;
    std::vector<ValueField*> colour_fields_;
    std::vector<QPushButton*> pens_;
    QPushButton *pen_colour_button_, *unstroke_;
    ValueField* pen_width_;
    QCheckBox* onion_;
    QSpinBox* held_;
    QWidget* shadow_more_ = nullptr;
    std::vector<OfPage> pages_;
    Page page_ = Page::place; ///< that was asked for
};

}
