// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>

#include "core/tracing/camera/side_camera.h"
#include "core/tracing/model/body_model.h"

// How a leg that is turned away from the picture shows in it. Written for any number the fit may differentiate by.
namespace jib::tracing {

// Feet of a wide stance: of sumo pulls their ankles stand 0.6 to 0.9 m apart, toes out by 30 to 45 degrees.
inline CameraPriors withStance(CameraPriors priors, const BodyModel& body) {
  if (!body.wide) return priors;
  priors.wide_stance = true;
  priors.ankle_m = 0.38;
  priors.toe_out_rad = 0.65;
  return priors;
}

// The length that a limb shows in the picture's plane, of which `out` goes towards the camera.
template <class T>
T flat(T length, T out) {
  using std::sqrt;
  const T least = 0.1 * length * length, square = length * length - out * out;
  return sqrt(square > least ? square : least);
}

// How far from the lifter's middle the near knee stands, of shin and thigh of these lengths at these leans. Knees go
// out along the foot as far as they go forward; of a wide stance forward of the straight line from ankle to hip as it
// shows, which in turn depends on how far out they are: solved by going half of the way a few times.
template <class T>
T kneeOut(const SideCamera& camera, T shin_m, T thigh_m, T shin_rad, T thigh_rad, T splay_rad) {
  using std::sin, std::tan;
  const T straight = T(camera.straightKnee_m());
  const auto outAt = [&](T ahead) { return ahead > T(0) ? T(straight + ahead * tan(splay_rad)) : straight; };
  if (!camera.wide_stance) return outAt(shin_m * sin(shin_rad));
  T out = straight;
  for (int step = 0; step < 5; ++step) {
    const T knee = flat(shin_m, T(out - camera.ankle_m)) * sin(shin_rad),
            hip = knee + flat(thigh_m, T(out - camera.hip_m)) * sin(thigh_rad);
    out = (out + outAt(T(knee - hip / 2.0))) / 2.0;
  }
  return out;
}

}  // namespace jib::tracing
