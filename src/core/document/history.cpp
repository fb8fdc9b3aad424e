#include "core/document/history.h"

namespace frenlo {

History::History(Project start)
{
    steps_.push_back({std::move(start), {}, 0});
}

bool History::push(Project project, std::string name, std::uint64_t gesture)
{
    if (project == current())
        return false;
    if (saved_ != nowhere && saved_ > at_)
        saved_ = nowhere; // the saved state is among the steps that are dropped now
    steps_.resize(at_ + 1);
    const bool continued = gesture != 0 && at_ > 0 && steps_[at_].gesture == gesture && saved_ != at_;
    if (continued) {
        steps_[at_].project = std::move(project);
        return true;
    }
    steps_.push_back({std::move(project), std::move(name), gesture});
    ++at_;
    return true;
}

std::string_view History::undo_name() const
{
    return can_undo() ? std::string_view(steps_[at_].name) : std::string_view();
}

std::string_view History::redo_name() const
{
    return can_redo() ? std::string_view(steps_[at_ + 1].name) : std::string_view();
}

void History::undo()
{
    if (can_undo())
        --at_;
}

void History::redo()
{
    if (can_redo())
        ++at_;
}

void History::map(const std::function<Project(const Project&)>& change)
{
    for (Step& step : steps_)
        step.project = change(step.project);
}

}
