#pragma once
// How a shot lies on the page by itself: as large as it can be.
#include "app/sheet/layout.h"

#include <QSize>

namespace frenlo::app {

/// The length of a row and the height of its tiles with which the whole shot fills a page of this size and its photos
/// are as large as can be. A shot that is too long for that gets tiles that can still be read, and is scrolled. shape:
/// width over height of the photos. more_below: as in RowLook.
RowLook fitting_rows(const Schedule& schedule, QSize page, double shape, int more_below = 0);

/// The same for even tiles: how wide they are.
int fitting_tile_width(std::int64_t photos, QSize page, double shape);

}
