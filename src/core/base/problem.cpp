#include "core/base/problem.h"

#include "core/base/text.h"

namespace frenlo {

std::string Problem::text() const
{
    std::string s = file.empty() ? what : shown_path(file) + ": " + what;
    s += '.';
    if (!remedy.empty())
        s += ' ' + remedy + '.';
    return s;
}

}
