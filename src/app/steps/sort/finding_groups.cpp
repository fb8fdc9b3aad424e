#include "app/steps/sort/finding_groups.h"

#include <QCoreApplication>

#include <algorithm>

namespace frenlo::app {

namespace {

struct Words // for tr(): lupdate wants a context
{
    Q_DECLARE_TR_FUNCTIONS(FindingGroup)
};

}

std::vector<FindingGroup> grouped(std::span<const ToLookAt> findings)
{
    std::vector<FindingGroup> groups;
    for (const ToLookAt& f : findings) {
        const auto same = std::find_if(groups.begin(), groups.end(), [&](const FindingGroup& g) {
            return g.resolved == f.resolved && (f.resolved || g.kind == f.finding.kind);
        });
        if (same == groups.end()) {
            groups.push_back({f.finding.kind, f.resolved, {f}, f.finding.remedies});
            continue;
        }
        same->members.push_back(f);
        std::erase_if(same->remedies, [&](Remedy r) {
            return std::find(f.finding.remedies.begin(), f.finding.remedies.end(), r) == f.finding.remedies.end();
        });
    }
    std::stable_partition(groups.begin(), groups.end(), [](const FindingGroup& g) { return !g.resolved; });
    return groups;
}

QString group_text(const FindingGroup& group)
{
    const int n = int(group.members.size());
    if (group.resolved)
        return Words::tr("%n remark(s) settled", nullptr, n);
    switch (group.kind) {
    case FindingKind::unreadable:
        return Words::tr("%n photo(s) cannot be read", nullptr, n);
    case FindingKind::empty:
        return Words::tr("%n file(s) are empty", nullptr, n);
    case FindingKind::size_differs:
        return Words::tr("In %n case(s) photos have another size", nullptr, n);
    case FindingKind::number_missing:
        return Words::tr("Numbers are missing in %n place(s)", nullptr, n);
    case FindingKind::number_repeated:
        return Words::tr("%n number(s) are there more than once", nullptr, n);
    case FindingKind::order_disagrees:
        return Words::tr("Names and times disagree in %n place(s)", nullptr, n);
    case FindingKind::copy:
        return Words::tr("%n photo(s) are there more than once", nullptr, n);
    case FindingKind::not_a_photo:
        return Words::tr("%n file(s) are no photos", nullptr, n);
    case FindingKind::turned:
        return Words::tr("%n photo(s) are turned", nullptr, n);
    case FindingKind::exposure_differs:
        return Words::tr("%n photo(s) are much brighter or darker than their neighbours", nullptr, n);
    case FindingKind::unlike:
        return Words::tr("%n photo(s) show something else than their neighbours", nullptr, n);
    case FindingKind::blurred:
        return Words::tr("%n photo(s) are less sharp than their neighbours", nullptr, n);
    case FindingKind::gone:
        return Words::tr("In %n case(s) photos are no longer where they were", nullptr, n);
    case FindingKind::date_odd:
        return Words::tr("%n photo(s) have a date that is none", nullptr, n);
    case FindingKind::folder_unreadable:
        return Words::tr("%n folder(s) cannot be read", nullptr, n);
    case FindingKind::bracket:
        return Words::tr("%n bracket(s): the middle exposure is shown, the others are kept beside it", nullptr, n);
    case FindingKind::border_unsure:
        return Words::tr("Look at %n border(s)", nullptr, n);
    case FindingKind::profile_odd:
        return Words::tr("%n photo(s) have a colour profile that cannot be used", nullptr, n);
    }
    return {};
}

}
