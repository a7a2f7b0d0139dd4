// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_fit.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/median.h"
#include "core/tracing/body/body_costs.h"
#include "core/tracing/body/body_steady.h"
#include "core/tracing/body/fit_problem.h"

namespace jib::tracing {
namespace {

using namespace body_costs;
using namespace fitting;

constexpr double kEdge_share = 0.015;  // of the picture's height: feet this near to its lower edge are cut off

// What the edge cuts off the network squeezes into the picture, sure of itself.
bool feetInPicture(const std::vector<Sighting>& sightings, BodySide side, int picture_height) {
  std::size_t seen = 0, cut = 0;
  for (const Sighting& s : sightings) {
    if (s.reading.sure(PoseMark::Knee, side) < kTrusted) continue;
    ++seen;
    const double lowest = std::max(s.reading.place(PoseMark::Heel, side).y, s.reading.place(PoseMark::Toe, side).y);
    cut += lowest > (1 - kEdge_share) * picture_height ? 1 : 0;
  }
  return 2 * cut <= seen;
}

// How a squatter is folded when the bar has come down by this much: rough, but never the wrong way round.
std::array<double, kParts> usualPosture(double drop_m) {
  constexpr double kDeep_m = 0.6;
  const double down = std::clamp(drop_m / kDeep_m, 0.0, 1.0);
  return {0, 0.05 + 0.45 * down, -0.05 - 1.6 * down, 0.2 + 0.5 * down};
}

// How somebody who pulls is folded when the bar is this far below lockout.
std::array<double, kParts> usualPull(double drop_m) {
  constexpr double kFloor_m = 0.55;
  const double down = std::clamp(drop_m / kFloor_m, 0.0, 1.0);
  return {0, 0.02 + 0.22 * down, -0.02 - 0.95 * down, 0.02 + 1.0 * down};
}

// How somebody lies on a bench: shins about upright, the rest about level.
constexpr std::array<double, kParts> kUsualLying{0, 0.2, -1.4, -1.57};

// A first guess from the sightings alone: feet where they are seen most, angles from knee to hip to bar. Where knee or
// hip is behind the plate, or they would have the knee bent forward, as one squats usually.
bool begin(Fit& fit, const std::vector<Sighting>& sightings, BodySide side, bool feet, const BarTrace& bar,
           const SideCamera& camera, std::size_t first, std::size_t last, const BodyModel& model) {
  const bool hangs = model.hangs();
  fit.lengths = {0.42, 0.42, 0.49, 0.48, -0.07, 1.70, camera.splay_rad};
  if (model.racked_ahead || model.overhead) fit.lengths[kBarAhead] = kRackedAhead_m;
  if (hangs) {
    fit.lengths[kBarAlong] = kArm_share * fit.lengths[kStature];
    fit.lengths[kBarAhead] = kUsualAhead_m;
  }
  fit.feet = {0, 0, -0.18, 0.09, -0.24, 0};
  for (std::size_t k = 0; k < kEdges; ++k) fit.reaches[k] = {kEdgeKinds[k].usual_m, kEdgeKinds[k].folded_m};
  struct Known {
    std::size_t frame;
    std::array<double, kParts> q;
  };
  std::vector<Known> known;
  const auto metres = [&](const Sighting& s, PoseMark mark, Landmark landmark) {
    return camera.toPlane(s.reading.place(mark, side), camera.lateralOf(landmark, 0));
  };
  const auto middleOf = [&](PoseMark mark, Landmark landmark) -> std::optional<MetrePoint> {
    std::vector<double> x, z;
    for (const Sighting& s : sightings) {
      if (s.frame < first || s.frame > last || s.reading.sure(mark, side) < kTrusted) continue;
      const MetrePoint p = metres(s, mark, landmark);
      x.push_back(p.x);
      z.push_back(p.z);
    }
    if (x.size() < kFewest) return std::nullopt;
    return MetrePoint{median(x), median(z)};
  };
  // Feet that are cut off stand a shin below the knee.
  auto middle = feet ? middleOf(PoseMark::Ankle, Landmark::Ankle) : middleOf(PoseMark::Knee, Landmark::Knee);
  if (!middle) return false;
  double highest_z = -1e9;
  for (std::size_t i = first; i <= last; ++i)
    if (bar.plate[i]) highest_z = std::max(highest_z, camera.toPlane(bar.plate[i]->place, camera.plate_m).z);
  const MetrePoint ankle = feet ? *middle : MetrePoint{middle->x - 0.1, middle->z - 0.95 * fit.lengths[kShinLength]};
  fit.feet[kToeX] = ankle.x - fit.feet[kAnkleFromToeX];
  fit.feet[kToeZ] = ankle.z - fit.feet[kAnkleFromToeZ];
  for (const Sighting& s : sightings) {
    if (s.frame < first || s.frame > last || !bar.plate[s.frame]) continue;
    if (s.reading.sure(PoseMark::Knee, side) < kTrusted || s.reading.sure(PoseMark::Hip, side) < kTrusted) continue;
    const MetrePoint knee = metres(s, PoseMark::Knee, Landmark::Knee), hip = metres(s, PoseMark::Hip, Landmark::Hip);
    const MetrePoint bar_m = camera.toPlane(bar.plate[s.frame]->place, camera.plate_m);
    std::array<double, kParts> q{0, leanOf(ankle, knee), leanOf(knee, hip), leanOf(hip, bar_m) + 0.14};
    if (model.lying) {
      if (s.reading.sure(PoseMark::Shoulder, side) >= kTrusted)
        q[kTrunk] = leanOf(hip, metres(s, PoseMark::Shoulder, Landmark::Shoulder));
      if (q[kTrunk] > 0) q = kUsualLying;
      known.push_back({s.frame, q});
      continue;
    }
    if (hangs)
      q[kTrunk] = s.reading.sure(PoseMark::Shoulder, side) >= kTrusted
                      ? leanOf(hip, metres(s, PoseMark::Shoulder, Landmark::Shoulder))
                      : usualPull(highest_z - bar_m.z)[kTrunk];
    const bool hidden = guessed(bar, s.frame, s.reading.place(PoseMark::Knee, side)) ||
                        guessed(bar, s.frame, s.reading.place(PoseMark::Hip, side));
    const bool forward = q[kThigh] > q[kShin] + BendCost::kOverstretched_rad;
    known.push_back({s.frame, !(hidden || forward) ? q
                              : hangs              ? usualPull(highest_z - bar_m.z)
                                                   : usualPosture(highest_z - bar_m.z)});
  }
  if (known.size() < kFewest) return false;
  std::size_t k = 0;
  for (std::size_t i = first; i <= last; ++i) {
    while (k + 1 < known.size() && known[k + 1].frame <= i) ++k;
    const Known& a = known[k];
    const Known& b = known[std::min(k + 1, known.size() - 1)];
    const double share = b.frame > a.frame && i > a.frame
                             ? static_cast<double>(i - a.frame) / static_cast<double>(b.frame - a.frame)
                             : 0.0;
    std::array<double, kParts> q{};
    for (std::size_t p = 0; p < kParts; ++p) q[p] = a.q[p] + share * (b.q[p] - a.q[p]);
    fit.postures.push_back(q);
  }
  return true;
}

// Lengths and feet from the placed frame.
void beginFrom(const BodyTrack& tracked, Fit& fit) {
  const Skeleton& s = tracked.skeleton;
  fit.lengths = {
      s.shin_m, s.thigh_m, s.trunk_m, s.bar_along_m, s.bar_ahead_m, s.shin_m / 0.246, tracked.camera.splay_rad};
  const MetrePoint ankle = tracked.poses[tracked.placed_frame]->ankle, toe = ankle + s.toe_from_ankle;
  const MetrePoint heel = s.heel_from_ankle - s.toe_from_ankle;
  fit.feet = {toe.x, toe.z, -s.toe_from_ankle.x, -s.toe_from_ankle.z, heel.x, heel.z};
}

KnownBuild buildOf(const Fit& fit, const std::vector<EdgeAt>& edges) {
  KnownBuild build;
  build.shin_m = fit.lengths[kShinLength];
  build.thigh_m = fit.lengths[kThighLength];
  build.trunk_m = fit.lengths[kTrunkLength];
  for (std::size_t k = 0; k < kSeen.size(); ++k) {
    build.sight_off[k] = {fit.constants[k][0], fit.constants[k][1]};
    build.sight_stays[k] = {fit.constants[k][2], fit.constants[k][3]};
  }
  for (const EdgeAt& e : edges) {
    const auto k = static_cast<std::size_t>(e.seen.edge);
    build.edge_reach_m[k] = fit.reaches[k][0];
  }
  return build;
}

// The followed chain with the fitted turns of shin, thigh and trunk. Where both contradict each other, one is wrong.
BodyTrack withAngles(BodyTrack track, const Fit& fit, const std::vector<double>& apart_m,
                     const std::vector<EdgeAt>& edges, std::size_t first, std::size_t last) {
  track.build = buildOf(fit, edges);
  track.camera.splay_rad = fit.lengths[kSplay];
  const double px = track.camera.pixelsPerMetre(track.camera.hip_m);
  for (std::size_t i = first; i <= last; ++i) {
    if (!track.poses[i]) continue;
    const auto& q = fit.postures[i - first];
    track.poses[i]->shin_rad = q[kShin];
    track.poses[i]->thigh_rad = q[kThigh];
    track.poses[i]->trunk_rad = q[kTrunk];
    track.poses[i]->shin_share = track.poses[i]->thigh_share = 1;
    track.doubt_px[i] = std::hypot(track.doubt_px[i], kContradicts * std::max(0.0, apart_m[i - first] - kAlike_m) * px);
  }
  return track;
}

std::vector<EdgeAt> edgesAbout(const Fit& fit, const BodyEvidence& given, const SideCamera& camera) {
  double highest_z = -1e9;
  const auto heightOf = [&](std::size_t i) { return camera.toPlane(given.bar.plate[i]->place, camera.plate_m).z; };
  for (std::size_t i = given.first; i <= given.last; ++i)
    if (given.bar.plate[i]) highest_z = std::max(highest_z, heightOf(i));
  std::vector<EdgeAt> edges;
  for (const Sighting& s : given.sightings) {
    if (s.frame < given.first || s.frame > given.last || !given.bar.plate[s.frame]) continue;
    const auto c = chainOf(fit.feet.data(), fit.lengths.data(), fit.postures[s.frame - given.first].data(), camera);
    const double folded = foldedAt(highest_z - heightOf(s.frame));
    for (const EdgeSeen& e : edgesOn(s.reading.outline, *given.bar.plate[s.frame], given.bar.rim, folded,
                                     {c.hip.x, c.hip.z}, {c.knee.x, c.knee.z}, c.knee_lateral, camera))
      edges.push_back({s.frame, folded, e});
  }
  return edges;
}

// How far hip or knee of the followed chain lie from where the sightings are, frame by frame.
std::vector<double> apartFrom(const BodyTrack& tracked, const Fit& fit, const SideCamera& camera, std::size_t first) {
  std::vector<double> apart_m(fit.postures.size(), 0.0);
  for (std::size_t k = 0; k < apart_m.size(); ++k) {
    const auto& pose = tracked.poses[first + k];
    if (!pose) continue;
    const auto followed = anglesOf(*pose);
    const auto a = chainOf(fit.feet.data(), fit.lengths.data(), followed.data(), camera);
    const auto b = chainOf(fit.feet.data(), fit.lengths.data(), fit.postures[k].data(), camera);
    apart_m[k] = std::max(std::hypot(a.hip.x - b.hip.x, a.hip.z - b.hip.z),
                          std::hypot(a.knee.x - b.knee.x, a.knee.z - b.knee.z));
  }
  return apart_m;
}

// Looks at a lifter whose bar hangs so high that its plate leaves the feet in sight.
std::vector<Sighting> withTheBarUp(const std::vector<Sighting>& sightings, const BarTrace& bar,
                                   const SideCamera& camera) {
  constexpr double kClear_m = 0.35;
  double lowest_y = -1e9;
  for (const auto& p : bar.plate)
    if (p) lowest_y = std::max(lowest_y, p->place.y);
  std::vector<Sighting> up;
  for (const Sighting& s : sightings)
    if (bar.plate[s.frame] && lowest_y - bar.plate[s.frame]->place.y > kClear_m * camera.pixelsPerMetre(camera.plate_m))
      up.push_back(s);
  return up;
}

// Where the fitted chain lies in every frame, and how far it is to be doubted there.
void layOut(BodyTrack& track, const Fit& fit, const BodyEvidence& given, const SideCamera& camera, BodySide side) {
  const std::vector<Sighting>& sightings = given.sightings;
  const BarTrace& bar = given.bar;
  // Between sightings the bar and the smoothness carry the chain; far from any they are
  // all there is.
  constexpr double kDoubt_m = 0.004, kDoubtGrows_mps = 0.02, kUntiedGrows_mps = 0.06, kGap_s = 0.15;
  // A knee the network is less sure of was off by 3 to 6 cm instead of 1 to 2; of the hip
  // its sureness tells nothing.
  constexpr double kSureOfKnee = 0.65, kUnsureKnee_m = 0.10;
  const double px = camera.pixelsPerMetre(camera.hip_m);
  std::size_t near = 0, tied = given.first;  // tied: the last frame with the bar
  for (std::size_t i = given.first; i <= given.last; ++i) {
    if (bar.plate[i]) tied = i;
    const auto& q = fit.postures[i - given.first];
    const auto chain = chainOf(fit.feet.data(), fit.lengths.data(), q.data(), camera);
    track.poses[i] = BodyPose{{chain.ankle.x, chain.ankle.z}, q[kFoot], q[kShin], q[kThigh], q[kTrunk], 1, 1};
    const auto away = [&](std::size_t k) { return std::abs(bar.times_s[sightings[k].frame] - bar.times_s[i]); };
    while (near + 1 < sightings.size() && away(near + 1) <= away(near)) ++near;
    const double untied = bar.times_s[i] - bar.times_s[tied];
    // Of a body that is bent to the bar it is sure of neither.
    const double sure_of = given.model.hangs() ? std::min(sightings[near].reading.sure(PoseMark::Knee, side),
                                                          sightings[near].reading.sure(PoseMark::Hip, side))
                                               : sightings[near].reading.sure(PoseMark::Knee, side);
    const double unsure = kSureOfKnee - sure_of;
    track.doubt_px[i] =
        (kDoubt_m + kUnsureKnee_m * std::max(0.0, unsure) + kDoubtGrows_mps * std::max(0.0, away(near) - kGap_s) +
         kUntiedGrows_mps * std::max(0.0, untied - kGap_s)) *
        px;
  }
}

// The track of a chain that nothing but sightings, bar and outlines tell of.
BodyTrack trackOf(const Fit& fit, const Taken& taken, const BodyEvidence& given, const SideCamera& camera) {
  BodyTrack track;
  // A placed frame tells lengths and feet; between it and the bent postures of a pull nothing but the network follows.
  track.source = BodySource::Network;
  track.feet_seen = taken.feet;
  track.bar_hangs = given.model.hangs();
  track.shoe_outlined = taken.shoe.has_value();
  track.hip_outlined =
      static_cast<std::size_t>(std::count_if(taken.edges.begin(), taken.edges.end(), [](const EdgeAt& e) {
        return e.seen.edge != Edge::KneeFront;
      })) >= kFewest;
  track.began_with_build = given.known != nullptr;
  track.camera = camera;
  track.camera.splay_rad = fit.lengths[kSplay];
  track.placed_frame = given.tracked ? given.tracked->placed_frame : given.first;
  track.fitted_to_placed = given.tracked != nullptr;
  track.poses.resize(given.bar.plate.size());
  track.doubt_px.assign(given.bar.plate.size(), 1.0);
  const MetrePoint ankle_from_toe{fit.feet[kAnkleFromToeX], fit.feet[kAnkleFromToeZ]};
  const MetrePoint heel_from_toe{fit.feet[kHeelFromToeX], fit.feet[kHeelFromToeZ]};
  track.skeleton.toe_from_ankle = {-ankle_from_toe.x, -ankle_from_toe.z};
  track.skeleton.heel_from_ankle = heel_from_toe - ankle_from_toe;
  track.skeleton.shin_m = fit.lengths[kShinLength];
  track.skeleton.thigh_m = fit.lengths[kThighLength];
  track.skeleton.trunk_m = fit.lengths[kTrunkLength];
  track.skeleton.bar_along_m = fit.lengths[kBarAlong];
  track.skeleton.bar_ahead_m = fit.lengths[kBarAhead];
  layOut(track, fit, given, camera, taken.side);
  return track;
}

// Through a camera that is held by hand: as if it had stood still, and the track then moved along with it.
std::optional<BodyTrack> fitSteadied(const BodyEvidence& given, const std::vector<CameraMove>& moves,
                                     const SideCamera& camera, const Task* task) {
  const auto still_track = given.tracked ? std::optional(steadied(*given.tracked, moves)) : std::nullopt;
  const auto still_sightings = steadied(given.sightings);
  const auto still_bar = steadied(given.bar, moves);
  auto track = fitBody({.sightings = still_sightings,
                        .bar = still_bar,
                        .picture_height = given.picture_height,
                        .first = given.first,
                        .last = given.last,
                        .tie_to_bar = given.tie_to_bar,
                        .outlines = given.outlines,
                        .tracked = still_track ? &*still_track : nullptr,
                        .known = given.known,
                        .followed = steadied(given.followed, camera.forward, moves),
                        .model = given.model},
                       camera, task);
  return track && given.tracked ? swayed(std::move(*track), *given.tracked, moves) : track;
}

}  // namespace

std::optional<BodyTrack> fitBody(const BodyEvidence& given, const SideCamera& camera, const Task* task) {
  const auto& [sightings, bar, first, last, tracked, model] =
      std::tie(given.sightings, given.bar, given.first, given.last, given.tracked, given.model);
  JIB_ASSERT(first <= last && last < bar.plate.size());
  if (const auto moves = cameraMoves(sightings, bar.times_s); !moves.empty())
    return fitSteadied(given, moves, camera, task);
  Fit fit;
  Taken taken;
  taken.side = camera.forward > 0 ? BodySide::Right : BodySide::Left;
  taken.feet = tracked || feetInPicture(sightings, taken.side, given.picture_height);
  if (!begin(fit, sightings, taken.side, taken.feet, bar, camera, first, last, model)) return std::nullopt;
  if (tracked)
    beginFrom(*tracked, fit);
  else if (taken.feet && given.outlines)
    taken.shoe = shoeSeen(model.hangs() ? withTheBarUp(sightings, bar, camera) : sightings, first, last, camera);

  // With a placed frame first from the sightings alone, with what that frame tells: a
  // chain that slid off on plain cloth would otherwise be believed, and the sightings
  // taken for the outliers.
  taken.follow = !tracked;
  if (!solve(fit, given, camera, taken, task)) return std::nullopt;
  // The outline's edges are looked for about the joints: again when those have moved. How far they lie beyond a joint
  // is known of squatters only; on a pull the trunk was off by 8 degrees with them and by 6 without.
  constexpr int kLooks = 2;
  for (int look = 0; given.outlines && !model.inHands() && look < kLooks; ++look) {
    taken.edges = edgesAbout(fit, given, camera);
    if (!taken.edges.empty() && !solve(fit, given, camera, taken, task)) return std::nullopt;
  }
  if (tracked && !model.inHands()) {
    taken.apart_m = apartFrom(*tracked, fit, camera, first);
    taken.follow = true;
    if (!solve(fit, given, camera, taken, task)) return std::nullopt;
    return withAngles(*tracked, fit, taken.apart_m, taken.edges, first, last);
  }
  return trackOf(fit, taken, given, camera);
}

}  // namespace jib::tracing
