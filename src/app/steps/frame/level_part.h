#pragma once
#include "app/steps/frame/frame_controller.h"
#include "app/work/background.h"

#include <QWidget>

#include <functional>
#include <optional>

namespace frenlo {
class PreviewStore;
}

namespace frenlo::app {

class FlowLayout;
class ValueField;

/// The photo itself put right: turned level, made upright, and what its lens did taken out.
class LevelPart : public QWidget
{
    Q_OBJECT
public:
    LevelPart(Background& background, Viewing& viewing, FrameController& frame_controller, PreviewStore& store,
              QWidget* parent = nullptr);
    void refresh(const Shot& shot);

Q_SIGNALS:
    void draw_level(); ///< a line is to be drawn on the picture
    void failed(const QString& message);

private:
    QWidget* level_row();
    QWidget* upright_row();
    void add_lens(FlowLayout& row);
    template <class Find, class Take>
    void look_for(Find search, Take take, const QString& nothing);
    void find_level_line();
    void find_upright_lines();
    /// The photo that is looked at, as large as lines are looked for in; nothing where there is none.
    [[nodiscard]] std::optional<FrameRequest> picture_here() const;

    Background& background_;
    Viewing& viewing_;
    FrameController& frame_controller_;
    PreviewStore& store_;
    ValueField* straighten_ = nullptr;
    ValueField* uprights_ = nullptr;
    ValueField* k1_ = nullptr;
    ValueField* k2_ = nullptr;
};

}
