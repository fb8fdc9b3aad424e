#pragma once
#include "app/work/photo_loader.h"
#include "app/work/task.h"
#include "app/work/viewing.h"

#include <QObject>

#include <map>
#include <vector>

namespace frenlo::app {

/// Which part of the photos a tile shows that is narrower than they are: where things move, the same for the whole
/// shot. Found in the background from some small versions of the shot that is looked at.
class MovingParts : public QObject
{
    Q_OBJECT
public:
    /// store: where thumbnails are kept; must outlive the background's work.
    MovingParts(Background& background, Viewing& viewing, PreviewStore& store, QObject* parent = nullptr);

    /// The left edge of a window of this share of the width, 0 to 1 - share; the middle while nothing is known.
    [[nodiscard]] double left_edge(double share) const;

Q_SIGNALS:
    void changed();

private:
    void look();

    Viewing& viewing_;
    PreviewStore& store_;
    std::map<ShotId, std::pair<std::size_t, std::vector<double>>> known_; ///< of so many photos
    mutable std::pair<double, double> last_{-1, 0};                       ///< a share, and what was said of it
    Task task_;
};

}
