#include "core/base/atomic_file.h"
#include "core/base/text.h"
#include "core/picture/picture.h"
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "core/source/transfer.h"
#include "core/steps/retouch/plane_picture.h"
#include "core/steps/retouch/retouch_operations.h"

#include <opencv2/core.hpp>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo {

namespace {

constexpr std::size_t most_photos = 31;                ///< that are compared: more change little
constexpr std::size_t memory = std::size_t(700) << 20; ///< that the photos of a band may take, bytes
constexpr int small_side = 120;

float middle_of(std::vector<float>& values)
{
    const auto middle = values.begin() + std::ptrdiff_t(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    if (values.size() % 2 == 1)
        return *middle;
    return (*middle + *std::max_element(values.begin(), middle)) / 2;
}

/// What each photo's light must be multiplied by, B, G, R, so that all are as bright as their middle: where most of the
/// picture agrees, whatever moves in it.
std::vector<cv::Vec3f> gains_of(const std::vector<Canvas>& small)
{
    const cv::Size size = small.front().size();
    Canvas middle(size);
    std::vector<float> values(small.size());
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x)
            for (int c = 0; c < 3; ++c) {
                for (std::size_t i = 0; i < small.size(); ++i)
                    values[i] = small[i](y, x)[c];
                middle(y, x)[c] = middle_of(values);
            }
    std::vector<cv::Vec3f> gains;
    for (const Canvas& one : small) {
        cv::Vec3f gain;
        for (int c = 0; c < 3; ++c) {
            std::vector<float> ratios;
            for (int y = 0; y < size.height; ++y)
                for (int x = 0; x < size.width; ++x)
                    if (one(y, x)[c] > 0.004F && middle(y, x)[c] > 0.004F)
                        ratios.push_back(middle(y, x)[c] / one(y, x)[c]);
            gain[c] = ratios.size() < 20 ? 1 : std::clamp(middle_of(ratios), 0.25F, 4.0F);
        }
        gains.push_back(gain);
    }
    return gains;
}

/// The middle of the values, and the mean of those that agree with it: noise becomes less, what moves stays out.
float agreed(std::vector<float>& values, std::vector<float>& away)
{
    const float middle = middle_of(values);
    away.clear();
    for (const float v : values)
        away.push_back(std::abs(v - middle));
    constexpr float noise = 0.006F, widths = 2; // of encoded light
    const float width = std::max(noise, widths * 1.4826F * middle_of(away));
    float sum = 0, count = 0;
    for (const float v : values)
        if (std::abs(v - middle) <= width) {
            sum += v;
            ++count;
        }
    return count > 0 ? sum / count : middle;
}

/// Of encoded values of 16 bit through a gain of their light.
std::vector<float> table_of(float gain)
{
    const auto& linear = linear_table<std::uint16_t>();
    std::vector<float> table(linear.size());
    for (std::size_t i = 0; i < table.size(); ++i)
        table[i] = float(encoded_of(std::min(1.0, double(linear[i] * gain))));
    return table;
}

cv::Mat median_plate(const Shot& shot, const std::vector<PhotoIndex>& photos, cv::Size plane, const PhotoSource& source,
                     const Job& job)
{
    std::vector<Canvas> small;
    std::vector<PhotoIndex> read;
    const cv::Size little = fitted(plane, {small_side, small_side});
    for (std::size_t i = 0; i < photos.size(); ++i) {
        job.check();
        job.report(0.15 * double(i) / double(photos.size()),
                   "photo " + std::to_string(i + 1) + " of " + std::to_string(photos.size()));
        if (auto canvas = render_canvas(
                ground_request(shot, photos[i], Ground::plane, {0, 0, 1, 1}, little, Depth::sixteen), source)) {
            small.push_back(std::move(*canvas));
            read.push_back(photos[i]);
        }
    }
    if (read.size() < 3)
        throw Failure({"a clean plate needs three photos that can be read",
                       {},
                       "Add photos, or choose one of them as the plate"});
    const auto gains = gains_of(small);
    std::vector<std::array<std::vector<float>, 3>> tables(read.size());
    tbb::parallel_for(std::size_t(0), read.size(), [&](std::size_t i) {
        for (int c = 0; c < 3; ++c)
            tables[i][std::size_t(c)] = table_of(gains[i][c]);
    });
    cv::Mat plate(plane, CV_16UC3);
    const auto band = int(
        std::clamp<std::size_t>(memory / (read.size() * std::size_t(plane.width) * 6), 16, std::size_t(plane.height)));
    for (int top = 0; top < plane.height; top += band) {
        const int rows = std::min(band, plane.height - top);
        std::vector<cv::Mat> pictures(read.size());
        for (std::size_t i = 0; i < read.size(); ++i) {
            job.check();
            job.report(0.15 + 0.85 * (double(top) + double(rows) * double(i) / double(read.size())) / plane.height,
                       "photo " + std::to_string(i + 1) + " of " + std::to_string(read.size()));
            const cv::Rect2d part(0, double(top) / plane.height, 1, double(rows) / plane.height);
            auto picture =
                render(ground_request(shot, read[i], Ground::plane, part, {plane.width, rows}, Depth::sixteen), source);
            if (!picture)
                throw Failure(picture.error());
            pictures[i] = std::move(*picture);
        }
        tbb::parallel_for(0, rows, [&](int y) {
            std::vector<float> values(pictures.size()), away;
            auto* out = plate.ptr<cv::Vec3w>(top + y);
            for (int x = 0; x < plane.width; ++x)
                for (int c = 0; c < 3; ++c) {
                    for (std::size_t i = 0; i < pictures.size(); ++i) {
                        const int channels = pictures[i].channels();
                        values[i] = tables[i][std::size_t(c)][pictures[i].ptr<std::uint16_t>(y)[x * channels + c]];
                    }
                    out[x][c] = std::uint16_t(std::lround(std::clamp(agreed(values, away), 0.0F, 1.0F) * 65535));
                }
        });
    }
    return plate;
}

std::filesystem::path write_plate(const cv::Mat& plate, const std::filesystem::path& folder, const std::string& name)
{
    const std::string bytes = encode_png(plate, 6);
    std::string safe = name;
    std::replace(safe.begin(), safe.end(), '/', '-');
    for (int n = 1;; ++n) {
        auto file = folder / (safe + " clean plate" + (n > 1 ? " " + std::to_string(n) : "") + ".png");
        std::error_code ec;
        if (std::filesystem::exists(std::filesystem::symlink_status(file, ec)))
            continue;
        write_new_file(file, bytes);
        return file;
    }
}

}

Operation make_plate(const Shot& shot, const std::filesystem::path& folder)
{
    return [shot, folder](const PhotoSource& source, const Job& job) -> Edit {
        const auto photos = some_photos(shot, most_photos);
        if (photos.size() < 3)
            throw Failure({"a clean plate needs three photos", {}, "Add photos, or choose one of them as the plate"});
        const cv::Mat plate = median_plate(shot, photos, ground_size(shot, photos.front(), Ground::plane), source, job);
        const auto file = write_plate(plate, folder, shot.name);
        const Inspected made = inspect(file);
        if (made.state != PhotoState::fine || !made.photo)
            throw Failure({"the clean plate cannot be read back", file, "Look whether the disk is full"});
        return [id = shot.id, picture = made.photo, count = std::int64_t(photos.size())](const Project& now) {
            return put_made_plate(now, find_measured(now, id), picture, count);
        };
    };
}

}
