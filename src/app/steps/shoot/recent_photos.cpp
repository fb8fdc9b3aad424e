#include "app/steps/shoot/recent_photos.h"

#include "app/work/photo_loader.h"

#include <algorithm>

namespace frenlo::app {

RecentPhotos::RecentPhotos(Background& background, PreviewStore& store, QObject* parent)
    : QObject(parent), background_(background), previews_(std::make_shared<Previews>(store))
{
}

void RecentPhotos::keep(const PhotoPtr& photo, const QImage& image)
{
    order_.remove(photo->file);
    order_.push_back(photo->file);
    images_[photo->file] = image;
    while (order_.size() > most_) {
        images_.erase(order_.front());
        order_.pop_front();
    }
}

void RecentPhotos::put(const PhotoPtr& photo, const QImage& image)
{
    keep(photo, image.width() > preview_side
                    ? image.scaled(preview_side, preview_side, Qt::KeepAspectRatio, Qt::SmoothTransformation)
                    : image);
    Q_EMIT arrived();
}

std::vector<QImage> RecentPhotos::get(const std::vector<PhotoPtr>& photos)
{
    std::vector<QImage> all;
    all.reserve(photos.size());
    for (const PhotoPtr& photo : photos) {
        const auto it = images_.find(photo->file);
        if (it != images_.end()) {
            all.push_back(it->second);
            continue;
        }
        all.emplace_back();
        if (!asked_.insert(photo->file).second)
            continue;
        background_.run(
            this,
            [photo, previews = previews_] {
                return Background::guarded(
                    [&] { return to_image(value_or_throw(previews->get(*photo, PreviewKind::preview))); });
            },
            [this, photo](const Result<QImage>& image) {
                asked_.erase(photo->file);
                keep(photo, image ? *image : QImage()); // one that cannot be read is not asked for again
                Q_EMIT arrived();
            });
    }
    return all;
}

}
