// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/back_line.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/angle.h"

namespace jib::coaching {
namespace {

using tracing::Landmark;

constexpr double kByHand_m = 0.007;  // a point on a shirt is put down within this
constexpr double kSure = 1.64;

std::array<MetrePoint, 3> inMetres(const Shape& back, const Analysis& a) {
  const std::size_t frame = tracing::nearestFrame(a.trace.trace, back.drawn_s);
  std::array<MetrePoint, 3> p;
  for (std::size_t k = 0; k < p.size(); ++k)
    p[k] = a.trace.camera.toPlane(a.trace.trace.moveAt(frame).still(back.anchors[k].place), 0);
  return p;
}

// The rep whose moments are nearest.
const motion::Rep* repNear(const Analysis& a, double t) {
  const auto away = [t](const motion::Rep& r) { return std::max({r.start_t() - t, t - r.end_t(), 0.0}); };
  const auto nearest =
      std::min_element(a.reps.begin(), a.reps.end(), [&](const auto& x, const auto& y) { return away(x) < away(y); });
  return nearest == a.reps.end() ? nullptr : &*nearest;
}

std::array<double, 3> momentsOf(const motion::Rep& rep) {
  constexpr double kBefore_s = 0.4;  // a pull whose first motion is not seen begins at lift-off
  const double start = rep.start_t() < rep.bottom_t() ? rep.start_t() : rep.bottom_t() - kBefore_s;
  return {start, rep.bottom_t(), rep.lockout_t()};
}

}  // namespace

std::optional<Shape> backLineOn(const Analysis& a, std::size_t frame) {
  const auto& trace = a.trace.trace;
  if (!a.isTraced() || a.trace.front || frame >= trace.size()) return std::nullopt;
  const auto shoulder = trace.place(frame, Landmark::Shoulder), hip = trace.place(frame, Landmark::Hip);
  if (!shoulder || !hip) return std::nullopt;
  const tracing::CameraMove move = trace.moveAt(frame);
  const tracing::SideCamera& camera = a.trace.camera;
  const MetrePoint low = camera.toPlane(move.still(*hip), camera.lateralOf(Landmark::Hip, 0)),
                   high = camera.toPlane(move.still(*shoulder), camera.lateralOf(Landmark::Shoulder, 0));
  const MetrePoint up = high - low;
  if (length(up) < 0.2) return std::nullopt;
  const MetrePoint behind = MetrePoint{-up.z, up.x} * (1 / length(up));
  struct Usual {
    double along, behind_m;  // share of the trunk from the hip up
  };
  constexpr std::array<Usual, 3> kUsual{{{0.88, 0.115}, {0.45, 0.11}, {0.05, 0.12}}};
  Shape back;
  back.kind = ShapeKind::Back;
  back.proposed = true;
  back.drawn_s = back.from_s = back.to_s = trace.times_s[frame];
  for (const Usual& u : kUsual)
    back.anchors.push_back(
        {move.moved(camera.toPicture(low + up * u.along + behind * u.behind_m, 0)), std::nullopt, 0, {}});
  return back;
}

std::vector<Shape> backLinesAround(const Analysis& a, const Sketch& sketch, std::size_t frame) {
  std::vector<Shape> lines;
  const auto& trace = a.trace.trace;
  if (frame >= trace.size()) return lines;
  std::vector<std::size_t> frames{frame};
  if (const motion::Rep* rep = repNear(a, trace.times_s[frame])) {
    frames.clear();
    for (const double t : momentsOf(*rep)) frames.push_back(tracing::nearestFrame(trace, t));
  }
  for (const std::size_t at : frames) {
    const bool has = std::any_of(sketch.shapes.begin(), sketch.shapes.end(), [&](const Shape& s) {
      return s.kind == ShapeKind::Back && tracing::nearestFrame(trace, s.drawn_s) == at;
    });
    if (has) continue;
    if (auto line = backLineOn(a, at)) lines.push_back(std::move(*line));
  }
  return lines;
}

BackBend bendOf(const Shape& back, const Analysis& a) {
  const auto p = inMetres(back, a);
  const MetrePoint chord = p[kUpperBack] - p[kPelvis], out = p[kLowBack] - p[kPelvis];
  const double upper_m = length(p[kUpperBack] - p[kLowBack]), lower_m = length(out);
  if (upper_m < 0.02 || lower_m < 0.02 || length(chord) < 0.02) return {0, 180};
  const double bend = 180 - included_deg(p[kUpperBack], p[kLowBack], p[kPelvis]);
  const double side = -chord.z * out.x + chord.x * out.z;  // positive: behind the line
  const double sigma =
      kByHand_m * std::sqrt(1 / (upper_m * upper_m) + 1 / (lower_m * lower_m) + std::pow(1 / upper_m + 1 / lower_m, 2));
  return {std::copysign(bend, side), degrees(sigma)};
}

std::string backLabel(const Shape& back, const Sketch& sketch, const Analysis& a) {
  if (back.proposed) return "pull these onto the back";
  if (!a.isTraced()) return {};
  const motion::Rep* rep = repNear(a, back.drawn_s);
  const Shape* first = &back;
  for (const Shape& s : sketch.shapes)
    if (s.kind == ShapeKind::Back && !s.proposed && s.drawn_s < first->drawn_s && repNear(a, s.drawn_s) == rep)
      first = &s;
  if (first == &back) return fmt::format("the back at {:.1f} s", back.drawn_s);
  const BackBend then = bendOf(*first, a), now = bendOf(back, a);
  const double more = now.bend_deg - then.bend_deg, sigma = std::hypot(then.sigma_deg, now.sigma_deg);
  if (std::abs(more) < kSure * sigma)
    return fmt::format("about as round as at {:.1f} s (± {:.0f}°)", first->drawn_s, sigma);
  return fmt::format("{:.0f}° {} than at {:.1f} s (± {:.0f}°)", std::abs(more), more > 0 ? "rounder" : "flatter",
                     first->drawn_s, sigma);
}

}  // namespace jib::coaching
