// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/body/fit_problem.h"

#include <ceres/ceres.h>

#include <algorithm>

#include "core/base/median.h"

namespace jib::tracing::fitting {
namespace {

bool ofFoot(Landmark l) {
  return l == Landmark::Toe || l == Landmark::Heel || l == Landmark::Ankle;
}

// The less sure the network is, the wider it scatters; below kTrusted steeply.
double widerBy(double sure) {
  constexpr double kSure = 0.75;
  return std::pow(kSure / std::clamp(sure, kHint, kSure), 2);
}

// Behind the plate a joint is guessed, and close beside it what the plate hides of trunk and thigh is missed: it counts
// for little: the outline tells of it. The shoulder nearly always stands there, and its scatter says so already.
double scatterOf(const Seen& seen, const BarTrace& bar, std::size_t frame, PixelPoint place, bool in_hands) {
  constexpr double kGuessed = 12;  // times the scatter
  // A bar in hands leaves the shoulder in sight where the plate is not before it; on the floor its plate hides foot,
  // ankle and shin.
  constexpr double kShoulderInSight_m = 0.035;
  const bool joint = seen.landmark == Landmark::Hip || seen.landmark == Landmark::Knee || in_hands;
  if (!joint) return seen.scatter_m;
  const double away = awayFromPlate(bar, frame, place);
  return (in_hands && seen.landmark == Landmark::Shoulder ? kShoulderInSight_m : seen.scatter_m) *
         std::clamp(1 + (kGuessed - 1) * (kClear - away) / (kClear - kBehind), 1.0, kGuessed);
}

Ray rayOf(PixelPoint pixel, const SideCamera& camera) {
  const MetrePoint p = camera.toPlane(pixel, 0);
  return {p.x / camera.distance_m(), p.z / camera.distance_m()};
}

std::vector<std::size_t> standingFrames(const BarTrace& bar, const SideCamera& camera, std::size_t first,
                                        std::size_t last) {
  double highest_y = 1e9;
  for (std::size_t i = first; i <= last; ++i)
    if (bar.plate[i]) highest_y = std::min(highest_y, bar.plate[i]->place.y);
  std::vector<std::size_t> frames;
  for (std::size_t i = first; i <= last; ++i)
    if (bar.plate[i] && bar.plate[i]->place.y < highest_y + kBarAtTop_m * camera.pixelsPerMetre(camera.plate_m))
      frames.push_back(i);
  return frames;
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

std::size_t apart(std::size_t a, std::size_t b) {
  return a > b ? a - b : b - a;
}

// The least-squares problem of one go: what was seen, what holds between frames, what was followed, what is known of
// people.
class FitProblem {
 public:
  FitProblem(Fit& fit, const BodyEvidence& given, const SideCamera& camera, const Taken& taken)
      : fit_(fit), given_(given), camera_(camera), taken_(taken) {
    for (std::size_t i = given_.first; i <= given_.last; ++i)
      if (given_.bar.plate[i]) floor_z_m_ = std::min(floor_z_m_, barHeight(i));
    if (given_.model.hangs()) ankle_m_ = ankleWithTheBarUp();
    if (given_.model.overhead) rests_z_m_ = barAtRest();
    addSightings();
    addFrames();
    addFollowed();
    addOutline();
    addPriors();
  }

  // From the fit to the best one near it; false when the solver fails or is told to stop.
  bool solve(const Task* task) {
    // The tangent of it is what counts: past a right angle knees would come out on the other side.
    // From a wide stance knees may go out further than the feet stand.
    constexpr double kLeastSplay_rad = -0.1, kMostSplay_rad = 1.1, kMostWide_rad = 1.3;
    problem_.SetParameterLowerBound(fit_.lengths.data(), kSplay, kLeastSplay_rad);
    problem_.SetParameterUpperBound(fit_.lengths.data(), kSplay, camera_.wide_stance ? kMostWide_rad : kMostSplay_rad);
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
  void addBar(std::size_t frame, double tie_m);
  bool liesOnFloor(std::size_t frame) const;
  bool takenForSeen(const Sighting& s, PoseMark mark) const;
  std::optional<MetrePoint> ankleWithTheBarUp() const;
  std::optional<double> barAtRest() const;
  void addSets(double weight);
  void addLockouts();
  bool handsOff(std::size_t frame) const;
  bool barOnBody(std::size_t frame) const;
  double hipBack_rad() const {
    return given_.model.lying      ? BendCost::kArched_rad
           : given_.model.overhead ? BendCost::kMakesRoom_rad
                                   : BendCost::kLeaningBack_rad;
  }
  void addFollowed();
  void addOutline();
  void addPriors();
  double barHeight(std::size_t frame) const {
    return camera_.toPlane(given_.bar.plate[frame]->place, camera_.plate_m).z;
  }
  double* posture(std::size_t frame) { return fit_.postures[frame - given_.first].data(); }

  ceres::Problem problem_;
  Fit& fit_;
  const BodyEvidence& given_;
  const SideCamera& camera_;
  const Taken& taken_;
  double floor_z_m_ = 1e9;             // the lowest the bar's plate gets
  std::optional<double> rests_z_m_;    // of a press overhead: where the bar waits on the shoulders
  std::optional<MetrePoint> ankle_m_;  // of who pulls: where it stands, by looks with the bar up
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
      if (!takenForSeen(s, seen.mark)) continue;
      const PixelPoint at = s.reading.place(seen.mark, taken_.side);
      problem_.AddResidualBlock(
          new ceres::AutoDiffCostFunction<SightingCost, 2, kFeet, kLengths, kParts, 4>(
              new SightingCost{seen.landmark, rayOf(at, camera_),
                               widerBy(sure) * scatterOf(seen, bar, s.frame, at, given_.model.inHands()), &camera_}),
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
    if (given_.tie_to_bar && barOnBody(i)) addBar(i, tie_m);
    const bool stands = std::binary_search(upright.begin(), upright.end(), i);
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<FlatFootCost, 1, kParts>(
                                  new FlatFootCost{foot_weight * (stands ? kFootTurn_rad / kStandingFootTurn_rad : 1)}),
                              nullptr, posture(i));
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<BendCost, 2, kParts>(new BendCost{hipBack_rad()}),
                              nullptr, posture(i));
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
              new SmoothCost{bar.times_s[i] - bar.times_s[i - 1], bar.times_s[i + 1] - bar.times_s[i],
                             given_.model.lying ? kLyingTurning : kTurning}),
          nullptr, posture(i - 1), posture(i), posture(i + 1));
  }
  if (given_.model.hangs()) {
    addSets(1 / std::sqrt(std::max(1.0, kBarTime_s * rate_hz)));
    if (!given_.model.around) addLockouts();
  }
  if (given_.model.lying) return;
  // All standing frames together count as one look.
  for (std::size_t i : upright)
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<StandingCost, 1, kParts>(new StandingCost{
                                  kStandingSigma_rad * std::sqrt(static_cast<double>(upright.size()))}),
                              nullptr, posture(i));
}

