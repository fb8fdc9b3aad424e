#pragma once
// The one place that knows which Catch this is: version 2, one header, from Debian. The next major version has others.
#include <catch2/catch.hpp>

/// A test's source is a namespace of its own: several are compiled as one, and each may have its own `first` and
/// `size`. There the build says what it is called.
#ifndef FRENLO_THIS_SOURCE
#define FRENLO_THIS_SOURCE this_source
#endif
