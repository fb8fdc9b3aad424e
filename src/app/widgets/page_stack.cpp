#include "app/widgets/page_stack.h"

namespace frenlo::app {

PageStack::PageStack(QWidget* parent) : QStackedWidget(parent)
{
    connect(this, &QStackedWidget::currentChanged, this, &QWidget::updateGeometry);
}

QSize PageStack::sizeHint() const
{
    return currentWidget() ? currentWidget()->sizeHint() : QSize();
}

QSize PageStack::minimumSizeHint() const
{
    return currentWidget() ? currentWidget()->minimumSizeHint() : QSize();
}

bool PageStack::hasHeightForWidth() const
{
    return currentWidget() && currentWidget()->hasHeightForWidth();
}

int PageStack::heightForWidth(int width) const
{
    return currentWidget() ? currentWidget()->heightForWidth(width) : -1;
}

}
