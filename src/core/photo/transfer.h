#pragma once

namespace frenlo {

/// The sRGB transfer function, IEC 61966-2-1:1999: encoded 0 to 1, linear light 0 to 1, scene white is 1.
double linear_of(double encoded);
double encoded_of(double linear);

}
