#pragma once
// The one place that knows which Catch this is: version 2, one header, from Debian. The next major version has others.
#include <catch2/catch.hpp>
