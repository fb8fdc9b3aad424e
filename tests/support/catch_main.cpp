#define CATCH_CONFIG_MAIN
#include "tests/support/catch.h"
