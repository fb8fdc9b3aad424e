#pragma once
#include "app/picture/picture_tool.h"

namespace frenlo::app {

/// A click on something that is grey.
class GreyTool : public PictureTool
{
    Q_OBJECT
public:
    using PictureTool::PictureTool;
    [[nodiscard]] QString caption() const override { return tr("Click on something that is grey"); }
    void paint(QPainter&, const QRectF&, const QPalette&) const override {}
    void press(QPointF where) override { Q_EMIT chosen(where); }

Q_SIGNALS:
    void chosen(QPointF where); ///< in shares of the photo
};

}
