#include "core/base/json.h"

namespace frenlo {

Json json_from(std::string_view text)
{
    return Json::parse(text);
}

std::string json_text(const Json& j, int indent)
{
    return j.dump(indent, ' ', false, Json::error_handler_t::replace);
}

}
