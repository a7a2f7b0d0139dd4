// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/model/body_model.h"
#include "core/tracing/sightings/first_look.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

// Whether it is the far plate of the lifter's bar that was followed. Off the side both are seen, and a near one in the
// colour of the wall may be missed. The plates stand on either side of whoever holds the bar: with the camera before
// the lifter the near one is seen behind them, and the far one before. Taken for the near one it makes everybody a
// giant. `view`: of viewFrom; `forward`: +1 where the lifter faces the picture's right edge.
bool isFarPlate(const BarTrace& bar, const std::vector<Sighting>& sightings, const ViewLook& view, double forward,
                const BodyModel& model);

}  // namespace jib::tracing
