#pragma once
// Private to document/: project files of versions 1 and 2, as JSON, made into version 3.
#include "core/base/field_json.h"
#include "core/document/photo_list.h"

namespace frenlo {

/// A photo, in place. Throws as field_json.h does.
void upgrade_photo(Json& photo);
/// A shot without its photos, in place; photos: its own, upgraded and read.
void upgrade_shot(Json& shot, const PhotoList& photos);

}
