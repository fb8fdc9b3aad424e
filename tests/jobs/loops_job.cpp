// Short loops, from photos to a checked file, as somebody does it who sees the window for the first time.
#include "core/steps/steady/steady_values.h"
#include "core/steps/tone/tone_values.h"
#include "tests/jobs/jobs.h"
#include "tests/jobs/material.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QLabel>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

TEST_CASE("A kite is let go: thirty photos by hand become a loop of at most 1.5 MB, and a film")
{
    Person p;
    write_kite(p.folder() / "kite", 30, {1200, 800});
    p.bring_in(p.folder() / "kite");
    p.look("kite-1");
    p.click(q("Light"));
    p.click(q("Tone"));
    p.type_into(q("Exposure"), q("0.4"));
    p.type_into(q("Contrast"), q("15"));
    p.look("kite-2");
    p.click(q("Steady"));
    p.click(q("Hold the photos still"));
    p.wait_until([&] { return shot(p).steps.has<Steadying>(); }, q("the photos are held"), 120'000);
    p.look("kite-3");
    p.click(q("Pace"));
    p.type_into(q("Hold"), q("0.1 s"));
    p.look("kite-4");
    p.click(q("Export"));
    p.type_into(q("File"), app::to_qt(p.folder() / "kite.gif"));
    p.type_into(q("Largest file"), q("1.5 MB"));
    p.choose(q("Size"), q("800 ×"));
    p.look("kite-5");
    p.export_now(300'000);
    p.look("kite-6");
    CHECK(std::filesystem::file_size(p.folder() / "kite.gif") <= 1'500'000);
    CHECK(probed(p.folder() / "kite.gif", "width") == "800"); // as asked for: what stands still costs nothing
    p.export_film(p.folder() / "kite.mp4");
    CHECK(std::filesystem::file_size(p.folder() / "kite.mp4") > 10'000);
}

}
