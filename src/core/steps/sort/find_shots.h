#pragma once
#include "core/project/shot_kind.h"
#include "core/source/finding.h"
#include "core/steps/sort/photo_signature.h"
#include "core/time/rate.h"

#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace frenlo {

/// A photo among which shots are looked for. look: empty where it was not looked at.
struct Candidate
{
    PhotoPtr photo;
    bool usable = true; ///< it can be read
    PhotoSignature look{};
    bool copy = false; ///< of another photo of the card
};

struct ShotSearchOptions
{
    std::optional<Seconds> pause{};            ///< instead of the one that is found
    std::vector<GroupingOverride> overrides{}; ///< one a photo, or empty
};

/// Photos [begin, end) of the list that make a shot. Photos that cannot be used may lie among them.
struct FoundShot
{
    std::string name;
    std::size_t begin = 0;
    std::size_t end = 0;
    std::string reason; ///< why it starts here, for people: "after a marker card"
    ShotKind kind = ShotKind::unknown;
    bool operator==(const FoundShot&) const = default;
};

/// A decision that little more, or less, would have turned.
struct UnsureBorder
{
    std::size_t photo = 0; ///< position: the first photo behind the border, or the one that is in doubt
    std::string why;       ///< for people
};

struct FoundShots
{
    std::vector<FoundShot> shots;          ///< in order, apart; photos in none of them are strays or marker cards
    Seconds pause;                         ///< the pause that ends a shot where the pictures cannot tell
    std::vector<std::size_t> marker_cards; ///< positions
    std::vector<std::size_t> left_out;     ///< positions inside shots: copies, the other exposures of a bracket
    std::vector<UnsureBorder> unsure;      ///< where a person should look; none where all is clear
    std::vector<Finding> findings;         ///< what was seen on the way: turned, covered, copies, brackets
};

/// Groups photos, in their order, into shots. The scene decides (scene_stretches.h): photos of one scene are one shot,
/// however long the break between them, two scenes are two; marker cards end a shot, and so do folders that people
/// made, runs of numbers, cameras, lasting sizes and focal lengths. A folder that a camera made (CIPA DC-009, DCF 2.0)
/// ends nothing. Pauses decide where the pictures were not looked at or all differ. What is like nothing else belongs
/// to no shot.
FoundShots find_shots(std::span<const Candidate> photos, const ShotSearchOptions& options = {});

/// Suggestions from looking: exposure that differs from the neighbours', a photo unlike its neighbours. photos: of one
/// shot, in order.
std::vector<Finding> outliers(std::span<const Candidate> photos);

/// What the photos of one shot say about how it was made.
ShotKind kind_of(std::span<const Candidate> photos);

}
