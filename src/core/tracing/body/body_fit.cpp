// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/body_fit.h"

#include <ceres/ceres.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/median.h"
#include "core/tracing/body/body_costs.h"
#include "core/tracing/body/body_steady.h"

namespace jib::tracing {
namespace {

using namespace body_costs;

// What the network's landmarks scatter by from frame to frame, how far their constant may lie from the joint, and what
// of it does not turn with the limb. The trunk has nothing but bar and shoulder to be told by: a constant of the
// shoulder that did not turn with it would leave its lean open. Neighbouring sightings err alike, so the scatter counts
// half as wide again.
struct Seen {
  Landmark landmark;
  PoseMark mark;
  double scatter_m, constant_m, stays_m;
};
constexpr std::array<Seen, 6> kSeen{{{Landmark::Toe, PoseMark::Toe, 0.022, 0.030, 0.015},
                                     {Landmark::Heel, PoseMark::Heel, 0.022, 0.025, 0.012},
                                     {Landmark::Ankle, PoseMark::Ankle, 0.022, 0.025, 0.012},
                                     {Landmark::Knee, PoseMark::Knee, 0.020, 0.020, 0.010},
                                     {Landmark::Hip, PoseMark::Hip, 0.035, 0.030, 0.015},
                                     {Landmark::Shoulder, PoseMark::Shoulder, 0.080, 0.060, 0.004}}};
constexpr double kTrusted = 0.5;  // confidence from which a landmark was seen and not guessed
// Below it a joint of the leg or trunk is a hint, that keeps the chain from wandering off where nothing else is seen.
constexpr double kHint = 0.3;
constexpr double kRobust = 1.5;                  // scatters beyond which a sighting pulls less and less
constexpr double kFootTurn_rad = 0.10;           // feet lie flat unless the picture says otherwise
constexpr double kStandingFootTurn_rad = 0.015;  // heels come up on the way, not while somebody stands with the bar
constexpr double kStandingSigma_rad = 0.06;
constexpr double kStanding_m = 0.015;  // the bar this near to its highest
constexpr double kBarTie_m = 0.010;    // spine and soft tissue between hip and bar, for a third of a second alike
constexpr double kBarTime_s = 0.3;
constexpr double kTrackedRobust = 1.0;  // a chain that slid off must not hold the sightings back
constexpr double kTurnedRobust = 3.0;
constexpr double kAlike_m = 0.03;      // followed chain and sightings are usually apart by less
constexpr double kContradicts = 0.4;   // of what followed chain and sightings are apart
constexpr double kPlacedWeight = 8;    // of the placed frame, over one that was followed
constexpr std::size_t kFewest = 8;     // sightings of knee and hip
constexpr double kEdge_share = 0.015;  // of the picture's height: feet this near to its lower edge are cut off

bool ofFoot(Landmark l) {
  return l == Landmark::Toe || l == Landmark::Heel || l == Landmark::Ankle;
}

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

constexpr double kBehind = 0.95,
                 kClear = 1.5;  // of the rim's radius: what is behind the plate, and what is clear of it

double awayFromPlate(const BarTrace& bar, std::size_t frame, PixelPoint place) {
  return bar.plate[frame] ? length(place - bar.plate[frame]->place) / bar.rim.radius_px : 1e9;
}

bool guessed(const BarTrace& bar, std::size_t frame, PixelPoint place) {
  return awayFromPlate(bar, frame, place) < (kBehind + kClear) / 2;
}

// The less sure the network is, the wider it scatters; below kTrusted steeply.
double widerBy(double sure) {
  constexpr double kSure = 0.75;
  return std::pow(kSure / std::clamp(sure, kHint, kSure), 2);
}

// Behind the plate a joint is guessed, and close beside it what the plate hides of trunk and thigh is missed: it counts
// for little: the outline tells of it. The shoulder nearly always stands there, and its scatter says so already.
double scatterOf(const Seen& seen, const BarTrace& bar, std::size_t frame, PixelPoint place) {
  constexpr double kGuessed = 12;  // times the scatter
  const bool joint = seen.landmark == Landmark::Hip || seen.landmark == Landmark::Knee;
  if (!joint) return seen.scatter_m;
  const double away = awayFromPlate(bar, frame, place);
  return seen.scatter_m * std::clamp(1 + (kGuessed - 1) * (kClear - away) / (kClear - kBehind), 1.0, kGuessed);
}

Ray rayOf(PixelPoint pixel, const SideCamera& camera) {
  const MetrePoint p = camera.toPlane(pixel, 0);
  return {p.x / camera.distance_m(), p.z / camera.distance_m()};
}

struct Fit {
  std::array<double, kFeet> feet{};
  std::array<double, kLengths> lengths{};
  std::array<std::array<double, 4>, kSeen.size()> constants{};
  std::vector<std::array<double, kParts>> postures;
  double lag = 0;                                       // of followed shins, as a share of their turn
  std::vector<double> begun;                            // the shin where each followed stretch begins
  std::array<std::array<double, 2>, kEdges> reaches{};  // from joint to edge standing, and what is added when folded
};

double leanOf(MetrePoint lower, MetrePoint upper) {
  return std::atan2(upper.x - lower.x, upper.z - lower.z);
}

// How a squatter is folded when the bar has come down by this much: rough, but never the wrong way round.
std::array<double, kParts> usualPosture(double drop_m) {
  constexpr double kDeep_m = 0.6;
  const double down = std::clamp(drop_m / kDeep_m, 0.0, 1.0);
  return {0, 0.05 + 0.45 * down, -0.05 - 1.6 * down, 0.2 + 0.5 * down};
}

// A first guess from the sightings alone: feet where they are seen most, angles from knee to hip to bar. Where knee or
// hip is behind the plate, or they would have the knee bent forward, as one squats usually.
bool begin(Fit& fit, const std::vector<Sighting>& sightings, BodySide side, bool feet, const BarTrace& bar,
           const SideCamera& camera, std::size_t first, std::size_t last) {
  fit.lengths = {0.42, 0.42, 0.49, 0.48, -0.07, 1.70, camera.splay_rad};
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
    const std::array<double, kParts> q{0, leanOf(ankle, knee), leanOf(knee, hip), leanOf(hip, bar_m) + 0.14};
    const bool hidden = guessed(bar, s.frame, s.reading.place(PoseMark::Knee, side)) ||
                        guessed(bar, s.frame, s.reading.place(PoseMark::Hip, side));
    const bool forward = q[kThigh] > q[kShin] + BendCost::kOverstretched_rad;
    known.push_back({s.frame, hidden || forward ? usualPosture(highest_z - bar_m.z) : q});
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

std::vector<std::size_t> standingFrames(const BarTrace& bar, const SideCamera& camera, std::size_t first,
                                        std::size_t last) {
  double highest_y = 1e9;
  for (std::size_t i = first; i <= last; ++i)
    if (bar.plate[i]) highest_y = std::min(highest_y, bar.plate[i]->place.y);
  std::vector<std::size_t> frames;
  for (std::size_t i = first; i <= last; ++i)
    if (bar.plate[i] && bar.plate[i]->place.y < highest_y + kStanding_m * camera.pixelsPerMetre(camera.plate_m))
      frames.push_back(i);
  return frames;
}

std::array<double, kParts> anglesOf(const BodyPose& q) {
  return {q.foot_rad, q.shin_rad, q.thigh_rad, q.trunk_rad};
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

struct EdgeAt {
  std::size_t frame;
  double folded;
  EdgeSeen seen;
};

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

// How the evidence is taken in one go of the fit.
struct Taken {
  BodySide side = BodySide::Left;
  bool feet = false;
  bool follow = false;               // followed chains count, not only the placed frame
  std::vector<double> apart_m = {};  // of the chain followed from a placed frame and the sightings, a frame
  std::vector<EdgeAt> edges = {};    // as seen from where the joints were last thought to be
  std::optional<ShoeSeen> shoe = {};
};

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

// The followed chain lags by some per cent, but on plain dark cloth it was seen to slide off by 10 cm for a whole
// descent, while sightings, once a placed frame has settled their constants, were seldom off by more than 5.
double trustAt(double apart_m) {
  constexpr double kSlid_m = 0.065;
  return 1 / (1 + std::pow(apart_m / kSlid_m, 8));
}

// An edge of people, or of this lifter where an earlier clip told.
EdgeKind reachOf(EdgeKind kind, const KnownBuild* known) {
  if (!known) return kind;
  if (const auto reach = known->edge_reach_m[static_cast<std::size_t>(kind.edge)]) {
    kind.usual_m = *reach;
    kind.spread_m = kKnownReach_m;
  }
  return kind;
}

struct StopWhenAsked : ceres::IterationCallback {
  const Task* task;
  explicit StopWhenAsked(const Task* t) : task(t) {}
  ceres::CallbackReturnType operator()(const ceres::IterationSummary&) override {
    return task && task->cancelled() ? ceres::SOLVER_ABORT : ceres::SOLVER_CONTINUE;
  }
};

double rateOf(const BodyEvidence& given) {
  const double seconds = given.bar.times_s[given.last] - given.bar.times_s[given.first];
  return seconds > 0 ? static_cast<double>(given.last - given.first) / seconds : 30.0;
}

// The least-squares problem of one go: what was seen, what holds between frames, what was followed, what is known of
// people.
class FitProblem {
 public:
  FitProblem(Fit& fit, const BodyEvidence& given, const SideCamera& camera, const Taken& taken)
      : fit_(fit), given_(given), camera_(camera), taken_(taken) {
    addSightings();
    addFrames();
    addFollowed();
    addOutline();
    addPriors();
  }

  // From the fit to the best one near it; false when the solver fails or is told to stop.
  bool solve(const Task* task) {
    // The tangent of it is what counts: past a right angle knees would come out on the other side.
    constexpr double kLeastSplay_rad = -0.1, kMostSplay_rad = 1.1;
    problem_.SetParameterLowerBound(fit_.lengths.data(), kSplay, kLeastSplay_rad);
    problem_.SetParameterUpperBound(fit_.lengths.data(), kSplay, kMostSplay_rad);
    ceres::Solver::Options options;
    options.linear_solver_type = ceres::SPARSE_NORMAL_CHOLESKY;
    options.max_num_iterations = 60;
    options.function_tolerance = 1e-7;
    options.logging_type = ceres::SILENT;
    StopWhenAsked stop(task);
    options.callbacks.push_back(&stop);
    ceres::Solver::Summary summary;
    ceres::Solve(options, &problem_, &summary);
    return summary.IsSolutionUsable();
  }

 private:
  void addSightings();
  void addFrames();
  void addFollowed();
  void addOutline();
  void addPriors();
  double* posture(std::size_t frame) { return fit_.postures[frame - given_.first].data(); }

  ceres::Problem problem_;
  Fit& fit_;
  const BodyEvidence& given_;
  const SideCamera& camera_;
  const Taken& taken_;
};

void FitProblem::addSightings() {
  const auto& bar = given_.bar;
  const auto& first = given_.first;
  const auto& last = given_.last;
  for (const Sighting& s : given_.sightings) {
    if (s.frame < first || s.frame > last) continue;
    for (std::size_t k = 0; k < kSeen.size(); ++k) {
      const Seen& seen = kSeen[k];
      const double sure = s.reading.sure(seen.mark, taken_.side);
      if (sure < (ofFoot(seen.landmark) ? kTrusted : kHint) || (!taken_.feet && ofFoot(seen.landmark))) continue;
      const PixelPoint at = s.reading.place(seen.mark, taken_.side);
      problem_.AddResidualBlock(
          new ceres::AutoDiffCostFunction<SightingCost, 2, kFeet, kLengths, kParts, 4>(new SightingCost{
              seen.landmark, rayOf(at, camera_), widerBy(sure) * scatterOf(seen, bar, s.frame, at), &camera_}),
          new ceres::CauchyLoss(kRobust), fit_.feet.data(), fit_.lengths.data(), posture(s.frame),
          fit_.constants[k].data());
    }
  }
}

void FitProblem::addFrames() {
  const auto& bar = given_.bar;
  const auto& first = given_.first;
  const auto& last = given_.last;
  const BodyTrack* tracked = given_.tracked;
  const double rate_hz = rateOf(given_);
  const double tie_m = kBarTie_m * std::sqrt(std::max(1.0, kBarTime_s * rate_hz));
  const double tracked_weight = 1 / std::sqrt(std::max(1.0, kBarTime_s * rate_hz));
  const auto upright = standingFrames(bar, camera_, first, last);
  const double foot_weight = 1 / (kFootTurn_rad * std::sqrt(std::max(1.0, kBarTime_s * rate_hz)));
  for (std::size_t i = first; i <= last; ++i) {
    if (given_.tie_to_bar && bar.plate[i])
      problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<BarCost, 2, kFeet, kLengths, kParts>(new BarCost{
                                    camera_.toPlane(bar.plate[i]->place, camera_.plate_m), tie_m, &camera_}),
                                nullptr, fit_.feet.data(), fit_.lengths.data(), posture(i));
    const bool stands = std::binary_search(upright.begin(), upright.end(), i);
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<FlatFootCost, 1, kParts>(
                                  new FlatFootCost{foot_weight * (stands ? kFootTurn_rad / kStandingFootTurn_rad : 1)}),
                              nullptr, posture(i));
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<BendCost, 2, kParts>(new BendCost), nullptr, posture(i));
    if (tracked && tracked->poses[i] && i == tracked->placed_frame) {
      // What was placed is no matter of following.
      problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<TrackedCost, kParts, kParts>(
                                    new TrackedCost{anglesOf(*tracked->poses[i]), kPlacedWeight}),
                                nullptr, posture(i));
    } else if (tracked && tracked->poses[i] && taken_.follow) {
      problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<TrackedCost, kParts, kParts>(new TrackedCost{
                                    anglesOf(*tracked->poses[i]), tracked_weight * trustAt(taken_.apart_m[i - first])}),
                                new ceres::CauchyLoss(kTrackedRobust), posture(i));
    }
    if (i > first && i < last)
      problem_.AddResidualBlock(
          new ceres::AutoDiffCostFunction<SmoothCost, kParts, kParts, kParts, kParts>(
              new SmoothCost{bar.times_s[i] - bar.times_s[i - 1], bar.times_s[i + 1] - bar.times_s[i]}),
          nullptr, posture(i - 1), posture(i), posture(i + 1));
  }
  // All standing frames together count as one look.
  for (std::size_t i : upright)
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<StandingCost, 1, kParts>(new StandingCost{
                                  kStandingSigma_rad * std::sqrt(static_cast<double>(upright.size()))}),
                              nullptr, posture(i));
}

