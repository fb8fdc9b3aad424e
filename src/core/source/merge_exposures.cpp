#include "core/source/merge_exposures.h"

#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>
#include <opencv2/photo.hpp>

#include <vector>

namespace frenlo {

Result<DecodedPhoto> merged_exposures(const PhotoFile& photo, cv::Size at_least)
{
    std::vector<PhotoFile> files{photo};
    for (const auto& other : photo.merged) {
        files.push_back(photo);
        files.back().file = other;
        files.back().bytes = 0; // whatever it is now: only the one that is shown is known by its size and time
        files.back().modified_ns = 0;
    }
    std::vector<cv::Mat> exposures;
    for (PhotoFile& file : files) {
        file.merged.clear();
        auto decoded = decode(file, at_least);
        if (!decoded)
            return decoded;
        cv::Mat m = decoded->pixels;
        if (m.channels() == 4)
            cv::cvtColor(m, m, cv::COLOR_BGRA2BGR);
        if (m.depth() == CV_16U)
            m.convertTo(m, CV_32F, 1 / 257.0); // the library counts to 255
        if (!decoded->flaw.empty())
            return problem(decoded->flaw, file.file, "Copy it from the card again, or show the middle exposure alone");
        if (!exposures.empty() && (m.size() != exposures.front().size() || m.type() != exposures.front().type()))
            return problem("this exposure has another size or depth than the one that is shown", file.file,
                           "Show the middle exposure alone");
        exposures.push_back(m);
    }
    cv::Mat merged;
    cv::createMergeMertens()->process(exposures, merged);
    merged.convertTo(merged, CV_16U, 65'535); // what is beyond black and white is cut
    return DecodedPhoto{merged, {}, SourceColours()};
}

}
