#include "core/document/steady_json.h"

#include <nlohmann/json.hpp>

#include <opencv2/core.hpp>

#include <cmath>
#include <stdexcept>

namespace frenlo {

using Json = nlohmann::ordered_json;

Json alignment_to_json(const Alignment& a)
{
    Json j;
    if (a.from_reference != Transform::eye())
        j["matrix"] = std::vector<double>(a.from_reference.val, a.from_reference.val + 9);
    j["residual_px"] = a.residual_px;
    j["inliers"] = a.inliers;
    if (a.reference)
        j["reference"] = true;
    if (!a.doubt.empty())
        j["doubt"] = a.doubt;
    return j;
}

Alignment alignment_from(const Json& j)
{
    Alignment a;
    if (j.contains("matrix")) {
        const auto values = j.at("matrix").get<std::vector<double>>();
        if (values.size() != 9)
            throw std::invalid_argument("a \"matrix\" has not nine numbers");
        std::copy(values.begin(), values.end(), a.from_reference.val);
        if (const double d = cv::determinant(a.from_reference); !std::isfinite(d) || std::abs(d) < 1e-9)
            throw std::invalid_argument("a \"matrix\" cannot be turned round");
    }
    a.residual_px = j.value("residual_px", 0.0);
    a.inliers = j.value("inliers", 0.0);
    a.reference = j.value("reference", false);
    a.doubt = j.value("doubt", std::string());
    return a;
}

Json steadying_to_json(const Steadying& s)
{
    return {{"movement", movement_name(s.movement)},
            {"frame", {s.frame.x, s.frame.y, s.frame.width, s.frame.height}},
            {"cropped", s.cropped}};
}

Steadying steadying_from(const Json& j)
{
    Steadying s;
    const auto movement = parse_movement(j.at("movement").get<std::string>());
    if (!movement)
        throw std::invalid_argument("a \"movement\" is not one that Steady knows");
    s.movement = *movement;
    const auto frame = j.at("frame").get<std::vector<int>>();
    constexpr int most = 1 << 20;
    if (frame.size() != 4 || frame[2] < 1 || frame[3] < 1 || frame[2] > most || frame[3] > most || std::abs(frame[0]) > most ||
        std::abs(frame[1]) > most)
        throw std::invalid_argument("a \"frame\" is not x, y, width and height");
    s.frame = {frame[0], frame[1], frame[2], frame[3]};
    s.cropped = j.value("cropped", true);
    return s;
}

}
