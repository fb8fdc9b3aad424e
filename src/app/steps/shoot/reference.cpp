#include "app/steps/shoot/reference.h"

#include "app/work/photo_loader.h"
#include "core/base/text.h"
#include "core/source/moving_file.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <utility>

namespace frenlo::app {

Reference::Reference(Background& background, QObject* parent)
    : QObject(parent), background_(background), originals_(std::make_shared<Originals>())
{
}

void Reference::choose(const std::filesystem::path& file)
{
    if (file == file_ || (!file.empty() && file == unreadable_))
        return;
    file_ = file;
    unreadable_.clear();
    photo_.reset();
    times_.reset();
    shown_ = -1;
    image_ = {};
    Q_EMIT changed();
    if (file.empty())
        return;
    background_.run(
        this, [file] { return inspect(file); },
        [this, file](const Inspected& found) {
            if (file != file_)
                return;
            if (!found.photo || found.state != PhotoState::fine) {
                Q_EMIT failed(tr("%1 is no film and no picture that can be read.")
                                  .arg(QString::fromStdString(shown_path(file.filename()))));
                unreadable_ = std::exchange(file_, {}); // said once
                Q_EMIT changed();
                return;
            }
            photo_ = found.photo;
            times_ = found.times;
            load();
        });
}

std::int64_t Reference::picture_at(double seconds) const
{
    if (!is_film())
        return 0;
    if (times_->begins.empty())
        return 0;
    const auto& begins = times_->begins;
    constexpr double half_a_frame = 1e-3;
    const auto it = std::upper_bound(begins.begin(), begins.end(), seconds + half_a_frame,
                                     [](double s, const Seconds& b) { return s < b.value.approx(); });
    return std::max<std::int64_t>(0, it - begins.begin() - 1);
}

void Reference::go_to(double seconds)
{
    seconds_ = seconds;
    load();
}

void Reference::load()
{
    if (!photo_ || loading_)
        return;
    const std::int64_t wanted = picture_at(seconds_);
    if (wanted == shown_)
        return;
    loading_ = true;
    PhotoPtr photo = photo_;
    if (is_film())
        photo = pictures_of(photo_, *times_, std::array{PickedPicture{wanted, 1}}).front();
    background_.run(
        this,
        [photo, originals = originals_] {
            return Background::guarded([&] {
                cv::Mat pixels = value_or_throw(originals->pixels(*photo, {preview_side, 1}, Damage::accept));
                if (pixels.depth() == CV_16U)
                    pixels.convertTo(pixels, CV_8U, 255.0 / 65535);
                if (pixels.channels() == 4)
                    cv::cvtColor(pixels, pixels, cv::COLOR_BGRA2BGR);
                return to_image(pixels);
            });
        },
        [this, wanted, file = file_](const Result<QImage>& image) {
            loading_ = false;
            if (file != file_)
                return load();
            shown_ = wanted;
            if (image)
                image_ = *image;
            else
                Q_EMIT failed(QString::fromStdString(image.error().text()));
            Q_EMIT changed();
            load();
        });
}

}
