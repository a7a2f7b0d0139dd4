// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/ghost_figure.h"

namespace jib::desk {
namespace {

using tracing::Landmark;

// An upright lifter of 1.72 m, metres from the bar: forward and down. Proportions as in the simulation's source.
struct Offset {
  Landmark landmark;
  double forward, down;
};
constexpr Offset kStanding[] = {{Landmark::Shoulder, 0.06, 0.00}, {Landmark::Hip, -0.04, 0.47},
                                {Landmark::Knee, 0.01, 0.90},     {Landmark::Ankle, -0.05, 1.31},
                                {Landmark::Heel, -0.11, 1.39},    {Landmark::Toe, 0.14, 1.37}};

}  // namespace

std::array<std::optional<PixelPoint>, tracing::kLandmarks> ghostFigure(
    const coaching::Analysis& a, std::size_t frame,
    const std::array<std::optional<PixelPoint>, tracing::kLandmarks>& placed) {
  std::array<std::optional<PixelPoint>, tracing::kLandmarks> ghost;
  // What the program sees itself is the better guess.
  if (a.trace.body) {
    for (Landmark l : tracing::kPlacedLandmarks) ghost[tracing::at(l)] = a.trace.trace.place(frame, l);
    if (ghost[tracing::at(Landmark::Hip)] && ghost[tracing::at(Landmark::Toe)]) return ghost;
  }
  const auto bar = a.trace.trace.place(frame, Landmark::Plate);
  if (!bar) return ghost;
  const auto& camera = a.trace.camera;
  const double forward = a.trace.forward.value_or(-1);
  const PixelPoint start = camera.shifted(*bar, camera.plate_m, camera.ankle_m);
  double px = camera.pixelsPerMetre(camera.ankle_m);
  PixelPoint shift{0, 0};
  // Stretch to the lifter's own height once a foot point is there; move by what the last placed point was off.
  if (const auto& toe = placed[tracing::at(Landmark::Toe)]) px = (toe->y - start.y) / 1.37;
  const auto expected = [&](const Offset& o) { return start + PixelPoint{forward * o.forward * px, o.down * px}; };
  for (const Offset& o : kStanding)
    if (const auto& p = placed[tracing::at(o.landmark)]) shift = {p->x - expected(o).x, 0};
  for (const Offset& o : kStanding) ghost[tracing::at(o.landmark)] = expected(o) + shift;
  return ghost;
}

}  // namespace jib::desk
