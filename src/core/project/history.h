#pragma once
#include "core/project/project.h"

#include <cstddef>
#include <cstdint>
#include <deque>
#include <functional>
#include <string>
#include <string_view>

namespace frenlo {

/// Memory that a project takes beyond what it shares with another, bytes, about: its shots and photos, not their files.
std::size_t memory_beyond(const Project& project, const Project& other);

/// Every project that there was, in order, and which one is shown: undo is a step back in a list. Steps share what they
/// did not change; the oldest ones go where all of them together take more memory than most_bytes.
class History
{
public:
    static constexpr std::size_t usual_bytes = 160 << 20;
    explicit History(Project start = {}, std::size_t most_bytes = usual_bytes);

    [[nodiscard]] const Project& current() const { return steps_[at_].project; }
    /// Makes this the current project; what had been undone is dropped. A project equal to the current one is no step.
    /// name: what the user did, for "Undo set hold". gesture: steps of the same gesture (one drag, one held key) in a
    /// row become one step; 0 belongs to no gesture. Returns whether anything changed.
    bool push(Project project, std::string name, std::uint64_t gesture = 0);

    [[nodiscard]] std::size_t steps() const { return steps_.size(); }
    [[nodiscard]] std::size_t bytes() const; ///< beyond the oldest step
    [[nodiscard]] bool can_undo() const { return at_ > 0; }
    [[nodiscard]] bool can_redo() const { return at_ + 1 < steps_.size(); }
    /// The name of the step that undo or redo would take; empty where there is none.
    [[nodiscard]] std::string_view undo_name() const;
    [[nodiscard]] std::string_view redo_name() const;
    void undo();
    void redo();

    /// Every step as this makes it: for what is no edit, such as files that have another place on disk now.
    void map(const std::function<Project(const Project&)>& change);

    void mark_saved() { saved_ = at_; }
    [[nodiscard]] bool saved() const { return saved_ == at_; }

private:
    struct Step
    {
        Project project;
        std::string name;
        std::uint64_t gesture = 0;
        std::size_t bytes = 0; ///< beyond the step before
    };
    void forget_oldest();
    static constexpr std::size_t nowhere = static_cast<std::size_t>(-1);

    std::deque<Step> steps_;
    std::size_t most_bytes_;
    std::size_t at_ = 0;
    std::size_t saved_ = 0;
};

}
