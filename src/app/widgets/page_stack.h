#pragma once
#include <QStackedWidget>

namespace frenlo::app {

/// Pages of which one is seen: as large as that one asks for, where a plain stack is as large as the largest.
class PageStack : public QStackedWidget
{
    Q_OBJECT
public:
    explicit PageStack(QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;
    [[nodiscard]] bool hasHeightForWidth() const override;
    [[nodiscard]] int heightForWidth(int width) const override;
};

}
