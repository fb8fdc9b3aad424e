#pragma once
#include "core/base/problem.h"

#include <cstdint>
#include <filesystem>
#include <string>

namespace frenlo {

/// How numbered stills are called: "harbour_%04d.png" is harbour_0001.png and on.
class StillNames
{
public:
    /// The file's name may hold one number pattern, %d or %01d to %09d; where it holds none, an underscore and four
    /// digits are added, five where there are more than 9,999 (common practice, no source). Any other percent sign, and
    /// a pattern in a folder's name, is a problem: it would be a guess what is meant.
    static Result<StillNames> parse(const std::filesystem::path& file, std::int64_t stills);

    /// number: from 1.
    [[nodiscard]] std::string name(std::int64_t number) const;
    [[nodiscard]] std::string pattern() const;
    /// The same numbers and ending after another beginning.
    [[nodiscard]] StillNames after(std::string before) const { return {std::move(before), digits_, after_}; }
    /// What stands before the number.
    [[nodiscard]] const std::string& before() const { return before_; }

private:
    StillNames(std::string before, int digits, std::string after)
        : before_(std::move(before)), after_(std::move(after)), digits_(digits)
    {
    }

    std::string before_;
    std::string after_;
    int digits_;
};

}
