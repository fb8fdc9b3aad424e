#include "tests/support/test_runner.h"

#define CATCH_CONFIG_RUNNER
#include "tests/support/catch.h"

int frenlo::run_tests(int argc, char** argv)
{
    return Catch::Session().run(argc, argv);
}
