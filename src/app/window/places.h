#pragma once
#include <filesystem>

namespace frenlo::app {

/// Where a running Frenlo keeps its things; tests give it folders of their own.
struct Places
{
    std::filesystem::path previews;
    std::filesystem::path recovery;
    std::filesystem::path demo;
    std::filesystem::path filings; ///< journals of moved files
    std::filesystem::path kept;    ///< what the user keeps for all projects
};

}
