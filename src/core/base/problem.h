#pragma once
#include <tl/expected.hpp>

#include <filesystem>
#include <stdexcept>
#include <string>
#include <utility>

namespace frenlo {

/// Something a person has to know: what is wrong, with which file, and what to do about it.
/// Errors that a person can act on one by one (a photo that cannot be read) travel as values of this type;
/// an operation that fails as a whole throws Failure, which carries one.
struct Problem
{
    std::string what;           ///< a plain sentence without the file's name, no full stop: "the file is cut off"
    std::filesystem::path file; ///< the file it is about; may be empty
    std::string remedy;         ///< what to do, a plain sentence; may be empty

    /// "harbour/HARB4838.jpg: the file is cut off. Copy it from the card again."
    [[nodiscard]] std::string text() const;
    bool operator==(const Problem&) const = default;
};

template <class T>
using Result = tl::expected<T, Problem>;

inline tl::unexpected<Problem> problem(std::string what, std::filesystem::path file = {}, std::string remedy = {})
{
    return tl::unexpected<Problem>(Problem{std::move(what), std::move(file), std::move(remedy)});
}

/// A whole operation could not be done. what() is Problem::text().
class Failure : public std::runtime_error
{
public:
    explicit Failure(Problem p) : std::runtime_error(p.text()), problem_(std::move(p)) {}
    [[nodiscard]] const Problem& problem() const { return problem_; }

private:
    Problem problem_;
};

/// Thrown by Job::check when the user has asked to stop. Not an error.
struct Stopped : std::exception
{
    [[nodiscard]] const char* what() const noexcept override { return "stopped by the user"; }
};

/// The value, or its problem thrown as a Failure.
template <class T>
T value_or_throw(Result<T> result)
{
    if (!result)
        throw Failure(std::move(result.error()));
    return std::move(*result);
}

}
