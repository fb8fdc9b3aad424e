#include "core/steps/frame/frame_values.h"

#include <charconv>

namespace frenlo {

namespace {

std::optional<int> side_in(std::string_view text)
{
    int n = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), n);
    return error == std::errc() && end == text.data() + text.size() && n >= 2 && n <= most_frame_side ? std::optional(n)
                                                                                                      : std::nullopt;
}

}

std::optional<FilmShape> parse_shape(std::string_view text)
{
    if (text == "as-photos")
        return FilmShape();
    FilmShape shape;
    if (const auto by = text.find_first_of("xX"); by != std::string_view::npos) {
        const auto width = side_in(text.substr(0, by)), height = side_in(text.substr(by + 1));
        if (!width || !height)
            return std::nullopt;
        shape.pixels = {*width, *height};
    } else {
        const auto colon = text.find(':');
        const auto width = parse_fraction(text.substr(0, colon));
        const auto height =
            colon == std::string_view::npos ? std::optional(Fraction(1)) : parse_fraction(text.substr(colon + 1));
        if (!width || !height || *width <= Fraction(0) || *height <= Fraction(0))
            return std::nullopt;
        shape.ratio = *width / *height;
    }
    constexpr double most = 1'000;
    return shape.value() <= most && shape.value() >= 1 / most ? std::optional(shape) : std::nullopt;
}

std::string shape_text(const FilmShape& shape)
{
    if (!shape.pixels.empty())
        return std::to_string(shape.pixels.width) + 'x' + std::to_string(shape.pixels.height);
    if (shape.as_photos())
        return "as-photos";
    const Fraction r = shape.ratio;
    if (r.den() >= 20 && 100 % r.den() == 0) { // as cinemas say it
        const std::int64_t hundredths = r.num() * (100 / r.den());
        std::string digits = std::to_string(hundredths % 100);
        return std::to_string(hundredths / 100) + '.' + std::string(2 - digits.size(), '0') + digits + ":1";
    }
    return std::to_string(r.num()) + ':' + std::to_string(r.den());
}

std::vector<PhotoIndex> views_of(const Shot& shot)
{
    std::vector<PhotoIndex> photos;
    for (std::size_t i = 0; i < shot.photos.size(); ++i)
        if (view_of(shot.photos[i]) && !shot.photos[i].aside)
            photos.emplace_back(std::int64_t(i));
    return photos;
}

}
