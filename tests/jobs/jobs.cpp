#include "tests/jobs/jobs.h"

#include "tests/support/photos.h"

namespace frenlo::test {

std::string probed(const std::filesystem::path& file, const char* field)
{
    std::string text = output_of("ffprobe -v error -select_streams v:0 -show_entries stream=" + std::string(field) +
                                 " -of csv=p=0 " + quoted(file));
    text.erase(text.find_last_not_of(",\n") + 1);
    return text;
}

}
