#pragma once
// Private to export/: a film's pictures, and what is heard with them, into a file that has no name yet.
#include "core/export/export.h"
#include "core/export/filming.h"
#include "core/export/heard_film.h"

namespace frenlo {

/// What a writer is given of this order, but for where it goes.
Writing writing_of(const ExportOrder& order, const ExportPlan& plan, const Filming& filming);

/// The file, whole, but not under its name yet. heard: null where nothing is. palette: of loops that are written again.
void write_file(AtomicFile& file, const Project& project, const ExportOrder& order, const ExportPlan& plan,
                Filming& filming, HeardFilm* heard, KeptPalette* palette = nullptr);

/// Stills, into this folder.
void write_stills(const std::filesystem::path& folder, const StillNames& names, const ExportOrder& order,
                  const ExportPlan& plan, Filming& filming);

}
