// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/model/body_model.h"
#include "core/tracing/model/coach_told.h"
#include "core/tracing/sightings/bench_end.h"
#include "core/tracing/sightings/sighting.h"

namespace jib::tracing {

// Where a lifter's body must be under a traced bar, roughly: where to look when the detector, which goes by heads,
// shows somebody else or nobody. nullopt where the bar is not traced, and where it is down: a folded body is guessed
// too badly.
std::optional<PoseRegion> regionUnder(const BarTrace& bar, std::size_t frame, const BodyModel& body = {});

// How far apart in time looks are while the bar rests; while it moves they are closer.
inline constexpr double kRestingLooks_s = 0.3;

// Looks at the lifter with the pose network, eight times a second while the bar moves: first quickly, to learn where to
// look and to smooth that over about a second, then thoroughly. Of several people the one who holds the traced bar is
// the lifter. Rising frames; empty when nobody is seen. Frames on which nobody is made out are left out.
// `also` is shown every picture of the thorough look, in order, on one thread at a time.
// `lifter` decides where no bar was traced; nullopt: the largest person.
//
// Frame   displayed pixels
// Errors  CannotRead, BadData when the network's files are missing or damaged; ClipUnreadable; Cancelled
// Thread  re-entrant; `reader` is used by this call only; the network runs on two threads
Result<std::vector<Sighting>> sightBody(footage::FrameReader& reader, const BarTrace& bar, std::size_t first,
                                        std::size_t last, Task& task,
                                        const std::function<void(const footage::Frame&)>& also = {},
                                        const BodyModel& body = {}, const std::optional<PointedAt>& lifter = {});

// The same of somebody who lies on a bench and is seen from its end, no bar traced before: upright from the feet's end,
// upside down from the head's, where the network reads a picture that is turned by half. `bar`: only who lies under it.
Result<std::vector<Sighting>> sightFromBenchEnd(footage::FrameReader& reader, bool from_head, Task& task,
                                                const std::optional<PointedAt>& lifter = {},
                                                const std::optional<BarOverhead>& bar = {});

}  // namespace jib::tracing
