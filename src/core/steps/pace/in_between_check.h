#pragma once
#include "core/base/job.h"
#include "core/project/project.h"
#include "core/source/photo_source.h"

#include <vector>

namespace frenlo {

/// A photo and the one after it in the film, between which movement could not be followed everywhere.
struct DoubtfulInBetween
{
    PhotoIndex photo;
    PhotoIndex next;
    double mixed = 0; ///< of what differs between the two, the share that is mixed in place of it
};

/// Where a third and more of what differs had to be mixed; in the film's order, each pair once. Only pairs between
/// which in-betweens are made.
std::vector<DoubtfulInBetween> doubtful_in_betweens(const Project& project, const Shot& shot, const PhotoSource& source,
                                                    const Job& job);

}
