#pragma once
#include "app/work/background.h"
#include "core/source/inspect.h"
#include "core/source/photo_source.h"

#include <QImage>
#include <QObject>

#include <memory>
#include <optional>

namespace frenlo::app {

/// A film or picture that is seen with the live picture: of a film, what it shows when the next photo begins.
class Reference : public QObject
{
    Q_OBJECT
public:
    explicit Reference(Background& background, QObject* parent = nullptr);

    /// Looks at the file in the background; an empty name is none.
    void choose(const std::filesystem::path& file);
    [[nodiscard]] const std::filesystem::path& file() const { return file_; }
    [[nodiscard]] bool is_film() const { return times_ && times_->count > 1; }
    /// Shows what it is at this time of the shot's film, seconds.
    void go_to(double seconds);
    [[nodiscard]] const QImage& image() const { return image_; }

Q_SIGNALS:
    void changed(); ///< another image
    void failed(const QString& what);

private:
    void load();
    [[nodiscard]] std::int64_t picture_at(double seconds) const;

    Background& background_;
    std::shared_ptr<Originals> originals_;
    std::filesystem::path file_, unreadable_;
    PhotoPtr photo_;
    std::shared_ptr<const PictureTimes> times_;
    double seconds_ = 0;
    std::int64_t shown_ = -1; ///< the picture that image_ is
    bool loading_ = false;
    QImage image_;
};

}
