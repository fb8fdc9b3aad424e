#pragma once
#include "core/picture/step_pictures.h"
#include "core/steps/layers/layer_values.h"

namespace frenlo {

/// The layers of each frame of the shot's film; empty where there are none.
DressFrame dress_layers(const Shot& shot, const Schedule& schedule, const OtherFilms& others);
/// And of the Reel's, whose pictures have this size.
DressFrame dress_reel_layers(const Reel& reel, cv::Size frame, Rate rate, const OtherFilms& others);

/// Of pixels of a layer's picture, so large, to those of a frame, so large, where this key has it: coordinates of pixel
/// corners.
Transform layer_transform(const Layer& layer, const LayerKey& key, cv::Size picture, cv::Size frame);

/// What a layer shows, so large; nothing where what it shows is gone.
std::optional<cv::Size> layer_size(const Layer& layer, cv::Size frame, const OtherFilms& others);

}
