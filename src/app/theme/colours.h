#pragma once
#include <QColor>
#include <QPalette>

namespace frenlo::app {

/// The colours of the interface. They travel in the application's palette, so that a widget needs no other way to them
/// and is told when they change.
struct Colours
{
    QColor paper, panel, raised, ink, second_ink, line, surround, on_surround, spruce, on_spruce, spruce_wash, clay,
        amber, amber_ground;

    /// The colours that a palette carries.
    static Colours of(const QPalette& palette);
    [[nodiscard]] QPalette palette() const;
};

enum class ThemeName
{
    paper,
    dim_room
};
Colours colours_of(ThemeName name);

/// Contrast of two opaque colours, 1 to 21 (WCAG 2.2, "contrast ratio").
double contrast(const QColor& a, const QColor& b);

}
