// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/sketch_pad.h"

#include <algorithm>

#include "core/coaching/back_line.h"
#include "core/coaching/wanted_pose.h"
#include "desk/review/commands/change_sketch.h"
#include "desk/text.h"
#include "drawing/shape_painter.h"

namespace jib::desk {
namespace {

using coaching::Shape;
using coaching::ShapeKind;
using coaching::ShapeOnFrame;
using coaching::Sketch;

constexpr double kAround_s = 0.5;

double awayFrom(PixelPoint p, PixelPoint a, PixelPoint b) {
  const PixelPoint along = b - a;
  const double whole = dot(along, along);
  const double share = whole > 0 ? std::clamp(dot(p - a, along) / whole, 0.0, 1.0) : 0;
  return length(p - (a + along * share));
}

// How far a place is from a shape's strokes.
double awayFrom(PixelPoint p, const Shape& shape, const ShapeOnFrame& here) {
  const auto& at = here.anchors;
  switch (shape.kind) {
    case ShapeKind::Blur:
    case ShapeKind::Ring:
      return std::min(std::abs(length(p - at[0]) - length(at[1] - at[0])), length(p - at[1]));
    case ShapeKind::Plumb:
    case ShapeKind::Level:
      return awayFrom(p, here.line[0], here.line[1]);
    case ShapeKind::Text:
      return length(p - at[0]);
    case ShapeKind::Pose: {
      double least = length(p - at[coaching::kPoseBar]);
      for (std::size_t k = 0; k < coaching::kPoseShoulder; ++k) least = std::min(least, awayFrom(p, at[k], at[k + 1]));
      return least;
    }
    case ShapeKind::Angle:
    case ShapeKind::Back:
      return std::min(awayFrom(p, at[0], at[1]), awayFrom(p, at[1], at[2]));
    default:
      return awayFrom(p, at[0], at[1]);
  }
}

}  // namespace

SketchPad::SketchPad(ReviewDocument& document, QObject* parent) : QObject(parent), document_(document) {
  connect(&document_, &ReviewDocument::sketchChanged, this, [this] {
    if (chosen_ && *chosen_ >= document_.sketch().shapes.size()) chosen_.reset();
    emit changed();
  });
}

void SketchPad::setOn(bool on) {
  on_ = on;
  half_.clear();
  if (!on) chosen_.reset();
  emit changed();
}

void SketchPad::setTool(std::optional<ShapeKind> tool) {
  tool_ = tool;
  half_.clear();
  if (tool) chosen_.reset();
  emit changed();
}

const Shape* SketchPad::chosenShape() const {
  return chosen_ && *chosen_ < document_.sketch().shapes.size() ? &document_.sketch().shapes[*chosen_] : nullptr;
}

void SketchPad::choose(std::optional<std::size_t> shape) {
  chosen_ = shape;
  emit changed();
}

double SketchPad::timeOf(std::size_t frame) const {
  const auto a = document_.analysis();
  return a && frame < a->motion.times_s.size() ? a->motion.times_s[frame] : 0;
}

void SketchPad::holdFor(Shape& shape, double t_s) const {
  const auto a = document_.analysis();
  shape.from_s = shape.to_s = t_s;
  if (!a) return;
  const double first = a->motion.times_s.front(), last = a->motion.times_s.back();
  if (hold_ == Hold::Clip) {
    shape.from_s = first;
    shape.to_s = last;
  } else if (hold_ == Hold::Around) {
    shape.from_s = std::max(first, t_s - kAround_s);
    shape.to_s = std::min(last, t_s + kAround_s);
  }
}

void SketchPad::put(const QString& text, Sketch to, GestureId gesture) {
  document_.undoStack().push(new ChangeSketch(document_, text, std::move(to), gesture));
}

void SketchPad::edit(const QString& text, const std::function<void(Shape&)>& change, GestureId gesture) {
  if (!chosenShape()) return;
  Sketch to = document_.sketch();
  change(to.shapes[*chosen_]);
  if (to != document_.sketch()) put(text, std::move(to), gesture);
}

void SketchPad::setSense(coaching::Sense sense) {
  sense_ = sense;
  edit(
      tr("change a line"), [sense](Shape& s) { s.sense = sense; }, newGesture());
  emit changed();
}

void SketchPad::setHold(Hold hold) {
  hold_ = hold;
  edit(
      tr("change how long it shows"), [this](Shape& s) { holdFor(s, s.drawn_s); }, newGesture());
  if (const Shape* shape = chosenShape()) emit drawn(*shape);
}

void SketchPad::setText(const QString& text) {
  text_ = text;
  edit(
      tr("word a drawing"), [&](Shape& s) { s.text = text.toStdString(); }, gesture_);
}

void SketchPad::finish(std::size_t frame) {
  Shape shape;
  shape.kind = *tool_;
  shape.sense = sense_;
  shape.anchors = std::move(half_);
  half_.clear();
  shape.drawn_s = timeOf(frame);
  if (shape.kind == ShapeKind::Text) shape.text = text_.toStdString();
  holdFor(shape, shape.drawn_s);
  Sketch to = document_.sketch();
  to.shapes.push_back(shape);
  gesture_ = newGesture();
  put(tr("draw"), std::move(to), newGesture());
  // The next press may move what was just drawn; the tool is put down, as a pencil is.
  tool_.reset();
  choose(document_.sketch().shapes.size() - 1);
  emit drawn(shape);
  if (shape.kind == ShapeKind::Text && shape.text.empty()) emit wordsWanted();
}

bool SketchPad::press(PixelPoint at, std::size_t frame, double reach_px) {
  const auto a = document_.analysis();
  if (!on_ || !a) return false;
  pointer_ = at;
  if (tool_ == ShapeKind::Pose) {
    tool_.reset();
    const auto pose = coaching::poseOn(*a, frame);
    if (!pose) {
      emit said(tr("No tracked body on this frame. Try another frame, or place the points (P) first."));
    } else {
      Sketch to = document_.sketch();
      to.shapes.push_back(*pose);
      holdFor(to.shapes.back(), pose->drawn_s);
      gesture_ = newGesture();
      put(tr("draw a wanted pose"), std::move(to), newGesture());
      chosen_ = document_.sketch().shapes.size() - 1;
    }
    emit changed();
    return true;
  }
  if (tool_ == ShapeKind::Back) {
    tool_.reset();
    proposeBackLines(*a, frame);
    return true;
  }
  if (tool_) {
    half_.push_back(coaching::snapped(at, document_.sketch(), *a, frame, reach_px));
    if (half_.size() == coaching::anchorsOf(*tool_)) finish(frame);
    emit changed();
    return true;
  }
  double least = reach_px;
  std::optional<std::size_t> nearest;
  dragged_end_.reset();
  for (const ShapeOnFrame& here : coaching::shapesOn(document_.sketch(), *a, frame)) {
    const double away = awayFrom(at, document_.sketch().shapes[here.shape], here);
    if (away >= least) continue;
    least = away;
    nearest = here.shape;
    dragged_end_.reset();
    for (std::size_t k = 0; k < here.anchors.size(); ++k)
      if (length(here.anchors[k] - at) < reach_px) dragged_end_ = k;
  }
  if (nearest) gesture_ = newGesture();
  choose(nearest);
  return nearest.has_value();
}

void SketchPad::proposeBackLines(const coaching::Analysis& a, std::size_t frame) {
  Sketch to = document_.sketch();
  const auto lines = coaching::backLinesAround(a, to, frame);
  if (lines.empty()) {
    emit said(tr("No tracked torso here to start from, or this rep's back lines are there already."));
    return;
  }
  to.shapes.insert(to.shapes.end(), lines.begin(), lines.end());
  gesture_ = newGesture();
  put(tr("propose back lines"), std::move(to), newGesture());
  chosen_.reset();
  emit said(
      tr("Back lines at the start, the turn and lockout of this rep: pull their points onto the back. The frames "
         "of the strip take you there."));
  emit changed();
}

bool SketchPad::move(PixelPoint at, std::size_t frame, double reach_px) {
  const auto a = document_.analysis();
  if (!on_ || !a) return false;
  pointer_ = at;
  if (!half_.empty()) {
    emit changed();
    return true;
  }
  if (!dragged_end_ || !chosenShape()) return tool_.has_value();
  if (chosenShape()->kind == ShapeKind::Pose) {
    edit(
        tr("pull a pose"), [&](Shape& s) { s = coaching::pulled(s, *dragged_end_, at, *a); }, gesture_);
    return true;
  }
  // A back's outline lies beside joints that would draw its points to them.
  const coaching::Anchor to = chosenShape()->kind == ShapeKind::Back
                                  ? coaching::Anchor{at, std::nullopt, 0, {}}
                                  : coaching::snapped(at, document_.sketch(), *a, frame, reach_px, chosen_);
  edit(
      tr("move a drawing"),
      [&](Shape& s) {
        // All its ends are told anew on the frame it is moved on.
        for (const ShapeOnFrame& here : coaching::shapesOn(document_.sketch(), *a, frame))
          if (here.shape == *chosen_)
            for (std::size_t k = 0; k < s.anchors.size(); ++k) {
              s.anchors[k].place = here.anchors[k];
              s.anchors[k].followed.clear();
            }
        s.drawn_s = timeOf(frame);
        s.from_s = std::min(s.from_s, s.drawn_s);
        s.to_s = std::max(s.to_s, s.drawn_s);
        s.anchors[*dragged_end_] = to;
        s.proposed = false;
      },
      gesture_);
  return true;
}

bool SketchPad::release(PixelPoint at, std::size_t frame, double reach_px) {
  if (!on_) return false;
  // Drawn with one stroke: where the button is let go is the second end.
  if (tool_ && half_.size() == 1 && coaching::anchorsOf(*tool_) == 2 && length(at - half_.front().place) > 2 * reach_px)
    return press(at, frame, reach_px);
  // Taken hold of and let go where it was: it is right as proposed.
  if (dragged_end_ && chosenShape() && chosenShape()->proposed)
    edit(
        tr("confirm a back line"), [](Shape& s) { s.proposed = false; }, gesture_);
  if (dragged_end_ && chosenShape()) emit drawn(*chosenShape());
  dragged_end_.reset();
  return !half_.empty() || chosen_.has_value();
}

bool SketchPad::remove() {
  if (!on_ || !chosenShape()) return false;
  Sketch to = document_.sketch();
  to.shapes.erase(to.shapes.begin() + static_cast<long>(*chosen_));
  chosen_.reset();
  put(tr("remove a drawing"), std::move(to), newGesture());
  return true;
}

bool SketchPad::nudge(int dx, int dy) {
  const auto a = document_.analysis();
  if (!on_ || !a || !chosenShape()) return false;
  edit(
      tr("nudge a drawing"),
      [&](Shape& s) {
        for (coaching::Anchor& anchor : s.anchors)
          anchor.place = anchor.place + PixelPoint{static_cast<double>(dx), static_cast<double>(dy)};
        for (coaching::Anchor& anchor : s.anchors)
          for (auto& p : anchor.followed)
            if (p) *p = *p + PixelPoint{static_cast<double>(dx), static_cast<double>(dy)};
      },
      gesture_);
  return true;
}

bool SketchPad::cancel() {
  if (!on_) return false;
  if (!half_.empty())
    half_.clear();
  else if (chosen_)
    chosen_.reset();
  else if (tool_)
    tool_.reset();
  else
    return false;
  emit changed();
  return true;
}

void SketchPad::paint(QPainter& painter, std::size_t frame, const QTransform& view, double scale) const {
  const auto a = document_.analysis();
  if (!on_ || !a) return;
  if (tool_ && !half_.empty()) {
    // What it would be if the pointer's place were its last end.
    Shape shape;
    shape.kind = half_.size() + 1 < coaching::anchorsOf(*tool_) ? ShapeKind::Line : *tool_;
    shape.sense = sense_;
    shape.anchors = half_;
    shape.anchors.push_back({pointer_, std::nullopt, 0, {}});
    shape.drawn_s = shape.from_s = shape.to_s = timeOf(frame);
    drawing::paintShapes(painter, {{shape}, {}}, *a, frame, view, scale, drawing::Blurs::Ringed);
    std::vector<PixelPoint> ends;
    for (const auto& anchor : half_) ends.push_back(anchor.place);
    drawing::paintHandles(painter, ends, view, scale);
  }
  if (chosen_)
    for (const ShapeOnFrame& here : coaching::shapesOn(document_.sketch(), *a, frame))
      if (here.shape == *chosen_) drawing::paintHandles(painter, here.anchors, view, scale);
}

}  // namespace jib::desk
