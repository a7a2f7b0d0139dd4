// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/lifter_extent.h"

#include <algorithm>

namespace jib::drawing {

using tracing::Landmark;

QRectF lifterExtent(const coaching::Analysis& a, const std::optional<motion::Stretch>& during) {
  QRectF all;
  const auto add = [&](QPointF p, double reach) { all |= QRectF(p.x() - reach, p.y() - reach, 2 * reach, 2 * reach); };
  if (!a.isTraced() || !a.trace.bar || a.trace.bar->plate.empty()) return all;
  motion::Stretch span{a.motion.times_s.front(), a.motion.times_s.back()};
  if (!a.reps.empty()) span = {a.reps.front().start_t(), a.reps.back().end_t()};
  if (during) span = *during;
  const std::size_t from = a.motion.frameAt(span.from_t), to = a.motion.frameAt(span.to_t);
  const double rim = a.trace.bar->rim.radius_px;
  for (std::size_t i = from; i <= to; ++i) {
    if (i < a.trace.bar->plate.size() && a.trace.bar->plate[i]) {
      const PixelPoint p = a.trace.bar->plate[i]->place;
      add({p.x, p.y}, rim);
    }
    const auto at = [&](Landmark l) { return a.trace.trace.place(i, l); };
    for (Landmark l : {Landmark::Toe, Landmark::Heel, Landmark::Ankle, Landmark::Knee, Landmark::Hip})
      if (const auto p = at(l)) add({p->x, p->y}, 0.25 * rim);
    // Over the shoulder stands the head: half the trunk's length.
    if (const auto shoulder = at(Landmark::Shoulder), hip = at(Landmark::Hip); shoulder && hip) {
      const PixelPoint up = (*shoulder - *hip) * 0.62;
      add({shoulder->x + up.x, shoulder->y + up.y}, 0.2 * rim);
    } else if (a.trace.bar->plate.size() > i && a.trace.bar->plate[i]) {
      const PixelPoint p = a.trace.bar->plate[i]->place;
      add({p.x, p.y - 1.4 * rim}, 0.2 * rim);
    }
  }
  if (a.trace.front)
    for (std::size_t i = from; i <= to && i < a.trace.front->frames.size(); ++i)
      for (const auto& side : a.trace.front->frames[i].side) {
        for (const auto& p : side)
          if (p) add({p->place.x, p->place.y}, 0.3 * rim);
        if (const auto& shoulder = side[tracing::at(Landmark::Shoulder)], &hip = side[tracing::at(Landmark::Hip)];
            shoulder && hip)
          add({shoulder->place.x, shoulder->place.y - 0.62 * (hip->place.y - shoulder->place.y)}, 0.2 * rim);
      }
  // Without a body its feet are somewhere below.
  if (!a.trace.body && !a.trace.front) all.setBottom(std::max<double>(all.bottom(), a.clip.height));
  return all;
}

}  // namespace jib::drawing