// Frames on which the bar is up as far as it goes. All of them together count as four looks.
void FitProblem::addLockouts() {
  constexpr double kUp_m = 0.02, kPull_m = 0.3, kSigma_m = 0.025, kLooks = 4;
  std::vector<std::pair<std::size_t, MetrePoint>> up;
  double lowest = 1e9, highest = -1e9;
  for (std::size_t i = given_.first; i <= given_.last; ++i)
    if (given_.bar.plate[i]) {
      const MetrePoint at = camera_.toPlane(given_.bar.plate[i]->place, camera_.plate_m);
      up.emplace_back(i, at);
      lowest = std::min(lowest, at.z);
      highest = std::max(highest, at.z);
    }
  if (highest - lowest < kPull_m) return;
  std::erase_if(up, [&](const auto& at) { return at.second.z < highest - kUp_m; });
  const double sigma_m = kSigma_m * std::sqrt(std::max(1.0, static_cast<double>(up.size()) / kLooks));
  for (const auto& [frame, at] : up)
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<BarOnThighsCost, 1, kFeet, kLengths, kParts>(
                                  new BarOnThighsCost{at, sigma_m, &camera_}),
                              new ceres::CauchyLoss(kTrackedRobust), fit_.feet.data(), fit_.lengths.data(),
                              posture(frame));
}

