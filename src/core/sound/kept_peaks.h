#pragma once
#include "core/sound/peaks.h"

namespace frenlo {

/// As peaks_of, read from a folder where they were kept before, as long as the file is the same; kept there where they
/// were not. A folder that cannot be written to is no failure: they are made again next time.
Peaks kept_peaks(const std::filesystem::path& file, const std::filesystem::path& folder, const Job& job,
                 const std::function<void(const Peaks&)>& shown = {});

}
