#pragma once
#include "core/command/options.h"
#include "core/project/project_file.h"
#include "core/source/photo_source.h"

#include <functional>

namespace frenlo::command {

/// What commands measure photos from: small versions are kept where the window keeps its own, so that a command finds
/// what one before it, or the window, has decoded.
class MeasuredFrom : public PhotoSource
{
public:
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const override
    {
        return small_.pixels(photo, at_least, damage);
    }

private:
    PreviewStore store_{PreviewStore::usual_folder(), PreviewStore::usual_limit};
    SmallVersions small_{store_};
};

/// That what was measured no longer fits the project.
Failure changed_meanwhile(const std::string& project);

/// Changes the project's file as it is by now, after something was measured of the shot; change is told where the shot
/// is, whatever others did meanwhile.
LoadedProject change_measured(const std::string& project, const Shot& measured,
                              const std::function<Project(const Project&, ShotIndex)>& change);

}
