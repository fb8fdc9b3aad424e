#include "core/steps/shoot/taking.h"

#include "core/base/text.h"
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "core/source/metadata.h"
#include "core/steps/shoot/averaging.h"

#include <exiv2/exiv2.hpp>
#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>

namespace frenlo {

namespace {

/// Below this the disk counts as full: the project and its previews need something, too.
constexpr std::uintmax_t spare_bytes = 64UL << 20U;

std::string shown_stops(double stops)
{
    char text[24];
    std::snprintf(text, sizeof text, "%+.4g", stops);
    return text;
}

}

std::optional<double> shutter_seconds(const std::string& text)
{
    const auto slash = text.find('/');
    char* end = nullptr;
    if (slash != std::string::npos) {
        const double over = std::strtod(text.c_str(), &end);
        const double under = std::strtod(text.c_str() + slash + 1, nullptr);
        if (end == text.c_str() || over <= 0 || under <= 0)
            return std::nullopt;
        return over / under;
    }
    const double v = std::strtod(text.c_str(), &end);
    if (end == text.c_str() || v <= 0)
        return std::nullopt;
    return v;
}

ExposureSteps::ExposureSteps(Camera& camera) : camera_(camera)
{
    for (CameraSetting& s : camera.settings())
        if (s.kind == SettingKind::exposure) {
            setting_ = std::move(s);
            return;
        }
    throw Failure({camera.name() + " has no shutter time that can be set from here",
                   {},
                   "Take the exposures one by one, set at the camera"});
}

void ExposureSteps::set(double stops)
{
    set_ = true;
    if (setting_.choices.empty()) {
        camera_.set(setting_.key, setting_.value * std::exp2(stops));
        return;
    }
    const auto now = shutter_seconds(setting_text(setting_));
    if (!now)
        throw Failure({camera_.name() + " is set to “" + setting_text(setting_) + "”", {}, "Set a shutter time"});
    double best = 1e9;
    std::size_t at = 0;
    for (std::size_t i = 0; i < setting_.choices.size(); ++i)
        if (const auto t = shutter_seconds(setting_.choices[i])) {
            const double off = std::abs(std::log2(*t / *now) - stops);
            if (off < best) {
                best = off;
                at = i;
            }
        }
    camera_.set(setting_.key, double(at));
}

void ExposureSteps::set_back()
{
    if (!set_)
        return;
    set_ = false;
    if (setting_.automatic.value_or(false))
        camera_.set_automatic(setting_.key, true);
    else
        camera_.set(setting_.key, setting_.value);
}

ExposureSteps::~ExposureSteps()
{
    try {
        set_back();
    } catch (const Failure&) { // a photo has failed already, and is told
    }
}

std::string photo_bytes(const cv::Mat& pixels, TakenFormat format, const std::string& camera, CaptureTime at,
                        const Exposure& exposure)
{
    constexpr int fast = 1, quality = 95;
    const bool jpeg = format == TakenFormat::jpeg && pixels.depth() == CV_8U;
    const std::string bytes = jpeg ? encode_jpeg(pixels, quality, true) : encode_png(pixels, fast);
    prepare_exiv2();
    try {
        const auto image =
            Exiv2::ImageFactory::open(reinterpret_cast<const Exiv2::byte*>(bytes.data()), long(bytes.size()));
        image->readMetadata();
        Exiv2::ExifData& exif = image->exifData();
        exif["Exif.Image.Model"] = camera;
        exif["Exif.Image.Software"] = std::string("Frenlo " FRENLO_VERSION);
        std::string time = at.text(); // 2026-05-03T10:42:11.250
        time[4] = time[7] = ':';
        time[10] = ' ';
        exif["Exif.Photo.DateTimeOriginal"] = time.substr(0, 19);
        if (time.size() > 20)
            exif["Exif.Photo.SubSecTimeOriginal"] = time.substr(20);
        if (exposure.seconds)
            exif["Exif.Photo.ExposureTime"] =
                Exiv2::Rational(int(exposure.seconds->num()), int(exposure.seconds->den()));
        if (exposure.iso)
            exif["Exif.Photo.ISOSpeedRatings"] = std::uint16_t(std::clamp(*exposure.iso, 0, 65535));
        image->writeMetadata();
        Exiv2::BasicIo& io = image->io();
        io.seek(0, Exiv2::BasicIo::beg);
        const Exiv2::DataBuf out = io.read(long(io.size()));
        return {reinterpret_cast<const char*>(out.pData_), std::size_t(out.size_)};
    } catch (const Exiv2::AnyError& error) {
        throw Failure(
            {std::string("the photo could not be given its Exif (") + error.what() + ")", {}, "Take it again"});
    }
}

PhotoTaker::PhotoTaker(Camera& camera, PhotoFolder& folder, const SeriesClock& clock)
    : camera_(&camera), folder_(folder), clock_(clock), clocks_(clock)
{
}

void PhotoTaker::compare_with(const cv::Mat& pixels)
{
    before_ = small_photo(pixels);
    size_ = pixels.size();
}

void PhotoTaker::refuse_when_full() const
{
    const std::uintmax_t free = folder_.free_bytes();
    if (free < spare_bytes + 2 * last_bytes_)
        throw Failure({"the disk is full: " + shown_bytes(free) + " are left", folder_.folder(),
                       "Make room, or choose a folder on another disk; all photos that were taken are there"});
}

PhotoTaker::Exposed PhotoTaker::expose(const TakeOrder& order, const Job& job)
{
    Exposed e;
    e.at = clocks_.time();
    if (order.averaged <= 1) {
        e.picture = camera_->take();
    } else {
        std::vector<cv::Mat> pictures;
        pictures.reserve(std::size_t(order.averaged));
        for (std::int64_t i = 0; i < order.averaged; ++i) {
            job.check();
            job.report(double(i) / double(order.averaged),
                       "picture " + std::to_string(i + 1) + " of " + std::to_string(order.averaged));
            TakenPicture one = camera_->take();
            cv::Mat pixels = one.pixels;
            if (pixels.empty())
                pixels =
                    value_or_throw(decode_bytes(one.file, 1, {}, folder_.folder() / ("photo" + one.ending))).pixels;
            if (pixels.depth() != CV_8U)
                pixels.convertTo(pixels, CV_8U, 255.0 / 65535);
            if (pixels.channels() == 4)
                cv::cvtColor(pixels, pixels, cv::COLOR_BGRA2BGR);
            if (!pictures.empty() && pixels.size() != pictures.front().size())
                throw Failure(
                    {camera_->name() + " changed the size of its pictures within one photo", {}, "Take it again"});
            pictures.push_back(pixels);
            e.picture.exposure = one.exposure;
        }
        Averaged mean = averaged(pictures);
        e.picture.pixels = std::move(mean.pixels);
        e.how.noise_gain = mean.noise_gain;
        e.how.averaged = order.averaged;
    }
    e.how.trial = order.trial;
    return e;
}

PhotoPtr PhotoTaker::keep(const Exposed& e, const TakeOrder& order, const std::string& tail, TakenPhoto& result)
{
    const TakenPicture& p = e.picture;
    const bool own = !p.file.empty();
    const std::string bytes = own ? p.file : photo_bytes(p.pixels, order.format, camera_->name(), e.at, p.exposure);
    const bool jpeg = order.format == TakenFormat::jpeg && p.pixels.depth() == CV_8U;
    const std::string ending = own ? p.ending : jpeg ? ".jpg" : ".png";
    const auto file = folder_.store(bytes, ending, tail);
    result.safe_after = clock_.steady() - result.asked_at;
    result.bytes += bytes.size();
    last_bytes_ = bytes.size();
    const Inspected known = inspect(file);
    if (known.finding && own)
        result.remarks.push_back(known.finding->text);
    return known.photo;
}

void PhotoTaker::compare(const cv::Mat& seen, TakenPhoto& result)
{
    if (seen.empty())
        return;
    const SmallPhoto now = small_photo(seen);
    result.how.moved = movement_between(before_, now);
    if (!size_.empty() && seen.size() != size_)
        result.remarks.push_back("The camera's pictures have another size now: " + std::to_string(seen.cols) + " × " +
                                 std::to_string(seen.rows) + " instead of " + std::to_string(size_.width) + " × " +
                                 std::to_string(size_.height) + '.');
    if (is_black(seen))
        result.remarks.emplace_back("The photo is black: look at the lens cap and the lamp.");
    if (!result.how.trial) {
        before_ = now;
        size_ = seen.size();
    }
}

TakenPhoto PhotoTaker::take(const TakeOrder& order, const Job& job)
{
    refuse_when_full();
    TakenPhoto result;
    result.asked_at = clock_.steady();
    const std::string trial = order.trial ? "_trial" : "";
    cv::Mat seen;
    const auto seen_of = [&](const Exposed& e) {
        cv::Mat pixels = e.picture.pixels;
        if (pixels.empty()) {
            constexpr int enough = 1280;
            if (auto decoded = decode_bytes(e.picture.file, 1, {enough, enough}, "photo" + e.picture.ending))
                pixels = decoded->pixels;
        }
        return pixels;
    };
    if (order.bracket.empty()) {
        const Exposed e = expose(order, job);
        result.photo = keep(e, order, trial, result);
        result.how = e.how;
        seen = seen_of(e);
    } else {
        ExposureSteps steps(*camera_);
        const auto middle = std::min_element(order.bracket.begin(), order.bracket.end(),
                                             [](double a, double b) { return std::abs(a) < std::abs(b); });
        for (auto it = order.bracket.begin(); it != order.bracket.end(); ++it) {
            steps.set(*it);
            Exposed e = expose(order, job);
            e.how.stops = *it;
            if (it != order.bracket.begin())
                folder_.same_number_again();
            const PhotoPtr photo = keep(e, order, trial + '_' + shown_stops(*it), result);
            if (it == middle) {
                result.photo = photo;
                result.how = e.how;
                seen = seen_of(e);
            } else {
                result.versions.emplace_back(photo, e.how);
            }
        }
        try {
            steps.set_back();
        } catch (const Failure& failure) { // the photos are safe
            result.remarks.push_back("The exposure could not be set back: " + failure.problem().text());
        }
    }
    space_.wrote(result.asked_at, result.bytes);
    compare(seen, result);
    result.pixels = seen;
    if (result.pixels.depth() == CV_16U)
        result.pixels.convertTo(result.pixels, CV_8U, 255.0 / 65535);
    return result;
}

}
