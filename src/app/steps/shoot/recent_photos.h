#pragma once
#include "app/work/background.h"
#include "core/source/photo_source.h"

#include <QImage>
#include <QObject>

#include <list>
#include <map>
#include <set>
#include <vector>

namespace frenlo::app {

/// The last photos of a shot at the size of previews, for what is seen with the live picture. Those that are wanted are
/// loaded in the background, and some more are kept.
class RecentPhotos : public QObject
{
    Q_OBJECT
public:
    RecentPhotos(Background& background, PreviewStore& store, QObject* parent = nullptr);

    /// A photo that was just taken: it need not be read again.
    void put(const PhotoPtr& photo, const QImage& image);
    /// How many are kept at most.
    void set_most(std::size_t photos) { most_ = photos; }
    /// Those that are there by now; arrived() follows for others.
    [[nodiscard]] std::vector<QImage> get(const std::vector<PhotoPtr>& photos);

Q_SIGNALS:
    void arrived();

private:
    void keep(const PhotoPtr& photo, const QImage& image);

    std::size_t most_ = 16; ///< that are kept
    Background& background_;
    std::shared_ptr<Previews> previews_;
    std::map<std::filesystem::path, QImage> images_;
    std::list<std::filesystem::path> order_; ///< the one that was used last is last
    std::set<std::filesystem::path> asked_;
};

}
