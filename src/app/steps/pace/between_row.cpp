#include "app/steps/pace/between_row.h"

#include "app/widgets/flow_layout.h"
#include "app/widgets/layouts.h"

#include <QPushButton>

namespace frenlo::app {

BetweenRow::BetweenRow(QWidget* parent)
    : QWidget(parent),
      repeat_(tool(tr("Repeat"), tr("A frame shows one photo; it is repeated or left out where the rates differ"))),
      mix_(tool(tr("Mix"), tr("A frame shows all photos that fall into its time, averaged in linear light"))),
      motion_(tool(tr("Motion"), tr("In-betweens: what moves is carried on from photo to photo, for slow and smooth "
                                    "films; where it cannot be followed, both photos are mixed")))
{
    auto* row = new FlowLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    for (const auto& [button, way] :
         {std::pair(repeat_, Between::repeat), std::pair(mix_, Between::mix), std::pair(motion_, Between::motion)}) {
        button->setCheckable(true);
        row->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, way = way] { Q_EMIT chosen(way); });
    }
}

void BetweenRow::show_way(Between between)
{
    repeat_->setChecked(between == Between::repeat);
    mix_->setChecked(between == Between::mix);
    motion_->setChecked(between == Between::motion);
}

}
