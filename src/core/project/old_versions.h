#pragma once
// Private to project/: project files of versions 1 and 2, as JSON, made into version 3.
#include "core/base/field_json.h"
#include "core/project/photo_list.h"

namespace frenlo {

/// What steps keep lay beside the other fields until the first days of version 3.
void gather_photo_steps(Json& photo);
void gather_shot_steps(Json& shot);

/// A photo, in place. Throws as field_json.h does.
void upgrade_photo(Json& photo);
/// A shot without its photos, in place; photos: its own, upgraded and read.
void upgrade_shot(Json& shot, const PhotoList& photos);

}