// Whether the bar of that frame tells where the body is: on the back, in straight arms, or resting on the front of the
// shoulders before it is pressed.
bool FitProblem::barOnBody(std::size_t frame) const {
  constexpr double kRests_m = 0.025;
  if (!given_.bar.plate[frame] || given_.model.lying) return false;
  const auto rests = [&](std::size_t at) { return rests_z_m_ && barHeight(at) < *rests_z_m_ + kRests_m; };
  // Placed with the bar in the air nobody knows where it lies on the body.
  if (given_.model.overhead) return rests(frame) && (!given_.tracked || rests(given_.tracked->placed_frame));
  return !handsOff(frame);
}

// Whether somebody stands over a bar that lies there: the shoulder is seen further from it than an arm reaches.
bool FitProblem::handsOff(std::size_t frame) const {
  constexpr double kOutOfReach_m = 0.88, kNear_s = 0.5;
  if (!given_.model.hangs() || !given_.bar.plate[frame] || given_.sightings.empty()) return false;
  const auto& looks = given_.sightings;
  const auto after = std::lower_bound(looks.begin(), looks.end(), frame,
                                      [](const Sighting& s, std::size_t at) { return s.frame < at; });
  const Sighting* near = nullptr;
  for (auto it : {after, after == looks.begin() ? after : after - 1})
    if (it != looks.end() && (!near || apart(it->frame, frame) < apart(near->frame, frame))) near = &*it;
  if (!near || near->reading.sure(PoseMark::Shoulder, taken_.side) < kTrusted ||
      std::abs(given_.bar.times_s[near->frame] - given_.bar.times_s[frame]) > kNear_s)
    return false;
  const MetrePoint shoulder = camera_.toPlane(near->reading.place(PoseMark::Shoulder, taken_.side),
                                              camera_.lateralOf(Landmark::Shoulder, 0)),
                   bar = camera_.toPlane(given_.bar.plate[frame]->place, camera_.plate_m);
  return std::hypot(shoulder.x - bar.x, shoulder.z - bar.z) > kOutOfReach_m;
}

std::optional<MetrePoint> FitProblem::ankleWithTheBarUp() const {
  constexpr double kClear_m = 0.35;
  std::vector<double> x, z;
  for (const Sighting& s : given_.sightings) {
    if (s.frame < given_.first || s.frame > given_.last || !given_.bar.plate[s.frame]) continue;
    if (barHeight(s.frame) < floor_z_m_ + kClear_m || s.reading.sure(PoseMark::Ankle, taken_.side) < kTrusted) continue;
    const MetrePoint at = camera_.toPlane(s.reading.place(PoseMark::Ankle, taken_.side), camera_.ankle_m);
    x.push_back(at.x);
    z.push_back(at.z);
  }
  if (x.size() < kFewest) return std::nullopt;
  return MetrePoint{median(std::move(x)), median(std::move(z))};
}

// The middle of what the bar keeps to in the lower third of its way.
std::optional<double> FitProblem::barAtRest() const {
  std::vector<double> z;
  for (std::size_t i = given_.first; i <= given_.last; ++i)
    if (given_.bar.plate[i]) z.push_back(barHeight(i));
  if (z.empty()) return std::nullopt;
  const auto [low, high] = std::minmax_element(z.begin(), z.end());
  const double third = *low + (*high - *low) / 3;
  std::erase_if(z, [&](double one) { return one > third; });
  return median(std::move(z));
}

bool FitProblem::liesOnFloor(std::size_t frame) const {
  constexpr double kLies_m = 0.02;
  return given_.bar.plate[frame] && barHeight(frame) < floor_z_m_ + kLies_m;
}

// Of somebody folded behind plates on the floor the network reads a knee up to 30 cm behind itself and an ankle as far
// above, look after look alike and half sure of it (0.4 to 0.55); where it was surer they were right within 8 cm.
bool FitProblem::takenForSeen(const Sighting& s, PoseMark mark) const {
  constexpr double kSureOfKnee = 0.6, kSureOfHip = 0.55;
  if (!given_.model.hangs()) return true;
  // Of a body that folds fast it took the elbow for the knee, sure of it (0.8): no shin is that long.
  constexpr double kLongestShin_m = 0.55;
  if (mark == PoseMark::Knee && ankle_m_ &&
      length(camera_.toPlane(s.reading.place(mark, taken_.side), camera_.straightKnee_m()) - *ankle_m_) >
          kLongestShin_m)
    return false;
  if (!liesOnFloor(s.frame)) return true;
  const double sure = s.reading.sure(mark, taken_.side);
  return mark == PoseMark::Knee || mark == PoseMark::Ankle ? sure >= kSureOfKnee
         : mark == PoseMark::Hip                           ? sure >= kSureOfHip
                                                           : true;
}

