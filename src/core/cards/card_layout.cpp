#include "core/cards/card_layout.h"

#include "core/base/problem.h"
#include "core/base/text.h"

#include <algorithm>
#include <array>
#include <cairo-svg.h>
#include <cmath>
#include <filesystem>
#include <fontconfig/fontconfig.h>
#include <memory>
#include <pango/pangocairo.h>
#include <pango/pangofc-fontmap.h>

namespace frenlo {

namespace {

constexpr const char* shipped_family = "Frenlo Text";
constexpr const char* usual_families = "Frenlo Text,sans-serif";

struct Free
{
    void operator()(cairo_t* c) const { cairo_destroy(c); }
    void operator()(cairo_surface_t* s) const { cairo_surface_destroy(s); }
    void operator()(cairo_pattern_t* p) const { cairo_pattern_destroy(p); }
    void operator()(PangoLayout* l) const { g_object_unref(l); }
    void operator()(PangoContext* c) const { g_object_unref(c); }
    void operator()(PangoFontMap* m) const { g_object_unref(m); }
    void operator()(PangoFontDescription* d) const { pango_font_description_free(d); }
};
template <class T>
using Own = std::unique_ptr<T, Free>;

/// The system's fonts and those that ship, from where they are installed or where they are built from. A list of its
/// own: the application's has the shipped ones too, under names that are no files.
FcConfig* fonts()
{
    static FcConfig* const all = [] {
        FcConfig* config = FcInitLoadConfigAndFonts();
        std::error_code ec;
        const auto program = std::filesystem::read_symlink("/proc/self/exe", ec);
        const std::string installed = program.parent_path().parent_path() / "share/frenlo/fonts";
        for (const char* folder : {installed.c_str(), FRENLO_SOURCE_FONTS}) {
            if (std::filesystem::is_directory(folder, ec) &&
                FcConfigAppFontAddDir(config, reinterpret_cast<const FcChar8*>(folder)) != 0)
                break;
        }
        return config;
    }();
    return all;
}

/// One font map a thread is what the library asks for.
Own<PangoFontMap> font_map()
{
    Own<PangoFontMap> map(pango_cairo_font_map_new_for_font_type(CAIRO_FONT_TYPE_FT));
    if (!map)
        throw Failure({"there are no fonts on this machine", {}, "Install a typeface"});
    pango_fc_font_map_set_config(PANGO_FC_FONT_MAP(map.get()), fonts());
    return map;
}

/// What is no UTF-8 cannot be typed, but stands in files.
std::string clean(const std::string& text)
{
    std::string out = is_utf8(text) ? text : std::string("bytes that are no text");
    if (out.size() > most_card_text) {
        std::size_t end = most_card_text;
        while (end > 0 && (static_cast<unsigned char>(out[end]) & 0xC0U) == 0x80U) // not within a letter
            --end;
        out.resize(end);
    }
    out.erase(std::remove(out.begin(), out.end(), '\0'), out.end());
    return out;
}

std::vector<std::string> lines_of(const std::string& text)
{
    std::vector<std::string> lines(1);
    for (const char c : text)
        if (c == '\n')
            lines.emplace_back();
        else if (c != '\r')
            lines.back() += c;
    return lines;
}

/// A piece of text in its place.
struct Piece
{
    Own<PangoLayout> layout;
    double x = 0, y = 0; ///< upper left corner
};

class Setting
{
public:
    Setting(const TextCard& card, cv::Size frame)
        : card_(card), frame_(frame), map_(font_map()), context_(pango_font_map_create_context(map_.get())),
          font_(pango_font_description_new())
    {
        letters_ = card.size / 100 * frame.height;
        pango_font_description_set_family(font_.get(), card.typeface.empty() ? usual_families : card.typeface.c_str());
        pango_font_description_set_absolute_size(font_.get(), letters_ * PANGO_SCALE);
        pango_font_description_set_weight(font_.get(), card.bold ? PANGO_WEIGHT_SEMIBOLD : PANGO_WEIGHT_NORMAL);
        margin_ = 0.08 * frame.width;
        set();
    }
    [[nodiscard]] const std::vector<Piece>& pieces() const { return pieces_; }
    [[nodiscard]] double width() const { return width_; }
    [[nodiscard]] double height() const { return height_; }
    [[nodiscard]] double margin() const { return margin_; }

private:
    Piece piece(const std::string& text, double width, PangoAlignment align)
    {
        Piece p{Own<PangoLayout>(pango_layout_new(context_.get()))};
        PangoLayout* l = p.layout.get();
        pango_layout_set_font_description(l, font_.get());
        pango_layout_set_text(l, text.data(), int(text.size()));
        if (width > 0) {
            pango_layout_set_width(l, int(width * PANGO_SCALE));
            pango_layout_set_wrap(l, PANGO_WRAP_WORD_CHAR);
        }
        pango_layout_set_alignment(l, align);
        pango_layout_set_spacing(l, int(letters_ * card_.spacing / 100 * PANGO_SCALE));
        return p;
    }
    static cv::Size2d size_of(const Piece& p)
    {
        PangoRectangle r;
        pango_layout_get_extents(p.layout.get(), nullptr, &r);
        return {double(r.width) / PANGO_SCALE, double(r.height) / PANGO_SCALE};
    }

