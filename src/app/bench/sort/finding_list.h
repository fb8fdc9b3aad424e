#pragma once
#include "app/work/sorting.h"

#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace frenlo::app {

/// What there is to look at, each with its remedies and the way there.
class FindingList : public QWidget {
    Q_OBJECT
public:
    FindingList(Findings& findings, Sorting& sorting, QWidget* parent = nullptr);

Q_SIGNALS:
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void find_again();

private:
    void fill();
    QWidget* line(const ToLookAt& finding);
    void apply(const ToLookAt& finding, Remedy remedy);

    Findings& findings_;
    Sorting& sorting_;
    QLabel* heading_;
    QVBoxLayout* column_;
};

}
