#pragma once
#include "app/work/photo_loader.h"
#include "app/work/session.h"

#include <QObject>

#include <map>
#include <vector>

namespace frenlo::app {

/// Something to look at, with the way there.
struct ToLookAt
{
    ShotIndex shot;
    PhotoIndex photo;
    QString text;
    bool unusable = false; ///< the photo cannot be shown: setting it aside settles it
    bool settled = false; ///< already set aside
};

/// Everything in the project that the photographer should look at. Found in the background, shot by shot; only shots
/// that changed are looked at again.
class Findings : public QObject {
    Q_OBJECT
public:
    Findings(Background& background, Session& session, PhotoLoader& loader, QObject* parent = nullptr);
    [[nodiscard]] const std::vector<ToLookAt>& all() const { return all_; }
    /// Without those that are settled.
    [[nodiscard]] int open() const;

Q_SIGNALS:
    void changed();

private:
    void refresh();
    void collect();

    Background& background_;
    Session& session_;
    PhotoLoader& loader_;
    std::map<ShotPtr, std::vector<Finding>> found_; ///< by what the shot was when it was looked at
    std::map<ShotPtr, bool> looking_;
    std::vector<ToLookAt> all_;
};

}
