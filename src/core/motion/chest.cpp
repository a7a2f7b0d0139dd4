// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/chest.h"

#include <algorithm>

#include "core/base/median.h"

namespace jib::motion {

std::optional<double> upperEdge(const std::vector<MetrePoint>& outline, double x) {
  constexpr double kThinnest_m = 0.10, kThickest_m = 0.60;  // the mask takes the pad along at times
  std::vector<double> crossings;
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const MetrePoint &a = outline[i], &b = outline[(i + 1) % outline.size()];
    if ((a.x < x) == (b.x < x)) continue;
    crossings.push_back(a.z + (b.z - a.z) * (x - a.x) / (b.x - a.x));
  }
  std::sort(crossings.begin(), crossings.end());
  for (std::size_t i = 0; i + 1 < crossings.size(); i += 2) {
    const double thick = crossings[i + 1] - crossings[i];
    if (thick > kThinnest_m && thick < kThickest_m) return crossings[i + 1];
  }
  return std::nullopt;
}

std::vector<ChestAt> chestOf(const tracing::ClipTrace& clip, const std::vector<std::optional<MetrePoint>>& bar) {
  // Of the near side of the rib cage. The plate's lower edge is a rim's radius below the bar.
  constexpr double kNearSide_m = 0.05, kClear_m = 0.30, kAtTheChest_m = 0.015, kFree_m = 0.12;
  constexpr double kBesides_m = 0.02;
  std::vector<ChestAt> chest;
  if (!clip.model.lying || clip.front || !clip.sightings) return chest;
  double lowest = 1e9;
  for (const auto& p : bar)
    if (p) lowest = std::min(lowest, p->z);
  std::vector<double> low_x;
  for (const auto& p : bar)
    if (p && p->z < lowest + kAtTheChest_m) low_x.push_back(p->x);
  if (low_x.empty()) return chest;
  const double touch_x = median(std::move(low_x));
  for (const tracing::Sighting& s : *clip.sightings) {
    if (s.reading.outline.empty() || s.frame >= bar.size() || !bar[s.frame] || bar[s.frame]->z < lowest + kClear_m)
      continue;
    std::vector<MetrePoint> outline;
    for (const PixelPoint& p : s.reading.outline)
      outline.push_back(clip.camera.toPlane(s.camera.still(p), kNearSide_m));
    std::vector<double> edges;
    for (const double beside_m : {-kBesides_m, 0.0, kBesides_m})
      if (const auto edge = upperEdge(outline, touch_x + beside_m)) edges.push_back(*edge);
    if (edges.size() < 3) continue;
    const double z = median(std::move(edges));
    if (bar[s.frame]->z - z > kFree_m) chest.push_back({clip.trace.times_s[s.frame], z});
  }
  return chest;
}

}  // namespace jib::motion
