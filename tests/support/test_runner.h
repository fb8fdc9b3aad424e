#pragma once

namespace frenlo {

/// All tests that are linked in, as the arguments choose them. What a process returns.
int run_tests(int argc, char** argv);

}
