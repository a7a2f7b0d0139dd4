// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/flesh.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/tracing/body/pin_correction.h"

namespace jib::tracing {
namespace {

struct Fold {
  PixelPoint hip, knee;
  PixelPoint out, along;  // unit directions: square to the thigh on its upper side, and along it to the knee
};

std::optional<Fold> foldAt(const Trace& trace, const SideCamera& camera, std::size_t frame) {
  const auto hip = trace.place(frame, Landmark::Hip), knee = trace.place(frame, Landmark::Knee);
  if (!hip || !knee) return std::nullopt;
  const PixelPoint thigh = *knee - *hip;
  const double seen_px = length(thigh);
  if (seen_px < 1) return std::nullopt;
  const PixelPoint along = thigh * (1 / seen_px);
  // A quarter turn from the thigh towards the toes' side when standing, which is up when sitting.
  return Fold{*hip, *knee, PixelPoint{along.y, -along.x} * camera.forward, along};
}

}  // namespace

Flesh remembered(const Flesh& clicked) {
  constexpr double kCrease_m = 0.010, kKneeTop_m = 0.006;
  Flesh flesh;
  if (clicked.crease_clicked) {
    flesh.crease_out_m = clicked.crease_out_m;
    flesh.crease_along_m = clicked.crease_along_m;
    flesh.crease_sigma_m = kCrease_m;
  }
  if (clicked.knee_top_clicked) {
    flesh.knee_top_m = clicked.knee_top_m;
    flesh.knee_top_forward_m = clicked.knee_top_forward_m;
    flesh.knee_top_sigma_m = kKneeTop_m;
  }
  return flesh;
}

Flesh fleshFrom(const Trace& trace, const SideCamera& camera, const std::vector<PlacedFrame>& placed,
                const Flesh& prior) {
  Flesh flesh = prior;
  const double px = camera.pixelsPerMetre(camera.ankle_m);
  double deepest_crease = -1e9, deepest_knee = -1e9;  // picture y of the hip; the lower, the nearer to the bottom
  for (const PlacedFrame& p : placed) {
    const auto crease = p.points[at(Landmark::HipCrease)], top = p.points[at(Landmark::KneeTop)];
    if (!crease && !top) continue;
    const auto after = std::lower_bound(trace.times_s.begin(), trace.times_s.end(), p.t_s - 1e-3);
    if (after == trace.times_s.end()) continue;
    const auto fold = foldAt(trace, camera, static_cast<std::size_t>(after - trace.times_s.begin()));
    if (!fold) continue;
    if (crease && fold->hip.y > deepest_crease) {
      deepest_crease = fold->hip.y;
      flesh.crease_out_m = dot(*crease - fold->hip, fold->out) / px;
      flesh.crease_along_m = dot(*crease - fold->hip, fold->along) / px;
      flesh.crease_sigma_m = 0.006;
      flesh.crease_clicked = true;
    }
    if (top && fold->hip.y > deepest_knee) {
      deepest_knee = fold->hip.y;
      flesh.knee_top_m = (fold->knee.y - top->y) / px;
      flesh.knee_top_forward_m = camera.forward * (top->x - fold->knee.x) / px;
      flesh.knee_top_sigma_m = 0.005;
      flesh.knee_top_clicked = true;
    }
  }
  return flesh;
}

void addFlesh(Trace& trace, const SideCamera& camera, const Flesh& flesh) {
  const double px = camera.pixelsPerMetre(camera.ankle_m);
  for (std::size_t i = 0; i < trace.size(); ++i) {
    const auto fold = foldAt(trace, camera, i);
    if (!fold) continue;
    const auto set = [&](Landmark landmark, PixelPoint place, Landmark joint, double sigma_m, bool clicked) {
      auto& point = trace.frames[i][at(landmark)];
      if (point && point->origin == Origin::Pinned) return;
      // A click ties the flesh to the followed joint itself: how exactly the joint was placed no longer matters.
      double joint_px = trace.frames[i][at(joint)]->sigma_px;
      const double placing_px = wanderOf(joint, BodyTrack{}).placing_m * px;
      if (clicked) joint_px = std::sqrt(std::max(0.0, joint_px * joint_px - placing_px * placing_px));
      point = TracedPoint{place, std::hypot(joint_px, sigma_m * px), Origin::Fitted};
    };
    set(Landmark::HipCrease,
        fold->hip + fold->out * (flesh.crease_out_m * px) + fold->along * (flesh.crease_along_m * px), Landmark::Hip,
        flesh.crease_sigma_m, flesh.crease_clicked);
    set(Landmark::KneeTop,
        fold->knee + PixelPoint{camera.forward * flesh.knee_top_forward_m * px, -flesh.knee_top_m * px}, Landmark::Knee,
        flesh.knee_top_sigma_m, flesh.knee_top_clicked);
  }
}

}  // namespace jib::tracing
