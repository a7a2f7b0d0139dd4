// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/bar/stray_rims.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"

namespace jib::tracing {

// At the ends of its track a rim has neighbours on one side only, and a look-alike beside it can take the last places.
// No bar leaves the line of the next two by so much between frames: 10 m/s^2 at 30 frames a second is a twentieth.
void dropStrayEnds(std::vector<RimTrack::Seen>& seen) {
  constexpr double kStray = 0.08;     // of the radius
  constexpr std::size_t kPlaces = 3;  // looked at from each end
  const auto strays = [&](std::size_t end, std::size_t next, std::size_t after) {
    const RimTrack::Seen &a = seen[end], &b = seen[next], &c = seen[after];
    if (std::max(a.frame, c.frame) - std::min(a.frame, c.frame) != 2) return false;
    return length(a.fit.centre - (b.fit.centre * 2 - c.fit.centre)) > kStray * a.fit.shape.radius_px;
  };
  if (seen.size() < 2 * kPlaces + 4) return;
  const std::size_t last = seen.size() - 1;
  std::size_t first_kept = 0, past_kept = seen.size();
  for (std::size_t i = 0; i < kPlaces; ++i) {
    if (strays(i, i + 1, i + 2)) first_kept = i + 1;
    if (strays(last - i, last - i - 1, last - i - 2)) past_kept = last - i;
  }
  seen.erase(seen.begin() + static_cast<long>(past_kept), seen.end());
  seen.erase(seen.begin(), seen.begin() + static_cast<long>(first_kept));
}

double usualInliers(const std::vector<RimTrack::Seen>& seen) {
  std::vector<double> all;
  for (const auto& s : seen) all.push_back(s.fit.inliers);
  return all.empty() ? 0 : median(std::move(all));
}

// Hands, uprights and the picture's edge hide parts of a rim, and what is taken for an edge there pulls its centre
// along. How much was seen on 60 simulated films: 90 % of errors below 0.03 of the radius where as much of the rim was
// seen as usual, 0.06 where a quarter less, 0.09 where half as much; of small plates half of them above 1.2 px where a
// quarter less.
double unsureWhereHidden(const RimFit& fit, double usual) {
  constexpr double kSeenWell = 0.85, kStep = 0.25, kUnsure = 0.05, kUnsure_px = 1.75;
  const double lacks = std::max(0.0, std::min(kSeenWell, usual) - fit.inliers) / kStep;
  return std::max(kUnsure * std::pow(lacks, 1.5) * fit.shape.radius_px, kUnsure_px * lacks);
}

// A track that has slid onto something that stands still goes back to its plate with a jump that no bar makes. What was
// followed before it, and just after it, was seen worse than the plate is: that is left out, back to where it was seen
// well.
void dropAroundJumps(std::vector<RimTrack::Seen>& seen, double interval_s) {
  constexpr double kRim_m = 0.225, kMost_mps2 = 45, kRead = 0.08;  // the last in radii: what reading the rim adds
  constexpr double kWorse = 0.1, kLongest_s = 1;
  const double most = kMost_mps2 * interval_s * interval_s / kRim_m + kRead;
  const double poor = usualInliers(seen) - kWorse;
  const auto reach = static_cast<std::size_t>(kLongest_s / interval_s);
  std::vector<bool> stray(seen.size(), false);
  for (std::size_t i = 1; i + 1 < seen.size(); ++i) {
    if (seen[i + 1].frame - seen[i - 1].frame != 2) continue;
    const PixelPoint bend = seen[i - 1].fit.centre + seen[i + 1].fit.centre - seen[i].fit.centre * 2;
    if (length(bend) < most * seen[i].fit.shape.radius_px) continue;
    stray[i] = true;
    for (std::size_t k = i; k > 0 && i - k < reach && seen[k - 1].fit.inliers < poor;) stray[--k] = true;
    for (std::size_t k = i + 1; k < seen.size() && k - i < reach && seen[k].fit.inliers < poor; ++k) stray[k] = true;
  }
  std::size_t k = 0;
  std::erase_if(seen, [&](const RimTrack::Seen&) { return stray[k++]; });
}

}  // namespace jib::tracing
