#include "tests/support/test_runner.h"

int main(int argc, char** argv)
{
    return frenlo::run_tests(argc, argv);
}
