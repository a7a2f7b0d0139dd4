// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPointF>
#include <QRectF>
#include <QSizeF>
#include <QTransform>
#include <optional>

namespace jib::desk {

// How the clip lies on the stage: framed on the lifter, whole, or as the coach moved it; and which point, if any, is
// kept still while the picture moves under it. Frames   `clip` displayed pixels of the clip, `stage` pixels of the
// widget
class StageView {
 public:
  enum class Framing { Lifter, Whole, Own };
  static constexpr double kMostZoom = 8;
  // The lifter takes this much of the stage's height, or of its width where that is what limits.
  static constexpr double kLifterShare = 0.86;

  void setStage(QSizeF size) { stage_ = size; }
  void setPicture(QSizeF size) { picture_ = size; }
  // Where the lifter is over the set, in the clip; empty when nothing is known: then Lifter shows the clip whole.
  void setLifter(QRectF extent) { lifter_ = extent; }

  void frame(Framing framing);
  Framing framing() const { return framing_; }
  // Larger or smaller about a place of the stage, which stays where it is.
  void zoomAt(QPointF under, double factor);
  void panBy(QPointF by);
  // The coach's own framing again: its zoom over the whole picture's, and the clip's place in the middle.
  void setOwn(double zoom, QPointF centre);
  double zoom() const;
  QPointF centre() const;  // in the clip

  // A place of the clip that is kept in the middle of the stage; nullopt lets go.
  void follow(std::optional<QPointF> place) { followed_ = place; }

  QTransform transform() const;  // clip to stage

 private:
  double baseScale() const;

  QSizeF stage_, picture_;
  QRectF lifter_;
  Framing framing_ = Framing::Lifter;
  double own_zoom_ = 1;
  QPointF own_centre_;
  std::optional<QPointF> followed_;
};

}  // namespace jib::desk
