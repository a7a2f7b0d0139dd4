// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"
#include "core/tracing/body/body_pose.h"
#include "core/tracing/body/known_build.h"
#include "core/tracing/camera/side_camera.h"
#include "core/tracing/model/trace.h"
#include "core/tracing/sightings/lying_watch.h"
#include "core/tracing/sightings/shoe_watch.h"

namespace jib::tracing {

// What a chain was made from; it decides how far a point may be off (pin_correction.h).
enum class BodySource { Placed, Network };

// The chain of parts in every frame of a stretch of the clip, before the coach's corrections.
struct BodyTrack {
  BodySource source = BodySource::Placed;
  bool feet_seen = true;  // false: cut off by the picture's edge; toe, heel and ankle are then only carried along
  Skeleton skeleton;
  SideCamera camera;  // the poses are this camera's metres; give pointsOf() this one, whatever is known better since
  std::size_t placed_frame = 0;                // where the coach set the points, if anybody did
  bool fitted_to_placed = false;               // the sightings of the network were fitted together with that frame
  std::vector<std::optional<BodyPose>> poses;  // one a frame of the clip; nullopt outside the stretch
  std::vector<double> doubt_px;                // how far the picture leaves the chain undecided, and drift since
  std::optional<KnownBuild> build;             // what sightings and a placed frame told together
  bool began_with_build = false;               // fitted with what an earlier clip had told
  std::vector<std::optional<ShoeLift>> shoe;   // one a frame, each against the standing frame its stretch began on;
                                               // empty where the shoe was not watched
  std::vector<LyingSeen> lying;  // one a frame, of a body on a bench; empty of others, and where nothing was watched
  // Of one bent to a bar on the floor: how far the hip is from where it is when the plates leave; one a frame, empty of
  // others.
  std::vector<std::optional<PixelPoint>> hip_before_off;
  bool bar_hangs = false;      // from straight arms: no plate hides the shoulder
  bool shoe_outlined = false;  // fitted to where the near shoe ends
  bool hip_outlined = false;   // and to where the buttocks end

  bool knowsPlacedFrame() const { return source == BodySource::Placed || fitted_to_placed; }
};

// Follows the near side of the body from the frame on which the coach placed toe, heel, ankle, knee, hip and shoulder:
// patches of cloth and skin are aligned to the frame before and to earlier frames of like posture, all parts at once,
// with lengths kept, the trunk tied to the traced bar, and whatever the plate hides left out.
// Frame   metres of the camera it was tracked with, which is kept with it
// Sigma   see doubt_px; systematic errors are added where pins are applied (pin_correction.h)
// Errors  WrongUse if one of the six points is missing; ClipUnreadable; Cancelled
// Thread  re-entrant; one call uses one reader
// Source  direct alignment with an articulated model: Bregler and Malik 1998; inverse of the template's role: Lucas and
//         Kanade 1981; Tukey's weight against occlusion
Result<BodyTrack> trackBody(footage::FrameReader& reader, const BarTrace& bar, const SideCamera& camera,
                            const std::vector<PlacedFrame>& placed, std::size_t first, std::size_t last, Task& task);

// A body known on its placed frame only, for lifts whose limbs are not followed from there: lengths, feet, the posture,
// and the arm from shoulder to bar. nullopt where no frame has all six points, or the bar is not seen on it.
std::optional<BodyTrack> placedBody(const BarTrace& bar, const SideCamera& camera,
                                    const std::vector<PlacedFrame>& placed, const BodyModel& model);

}  // namespace jib::tracing