void FitProblem::addFollowed() {
  const BodyTrack* tracked = given_.tracked;
  if (tracked)
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<PlacedCost, PlacedCost::kResiduals, kFeet, kLengths>(
                                  new PlacedCost{fit_.feet, fit_.lengths}),
                              nullptr, fit_.feet.data(), fit_.lengths.data());
  fit_.begun.assign(taken_.follow && !tracked ? given_.followed.size() : 0, 0.0);
  for (std::size_t k = 0; k < fit_.begun.size(); ++k) {
    const Followed& f = given_.followed[k];
    if (!f.poses.front()) continue;
    const double begins_rad = f.poses.front()->shin_rad;
    fit_.begun[k] = begins_rad;
    for (std::size_t i = std::max(given_.first, f.stretch.first); i <= std::min(given_.last, f.stretch.last); ++i)
      if (const auto& pose = f.poses[i - f.stretch.first]) {
        // Lags from where the stretch began: before it the limb stood.
        const double turned_rad = pose->shin_rad - begins_rad;
        problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<TurnedCost, 1, kParts, 1, 1>(new TurnedCost{
                                      turned_rad, 1 / std::sqrt(std::max(1.0, kBarTime_s * rateOf(given_)))}),
                                  new ceres::CauchyLoss(kTurnedRobust), posture(i), &fit_.begun[k], &fit_.lag);
      }
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<BegunCost, 1, 1>(new BegunCost{begins_rad}), nullptr,
                              &fit_.begun[k]);
  }
  if (!fit_.begun.empty())
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<LagCost, 1, 1>(new LagCost), nullptr, &fit_.lag);
}

