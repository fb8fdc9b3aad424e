#pragma once
#include <QImage>

#include <span>

class QMenu;
class QWidget;

namespace frenlo::app {

class PictureView;

/// Photos before and after the one that is looked at, shown with it.
struct OnionSkin
{
    bool on = false;
    int back = 1; ///< 0 to most
    int ahead = 0;
    double strength = 0.5;   ///< of the nearest, 0 to 1; those farther away are fainter
    bool difference = false; ///< in place of seeing through: what differs, brighter

    static constexpr int most = 3;
    bool operator==(const OnionSkin&) const = default;
};

/// How strongly the neighbour this many photos away is drawn over the photo, 0 to 1.
double onion_opacity(const OnionSkin& skin, int away);

/// What differs between two pictures of one size: grey where they agree, darker or brighter by gain times the
/// difference. Empty where the sizes differ.
QImage difference_of(const QImage& picture, const QImage& other, double gain);

/// A page with everything that can be set, to open from a button; changes what the picture shows at once.
QMenu* make_onion_menu(PictureView& picture, QWidget* parent);

}
