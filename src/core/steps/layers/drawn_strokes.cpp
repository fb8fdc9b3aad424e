#include "core/steps/layers/drawn_strokes.h"

#include "core/source/preview_store.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <cstdio>

namespace frenlo {

namespace {

/// A number as short as it may be, whatever the language of the machine.
void put(std::string& svg, double value)
{
    constexpr double hundredths = 100;
    auto n = std::int64_t(std::llround(value * hundredths));
    if (n < 0) {
        svg += '-';
        n = -n;
    }
    svg += std::to_string(n / 100);
    if (n % 100 != 0) {
        svg += '.';
        svg += char('0' + n % 100 / 10);
        if (n % 10 != 0)
            svg += char('0' + n % 10);
    }
}

std::string colour_text(const Backdrop& c)
{
    std::array<char, 8> text{};
    std::snprintf(text.data(), text.size(), "#%02x%02x%02x", c[0], c[1], c[2]);
    return text.data();
}

struct Point
{
    double x, y, pressure;
};

std::vector<Point> points_of(const Stroke& stroke, cv::Size on)
{
    std::vector<Point> points;
    for (std::size_t i = 0; i + 2 < stroke.points.size(); i += 3)
        points.push_back({stroke.points[i] * on.width, stroke.points[i + 1] * on.height,
                          std::clamp(stroke.points[i + 2], 0.0, 1.0)});
    return points;
}

/// Pieces of one width each: few where the pressure stays.
void put_line(std::string& svg, const std::vector<Point>& points, double width, const std::string& colour)
{
    constexpr double same = 0.04; // of the width
    std::size_t begin = 0;
    while (begin < points.size()) {
        std::size_t end = begin + 1;
        double sum = points[begin].pressure;
        while (end < points.size() && std::abs(points[end].pressure - points[begin].pressure) < same)
            sum += points[end++].pressure;
        const double mean = sum / double(end - begin);
        const std::size_t last = std::min(end, points.size() - 1); // on to where the next piece begins
        svg += "<path fill=\"none\" stroke=\"" + colour + "\" stroke-width=\"";
        put(svg, std::max(0.05, width * mean));
        svg += "\" d=\"M";
        for (std::size_t i = begin; i <= last; ++i) {
            if (i > begin)
                svg += 'L';
            put(svg, points[i].x);
            svg += ' ';
            put(svg, points[i].y);
        }
        if (last == begin)
            svg += "h0.01"; // a dot
        svg += "\"/>";
        begin = end;
    }
}

void put_filled(std::string& svg, const std::vector<Point>& points, const std::string& colour)
{
    svg += "<path fill=\"" + colour + "\" d=\"M";
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (i > 0)
            svg += 'L';
        put(svg, points[i].x);
        svg += ' ';
        put(svg, points[i].y);
    }
    svg += "Z\"/>";
}

}

PhotoPtr drawn(std::span<const Stroke> strokes, cv::Size on, const std::string& name)
{
    const std::string size = std::to_string(on.width) + "\" height=\"" + std::to_string(on.height) + "\"";
    std::string body, masks, erased;
    int count = 0;
    const auto erase = [&] { // all that was drawn so far, but for this
        if (erased.empty())
            return;
        const std::string mask = "e" + std::to_string(++count);
        masks += "<mask id=\"" + mask + "\" maskUnits=\"userSpaceOnUse\" x=\"0\" y=\"0\" width=\"" + size +
                 "><rect width=\"" + size + " fill=\"#fff\"/>" + erased + "</mask>";
        body = "<g mask=\"url(#" + mask + ")\">" + body + "</g>";
        erased.clear();
    };
    for (const Stroke& s : strokes) {
        const auto points = points_of(s, on);
        if (points.empty())
            continue;
        const double width = s.width * on.height;
        if (s.kind == StrokeKind::erase) {
            put_line(erased, points, width, "#000");
            continue;
        }
        erase();
        if (s.kind == StrokeKind::filled)
            put_filled(body, points, colour_text(s.colour));
        else
            put_line(body, points, width, colour_text(s.colour));
    }
    erase();
    std::string svg = "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + size + " viewBox=\"0 0 " +
                      std::to_string(on.width) + " " + std::to_string(on.height) +
                      "\" stroke-linecap=\"round\" stroke-linejoin=\"round\">" + masks + body + "</svg>";
    auto photo = std::make_shared<PhotoFile>();
    photo->file = "/" + name + ".svg"; // a name only: it is nowhere on the disk
    photo->format = PhotoFormat::svg;
    photo->size = on;
    photo->alpha = true;
    photo->fingerprint = short_key(svg);
    photo->drawing = std::move(svg);
    return photo;
}

}