    void set()
    {
        const bool one_line = card_.move == CardMove::cross;
        const double room = one_line ? 0 : frame_.width - 2 * margin_;
        const PangoAlignment align = card_.align == CardAlign::left    ? PANGO_ALIGN_LEFT
                                     : card_.align == CardAlign::right ? PANGO_ALIGN_RIGHT
                                                                       : PANGO_ALIGN_CENTER;
        const double between = letters_ * card_.spacing / 100;
        double y = 0;
        for (const std::string& line : lines_of(clean(card_.text))) {
            const auto tab = line.find('\t');
            if (tab == std::string::npos || one_line) {
                Piece p = piece(line, room, align);
                const cv::Size2d size = size_of(p);
                p.x = margin_;
                p.y = y;
                width_ = std::max(width_, size.width);
                y += size.height + between;
                pieces_.push_back(std::move(p));
                continue;
            }
            // Two columns that meet in the middle.
            const double gap = letters_, half = (room - gap) / 2;
            Piece left = piece(line.substr(0, tab), half, PANGO_ALIGN_RIGHT);
            Piece right = piece(line.substr(tab + 1), half, PANGO_ALIGN_LEFT);
            left.x = margin_;
            right.x = margin_ + half + gap;
            left.y = right.y = y;
            y += std::max(size_of(left).height, size_of(right).height) + between;
            pieces_.push_back(std::move(left));
            pieces_.push_back(std::move(right));
        }
        height_ = std::max(0.0, y - between);
        if (!one_line)
            width_ = room;
    }

    const TextCard& card_;
    cv::Size frame_;
    Own<PangoFontMap> map_;
    Own<PangoContext> context_;
    Own<PangoFontDescription> font_;
    std::vector<Piece> pieces_;
    double letters_ = 0, margin_ = 0, width_ = 0, height_ = 0;
};

void fill(cairo_t* canvas, const TextCard& card, cv::Size size)
{
    const auto part = [](const Backdrop& c, std::size_t i) { return c.at(i) / 255.0; };
    const Own<cairo_pattern_t> pattern(cairo_pattern_create_linear(0, 0, 0, size.height));
    const Backdrop& below = card.below ? *card.below : card.backdrop;
    cairo_pattern_add_color_stop_rgb(pattern.get(), 0, part(card.backdrop, 0), part(card.backdrop, 1),
                                     part(card.backdrop, 2));
    cairo_pattern_add_color_stop_rgb(pattern.get(), 1, part(below, 0), part(below, 1), part(below, 2));
    if (card.below)
        cairo_set_source(canvas, pattern.get());
    else
        cairo_set_source_rgb(canvas, part(card.backdrop, 0), part(card.backdrop, 1), part(card.backdrop, 2));
    cairo_rectangle(canvas, 0, 0, size.width, size.height);
    cairo_fill(canvas);
}

cairo_status_t append(void* to, const unsigned char* bytes, unsigned size)
{
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), size);
    return CAIRO_STATUS_SUCCESS;
}

}

DrawnCard draw_card(const TextCard& card)
{
    const cv::Size frame = card.frame;
    const Setting setting(card, frame);
    DrawnCard drawn{{}, frame};
    double left = 0, top = 0;
    switch (card.move) {
    case CardMove::still:
        top = std::clamp(card.place / 100 * frame.height - setting.height() / 2, 0.0,
                         std::max(0.0, frame.height - setting.height()));
        break;
    case CardMove::roll: // it comes from below the frame, and goes above it
        top = frame.height;
        drawn.size.height = int(std::ceil(setting.height())) + 2 * frame.height;
        break;
    case CardMove::cross:
        left = frame.width - setting.margin();
        top = card.place / 100 * frame.height - setting.height() / 2;
        drawn.size.width = int(std::ceil(setting.width())) + 2 * frame.width;
        break;
    }
    {
        const Own<cairo_surface_t> surface(
            cairo_svg_surface_create_for_stream(append, &drawn.svg, drawn.size.width, drawn.size.height));
        cairo_svg_surface_set_document_unit(surface.get(), CAIRO_SVG_UNIT_PX);
        const Own<cairo_t> canvas(cairo_create(surface.get()));
        if (!card.see_through)
            fill(canvas.get(), card, drawn.size);
        const auto part = [&](std::size_t i) { return card.colour.at(i) / 255.0; };
        cairo_set_source_rgb(canvas.get(), part(0), part(1), part(2));
        for (const Piece& p : setting.pieces()) {
            cairo_move_to(canvas.get(), left + p.x, top + p.y);
            pango_cairo_show_layout(canvas.get(), p.layout.get());
        }
        cairo_surface_finish(surface.get());
        if (cairo_status(canvas.get()) != CAIRO_STATUS_SUCCESS || drawn.svg.empty())
            throw Failure(
                {std::string("the card cannot be drawn (") + cairo_status_to_string(cairo_status(canvas.get())) + ")",
                 {},
                 "Choose another typeface"});
    }
    return drawn;
}

std::vector<std::string> typefaces()
{
    const Own<PangoFontMap> map = font_map();
    PangoFontFamily** families = nullptr;
    int count = 0;
    pango_font_map_list_families(map.get(), &families, &count);
    std::vector<std::string> names;
    names.reserve(std::size_t(count) + 1);
    for (int i = 0; i < count; ++i)
        names.emplace_back(pango_font_family_get_name(families[i]));
    g_free(families);
    std::sort(names.begin(), names.end());
    names.erase(std::unique(names.begin(), names.end()), names.end());
    std::erase(names, shipped_family);
    names.insert(names.begin(), shipped_family);
    return names;
}

}
