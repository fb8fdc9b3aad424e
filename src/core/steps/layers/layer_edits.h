#pragma once
#include "core/steps/layers/colour_out.h"
#include "core/steps/layers/layer_values.h"

#include <functional>
#include <optional>
#include <span>
#include <string>

namespace frenlo {

/// What layers lie over: a shot, or the Reel where there is none.
struct LayerHome
{
    std::optional<ShotId> shot{};
    bool operator==(const LayerHome&) const = default;
};

// Every edit takes a project and returns the project after it. What names a layer or a shot that is not there changes
// nothing.

/// From the lowest to the highest; as long as the project stays as it is.
std::span<const Layer> layers_of(const Project& project, const LayerHome& home);
/// Null where it is not there.
const Layer* find_layer(const Project& project, const LayerHome& home, LayerId layer);

/// On top of all others; its identity is made here, unless it has one. Returns the project, and who it is.
struct WithLayer
{
    Project project;
    LayerId layer{};
};
WithLayer add_layer(const Project& project, const LayerHome& home, Layer layer);
/// A film of the project; it is no longer in the Reel by itself.
WithLayer add_film_layer(const Project& project, const LayerHome& home, ShotId film);
/// Photos that are not in the project yet, as a shot of their own that is in no film but this one.
WithLayer add_picture_layer(const Project& project, const LayerHome& home, Shot pictures);
/// A card without a backdrop.
WithLayer add_text_layer(const Project& project, const LayerHome& home, const std::string& text);
WithLayer add_drawing_layer(const Project& project, const LayerHome& home, const std::string& name);

/// change gets a copy; what it sets out of its limits, or out of order, is put right. A locked layer only changes its
/// lock and whether it is on.
Project change_layer(const Project& project, const LayerHome& home, LayerId layer,
                     const std::function<void(Layer&)>& change);
Project remove_layer(const Project& project, const LayerHome& home, LayerId layer);
/// So many places up, or down.
Project move_layer(const Project& project, const LayerHome& home, LayerId layer, int up);

/// The key at this time of the film, made from where the layer is then where there is none.
Project change_key(const Project& project, const LayerHome& home, LayerId layer, Seconds at,
                   const std::function<void(LayerKey&)>& change);
Project remove_key(const Project& project, const LayerHome& home, LayerId layer, Seconds at);
/// All keys by as much: the movement stays, its place changes. Of a layer without keys, one is made.
Project shift_layer(const Project& project, const LayerHome& home, LayerId layer, double x, double y);

/// Onto the drawing of this photo, which is made where there is none.
Project add_stroke(const Project& project, const LayerHome& home, LayerId layer, PhotoId photo, Stroke stroke);
/// The last stroke of that photo's drawing; the drawing goes with its last one.
Project remove_last_stroke(const Project& project, const LayerHome& home, LayerId layer, PhotoId photo);
/// Over so many photos from its own on.
Project hold_drawing(const Project& project, const LayerHome& home, LayerId layer, PhotoId photo, std::int64_t photos);

/// Of a shot's own photos; none: they are as they were.
Project set_colour_out(const Project& project, ShotId shot, const std::optional<ColourOut>& out);

/// What is not as asked: a film that is gone, a matte that is gone.
std::vector<std::string> layer_notes(const Project& project, const LayerHome& home);

}
