// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/impossible.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/lifts/bar_timing.h"

namespace jib::lifts {
namespace {

constexpr double kFalls_g = 1.15;  // what falls freely, and what filtering and tracing add to it
constexpr double kPressed_mps = 1.9,
                 kLifted_mps = 2.8;  // upwards: faster than an empty bar is pressed or stood up with
constexpr double kShortest_m = 1.45, kTallest_m = 2.05;  // of nearly all adults who lift
constexpr double kSomethingElse = 0.075;                 // further out of scale than that the rim is no plate's
constexpr double kUnknownTurn_rad = 0.45;                // of the camera, 1 σ: then a giant is not only large
constexpr double kHandsAtBar_m = 0.38;                   // wrist to bar, up or down, with all that the network errs by
constexpr double kShouldersAtBar_m = 0.45;
constexpr double kOverFeet_m = 0.32;  // from mid-foot: further off nobody stands up with a loaded bar
constexpr double kOverChest_m =
    0.30;  // along who lies, from the shoulder: a bar further off is over the belly or the floor
constexpr double kUpright_deg = 22;   // of the torso with the bar on the floor in straight arms: nobody is more upright
constexpr double kShinBack_deg = 15;  // and nobody's knees are so far behind the ankles
constexpr double kArmsReach_m = 0.42;  // by which a shoulder may be ahead of or behind the bar it carries or pulls

// The fastest the bar goes up in a rep; 0 where that is not known.
double rises_mps(const RepLook& k) {
  double most = 0;
  for (std::size_t i = k.m.frameAt(k.rep.ascent_t()); i <= k.last() && i < k.m.bar_vz_mps.size(); ++i)
    most = std::max(most, k.m.bar_vz_mps[i].value_or(0));
  return most;
}

void fallsTooFast(const LiftDefinition& lift, const motion::Motion& m, const std::vector<motion::Rep>& reps,
                  std::vector<Impossible>& found) {
  Impossible fast{"falls_too_fast",
                  "The bar would have moved faster than a bar can: something else was tracked for a moment, or the "
                  "slow-motion factor is off. Bar numbers of that rep are left out.",
                  true};
  for (std::size_t i = 0; i < reps.size(); ++i) {
    const Measure drop = bar::peakDrop({m, reps[i]});
    const auto* g = std::get_if<Measured>(&drop);
    const double most_mps = lift.body.lying ? kPressed_mps : kLifted_mps;
    if ((g && g->value > kFalls_g) || rises_mps({m, reps[i]}) > most_mps) fast.reps.push_back(i);
  }
  if (fast.reps.empty()) return;
  // Where it happens in most reps the others are no better.
  if (2 * fast.reps.size() > reps.size()) fast.reps.clear();
  found.push_back(std::move(fast));
}

void notAtTheBar(const LiftDefinition& lift, const motion::Motion& m, std::vector<Impossible>& found) {
  const auto& k = m.calibration;
  if (k.looks_at_body == 0 && k.looked_for_body) {
    found.push_back(
        {"nobody_at_bar",
         "Can't find a lifter at this bar. It may be the wrong one: click the right plate, or check by eye.", true,
         true});
    return;
  }
  const double most_m = lift.body.inHands() ? kHandsAtBar_m : kShouldersAtBar_m;
  const auto& off = lift.body.inHands() ? k.hands_off_bar_m : k.shoulders_off_bar_m;
  if (!off || *off < most_m) return;
  found.push_back({"bar_not_held",
                   fmt::format("The bar that was tracked is {:.0f} cm away from the lifter's {}: it is another one, or "
                               "somebody else's. Click the right plate, or point out the lifter.",
                               100 * *off, lift.body.inHands() ? "hands" : "shoulders"),
                   true, true});
}

// How far a loaded bar may be off a straight way up: beyond that no lifter holds it.
double widestPath_m(const LiftDefinition& lift) {
  return lift.body.lying ? 0.40 : lift.body.hangs() ? 0.125 : 0.28;
}

void outOfReach(const LiftDefinition& lift, const motion::Motion& m, const std::vector<motion::Rep>& reps,
                std::vector<Impossible>& found) {
  using tracing::Landmark;
  Impossible path{"path_too_wide", "Lost track of the bar in this rep, so its bar numbers are left out.", true};
  Impossible arms{
      "shoulders_off_bar",
      "The shoulders would be too far from the bar for the arms to reach it: the points are off. Place them "
      "on a still frame (P).",
      false, true};
  Impossible feet{"bar_off_feet",
                  "The bar would be too far from the feet to stand up with: another bar was tracked, or the feet are "
                  "off. Click the right plate, or place the points on a still frame (P).",
                  true, true};
  Impossible chest{
      "bar_off_chest",
      "The bar would not be over the chest: another one was tracked, or the shoulder is off. Click the right "
      "plate, or place the points on a still frame (P).",
      true, true};
  for (std::size_t i = 0; i < reps.size(); ++i) {
    const RepLook look{m, reps[i]};
    double least = 1e9, most = -1e9;
    for (std::size_t f = look.m.frameAt(reps[i].ascent_t()); f <= look.last(); ++f)
      if (const auto& bar = m.path(Landmark::Bar).at[f]) {
        least = std::min(least, bar->x);
        most = std::max(most, bar->x);
      }
    if (most - least > widestPath_m(lift)) path.reps.push_back(i);
    const auto shoulder = look.place(Landmark::Shoulder, reps[i].bottom_t()),
               bar = look.place(Landmark::Bar, reps[i].bottom_t());
    if (!lift.body.lying && shoulder && bar && std::abs(shoulder->x - bar->x) > kArmsReach_m) arms.reps.push_back(i);
    if (lift.body.lying && shoulder && bar && std::abs(shoulder->x - bar->x) > kOverChest_m) chest.reps.push_back(i);
    if (!lift.body.lying && m.calibration.floor_known && bar && std::abs(bar->x) > kOverFeet_m) feet.reps.push_back(i);
  }
  for (Impossible* one : {&path, &arms, &feet, &chest})
    if (!one->reps.empty()) found.push_back(std::move(*one));
}

// Who holds a bar that lies on the floor leans over it, with the knees over the feet.
void noWayToHoldIt(const LiftDefinition& lift, const motion::Motion& m, const std::vector<motion::Rep>& reps,
                   std::vector<Impossible>& found) {
  if (!lift.body.hangs()) return;
  Impossible posture{"no_way_to_pull", "These points can't be right for a pull. Place them on a still frame (P).",
                     false, true};
  for (std::size_t i = 0; i < reps.size(); ++i) {
    const motion::Angles& at_floor = RepLook{m, reps[i]}.angles(reps[i].bottom_t());
    const bool upright = at_floor.torso_deg && *at_floor.torso_deg < kUpright_deg;
    const bool knees_back = at_floor.shin_deg && *at_floor.shin_deg < -kShinBack_deg;
    if (upright || knees_back) posture.reps.push_back(i);
  }
  if (!posture.reps.empty()) found.push_back(std::move(posture));
}

// All lengths are taken from the plate: of a smaller plate, or a ring on one taken for its rim, people become giants.
void outOfScale(const motion::Motion& m, std::vector<Impossible>& found) {
  const auto& stature = m.calibration.stature_m;
  if (!stature) return;
  const double off = std::max({0.0, *stature / kTallest_m - 1, kShortest_m / std::max(0.2, *stature) - 1});
  if (off <= 0) return;
  if (off > kSomethingElse || m.calibration.yaw_sigma_rad > kUnknownTurn_rad || m.calibration.far_plate) {
    found.push_back(
        {"plate_size",
         fmt::format("With this plate size the athlete would be {:.2f} m tall: the ring that was tracked is "
                     "no full plate. Click the right plate, or check its size.",
                     *stature),
         true, true});
    return;
  }
  found.push_back({"plate_size",
                   fmt::format("With this plate size the athlete would be {:.2f} m tall. Check the plate's size and "
                               "the rim that is drawn: lengths and speeds are only good to {:.0f} % until then.",
                               *stature, 100 * kSureSigmas * (0.06 + off)),
                   false,
                   false,
                   {},
                   0.06 + off});
}

// No impossibility, but as little to go by: legs pass before the far plate, and its rim was seen to be 12 % off.
void farPlate(const motion::Motion& m, std::vector<Impossible>& found) {
  constexpr double kRim_sigma_rel = 0.08;
  if (m.calibration.far_plate)
    found.push_back(
        {"far_plate",
         "The plate on the far side was followed, as the near one is hard to see. Bar numbers are left out. "
         "Click the near plate if you can see it.",
         true,
         false,
         {},
         kRim_sigma_rel});
}

}  // namespace

bool Impossible::concerns(std::size_t rep) const {
  return reps.empty() || std::find(reps.begin(), reps.end(), rep) != reps.end();
}

std::vector<Impossible> impossibleIn(const LiftDefinition& lift, const motion::Motion& m,
                                     const std::vector<motion::Rep>& reps) {
  std::vector<Impossible> found;
  if (m.front) return found;
  fallsTooFast(lift, m, reps, found);
  notAtTheBar(lift, m, found);
  outOfReach(lift, m, reps, found);
  noWayToHoldIt(lift, m, reps, found);
  outOfScale(m, found);
  farPlate(m, found);
  return found;
}

Measure heldAgainst(const std::vector<Impossible>& found, const RepMeasure& row, std::size_t rep, Measure measure) {
  for (const Impossible& f : found) {
    if (!f.concerns(rep)) continue;
    if (row.needs == Needs::Body ? f.no_body : f.no_bar) return Absent{f.text};
    auto* m = std::get_if<Measured>(&measure);
    if (m && (row.kind.unit == "m" || row.kind.unit == "m/s"))
      m->sigma = std::hypot(m->sigma, f.scale_sigma_rel * m->value);
  }
  return measure;
}

}  // namespace jib::lifts
