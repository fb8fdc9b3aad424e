#include "core/document/steady_json.h"

#include "core/document/json_values.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

using Json = nlohmann::ordered_json;

namespace {

constexpr std::array<std::string_view, 2> ways{"still", "smooth"}, edges{"go-on", "mirrored"};
constexpr double most_px = most_side;
/// Of a matrix: no photo lies further off, and what is computed from it stays finite.
constexpr double most_entry = 1e7;

Json matrix_to_json(const Transform& t)
{
    return std::vector<double>(t.val, t.val + 9);
}

Transform matrix_from(const Json& j)
{
    if (!j.is_array() || j.size() != 9)
        throw std::invalid_argument("a \"matrix\" has not nine numbers");
    Transform t;
    for (int i = 0; i < 9; ++i)
        t.val[i] = number_in(j[std::size_t(i)], -most_entry, most_entry, "matrix");
    if (std::abs(cv::determinant(t)) < 1e-9)
        throw std::invalid_argument("a \"matrix\" cannot be turned round");
    return t;
}

Json boxes_to_json(const std::vector<cv::Rect2d>& boxes)
{
    Json j = Json::array();
    for (const cv::Rect2d& r : boxes)
        j.push_back({r.x, r.y, r.width, r.height});
    return j;
}

std::vector<cv::Rect2d> boxes_from(const Json& j)
{
    std::vector<cv::Rect2d> boxes;
    for (const Json& b : j) {
        if (b.size() != 4)
            throw std::invalid_argument("a box of the \"region\" is not x, y, width and height");
        boxes.emplace_back(number_in(b[0], 0, 1, "region"), number_in(b[1], 0, 1, "region"), number_in(b[2], 0, 1, "region"),
                           number_in(b[3], 0, 1, "region"));
    }
    return boxes;
}

/// A row a text, a digit a cell: "0" to "9" and "X" for all tries that agreed, "." where nothing could be followed.
constexpr std::string_view digits = "0123456789X";

Json trust_to_json(const TrustMap& map)
{
    Json rows = Json::array();
    for (int r = 0; r < map.rows; ++r) {
        std::string row;
        for (int c = 0; c < map.columns; ++c) {
            const int tenths = map.tenths[std::size_t(r * map.columns + c)];
            row += tenths < 0 ? '.' : digits.at(std::size_t(tenths));
        }
        rows.push_back(row);
    }
    return rows;
}

TrustMap trust_from(const Json& j)
{
    TrustMap map;
    for (const Json& r : j) {
        const auto row = r.get<std::string>();
        if (map.rows++ == 0)
            map.columns = int(row.size());
        if (row.empty() || int(row.size()) != map.columns || row.size() > 1000 || map.rows > 1000)
            throw std::invalid_argument("\"trusted\" is not a grid");
        for (const char c : row) {
            const auto at = digits.find(c);
            if (c != '.' && at == std::string_view::npos)
                throw std::invalid_argument("\"trusted\" has a cell that is no digit");
            map.tenths.push_back(c == '.' ? std::int8_t(-1) : std::int8_t(at));
        }
    }
    return map;
}

}

Json alignment_to_json(const Alignment& a)
{
    Json j;
    if (a.from_film != Transform::eye())
        j["matrix"] = matrix_to_json(a.from_film);
    if (a.from_before)
        j["from_before"] = matrix_to_json(*a.from_before);
    if (a.target)
        j["target"] = {a.target->x, a.target->y};
    j["residual_px"] = a.residual_px;
    j["inliers"] = a.inliers;
    j["left_px"] = a.left_px;
    if (a.reference)
        j["reference"] = true;
    if (!a.doubt.empty())
        j["doubt"] = a.doubt;
    return j;
}

Alignment alignment_from(const Json& j)
{
    Alignment a;
    if (j.contains("matrix"))
        a.from_film = matrix_from(j.at("matrix"));
    if (j.contains("from_before"))
        a.from_before = matrix_from(j.at("from_before"));
    if (j.contains("target")) {
        if (j.at("target").size() != 2)
            throw std::invalid_argument("a \"target\" is not x and y");
        a.target = cv::Point2d(number_in(j.at("target")[0], -most_px, most_px, "target"), number_in(j.at("target")[1], -most_px, most_px, "target"));
    }
    for (const auto& [field, value] : {std::pair("residual_px", &a.residual_px), std::pair("inliers", &a.inliers), std::pair("left_px", &a.left_px)})
        if (j.contains(field))
            *value = number_in(j.at(field), 0, most_entry, field);
    a.reference = j.value("reference", false);
    a.doubt = j.value("doubt", std::string());
    return a;
}

Json region_to_json(const Region& region)
{
    return {{"look_at", boxes_to_json(region.look_at)}, {"leave_out", boxes_to_json(region.leave_out)}};
}

Region region_from(const Json& j)
{
    return {boxes_from(j.value("look_at", Json::array())), boxes_from(j.value("leave_out", Json::array()))};
}

Json steadying_to_json(const Steadying& s)
{
    Json j{{"way", ways.at(std::size_t(s.way))},
           {"movement", movement_name(s.movement)},
           {"size", {s.size.width, s.size.height}},
           {"inside_all", s.inside_all},
           {"crop", {s.crop.x, s.crop.y, s.crop.width, s.crop.height}}};
    if (s.edges != Edges::go_on)
        j["edges"] = edges.at(std::size_t(s.edges));
    if (!s.shape.empty())
        j["shape"] = {s.shape.width, s.shape.height};
    if (s.smoothing != Smoothing()) {
        j["strength_s"] = s.smoothing.strength_s;
        j["most_lost"] = s.smoothing.most_lost;
    }
    if (!s.trusted.empty())
        j["trusted"] = trust_to_json(s.trusted);
    return j;
}

Steadying steadying_from(const Json& j)
{
    Steadying s;
    s.way = SteadyWay(one_of(ways, j.value("way", std::string(ways[0])), "a way to steady"));
    const auto movement = parse_movement(j.at("movement").get<std::string>());
    if (!movement)
        throw std::invalid_argument("a \"movement\" is not one that Steady knows");
    s.movement = *movement;
    const bool early = !j.contains("crop") && j.contains("frame"); // as it was first written: the size is that of the photos
    const auto size = early ? std::vector<int>{1, 1} : wholes_in(j.at("size"), 2, 1, most_side, "size");
    const auto crop = wholes_in(j.at(early ? "frame" : "crop"), 4, -most_side, most_side, "crop");
    s.size = {size[0], size[1]};
    if (crop[2] < 1 || crop[3] < 1)
        throw std::invalid_argument("a \"crop\" is not x, y, width and height");
    s.crop = {crop[0], crop[1], crop[2], crop[3]};
    if (j.contains("shape")) {
        const auto shape = wholes_in(j.at("shape"), 2, 1, 10'000, "shape");
        s.shape = {shape[0], shape[1]};
    }
    s.inside_all = j.value(early ? "cropped" : "inside_all", true);
    if (early)
        s.size = {};
    s.edges = Edges(one_of(edges, j.value("edges", std::string(edges[0])), "a kind of edges"));
    if (j.contains("strength_s"))
        s.smoothing.strength_s = number_in(j.at("strength_s"), 0, 3600, "strength_s");
    if (j.contains("most_lost"))
        s.smoothing.most_lost = number_in(j.at("most_lost"), 0, 1, "most_lost");
    if (j.contains("trusted"))
        s.trusted = trust_from(j.at("trusted"));
    return s;
}

}
