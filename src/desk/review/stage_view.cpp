// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/stage_view.h"

#include <algorithm>
#include <cmath>

namespace jib::desk {
namespace {

// Where the middle of the view may be along one axis so that no more of the stage stays empty than must.
double held(double centre, double shown, double whole) {
  return shown >= whole ? whole / 2 : std::clamp(centre, shown / 2, whole - shown / 2);
}

}  // namespace

double StageView::baseScale() const {
  if (picture_.isEmpty() || stage_.isEmpty()) return 1;
  return std::min(stage_.width() / picture_.width(), stage_.height() / picture_.height());
}

void StageView::frame(Framing framing) {
  framing_ = framing;
}

double StageView::zoom() const {
  if (framing_ == Framing::Own) return own_zoom_;
  if (framing_ == Framing::Whole || lifter_.isEmpty() || picture_.isEmpty()) return 1;
  const QRectF seen = lifter_ & QRectF(QPointF(0, 0), picture_);
  if (seen.isEmpty()) return 1;
  const double scale =
      kLifterShare * std::min(stage_.height() / seen.height(), stage_.width() / std::max(seen.width(), 1.0));
  return std::clamp(scale / baseScale(), 1.0, kMostZoom);
}

QPointF StageView::centre() const {
  const double scale = baseScale() * zoom();
  QPointF at = framing_ == Framing::Own      ? own_centre_
               : framing_ == Framing::Lifter ? (lifter_ & QRectF(QPointF(0, 0), picture_)).center()
                                             : QPointF(picture_.width() / 2, picture_.height() / 2);
  // A followed point stays still even where the picture ends.
  if (followed_ && zoom() > 1) return *followed_;
  return {held(at.x(), stage_.width() / scale, picture_.width()),
          held(at.y(), stage_.height() / scale, picture_.height())};
}

void StageView::setOwn(double zoom, QPointF centre) {
  framing_ = Framing::Own;
  own_zoom_ = std::clamp(zoom, 1.0, kMostZoom);
  own_centre_ = centre;
}

void StageView::zoomAt(QPointF under, double factor) {
  const QPointF place = transform().inverted().map(under);
  const QPointF middle(stage_.width() / 2, stage_.height() / 2);
  const double zoom = std::clamp(this->zoom() * factor, 1.0, kMostZoom);
  setOwn(zoom, place - (under - middle) / (baseScale() * zoom));
  if (zoom <= 1) framing_ = Framing::Whole;
  // What was held at an edge starts from there.
  own_centre_ = centre();
}

void StageView::panBy(QPointF by) {
  const double zoom = this->zoom();
  setOwn(zoom, centre() - by / (baseScale() * zoom));
  own_centre_ = centre();
}

QTransform StageView::transform() const {
  const double scale = baseScale() * zoom();
  const QPointF middle = centre();
  QTransform t;
  t.translate(stage_.width() / 2 - scale * middle.x(), stage_.height() / 2 - scale * middle.y());
  t.scale(scale, scale);
  return t;
}

}  // namespace jib::desk