void FitProblem::addOutline() {
  for (const EdgeAt& e : taken_.edges)
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<EdgeCost, 1, kFeet, kLengths, kParts, 2>(
                                  new EdgeCost{e.seen, e.folded, &camera_}),
                              new ceres::CauchyLoss(kRobust), fit_.feet.data(), fit_.lengths.data(), posture(e.frame),
                              fit_.reaches[static_cast<std::size_t>(e.seen.edge)].data());
  if (!taken_.edges.empty())
    for (const EdgeKind& kind : kEdgeKinds)
      problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<EdgeReachCost, 2, 2>(
                                    new EdgeReachCost{reachOf(kind, given_.tracked ? nullptr : given_.known)}),
                                nullptr, fit_.reaches[static_cast<std::size_t>(kind.edge)].data());
  if (taken_.shoe)
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<ShoeCost, 4, kFeet>(new ShoeCost{*taken_.shoe}), nullptr,
                              fit_.feet.data());
}

void FitProblem::addPriors() {
  const BodyTrack* tracked = given_.tracked;
  const KnownBuild* known = given_.known;
  // How wide the knees go is open; once a frame is placed the lengths tell it in part.
  constexpr double kSplaySigma_rad = 0.20, kPlacedSplay_rad = 0.15;
  problem_.AddResidualBlock(
      new ceres::AutoDiffCostFunction<ProportionCost, ProportionCost::kResiduals, kFeet, kLengths>(
          new ProportionCost{camera_.toe_out_rad, camera_.splay_rad, tracked ? kPlacedSplay_rad : kSplaySigma_rad,
                             tracked ? nullptr : known}),
      nullptr, fit_.feet.data(), fit_.lengths.data());
  for (std::size_t k = 0; k < kSeen.size(); ++k)
    problem_.AddResidualBlock(
        new ceres::AutoDiffCostFunction<ConstantCost, 4, 4>(
            known && !tracked ? new ConstantCost{known->sight_off[k], known->sight_stays[k], kKnownSightOff_m,
                                                 std::min(kSeen[k].stays_m, kKnownSightOff_m)}
                              : new ConstantCost{{}, {}, kSeen[k].constant_m, kSeen[k].stays_m}),
        nullptr, fit_.constants[k].data());
}

