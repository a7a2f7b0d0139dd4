// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/analysis.h"

namespace jib::coaching {

// What a coach draws over a clip.
enum class ShapeKind {
  Line,
  Arrow,     // from its first anchor to its second
  Angle,     // at its second anchor, between the first and the third
  Ring,      // about its first anchor, through its second
  Plumb,     // the true vertical through one anchor
  Level,     // the true horizontal through one anchor
  Distance,  // between two anchors, in cm and in
  Text,
  Pose,  // a wanted posture: ankle, knee, hip, shoulder and bar (wanted_pose.h)
  Back,  // upper back, low back and pelvis (back_line.h)
  Blur,  // a face, or whatever is not to be seen in what leaves the house: as a ring
};
inline constexpr std::size_t kShapeKinds = 11;
std::string_view nameOf(ShapeKind kind);   // in files: "plumb"
std::string_view titleOf(ShapeKind kind);  // for people: "plumb line"
std::optional<ShapeKind> shapeKindNamed(std::string_view name);
std::size_t anchorsOf(ShapeKind kind);  // how many it needs

// What is, and what is wanted: two colours and two line styles.
enum class Sense { AsItIs, AsWanted };

// One end of a shape.
// Frame  displayed pixels, as on the frame the shape was drawn on
struct Anchor {
  PixelPoint place;
  // It rides on this landmark and keeps its distance from it; nullopt: it stays with the room, or with what it was put
  // on where that was followed.
  std::optional<tracing::PointName> rides;
  // Where what it was put on went, one entry a frame from `followed_from`; nullopt where it was lost from sight. Empty:
  // not followed.
  std::size_t followed_from = 0;
  std::vector<std::optional<PixelPoint>> followed;
};
bool operator==(const Anchor& a, const Anchor& b);

// Holds  anchorsOf(kind) anchors; from_s <= drawn_s <= to_s
struct Shape {
  ShapeKind kind = ShapeKind::Line;
  Sense sense = Sense::AsItIs;
  std::vector<Anchor> anchors;
  std::string text;             // of a text; beside any other shape where it is not empty
  double drawn_s = 0;           // presentation time of the frame it was drawn on
  double from_s = 0, to_s = 0;  // it shows between these
  bool proposed = false;        // by the program, until the coach has put it right; goes into no reply
  friend bool operator==(const Shape&, const Shape&) = default;
};

// All that is drawn over one clip.
struct Sketch {
  std::vector<Shape> shapes;
  // Shapes of a newer program that this one does not understand, as JSON: kept as they came.
  std::vector<std::string> unread;
  bool empty() const { return shapes.empty(); }
  friend bool operator==(const Sketch&, const Sketch&) = default;
};

// A shape as one frame shows it.
// Frame  displayed pixels of that frame
struct ShapeOnFrame {
  std::size_t shape = 0;  // its place in the sketch
  std::vector<PixelPoint> anchors;
  std::vector<PixelPoint> line;  // of a plumb or level line: its two ends, outside the picture
  std::string label;             // "87°", "12.4 cm · 4.9 in", or its text
};

// The shapes a frame shows, each where its anchors have gone by then. A shape one of whose anchors is not seen on the
// frame is left out: a line to where a knee was would be a lie.
std::vector<ShapeOnFrame> shapesOn(const Sketch& sketch, const Analysis& analysis, std::size_t frame);

// Where an end that is let go at `at` belongs: on a landmark, the bar or the end of another shape of that frame, within
// `reach_px`. Nothing near: where it was let go, free.
Anchor snapped(PixelPoint at, const Sketch& sketch, const Analysis& analysis, std::size_t frame, double reach_px,
               std::optional<std::size_t> not_shape = std::nullopt);

// How far the camera is rolled if the line between the anchors of a shape, as drawn, is a vertical of the room; nullopt
// where they lie too near each other, or nearer to level than to upright.
std::optional<double> rollByVertical(const Shape& shape, const Analysis& analysis);

// JSON, one array. Reading keeps what it does not understand and loses nothing else.
std::string sketchToJson(const Sketch& sketch);
Sketch sketchFromJson(std::string_view json);

}  // namespace jib::coaching
