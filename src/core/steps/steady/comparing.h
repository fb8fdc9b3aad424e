#pragma once
// Private to steady/: what all measuring of a shot is made of.
#include "core/base/job.h"
#include "core/steps/steady/alignment.h"
#include "core/steps/steady/network.h"
#include "core/steps/steady/registration.h"

#include <mutex>
#include <string>
#include <vector>

namespace frenlo {

/// The size that most photos have, as seen; throws Failure where none can be read.
cv::Size usual_size(const std::vector<SeenPhoto>& photos);

/// Photos of a shot, read once at about 1200 pixels and compared with each other. Photos may be prepared and compared
/// from many threads, each photo from one at a time.
class Comparing
{
public:
    /// full_size: of the photos, as seen; those of another size are in doubt.
    Comparing(const std::vector<SeenPhoto>& photos, cv::Size full_size, Movement movement, const Region& region,
              const PhotoSource& source);

    void prepare(std::size_t i);
    void forget(std::size_t i)
    {
        prepared_[i].evened.release();
        prepared_[i].pyramid.clear();
    }
    [[nodiscard]] bool usable(std::size_t i) const { return !prepared_[i].evened.empty() && !prepared_[i].blank(); }
    [[nodiscard]] const Prepared& prepared(std::size_t i) const { return prepared_[i]; }
    [[nodiscard]] double sharpness(std::size_t i) const { return sharpness_[i]; }
    [[nodiscard]] const std::string& doubt(std::size_t i) const { return doubts_[i]; }

    /// Nothing where one of both cannot be used. Remembers what each photo's best link was like.
    Link compare(std::size_t from, std::size_t to, const Transform* guess = nullptr);

    /// Of the best link that the photo had a part in, at full size; the doubt where there is one.
    [[nodiscard]] Alignment alignment_of(std::size_t i) const;

    [[nodiscard]] cv::Size size() const { return size_; } ///< in which is compared
    [[nodiscard]] double scale() const { return scale_; } ///< of that to full size

private:
    const std::vector<SeenPhoto>& photos_;
    const PhotoSource& source_;
    Movement movement_;
    const Region& region_;
    cv::Size full_size_, size_;
    double scale_ = 1;
    std::vector<Prepared> prepared_;
    std::vector<double> sharpness_;
    std::vector<std::string> doubts_;
    std::mutex mutex_;
    std::vector<Link> best_;
};

}