bool solve(Fit& fit, const BodyEvidence& given, const SideCamera& camera, const Taken& taken, const Task* task) {
  return FitProblem(fit, given, camera, taken).solve(task);
}

}  // namespace

std::optional<BodyTrack> fitBody(const BodyEvidence& given, const SideCamera& camera, const Task* task) {
  const auto& [sightings, bar, picture_height, first, last, tie_to_bar, outlines, tracked, known, followed] = given;
  JIB_ASSERT(first <= last && last < bar.plate.size());
  if (const auto moves = cameraMoves(sightings, bar.times_s); !moves.empty()) {
    const auto still_track = tracked ? std::optional(steadied(*tracked, moves)) : std::nullopt;
    const auto still_sightings = steadied(sightings);
    const auto still_bar = steadied(bar, moves);
    auto track = fitBody({still_sightings, still_bar, picture_height, first, last, tie_to_bar, outlines,
                          still_track ? &*still_track : nullptr, known, steadied(followed, camera.forward, moves)},
                         camera, task);
    return track && tracked ? swayed(std::move(*track), *tracked, moves) : track;
  }
  Fit fit;
  Taken taken;
  taken.side = camera.forward > 0 ? BodySide::Right : BodySide::Left;
  taken.feet = tracked || feetInPicture(sightings, taken.side, picture_height);
  if (!begin(fit, sightings, taken.side, taken.feet, bar, camera, first, last)) return std::nullopt;
  if (tracked)
    beginFrom(*tracked, fit);
  else if (taken.feet && outlines)
    taken.shoe = shoeSeen(sightings, first, last, camera);

  // With a placed frame first from the sightings alone, with what that frame tells: a chain that slid off on plain
  // cloth would otherwise be believed, and the sightings taken for the outliers.
  taken.follow = !tracked;
  if (!solve(fit, given, camera, taken, task)) return std::nullopt;
  // The outline's edges are looked for about the joints: again when those have moved.
  constexpr int kLooks = 2;
  for (int look = 0; outlines && look < kLooks; ++look) {
    taken.edges = edgesAbout(fit, given, camera);
    if (!taken.edges.empty() && !solve(fit, given, camera, taken, task)) return std::nullopt;
  }
  if (tracked) {
    taken.apart_m = apartFrom(*tracked, fit, camera, first);
    taken.follow = true;
    if (!solve(fit, given, camera, taken, task)) return std::nullopt;
    return withAngles(*tracked, fit, taken.apart_m, taken.edges, first, last);
  }

  BodyTrack track;
  track.source = BodySource::Network;
  track.feet_seen = taken.feet;
  track.shoe_outlined = taken.shoe.has_value();
  track.hip_outlined =
      static_cast<std::size_t>(std::count_if(taken.edges.begin(), taken.edges.end(), [](const EdgeAt& e) {
        return e.seen.edge != Edge::KneeFront;
      })) >= kFewest;
  track.began_with_build = known != nullptr;
  track.camera = camera;
  track.camera.splay_rad = fit.lengths[kSplay];
  track.placed_frame = first;
  track.poses.resize(bar.plate.size());
  track.doubt_px.assign(bar.plate.size(), 1.0);
  const MetrePoint ankle_from_toe{fit.feet[kAnkleFromToeX], fit.feet[kAnkleFromToeZ]};
  const MetrePoint heel_from_toe{fit.feet[kHeelFromToeX], fit.feet[kHeelFromToeZ]};
  track.skeleton.toe_from_ankle = {-ankle_from_toe.x, -ankle_from_toe.z};
  track.skeleton.heel_from_ankle = heel_from_toe - ankle_from_toe;
  track.skeleton.shin_m = fit.lengths[kShinLength];
  track.skeleton.thigh_m = fit.lengths[kThighLength];
  track.skeleton.trunk_m = fit.lengths[kTrunkLength];
  track.skeleton.bar_along_m = fit.lengths[kBarAlong];
  track.skeleton.bar_ahead_m = fit.lengths[kBarAhead];
  // Between sightings the bar and the smoothness carry the chain; far from any they are all there is.
  constexpr double kDoubt_m = 0.004, kDoubtGrows_mps = 0.02, kUntiedGrows_mps = 0.06, kGap_s = 0.15;
  // A knee the network is less sure of was off by 3 to 6 cm instead of 1 to 2; of the hip its sureness tells nothing.
  constexpr double kSureOfKnee = 0.65, kUnsureKnee_m = 0.10;
  const double px = camera.pixelsPerMetre(camera.hip_m);
  std::size_t near = 0, tied = first;  // tied: the last frame with the bar
  for (std::size_t i = first; i <= last; ++i) {
    if (bar.plate[i]) tied = i;
    const auto& q = fit.postures[i - first];
    const auto chain = chainOf(fit.feet.data(), fit.lengths.data(), q.data(), camera);
    track.poses[i] = BodyPose{{chain.ankle.x, chain.ankle.z}, q[kFoot], q[kShin], q[kThigh], q[kTrunk], 1, 1};
    const auto away = [&](std::size_t k) { return std::abs(bar.times_s[sightings[k].frame] - bar.times_s[i]); };
    while (near + 1 < sightings.size() && away(near + 1) <= away(near)) ++near;
    const double untied = bar.times_s[i] - bar.times_s[tied];
    const double unsure = kSureOfKnee - sightings[near].reading.sure(PoseMark::Knee, taken.side);
    track.doubt_px[i] =
        (kDoubt_m + kUnsureKnee_m * std::max(0.0, unsure) + kDoubtGrows_mps * std::max(0.0, away(near) - kGap_s) +
         kUntiedGrows_mps * std::max(0.0, untied - kGap_s)) *
        px;
  }
  return track;
}

}  // namespace jib::tracing
