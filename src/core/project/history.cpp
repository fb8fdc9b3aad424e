#include "core/project/history.h"

#include <algorithm>
#include <unordered_set>

namespace frenlo {

namespace {

/// What is in the heap beside the value itself, about.
std::size_t heap_of(const ShotPhoto& p)
{
    constexpr std::size_t shared = 32; // the block that counts who shares it
    std::size_t bytes = sizeof(ShotPhoto) + shared + p.flaw.capacity();
    for (const auto& e : p.steps.entries())
        bytes += sizeof(e) + shared + e.type->bytes(e.value.get());
    for (const Finding& f : p.remarks)
        bytes += sizeof(Finding) + f.text.capacity() + f.files.size() * (sizeof(std::filesystem::path) + 100);
    return bytes;
}

std::size_t beyond(const Shot& shot, const Shot* other)
{
    std::size_t bytes = sizeof(Shot) + shot.photos.size() * sizeof(PhotoList::Shared);
    std::unordered_set<const ShotPhoto*> shared;
    if (other)
        for (const ShotPhoto& p : other->photos)
            shared.insert(&p);
    for (const ShotPhoto& p : shot.photos)
        if (!shared.contains(&p))
            bytes += heap_of(p);
    return bytes;
}

}

std::size_t memory_beyond(const Project& project, const Project& other)
{
    std::size_t bytes = sizeof(Project) + project.shots.size() * sizeof(ShotPtr);
    for (std::size_t i = 0; i < project.shots.size(); ++i) {
        const ShotPtr& shot = project.shots[i];
        if (std::find(other.shots.begin(), other.shots.end(), shot) != other.shots.end())
            continue;
        const auto before = other.find_shot(shot->id);
        bytes += beyond(*shot, before ? other.shots[before->at()].get() : nullptr);
    }
    return bytes;
}

History::History(Project start, std::size_t most_bytes) : most_bytes_(most_bytes)
{
    steps_.push_back({std::move(start), {}, 0, 0});
}

bool History::push(Project project, std::string name, std::uint64_t gesture)
{
    if (project == current())
        return false;
    if (saved_ != nowhere && saved_ > at_)
        saved_ = nowhere; // the saved state is among the steps that are dropped now
    steps_.erase(steps_.begin() + std::ptrdiff_t(at_) + 1, steps_.end());
    const bool continued = gesture != 0 && at_ > 0 && steps_[at_].gesture == gesture && saved_ != at_;
    if (continued) {
        steps_[at_].bytes = memory_beyond(project, steps_[at_ - 1].project);
        steps_[at_].project = std::move(project);
    } else {
        const std::size_t bytes = memory_beyond(project, current());
        steps_.push_back({std::move(project), std::move(name), gesture, bytes});
        ++at_;
    }
    forget_oldest();
    return true;
}

std::size_t History::bytes() const
{
    std::size_t sum = 0;
    for (std::size_t i = 1; i < steps_.size(); ++i)
        sum += steps_[i].bytes;
    return sum;
}

/// What is undone first stays, whatever it takes.
void History::forget_oldest()
{
    for (std::size_t taken = bytes(); taken > most_bytes_ && at_ > 1; --at_) {
        taken -= steps_[1].bytes; // it is the oldest then
        steps_.pop_front();
        if (saved_ != nowhere)
            saved_ = saved_ == 0 ? nowhere : saved_ - 1;
    }
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
