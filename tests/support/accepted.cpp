#include "tests/support/accepted.h"

#include "tests/support/photos.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>

#include <cstdlib>

namespace fs = std::filesystem;

namespace frenlo::test {

bool accepting()
{
    return std::getenv("FRENLO_ACCEPT") != nullptr; // NOLINT(concurrency-mt-unsafe): tests set no environment meanwhile
}

Compared with_golden(const std::string& name, const cv::Mat& picture, double most_codes, double share_beyond)
{
    const fs::path golden = fs::path(FRENLO_SOURCE) / "tests/golden" / (name + ".png");
    if (accepting()) {
        fs::create_directories(golden.parent_path());
        cv::imwrite(golden.native(), picture);
        return {true, {}};
    }
    const cv::Mat wanted = cv::imread(golden.native(), cv::IMREAD_UNCHANGED);
    const fs::path out = fs::path(FRENLO_SOURCE) / "build/golden";
    fs::create_directories(out);
    const auto differs = [&](const std::string& why) {
        cv::imwrite((out / (name + ".png")).native(), picture);
        return Compared{false, name + ": " + why + "; see " + (out / name).native() +
                                   "*.png, and ./dev accept where it is meant"};
    };
    if (wanted.empty())
        return differs("there is no golden picture yet");
    if (wanted.size() != picture.size() || wanted.type() != picture.type())
        return differs("another size or depth");
    cv::Mat off;
    cv::absdiff(wanted, picture, off);
    double worst = 0;
    cv::minMaxLoc(off.reshape(1), nullptr, &worst);
    const auto beyond =
        double(cv::countNonZero(off.reshape(1) > most_codes)) / double(off.total() * std::size_t(off.channels()));
    if (beyond <= share_beyond)
        return {true, {}};
    cv::Mat seen;
    off.convertTo(seen, off.type(), 16);
    cv::imwrite((out / (name + "-difference.png")).native(), seen);
    return differs("up to " + std::to_string(worst) + " code values, more than is allowed at " +
                   std::to_string(beyond * 100) + " % of the values");
}

Compared with_text(const fs::path& file, const std::string& text)
{
    const fs::path at = fs::path(FRENLO_SOURCE) / file;
    if (accepting()) {
        fs::create_directories(at.parent_path());
        write_bytes(at, text);
        return {true, {}};
    }
    return {fs::exists(at) && read_bytes(at) == text,
            at.native() + " is not what is written now: ./dev accept where it is meant"};
}

}
