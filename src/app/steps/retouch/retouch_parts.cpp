#include "app/steps/retouch/retouch_parts.h"

#include "app/widgets/layouts.h"
#include "app/widgets/page_stack.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace frenlo::app {

RetouchParts::RetouchParts(const std::vector<Part>& parts, QWidget* parent) : QWidget(parent), stack_(new PageStack)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(14, 6, 14, 0);
    row->setSpacing(6);
    for (const Part& part : parts) {
        auto* button = tool(part.name, part.tip);
        button->setCheckable(true);
        row->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, at = buttons_.size()] { open(at); });
        buttons_.push_back(button);
        stack_->addWidget(part.widget);
    }
    row->addStretch();
    column->addLayout(row);
    column->addWidget(stack_, 1);
    open(0);
}

void RetouchParts::open(std::size_t part)
{
    for (std::size_t i = 0; i < buttons_.size(); ++i)
        buttons_[i]->setChecked(i == part);
    stack_->setCurrentIndex(int(part));
}

}
