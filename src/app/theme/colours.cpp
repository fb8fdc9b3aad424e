#include "app/theme/colours.h"

#include <algorithm>
#include <cmath>

namespace frenlo::app {

Colours colours_of(ThemeName name)
{
    Colours c;
    c.surround = QColor(0x77, 0x77, 0x77); // neutral in both themes: it sits beside the photo
    c.on_surround = QColor(0xFF, 0xFF, 0xFF);
    if (name == ThemeName::paper) {
        c.paper = QColor(0xE7, 0xE6, 0xE2);
        c.panel = QColor(0xF2, 0xF1, 0xEE);
        c.raised = QColor(0xFB, 0xFA, 0xF8);
        c.ink = QColor(0x22, 0x26, 0x2A);
        c.second_ink = QColor(0x5F, 0x65, 0x6B);
        c.line = QColor(0xC9, 0xC7, 0xC1);
        c.spruce = QColor(0x1C, 0x6B, 0x5A);
        c.on_spruce = QColor(0xFF, 0xFF, 0xFF);
        c.spruce_wash = QColor(0xD3, 0xE4, 0xDE);
        c.clay = QColor(0xB2, 0x50, 0x2A);
        c.amber = QColor(0x85, 0x54, 0x00);
        c.amber_ground = QColor(0xF3, 0xE3, 0xC3);
        return c;
    }
    c.surround = QColor(0x4A, 0x4A, 0x4A);
    c.paper = QColor(0x24, 0x26, 0x28);
    c.panel = QColor(0x2B, 0x2D, 0x30);
    c.raised = QColor(0x36, 0x39, 0x3C);
    c.ink = QColor(0xE6, 0xE4, 0xDF);
    c.second_ink = QColor(0xA9, 0xAB, 0xAC);
    c.line = QColor(0x4C, 0x50, 0x54);
    c.spruce = QColor(0x6F, 0xC2, 0xAC);
    c.on_spruce = QColor(0x12, 0x1E, 0x1B);
    c.spruce_wash = QColor(0x2C, 0x48, 0x41);
    c.clay = QColor(0xE8, 0x8A, 0x62);
    c.amber = QColor(0xE9, 0xBE, 0x6A);
    c.amber_ground = QColor(0x45, 0x3A, 0x22);
    return c;
}

QPalette Colours::palette() const
{
    QPalette p;
    p.setColor(QPalette::Window, paper);
    p.setColor(QPalette::AlternateBase, panel);
    p.setColor(QPalette::Base, raised);
    p.setColor(QPalette::Button, raised);
    p.setColor(QPalette::WindowText, ink);
    p.setColor(QPalette::Text, ink);
    p.setColor(QPalette::ButtonText, ink);
    p.setColor(QPalette::PlaceholderText, second_ink);
    p.setColor(QPalette::Mid, line);
    p.setColor(QPalette::Midlight, spruce_wash);
    p.setColor(QPalette::Shadow, surround);
    p.setColor(QPalette::BrightText, on_surround);
    p.setColor(QPalette::Highlight, spruce);
    p.setColor(QPalette::HighlightedText, on_spruce);
    p.setColor(QPalette::Link, clay);
    p.setColor(QPalette::LinkVisited, amber);
    p.setColor(QPalette::ToolTipBase, amber_ground);
    p.setColor(QPalette::ToolTipText, amber);
    for (const auto role : {QPalette::Text, QPalette::ButtonText, QPalette::WindowText})
        p.setColor(QPalette::Disabled, role, second_ink);
    return p;
}

Colours Colours::of(const QPalette& p)
{
    const auto get = [&](QPalette::ColorRole role) { return p.color(QPalette::Active, role); };
    Colours c;
    c.paper = get(QPalette::Window);
    c.panel = get(QPalette::AlternateBase);
    c.raised = get(QPalette::Base);
    c.ink = get(QPalette::WindowText);
    c.second_ink = get(QPalette::PlaceholderText);
    c.line = get(QPalette::Mid);
    c.spruce_wash = get(QPalette::Midlight);
    c.surround = get(QPalette::Shadow);
    c.on_surround = get(QPalette::BrightText);
    c.spruce = get(QPalette::Highlight);
    c.on_spruce = get(QPalette::HighlightedText);
    c.clay = get(QPalette::Link);
    c.amber = get(QPalette::LinkVisited);
    c.amber_ground = get(QPalette::ToolTipBase);
    return c;
}

double contrast(const QColor& a, const QColor& b)
{
    const auto luminance = [](const QColor& c) {
        const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
        return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

}
