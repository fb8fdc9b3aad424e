#pragma once
// How the step's own types are written as JSON (field_json.h).
#include "core/base/opencv_json.h"
#include "core/steps/steady/steady_values.h"

namespace frenlo {

/// A row a text, a digit a cell: "0" to "9" and "X" for all tries that agreed, "." where nothing could be followed.
template <>
struct Coded<TrustMap>
{
    static constexpr std::string_view digits = "0123456789X";
    static Json write(const TrustMap& map)
    {
        Json rows = Json::array();
        for (int r = 0; r < map.rows; ++r) {
            std::string row;
            for (int c = 0; c < map.columns; ++c) {
                const std::int8_t tenths = map.tenths[std::size_t(r) * std::size_t(map.columns) + std::size_t(c)];
                row += tenths < 0 ? '.' : digits.at(static_cast<unsigned char>(tenths));
            }
            rows.push_back(row);
        }
        return rows;
    }
    static TrustMap read(const Json& j, const Limits&)
    {
        TrustMap map;
        for (const Json& r : j) {
            const auto row = r.get<std::string>();
            if (map.rows++ == 0)
                map.columns = int(row.size());
            if (row.empty() || int(row.size()) != map.columns || row.size() > 1000 || map.rows > 1000)
                wrong("is not a grid");
            for (const char c : row) {
                const auto at = digits.find(c);
                if (c != '.' && at == std::string_view::npos)
                    wrong("has a cell that is no digit");
                map.tenths.push_back(c == '.' ? std::int8_t(-1) : std::int8_t(at));
            }
        }
        return map;
    }
    static Json schema(const Limits&)
    {
        return {{"type", "array"}, {"items", {{"type", "string"}, {"pattern", "^[0-9X.]+$"}}}};
    }
    static TrustMap sample(int n, const Limits&) { return {2, 1, {std::int8_t(n % 11), -1}}; }
};

inline void check_value(const Steadying& s)
{
    if (s.crop.width < 1 || s.crop.height < 1)
        wrong("\"crop\" is not x, y, width and height");
}

}
