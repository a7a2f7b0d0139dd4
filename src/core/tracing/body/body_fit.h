// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/tracing/bar/bar_tracer.h"
#include "core/tracing/body/body_follow.h"
#include "core/tracing/body/body_tracker.h"
#include "core/tracing/camera/side_camera.h"
#include "core/tracing/model/body_model.h"
#include "core/tracing/sightings/pose_sightings.h"

namespace jib::tracing {

// Everything a body is fitted to, in one stretch of a clip.
struct BodyEvidence {
  const std::vector<Sighting>& sightings;
  const BarTrace& bar;
  int picture_height = 0;
  std::size_t first = 0, last = 0;
  bool tie_to_bar = true;
  bool outlines = true;
  // The chain followed from a placed frame (body_tracker.h), or null. Followed patches hold every frame but lag behind
  // a fast turn by some per cent; the network jitters but does not lag. With lengths and feet known from the placed
  // frame, shin, thigh and trunk are then those that fit both; feet and apparent lengths stay as they were followed.
  // Where both contradict each other by more than a hand's breadth the chain has slid off, and counts little.
  const BodyTrack* tracked = nullptr;
  // The lifter's body from an earlier clip, or null; not needed where a frame was placed.
  const KnownBuild* known = nullptr;
  // Limbs followed through each rep from a fitted frame. The network errs alike for as long as a posture lasts, most of
  // all at the bottom; patches tell how far a limb has turned since the lifter stood.
  std::vector<Followed> followed = {};
  BodyModel model = {};  // how the bar hangs on the body
};

// One chain of foot, shin, thigh and trunk fitted to everything seen of the near side: lengths constant, the toe on its
// place, motion smooth, the trunk tied to the traced bar, hip and knee a constant away from where the outline ends.
// What the network sees is off by a constant in each limb's own directions; how much is a free unknown of each clip,
// held only by how bodies are proportioned, so that it goes into the uncertainty (pin_correction.h) and one placed
// frame settles it. nullopt when knee and hip were seen too seldom to fit anything, and when `task` was cancelled: this
// takes about a second for each 20 s of film.
// Frame   metres of `camera`, which is kept with the track
// Source  least squares with a robust loss: Triggs et al., Bundle adjustment, 2000; segment lengths: Drillis and
//         Contini 1966 as in Winter, Biomechanics and Motor Control, 4th ed., figure 4.1
std::optional<BodyTrack> fitBody(const BodyEvidence& evidence, const SideCamera& camera, const Task* task = nullptr);

}  // namespace jib::tracing
