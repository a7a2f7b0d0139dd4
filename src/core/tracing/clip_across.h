// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>

#include "core/tracing/clip_tracer.h"
#include "core/tracing/front/plates_together.h"

namespace jib::tracing {

// Clips in which both sides are seen: the part of traceClip that needs no plate from the side.

bool isAcross(View view);
// Nobody has said from where it is filmed, nor placed points as on a film from the side.
bool viewIsLeftToTheFilm(const TraceRequest& request);

// From where both sides are seen, when that is asked for or the film shows it; of one who lies only when asked for, as
// there a glance tells before anything is traced.
// `glance`: made where it is needed and not there.
std::optional<Facing> seenAcross(footage::FrameReader& reader, const TraceRequest& request, Glance& glance);

// Plates seen to go up and down together, and from which end of a bench whoever lies under them is seen.
struct SeenUnderBar {
  std::vector<PlatesTogether> plates;
  std::optional<Facing> facing;  // nullopt where the plates do not convince, or nobody is made out under them
};
// Errors  ClipUnreadable; Cancelled
Result<SeenUnderBar> seenUnderBar(footage::FrameReader& reader, const std::optional<PointedAt>& lifter, Task& task);

// Errors  NoLiftFound where not even hands are seen to go up and down; ClipUnreadable; Cancelled
Result<ClipTrace> traceAcross(footage::FrameReader& reader, const TraceRequest& request, Facing facing, ClipTrace clip,
                              Task& task, const std::vector<PlatesTogether>& plates = {});
// The same of what is known already.
ClipTrace tracedAcross(ClipTrace clip, const TraceRequest& request, const footage::ClipInfo& info, KnownTrace known);
// Bends what was seen of both sides, and the middle of the bar with it, through the points placed by hand.
void bendAcross(ClipTrace& clip, const TraceRequest& request);

}  // namespace jib::tracing
