#include "core/base/libav.h"

#include <array>

namespace frenlo::libav {

std::string error_text(int error)
{
    std::array<char, AV_ERROR_MAX_STRING_SIZE> text{};
    av_strerror(error, text.data(), text.size());
    return text.data();
}

int check(int code, const char* what, const std::filesystem::path& file)
{
    if (code >= 0)
        return code;
    const bool space = code == AVERROR(ENOSPC) || code == AVERROR(EDQUOT) || code == AVERROR(EFBIG);
    const bool memory = code == AVERROR(ENOMEM);
    throw Failure({std::string(what) + " (" + error_text(code) + ")", file,
                   space    ? "Make room on the disk or choose another folder"
                   : memory ? "Choose a smaller size"
                            : "Choose another folder or format"});
}

std::string url_of(const std::filesystem::path& file)
{
    return "file:" + std::filesystem::absolute(file).native();
}

void be_quiet()
{
    av_log_set_level(AV_LOG_QUIET);
}

}