// Frames on which the bar lies on the floor hold to the nearest on which it has just left it, or is about to come back:
// firmly where the network guesses hip or knee, hardly where it sees both, since hips may well rise before the plates
// do.
void FitProblem::addSets(double weight) {
  constexpr double kJustOff_m = 0.04;
  const auto off = [&](std::size_t i) { return given_.bar.plate[i] && barHeight(i) > floor_z_m_ + kJustOff_m; };
  constexpr double kSeenWell = 0.12;  // of the weight
  std::size_t near = 0;
  const auto& looks = given_.sightings;
  for (std::size_t i = given_.first; i <= given_.last; ++i) {
    if (!liesOnFloor(i) || handsOff(i)) continue;
    while (near + 1 < looks.size() && looks[near + 1].frame <= i) ++near;
    const bool seen =
        !looks.empty() && takenForSeen(looks[near], PoseMark::Knee) && takenForSeen(looks[near], PoseMark::Hip);
    std::size_t after = i, before = i;
    while (after <= given_.last && !off(after)) ++after;
    while (before > given_.first && !off(before)) --before;
    const std::size_t leaving = after <= given_.last ? after : before;
    if (!off(leaving)) continue;
    problem_.AddResidualBlock(
        new ceres::AutoDiffCostFunction<SetCost, 3, kParts, kParts>(new SetCost{seen ? kSeenWell * weight : weight}),
        nullptr, posture(i), posture(leaving));
  }
}

// The bar on the trunk, or in hanging hands.
void FitProblem::addBar(std::size_t frame, double tie_m) {
  const MetrePoint at = camera_.toPlane(given_.bar.plate[frame]->place, camera_.plate_m);
  ceres::CostFunction* cost = nullptr;
  if (given_.model.hangs())
    cost = new ceres::AutoDiffCostFunction<HangingBarCost, 2, kFeet, kLengths, kParts>(
        new HangingBarCost{at, tie_m, &camera_});
  else
    cost = new ceres::AutoDiffCostFunction<BarCost, 2, kFeet, kLengths, kParts>(new BarCost{at, tie_m, &camera_});
  problem_.AddResidualBlock(cost, given_.model.hangs() ? new ceres::CauchyLoss(kTrackedRobust) : nullptr,
                            fit_.feet.data(), fit_.lengths.data(), posture(frame));
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
  constexpr double kSplaySigma_rad = 0.20, kWideSigma_rad = 0.35, kPlacedSplay_rad = 0.15;
  problem_.AddResidualBlock(
      new ceres::AutoDiffCostFunction<ProportionCost, ProportionCost::kResiduals, kFeet, kLengths>(new ProportionCost{
          camera_.toe_out_rad, camera_.splay_rad,
          tracked               ? kPlacedSplay_rad
          : camera_.wide_stance ? kWideSigma_rad
                                : kSplaySigma_rad,
          tracked ? nullptr : known, given_.model.hangs(), given_.model.racked_ahead || given_.model.overhead}),
      nullptr, fit_.feet.data(), fit_.lengths.data());
  // A shoulder that no plate hides the network takes for nearly the same place in every posture.
  constexpr double kShoulderConstant_m = 0.030, kShoulderStays_m = 0.015;
  for (std::size_t k = 0; k < kSeen.size(); ++k) {
    const bool in_sight = given_.model.inHands() && kSeen[k].landmark == Landmark::Shoulder;
    const double constant = in_sight ? kShoulderConstant_m : kSeen[k].constant_m,
                 stays = in_sight ? kShoulderStays_m : kSeen[k].stays_m;
    auto* cost = known && !tracked ? new ConstantCost{known->sight_off[k], known->sight_stays[k], kKnownSightOff_m,
                                                      std::min(stays, kKnownSightOff_m)}
                                   : new ConstantCost{{}, {}, constant, stays};
    problem_.AddResidualBlock(new ceres::AutoDiffCostFunction<ConstantCost, 4, 4>(cost), nullptr,
                              fit_.constants[k].data());
  }
}

}  // namespace

bool solve(Fit& fit, const BodyEvidence& given, const SideCamera& camera, const Taken& taken, const Task* task) {
  return FitProblem(fit, given, camera, taken).solve(task);
}

}  // namespace jib::tracing::fitting
