// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/sketch.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/angle.h"
#include "core/base/quantity.h"
#include "core/coaching/back_line.h"

namespace jib::coaching {
namespace {

using tracing::Landmark;

struct KindRow {
  std::string_view name, title;
  std::size_t anchors;
};
constexpr std::array<KindRow, kShapeKinds> kKinds{{{"line", "line", 2},
                                                   {"arrow", "arrow", 2},
                                                   {"angle", "angle", 3},
                                                   {"ring", "ring", 2},
                                                   {"plumb", "plumb line", 1},
                                                   {"level", "level line", 1},
                                                   {"distance", "distance", 2},
                                                   {"text", "text", 1},
                                                   {"pose", "wanted pose", 5},
                                                   {"back", "back line", 3},
                                                   {"blur", "blur", 2}}};

const KindRow& rowOf(ShapeKind kind) {
  return kKinds[static_cast<std::size_t>(kind)];
}

// Where something that stays with the room is seen on another frame of a camera held by hand.
PixelPoint withTheRoom(PixelPoint place, const tracing::Trace& trace, std::size_t drawn, std::size_t frame) {
  if (trace.camera_moves.empty()) return place;
  return trace.moveAt(frame).moved(trace.moveAt(drawn).still(place));
}

std::optional<PixelPoint> placeOf(const Anchor& anchor, const tracing::ClipTrace& clip, std::size_t drawn,
                                  std::size_t frame) {
  if (frame == drawn) return anchor.place;
  if (anchor.rides) {
    const auto then = clip.place(drawn, *anchor.rides), now = clip.place(frame, *anchor.rides);
    if (!then || !now) return std::nullopt;
    return *now + (anchor.place - *then);
  }
  if (!anchor.followed.empty()) {
    if (frame < anchor.followed_from || frame - anchor.followed_from >= anchor.followed.size()) return std::nullopt;
    return anchor.followed[frame - anchor.followed_from];
  }
  return withTheRoom(anchor.place, clip.trace, drawn, frame);
}

// How far from the lifter's middle a shape lies: with the landmarks it rides on, else with the plate.
double lateralOf(const Shape& shape, const tracing::SideCamera& camera) {
  double sum = 0, n = 0;
  for (const Anchor& a : shape.anchors)
    if (a.rides && !a.rides->side) {
      sum += camera.lateralOf(a.rides->landmark, 0);
      n += 1;
    }
  return n > 0 ? sum / n : camera.plate_m;
}

// The true vertical or horizontal through a place, as the camera stands; of a clip without a traced bar the picture's.
std::vector<PixelPoint> lineThrough(const Shape& shape, PixelPoint p, const Analysis& a, std::size_t frame) {
  PixelPoint along = shape.kind == ShapeKind::Plumb ? PixelPoint{0, 1} : PixelPoint{1, 0};
  if (a.isTraced()) {
    const tracing::CameraMove move = a.trace.trace.moveAt(frame);
    const double lateral = lateralOf(shape, a.trace.camera);
    constexpr double kStep_m = 0.2;
    MetrePoint other = a.trace.camera.toPlane(move.still(p), lateral);
    (shape.kind == ShapeKind::Plumb ? other.z : other.x) += kStep_m;
    const PixelPoint step = move.moved(a.trace.camera.toPicture(other, lateral)) - p;
    if (length(step) > 1) along = step * (1 / length(step));
  }
  const double reach = 2.0 * std::max(a.clip.width, a.clip.height);
  return {p - along * reach, p + along * reach};
}

std::string labelOf(const Shape& shape, const Sketch& sketch, const std::vector<PixelPoint>& at, const Analysis& a,
                    std::size_t frame) {
  const auto flat = [&](PixelPoint p) {
    // A clip in which nothing is traced has no scale and no true vertical: its picture is taken as it is.
    if (!a.isTraced()) return MetrePoint{p.x, -p.y};
    return a.trace.camera.toPlane(a.trace.trace.moveAt(frame).still(p), lateralOf(shape, a.trace.camera));
  };
  switch (shape.kind) {
    case ShapeKind::Angle:
      return fmt::format("{:.0f}°", included_deg(flat(at[0]), flat(at[1]), flat(at[2])));
    case ShapeKind::Distance: {
      if (!a.isTraced()) return {};
      const double cm = 100 * length(flat(at[1]) - flat(at[0]));
      return fmt::format("{:.1f} cm · {:.1f} in", cm, cm / kCentimetresPerInch);
    }
    case ShapeKind::Back:
      return backLabel(shape, sketch, a);
    case ShapeKind::Blur:
      return "blurred when sent";
    default:
      return {};
  }
}

double halfFrame(const std::vector<double>& times_s) {
  return times_s.size() < 2 ? 0.02 : 0.5 * (times_s.back() - times_s.front()) / static_cast<double>(times_s.size() - 1);
}

}  // namespace

std::string_view nameOf(ShapeKind kind) {
  return rowOf(kind).name;
}
std::string_view titleOf(ShapeKind kind) {
  return rowOf(kind).title;
}
std::size_t anchorsOf(ShapeKind kind) {
  return rowOf(kind).anchors;
}
std::optional<ShapeKind> shapeKindNamed(std::string_view name) {
  for (std::size_t k = 0; k < kKinds.size(); ++k)
    if (kKinds[k].name == name) return static_cast<ShapeKind>(k);
  return std::nullopt;
}

bool operator==(const Anchor& a, const Anchor& b) {
  const auto same = [](PixelPoint p, PixelPoint q) { return p.x == q.x && p.y == q.y; };
  return same(a.place, b.place) && a.rides == b.rides && a.followed_from == b.followed_from &&
         std::equal(
             a.followed.begin(), a.followed.end(), b.followed.begin(), b.followed.end(),
             [&](const auto& p, const auto& q) { return p.has_value() == q.has_value() && (!p || same(*p, *q)); });
}

std::vector<ShapeOnFrame> shapesOn(const Sketch& sketch, const Analysis& a, std::size_t frame) {
  std::vector<ShapeOnFrame> on;
  const auto& trace = a.trace.trace;
  if (frame >= trace.size()) return on;
  const double t = trace.times_s[frame], half = halfFrame(trace.times_s);
  for (std::size_t k = 0; k < sketch.shapes.size(); ++k) {
    const Shape& shape = sketch.shapes[k];
    if (t < shape.from_s - half || t > shape.to_s + half || shape.anchors.size() != anchorsOf(shape.kind)) continue;
    const std::size_t drawn = tracing::nearestFrame(trace, shape.drawn_s);
    ShapeOnFrame here{k, {}, {}, {}};
    for (const Anchor& anchor : shape.anchors)
      if (const auto place = placeOf(anchor, a.trace, drawn, frame)) here.anchors.push_back(*place);
    if (here.anchors.size() != shape.anchors.size()) continue;
    if (shape.kind == ShapeKind::Plumb || shape.kind == ShapeKind::Level)
      here.line = lineThrough(shape, here.anchors.front(), a, frame);
    here.label = labelOf(shape, sketch, here.anchors, a, frame);
    if (!shape.text.empty()) here.label += (here.label.empty() ? "" : "  ") + shape.text;
    on.push_back(std::move(here));
  }
  return on;
}

Anchor snapped(PixelPoint at, const Sketch& sketch, const Analysis& a, std::size_t frame, double reach_px,
               std::optional<std::size_t> not_shape) {
  Anchor best{at, std::nullopt, 0, {}};
  double least = reach_px;
  const auto consider = [&](PixelPoint p, Anchor anchor) {
    if (const double away = length(p - at); away < least) {
      least = away;
      best = std::move(anchor);
    }
  };
  const auto& trace = a.trace.trace;
  const bool across = a.trace.front != nullptr;
  for (const tracing::PointName& name : tracing::allPointNames())
    if (const auto p = name.side.has_value() == across ? a.trace.place(frame, name) : std::nullopt)
      consider(*p, {*p, name, 0, {}});
  for (const ShapeOnFrame& other : shapesOn(sketch, a, frame)) {
    if (other.shape == not_shape) continue;
    const Shape& shape = sketch.shapes[other.shape];
    for (std::size_t k = 0; k < other.anchors.size(); ++k) {
      Anchor same = shape.anchors[k];
      same.place = other.anchors[k];
      consider(same.place, same);
    }
  }
  if (best.rides || least < reach_px || frame >= trace.size()) return best;
  // Nothing to ride on, but the floor is near: on the line through heel and toe.
  const auto heel = trace.place(frame, Landmark::Heel), toe = trace.place(frame, Landmark::Toe);
  if (!heel || !toe || length(*toe - *heel) < 1) return best;
  const PixelPoint along = (*toe - *heel) * (1 / length(*toe - *heel));
  if (std::abs(cross(along, at - *heel)) < reach_px) best.place = *heel + along * dot(along, at - *heel);
  return best;
}

std::optional<double> rollByVertical(const Shape& shape, const Analysis& a) {
  constexpr double kLeast_px = 40, kMost_deg = 45;
  if (!a.isTraced() || shape.anchors.size() != 2) return std::nullopt;
  PixelPoint along = shape.anchors[1].place - shape.anchors[0].place;
  if (along.y < 0) along = along * -1;
  if (length(along) < kLeast_px) return std::nullopt;
  // What stands upright off the middle of the picture leans by itself where the camera looks up or down: by how much
  // the line differs from where the vertical is seen now the camera is rolled further.
  const PixelPoint middle = (shape.anchors[0].place + shape.anchors[1].place) * 0.5;
  Shape plumb = shape;
  plumb.kind = ShapeKind::Plumb;
  const auto vertical = lineThrough(plumb, middle, a, tracing::nearestFrame(a.trace.trace, shape.drawn_s));
  PixelPoint now = vertical[1] - vertical[0];
  if (now.y < 0) now = now * -1;
  const double roll_rad = a.trace.camera.roll_rad + std::atan2(cross(along, now), dot(along, now));
  if (std::abs(degrees(roll_rad)) > kMost_deg) return std::nullopt;
  return roll_rad;
}

}  // namespace jib::coaching
