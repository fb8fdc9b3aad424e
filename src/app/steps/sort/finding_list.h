#pragma once
#include "app/steps/sort/finding_groups.h"
#include "app/steps/sort/sort_controller.h"

#include <QWidget>

#include <map>
#include <set>
#include <utility>

class QLabel;
class QVBoxLayout;

namespace frenlo::app {

/// What there is to look at, each with its remedies and the way there.
class FindingList : public QWidget
{
    Q_OBJECT
public:
    FindingList(Findings& findings, SortController& sort_controller, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void find_again();

private:
    void fill();
    /// Some findings that are dealt with together: one, or a group.
    QWidget* line(const QString& said, const FindingGroup& group);
    void add_group(const FindingGroup& group, int& lines);
    void apply(std::span<const ToLookAt> findings, Remedy remedy);

    Findings& findings_;
    SortController& sort_controller_;
    QLabel* heading_;
    QVBoxLayout* column_;
    std::set<std::pair<bool, FindingKind>> opened_;            ///< groups whose members are listed each by itself
    std::map<std::pair<bool, FindingKind>, std::size_t> next_; ///< which member Show goes to
};

}
