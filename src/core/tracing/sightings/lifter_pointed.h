// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <optional>
#include <vector>

#include "core/tracing/model/coach_told.h"
#include "core/tracing/pose/person_finder.h"

namespace jib::tracing {

// Whether a region can be that of the lifter the coach pointed at; of anybody, where nobody was pointed at. Of all
// frames: a lifter steps back and forth along the view more than across it. A region is about 2.2 m high.
bool mayBe(const PoseRegion& region, const std::optional<PointedAt>& lifter);

// The people who may be the lifter. Where one was pointed at only the picture about them is looked at, closer and
// closer: beside somebody large the detector passes over who stands further off.
// Errors  as PersonFinder::find
Result<std::vector<Person>> peopleAt(PersonFinder& finder, const cv::Mat& picture,
                                     const std::optional<PointedAt>& lifter);

}  // namespace jib::tracing
