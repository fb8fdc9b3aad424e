#pragma once
#include "app/steps/step_page.h"

#include <functional>
#include <vector>

namespace frenlo::app {

class NoticeBar;

/// What has just come in, in one quiet line, with the step that is likely to come next, once: "48 hand-moved photos, on
/// twos, 4 s. It moves by up to 21 px: hold it still?"
class NextStep : public QObject
{
    Q_OBJECT
public:
    struct Way
    {
        StepPage* page;
        QString station;
        std::function<void()> go;
    };
    /// The ways in the order in which they are asked; their pages outlive this.
    NextStep(Session& session, Viewing& viewing, NoticeBar& notice, std::vector<Way> ways, QObject* parent);

private:
    void offer();
    [[nodiscard]] QString what_came(const Shot& shot) const;

    Session& session_;
    Viewing& viewing_;
    NoticeBar& notice_;
    std::vector<Way> ways_;
    QString said_;
    std::uint64_t offer_ = 0; ///< the one whose answers count
};

}
