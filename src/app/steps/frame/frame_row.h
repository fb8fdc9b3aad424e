#pragma once
// Private to frame/: the bench's rows.
#include "app/widgets/flow_layout.h"
#include "app/widgets/layouts.h"

#include <QLabel>
#include <QWidget>

namespace frenlo::app {

inline constexpr int row_gap = 3, row_height = 28;

/// A row with its name before it, all names as wide.
inline FlowLayout* frame_row(QWidget* holder, const QString& name)
{
    holder->setMinimumHeight(row_height); // nothing is squeezed: the bench scrolls
    auto* row = new FlowLayout(holder);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    auto* label = heading(name);
    label->setMinimumWidth(64);
    row->addWidget(label);
    return row;
}

}
