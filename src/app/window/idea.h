#pragma once
#include <QWidget>

namespace frenlo::app {

/// A drawing of the one idea, for those who see it first: a row is a second, a photo is as wide as it is held.
class IdeaDrawing : public QWidget
{
    Q_OBJECT
public:
    explicit IdeaDrawing(QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override { return {360, 250}; }

protected:
    void paintEvent(QPaintEvent* event) override;
};

}
