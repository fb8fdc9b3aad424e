#pragma once
// The one place that knows which Catch this is: version 2, one header, from Debian. The next major version has others.

/// What throws inside of a check ends its test, as it does elsewhere; the handler for it in each check took a fifth of
/// the time that these take to compile.
#define CATCH_CONFIG_FAST_COMPILE
#include <catch2/catch.hpp>

/// A test's source is a namespace of its own: several are compiled as one, and each may have its own `first` and
/// `size`. There the build says what it is called.
#ifndef FRENLO_THIS_SOURCE
#define FRENLO_THIS_SOURCE this_source
#endif
