#include "core/command/libraries.h"

#include "core/base/text.h"

#include <exiv2/exiv2.hpp>
#include <opencv2/core/utility.hpp>

#include <avif/avif.h>
#include <lcms2.h>
#include <libheif/heif.h>
#include <libimagequant.h>
#include <libraw/libraw.h>

extern "C" {
#include <libavutil/avutil.h>

#include <gphoto2/gphoto2-version.h>
}

#include <sys/sysinfo.h>
#include <thread>

namespace frenlo {

std::vector<std::pair<std::string, std::string>> libraries_in_use()
{
    const int lcms = cmsGetEncodedCMMversion();
    return {{"OpenCV", cv::getVersionString()},
            {"FFmpeg", av_version_info()},
            {"Exiv2", Exiv2::version()},
            {"LibRaw", LibRaw::version()},
            {"libheif", heif_get_version()},
            {"libavif", avifVersion()},
            {"Little CMS", std::to_string(lcms / 1000) + '.' + std::to_string(lcms % 1000 / 10)},
            {"libimagequant", LIQ_VERSION_STRING},
            {"libgphoto2", gp_library_version(GP_VERSION_SHORT)[0]}};
}

std::string machine_text()
{
    struct sysinfo info = {};
    const std::uint64_t bytes = ::sysinfo(&info) == 0 ? std::uint64_t(info.totalram) * info.mem_unit : 0;
    return counted(std::int64_t(std::thread::hardware_concurrency()), "core", "cores") + ", " + shown_bytes(bytes) +
           " of memory";
}

}
