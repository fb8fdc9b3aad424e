#include "core/steps/pace/in_between_check.h"

#include "core/picture/in_between.h"
#include "core/picture/picture.h"

#include <array>
#include <set>

namespace frenlo {

std::vector<DoubtfulInBetween> doubtful_in_betweens(const Project& project, const Shot& shot, const PhotoSource& source,
                                                    const Job& job)
{
    constexpr double doubtful = 1.0 / 3;
    const cv::Size size = fitted(undressed_size(shot), {640, 640});
    std::vector<std::pair<PhotoIndex, PhotoIndex>> pairs;
    std::set<std::pair<PhotoIndex, PhotoIndex>> known;
    std::optional<PhotoIndex> before;
    const Schedule schedule = schedule_of(project, shot);
    for (const FrameSpan& span : schedule.spans()) {
        const auto pair = std::pair(before.value_or(span.photo), span.photo);
        if (before && *before != span.photo &&
            shot.photos[before->at()].to_next.value_or(shot.pacing.between) == Between::motion &&
            known.insert(pair).second)
            pairs.push_back(pair);
        before = span.photo;
    }
    std::vector<DoubtfulInBetween> found;
    PhotoIndex drawn(-1);
    Canvas last; // the photo before, which is mostly the first of the pair
    const auto draw = [&](PhotoIndex photo) {
        const auto made = render_canvas(request_for_shares(shot, std::array{Share{photo}}, size), source);
        if (!made)
            throw Failure(made.error());
        return *made;
    };
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        job.check();
        job.report(double(i) / double(pairs.size()),
                   "photo " + std::to_string(i + 1) + " of " + std::to_string(pairs.size()));
        const auto [photo, next] = pairs[i];
        const Canvas first = drawn == photo ? last : draw(photo);
        last = draw(next);
        drawn = next;
        const double mixed = in_between(first, last, dense_motion(first, last), 0.5).mixed;
        if (mixed >= doubtful)
            found.push_back({photo, next, mixed});
    }
    return found;
}

}
