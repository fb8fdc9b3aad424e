#pragma once
#include "app/work/task.h"
#include "app/work/viewing.h"
#include "core/steps/flicker/strip.h"

#include <QImage>
#include <QObject>

#include <memory>

namespace frenlo::app {

/// One column of each photo of a shot, as shot and as it is in the film.
struct Strip
{
    std::vector<PhotoIndex> photos;
    QImage before;
    QImage after;
};

/// Makes strips in the background. The photos are read once; another column, or other light, takes no time then.
class StripMaker : public QObject
{
    Q_OBJECT
public:
    /// store: where thumbnails are kept; must outlive the background's work.
    StripMaker(Background& background, Session& session, Viewing& viewing, PreviewStore& store,
               QObject* parent = nullptr);

    /// Of the shot that is looked at; column: where in the photos, 0 to 1.
    void make(double column);
    [[nodiscard]] const Strip& strip() const { return strip_; }
    /// How far reading is; 1 when nothing is being read.
    [[nodiscard]] double fraction() const { return task_.running() ? task_.fraction() : 1; }

Q_SIGNALS:
    void changed();

private:
    struct Made
    {
        std::shared_ptr<const StripPhotos> photos;
        Strip strip;
    };
    void start();

    Session& session_;
    Viewing& viewing_;
    PreviewStore& store_;
    ShotPtr wanted_, made_; ///< of which shots
    double wanted_column_ = 0.5, made_column_ = -1;
    std::shared_ptr<const StripPhotos> photos_; ///< of the shot that was made
    Strip strip_;
    Task task_;
};

}
