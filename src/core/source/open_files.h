#pragma once
#include "core/base/input_file.h"
#include "core/source/decode.h"

#include <list>
#include <memory>
#include <mutex>

namespace frenlo {

class MovingFile;

/// Clips and animations that are open, the few that were used last: opening one and finding a place in it takes longer
/// than its next picture. Safe from any thread; pictures of one file are decoded one after another.
class OpenFiles
{
public:
    OpenFiles();
    ~OpenFiles();
    OpenFiles(const OpenFiles&) = delete;
    OpenFiles& operator=(const OpenFiles&) = delete;

    /// A photo that is one of several in its file, or several of them averaged in linear light: pixels as
    /// decode.h says, the orientation not yet applied. Throws Failure.
    DecodedPhoto picture(const PhotoFile& photo);

private:
    struct Opened;
    std::shared_ptr<Opened> opened(const PhotoFile& photo);

    std::mutex mutex_;
    std::list<std::shared_ptr<Opened>> opened_; ///< used last: in front
};

}
