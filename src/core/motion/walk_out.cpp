// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/walk_out.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "core/base/median.h"

namespace jib::motion {
namespace {

constexpr double kStep_m = 0.05;
constexpr double kStands_m = 0.025;  // scatter of a standing foot's points about their middle
constexpr double kStands_s = 0.18;   // shorter than this nobody stands between two steps
constexpr double kLongestGap_s = 0.7;

struct Place {
  double t, x;
};

struct Stand {
  double from_t, to_t, x;
};

// Stretches in which a foot stays where it is, in order.
std::vector<Stand> standsOf(const std::vector<Place>& places) {
  std::vector<Stand> stands;
  for (std::size_t i = 0; i < places.size();) {
    std::vector<double> x{places[i].x};
    std::size_t end = i + 1;
    while (end < places.size()) {
      x.push_back(places[end].x);
      const double m = median(x);
      // One wild value is passed over, two in a row are a foot on its way.
      const bool off = std::abs(places[end].x - m) > kStands_m;
      const bool next_off = end + 1 >= places.size() || std::abs(places[end + 1].x - m) > kStands_m;
      if (std::abs(places[i].x - m) > kStands_m || (off && next_off)) break;
      ++end;
    }
    std::vector<double> within;
    for (std::size_t k = i; k < end; ++k) within.push_back(places[k].x);
    if (places[end - 1].t - places[i].t >= kStands_s) {
      stands.push_back({places[i].t, places[end - 1].t, median(within)});
      i = end;
    } else {
      ++i;
    }
  }
  return stands;
}

}  // namespace

std::variant<WalkOut, std::string> findWalkOut(const std::vector<FeetAt>& feet, double until_t) {
  WalkOut walk;
  bool any = false;
  double begins = until_t;
  for (const auto& [foot, other] :
       {std::pair(&FeetAt::near_x_m, &FeetAt::far_x_m), std::pair(&FeetAt::far_x_m, &FeetAt::near_x_m)}) {
    std::vector<Place> places;
    double longest_gap = 0, before = feet.empty() ? until_t : feet.front().t_s;
    for (const FeetAt& f : feet) {
      if (f.t_s > until_t) break;
      if (!(f.*foot)) continue;
      places.push_back({f.t_s, *(f.*foot)});
      longest_gap = std::max(longest_gap, f.t_s - before);
      before = f.t_s;
    }
    // In the end the feet are level, and from the side one hides the other.
    for (const FeetAt& f : feet)
      if (f.t_s > before && f.t_s <= until_t && !places.empty() && f.*other) {
        places.push_back({f.t_s, *(f.*other)});
        longest_gap = std::max(longest_gap, f.t_s - before);
        before = f.t_s;
      }
    const auto stands = standsOf(places);
    if (stands.empty() || longest_gap > kLongestGap_s) return std::string("Not both feet are seen throughout.");
    for (std::size_t k = 1; k < stands.size(); ++k) {
      if (std::abs(stands[k].x - stands[k - 1].x) < kStep_m) continue;
      any = true;
      walk.landings_t.push_back(stands[k].from_t);
      begins = std::min(begins, stands[k - 1].to_t);
    }
    // A foot on its way when the film begins has made a step nobody saw.
    const bool comes_in = !places.empty() && std::abs(places.front().x - stands.front().x) > kStep_m;
    if (comes_in) return std::string("The clip begins in the middle of the walk-out.");
  }
  if (!any) return std::string("The clip begins after the walk-out.");
  std::sort(walk.landings_t.begin(), walk.landings_t.end());
  walk.begins_t = begins;
  walk.settled_t = walk.landings_t.back();
  return walk;
}

}  // namespace jib::motion
