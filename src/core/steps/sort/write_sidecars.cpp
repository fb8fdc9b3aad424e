#include "core/steps/sort/write_sidecars.h"

#include "core/source/sidecar.h"

namespace frenlo {

SidecarReport write_sidecars(const Project& project, std::optional<ShotIndex> shot, const Job& job)
{
    SidecarReport report;
    for (std::size_t s = 0; s < project.shots.size(); ++s) {
        if (shot && shot->at() != s)
            continue;
        const PhotoList& photos = project.shots[s]->photos;
        for (std::size_t i = 0; i < photos.size(); ++i) {
            job.check();
            job.report(double(i) / double(photos.size()), "writing sidecars of " + project.shots[s]->name);
            const ShotPhoto& p = photos[i];
            if (is_one_of_several(*p.photo) || !is_on_disk(*p.photo))
                continue;
            try {
                const bool fresh = write_sidecar(p.photo->file, {0, {}, hold_text(p.hold), p.aside, p.turns});
                ++(fresh ? report.written : report.unchanged);
            } catch (const Failure& failure) {
                report.problems.push_back(failure.problem());
            }
        }
    }
    return report;
}

}
