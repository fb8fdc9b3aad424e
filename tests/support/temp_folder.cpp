#include "tests/support/temp_folder.h"

#include <cstdlib>
#include <stdexcept>
#include <string>

namespace frenlo::test {

TempFolder::TempFolder()
{
    std::string pattern = (std::filesystem::temp_directory_path() / "frenlo-test-XXXXXX").native();
    if (!mkdtemp(pattern.data()))
        throw std::runtime_error("no folder for a test");
    path_ = pattern;
}

TempFolder::~TempFolder()
{
    std::error_code ec;
    std::filesystem::remove_all(path_, ec);
}

}
