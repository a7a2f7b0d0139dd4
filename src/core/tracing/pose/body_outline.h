// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/tracing/pose/pose_region.h"

namespace jib::tracing {

// The outline of a person as the pose network's mask shows it: a closed line in displayed pixels, without holes, about
// a third of a mask's cell exact on rendered people. It swallows the plate in front of the person and things that touch
// the person in the picture, and knows nothing of what is hidden.
using Outline = std::vector<PixelPoint>;

// From the mask's logits, `side` rows of `side`, of a region of the picture: the outer line of the largest piece. Empty
// when nobody stands out.
Outline outlineFrom(std::span<const float> logits, int side, const PoseRegion& region);

// Where the near shoe stands: lowest rear point and tip, on the line of its sole.
struct ShoeEnds {
  PixelPoint heel, toe;
};

// From the part of an outline about the near foot, of which the places of heel, toe and ankle are roughly known (heel
// within 8 cm, tip within 14). The near foot is the lower one in the picture, whatever else the mask holds. nullopt
// where the line below them is no shoe: not straight, too short or long, or ends elsewhere.
//
// metre_px   how large a metre looks at the foot
// forward    +1 where the toes point to the right, -1 to the left
std::optional<ShoeEnds> shoeOn(const Outline& outline, const ShoeEnds& about, PixelPoint ankle, double metre_px,
                               double forward);

// The point of an outline that lies farthest in a direction (of length 1), among those within `reach_px` of a place.
// nullopt when none is within reach, or when the farthest is so only because the reach ends there.
std::optional<PixelPoint> farthestOn(const Outline& outline, PixelPoint about, double reach_px, PixelPoint direction);

}  // namespace jib::tracing
