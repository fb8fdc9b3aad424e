#pragma once
// Calls of frenlo-cli, for tests that are compiled with FRENLO_CLI, its file.
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <nlohmann/json.hpp>

#include <string>

namespace frenlo::test {

using Json = nlohmann::json;

struct Call
{
    int status = 0;
    std::string out;
    std::string err;
    [[nodiscard]] Json json() const { return Json::parse(out); }
};

/// before: what comes before the program in the shell's line: "timeout 5 ".
inline Call cli(const TempFolder& t, const std::string& arguments, const std::string& before = "")
{
    Call c;
    const auto err = t / "stderr";
    c.out = output_of(before + quoted(FRENLO_CLI) + " " + arguments + " 2>" + quoted(err.native()), &c.status);
    c.err = read_bytes(err);
    return c;
}

/// A name in the folder, as one word of a call.
inline std::string in(const TempFolder& t, const char* name)
{
    return quoted((t / name).native());
}

}
