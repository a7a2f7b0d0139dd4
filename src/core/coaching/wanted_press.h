// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/coaching/wanted_pose.h"

namespace jib::coaching {

// pulled (wanted_pose.h) for somebody who lies on a bench: a pose of PressPoseEnds.
Shape pulledOnBench(const Shape& pose, std::size_t end, PixelPoint to, const Analysis& analysis);

}  // namespace jib::coaching
