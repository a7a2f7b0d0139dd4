// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/front_body.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/lifts/bar_path.h"
#include "core/lifts/bar_timing.h"
#include "core/lifts/front_look.h"

namespace jib::lifts::front {
namespace {

using tracing::BodySide;
using tracing::Landmark;
using D = Drawing;

std::optional<double> gapRatio(const RepLook& k, std::size_t i) {
  const auto knees = bothAt(k, Landmark::Knee, i), ankles = bothAt(k, Landmark::Ankle, i);
  if (!knees || !ankles) return std::nullopt;
  const double feet = ankles->left.x - ankles->right.x;
  constexpr double kLeast_m = 0.1;
  return feet > kLeast_m ? std::optional((knees->left.x - knees->right.x) / feet) : std::nullopt;
}

// 1 σ of the ratio, or of how it changes over a rep: constants of knees and ankles cancel then.
double ratioSigma(const RepLook& k, double t, bool change) {
  const std::size_t i = k.m.frameAt(t);
  const auto knees = bothAt(k, Landmark::Knee, i), ankles = bothAt(k, Landmark::Ankle, i);
  if (!knees || !ankles) return 1;
  const double feet = std::max(0.1, ankles->left.x - ankles->right.x);
  const double of =
      change ? std::hypot(knees->wander_m, ankles->wander_m) : std::hypot(knees->sigma_m, ankles->sigma_m);
  return 1.4 * std::hypot(of, unrest_m(k)) / feet;
}

// How much less of a value there is on the way up than on the way down at the same height of the bar, at most. What a
// joint errs by is much the same there and cancels.
template <class Value>
std::optional<Measured> lessGoingUp(const RepLook& k, Value value) {
  constexpr int kHeights = 18;
  constexpr double kFrom = 0.06, kTo = 0.80;    // of the stroke, off the bottom
  std::vector<std::pair<double, double>> less;  // and when
  for (int h = 0; h < kHeights; ++h) {
    const double share = kFrom + (kTo - kFrom) * h / (kHeights - 1);
    const double up_t = k.riseTime(share), down_t = k.fallTime(1 - share);
    const std::optional<double> up = value(k.m.frameAt(up_t)), down = value(k.m.frameAt(down_t));
    if (up && down) less.emplace_back(*down - *up, up_t);
  }
  if (less.size() < kHeights / 2) return std::nullopt;
  std::optional<Measured> most;
  for (std::size_t i = 1; i + 1 < less.size(); ++i) {
    const double v = median({less[i - 1].first, less[i].first, less[i + 1].first});
    if (!most || v > most->value) most = Measured{v, 0, less[i].second};
  }
  return most;
}

// How far a knee comes in on the way up, against where it was at the same height on the way down.
Measure cave(const RepLook& k, BodySide side) {
  const double out = side == BodySide::Left ? 1 : -1;
  auto most = lessGoingUp(k, [&](std::size_t i) -> std::optional<double> {
    const auto &knee = path(k, side, Landmark::Knee).at[i], &ankle = path(k, side, Landmark::Ankle).at[i];
    return knee && ankle ? std::optional(out * (knee->x - ankle->x)) : std::nullopt;
  });
  if (!most) return Absent{kHidden};
  // A knee is in and out again within half a second: looks an eighth of a second apart round its peak off by a fifth.
  constexpr double kRoundedOff = 0.2;
  most->sigma = std::hypot(1.4 * path(k, side, Landmark::Knee).wander_m[k.m.frameAt(most->t_s)],
                           kRoundedOff * most->value, unrest_m(k));
  return *most;
}

// What is seen of a bar that lies on the floor just before it leaves it; nullopt of a lift that does not start there.
std::optional<double> onTheFloor(const RepLook& k, const std::function<std::optional<double>(std::size_t)>& seen) {
  constexpr double kBefore_s = 0.8, kNotYet_s = 0.06;
  const auto off_t = k.rep.when(motion::EventKind::LiftOff);
  if (!off_t) return std::nullopt;
  std::vector<double> lying;
  for (std::size_t i = k.m.frameAt(*off_t - kBefore_s * k.m.slow_factor);
       i <= k.m.frameAt(*off_t - kNotYet_s * k.m.slow_factor); ++i)
    if (const auto v = seen(i)) lying.push_back(*v);
  if (lying.size() < 3) return std::nullopt;
  return median(std::move(lying));
}

// The largest tilt of the line through both sides of a landmark; positive when the athlete's left is higher. Of joints
// against how the lifter stood, as the network sees one of them a little higher all the time; of the bar's ends as it
// is, but of one that starts on the floor, where it lies level, how far it has turned since.
Measure tilt(const RepLook& k, Landmark l) {
  const bool of_bar = l == Landmark::Bar;
  const auto seen = [&](std::size_t i) -> std::optional<double> {
    const auto both = bothAt(k, l, i);
    if (!both || both->left.x - both->right.x < 0.1) return std::nullopt;
    return degrees(std::atan2(both->left.z - both->right.z, both->left.x - both->right.x));
  };
  std::optional<double> floor;
  if (of_bar) floor = onTheFloor(k, seen);
  const double lay = floor ? *floor : 0.0;
  const auto stood = of_bar ? std::optional(lay) : standing(k, seen);
  if (!stood) return Absent{kHidden};
  const auto toOneSide = [&](double sign) {
    return largest(k, [&, sign](std::size_t i) -> std::optional<double> {
      const auto v = seen(i);
      return v ? std::optional(sign * (*v - *stood)) : std::nullopt;
    });
  };
  const auto up = toOneSide(1), down = toOneSide(-1);
  if (!up || !down) return Absent{kHidden};
  Measured most = up->value >= down->value ? *up : *down;
  if (up->value < down->value) most.value = -most.value;
  const auto both = bothAt(k, l, k.m.frameAt(most.t_s));
  const double apart = both ? std::max(0.1, both->left.x - both->right.x) : 0.3;
  const bool level_known = !of_bar || floor.has_value();
  // The largest of many looks at a joint is off by more than one look is.
  constexpr double kLargest = 1.6;
  const double seen_m = both ? (level_known ? both->wander_m : both->sigma_m) : 0.02;
  const double ends = of_bar ? seen_m : std::hypot(kLargest * seen_m, unrest_m(k));
  // Ends that are seen askew on the floor were not well found: they may be found otherwise in the air.
  constexpr double kMisfound = 0.4;
  most.sigma = std::hypot(level_known ? 0.0 : degrees(k.m.calibration.roll_sigma_rad), degrees(1.4 * ends / apart),
                          kMisfound * std::abs(lay));
  return most;
}

// A distance between both sides while the lifter stands.
std::optional<double> standingGap(const RepLook& k, Landmark l) {
  return standing(k, [&](std::size_t i) -> std::optional<double> {
    const auto both = bothAt(k, l, i);
    return both ? std::optional(both->left.x - both->right.x) : std::nullopt;
  });
}

// How much higher the left one is at the turn.
Measure heightDifference(const RepLook& k, Landmark l) {
  const double t = k.rep.bottom_t();
  const auto both = bothAt(k, l, k.m.frameAt(t));
  if (!both) return Absent{kHidden};
  // Elbows are seen beside plates and trunk, or behind them.
  const double hides = l == Landmark::Elbow ? 1.5 : 1.0;
  return Measured{both->left.z - both->right.z,
                  std::hypot(hides * 1.4 * both->sigma_m, unrest_m(k),
                             (both->left.x - both->right.x) * k.m.calibration.roll_sigma_rad),
                  t};
}

Measure gapOverShoulders(const RepLook& k, Landmark l) {
  const auto gap = standingGap(k, l), shoulders = standingGap(k, Landmark::Shoulder);
  if (!gap || !shoulders || *shoulders < 0.15) return Absent{kHidden};
  constexpr double kJoint_m = 0.02;
  return Measured{*gap / *shoulders, 1.4 * kJoint_m / *shoulders * std::hypot(1.0, *gap / *shoulders), k.rep.start_t()};
}

// How far the foot of one who stands is turned out: how far the toe is further out than the heel, of a foot as long as
// the hips are high. From behind the toes hide, and are guessed. Source  foot length 0.152 and hip height 0.53 of
// stature: Drillis and Contini 1966
Measure toeOut(const RepLook& k, BodySide side) {
  constexpr double kFootOverHipHeight = 0.152 / 0.53, kLengthErrs = 0.06, kFront_m = 0.014, kRear_m = 0.03,
                   kCameraTurned_deg = 4;
  const double out = side == BodySide::Left ? 1 : -1;
  const auto wide = standing(k, [&](std::size_t i) -> std::optional<double> {
    const auto &toe = path(k, side, Landmark::Toe).at[i], &heel = path(k, side, Landmark::Heel).at[i];
    return toe && heel ? std::optional(out * (toe->x - heel->x)) : std::nullopt;
  });
  const auto high = standing(k, [&](std::size_t i) -> std::optional<double> {
    const auto hips = bothAt(k, Landmark::Hip, i);
    return hips ? std::optional((hips->left.z + hips->right.z) / 2) : std::nullopt;
  });
  constexpr double kLeastHips_m = 0.5;
  if (!wide || !high || *high < kLeastHips_m) return Absent{kHidden};
  const double foot_m = kFootOverHipHeight * *high, sine = std::clamp(*wide / foot_m, -0.95, 0.95);
  const double turn_rad = std::asin(sine), errs_m = k.m.front->rear ? kRear_m : kFront_m;
  // Nobody stands with the toes further out.
  constexpr double kFarthest_deg = 55;
  if (std::abs(degrees(turn_rad)) > kFarthest_deg) return Absent{"The toes can't be made out."};
  // A camera that is not quite square in front turns one foot out and the other in.
  const double seen_deg = degrees(std::hypot(errs_m / foot_m, kLengthErrs * sine) / std::cos(turn_rad));
  return Measured{degrees(turn_rad), std::hypot(seen_deg, kCameraTurned_deg), k.rep.start_t()};
}

Measure toeOutLeft(const RepLook& k) {
  return toeOut(k, BodySide::Left);
}
Measure toeOutRight(const RepLook& k) {
  return toeOut(k, BodySide::Right);
}

}  // namespace

// In the lower part of the rep: everybody stands with the knees nearer together than they sit.
Measure kneeGapRatio(const RepLook& k) {
  constexpr double kLower = 0.6;
  const double from_t = k.fallTime(1 - kLower), to_t = k.riseTime(kLower);
  auto least = largest(k, [&](std::size_t i) -> std::optional<double> {
    // Outside of it nothing is smallest; `largest` wants a value in every frame.
    if (k.m.times_s[i] < from_t || k.m.times_s[i] > to_t) return -1e3;
    const auto r = gapRatio(k, i);
    return r ? std::optional(-*r) : std::nullopt;
  });
  if (!least || least->value < -100) return Absent{kHidden};
  return Measured{-least->value, ratioSigma(k, least->t_s, false), least->t_s};
}

Measure kneeGapFall(const RepLook& k) {
  auto most = lessGoingUp(k, [&](std::size_t i) { return gapRatio(k, i); });
  if (!most) return Absent{kHidden};
  const auto wide = gapRatio(k, k.m.frameAt(k.rep.bottom_t()));
  if (!wide || *wide < 0.3) return Absent{kHidden};
  return Measured{100 * most->value / *wide, 100 * 1.4 * ratioSigma(k, most->t_s, true) / *wide, most->t_s};
}

// How far the knee is outside the middle of its own foot where it is bent most: half-way from ankle to toe, as the heel
// hides behind it. Negative when the knee is inside.
Measure kneeOverFoot(const RepLook& k, BodySide side) {
  const double out = side == BodySide::Left ? 1 : -1, t = k.rep.bottom_t();
  std::vector<double> off;
  constexpr double kAbout_s = 0.1;
  for (std::size_t i = k.m.frameAt(t - kAbout_s * k.m.slow_factor); i <= k.m.frameAt(t + kAbout_s * k.m.slow_factor);
       ++i) {
    const auto &knee = path(k, side, Landmark::Knee).at[i], &ankle = path(k, side, Landmark::Ankle).at[i],
               &toe = path(k, side, Landmark::Toe).at[i];
    if (knee && ankle && toe) off.push_back(out * (knee->x - (ankle->x + toe->x) / 2));
  }
  if (off.empty()) return Absent{kHidden};
  // From behind the toes are guessed; a camera that is not square in front shifts knees, which are nearer, against
  // feet.
  constexpr double kToeFront_m = 0.012, kToeRear_m = 0.03, kTurned_rad = 0.05, kAhead_m = 0.2;
  const double errs = std::hypot(path(k, side, Landmark::Knee).sigma_m[k.m.frameAt(t)],
                                 k.m.front->rear ? kToeRear_m : kToeFront_m, kTurned_rad * kAhead_m);
  // Where knees are far from their feet they are seen a fifth nearer.
  constexpr double kNearer = 0.2;
  const double out_m = median(std::move(off));
  return Measured{out_m, std::hypot(errs, unrest_m(k), kNearer * out_m), t};
}

Measure kneeOverFootLeft(const RepLook& k) {
  return kneeOverFoot(k, BodySide::Left);
}
Measure kneeOverFootRight(const RepLook& k) {
  return kneeOverFoot(k, BodySide::Right);
}

// The worse of both.
Measure kneeOverFootLeast(const RepLook& k) {
  const Measure left = kneeOverFootLeft(k), right = kneeOverFootRight(k);
  const auto *a = std::get_if<Measured>(&left), *b = std::get_if<Measured>(&right);
  if (!a || !b) return Absent{kHidden};
  return a->value < b->value ? *a : *b;
}

// How far the arms that hang from the shoulders to the bar are from upright, both taken together: a camera that leans
// makes one of them lean more and the other less. Hands outside the shoulders are positive.
Measure armLean(const RepLook& k) {
  const double t = k.rep.bottom_t();
  const std::size_t i = k.m.frameAt(t);
  const auto shoulders = bothAt(k, Landmark::Shoulder, i), wrists = bothAt(k, Landmark::Wrist, i);
  if (!shoulders || !wrists) return Absent{kHidden};
  const double high = (shoulders->left.z + shoulders->right.z - wrists->left.z - wrists->right.z) / 2;
  constexpr double kLeast_m = 0.2;
  if (high < kLeast_m) return Absent{kHidden};
  const double wider = (wrists->left.x - wrists->right.x - shoulders->left.x + shoulders->right.x) / 2;
  constexpr double kShoulder_m =
      0.02;  // how far in or out of the joint the network sees shoulders, alike on both sides
  const double ends = std::hypot(shoulders->sigma_m / 1.4, wrists->sigma_m / 1.4, kShoulder_m);
  return Measured{degrees(std::atan2(wider, high)), degrees(ends / high), t};
}

Measure kneeCaveLeft(const RepLook& k) {
  return cave(k, BodySide::Left);
}
Measure kneeCaveRight(const RepLook& k) {
  return cave(k, BodySide::Right);
}

// Of the middle of the hips over the middle of the feet, against how the lifter stood; the sign of where it is largest.
// A camera that is not quite square in front sees hips that go back come to one side, and knees that go forward to the
// other, by as much: both are asked. Knees follow hips that do shift by some two fifths of the way.
Measure hipShift(const RepLook& k) {
  constexpr double kFollow = 0.4, kBoth = 1 / (1 + kFollow);
  const auto off = [&](std::size_t i) -> std::optional<double> {
    const auto hips = bothAt(k, Landmark::Hip, i), knees = bothAt(k, Landmark::Knee, i),
               feet = bothAt(k, Landmark::Ankle, i);
    if (!hips || !knees || !feet) return std::nullopt;
    const auto middle = [](const Both& of) { return (of.left.x + of.right.x) / 2; };
    return kBoth * (middle(*hips) + middle(*knees) - 2 * middle(*feet));
  };
  const auto stood = standing(k, off);
  if (!stood) return Absent{kHidden};
  const auto from = [&](double sign) {
    return largest(k, [&, sign](std::size_t i) -> std::optional<double> {
      const auto v = off(i);
      return v ? std::optional(sign * (*v - *stood)) : std::nullopt;
    });
  };
  const auto left = from(1), right = from(-1);
  if (!left || !right) return Absent{kHidden};
  Measured most = left->value >= right->value ? *left : *right;
  if (left->value < right->value) most.value = -most.value;
  // From behind the network sees hips worst.
  constexpr double kFront_m = 0.012, kRear_m = 0.03, kFollows = 0.2;
  most.sigma = std::hypot(k.m.front->rear ? kRear_m : kFront_m, unrest_m(k), kFollows * most.value);
  return most;
}

Measure hipTilt(const RepLook& k) {
  return tilt(k, Landmark::Hip);
}
Measure barTilt(const RepLook& k) {
  return tilt(k, Landmark::Bar);
}
Measure shoulderTilt(const RepLook& k) {
  return tilt(k, Landmark::Shoulder);
}

Measure stanceWidth(const RepLook& k) {
  const auto gap = standingGap(k, Landmark::Ankle);
  if (!gap) return Absent{kHidden};
  constexpr double kAnkle_m = 0.012;
  return Measured{*gap, std::hypot(kAnkle_m, unrest_m(k), *gap * k.m.calibration.scale_sigma_rel), k.rep.start_t()};
}

Measure stanceOverShoulders(const RepLook& k) {
  return gapOverShoulders(k, Landmark::Ankle);
}

Measure elbowHeightDifference(const RepLook& k) {
  return heightDifference(k, Landmark::Elbow);
}
Measure shoulderHeightDifference(const RepLook& k) {
  return heightDifference(k, Landmark::Shoulder);
}

Measure handGap(const RepLook& k) {
  return gapOverShoulders(k, Landmark::Wrist);
}

std::span<const RepMeasure> standingMeasures() {
  static constexpr RepMeasure kMeasures[]{
      {{"knee_gap_fall_pct", "Knees come in", "%", "Knees", D::Sides}, Needs::Bar, kneeGapFall, "knee_line"},
      {{"knee_gap_ratio_min", "Knee gap, least", "ratio", "Knees", D::Sides}, Needs::Bar, kneeGapRatio, "knee_line"},
      {{"knee_cave_left_m", "Left knee in", "m", "Knees", D::Sides}, Needs::Bar, kneeCaveLeft, "knee_line"},
      {{"knee_cave_right_m", "Right knee in", "m", "Knees", D::Sides}, Needs::Bar, kneeCaveRight, "knee_line"},
      {{"knee_over_foot_least_m", "Knee outside foot, worse", "m", "Knees", D::Sides},
       Needs::Bar,
       kneeOverFootLeast,
       "knee_line"},
      {{"knee_over_foot_left_m", "Left knee outside foot", "m", "Knees", D::Sides},
       Needs::Bar,
       kneeOverFootLeft,
       "knee_line"},
      {{"knee_over_foot_right_m", "Right knee outside foot", "m", "Knees", D::Sides},
       Needs::Bar,
       kneeOverFootRight,
       "knee_line"},
      {{"hip_shift_m", "Hip shift, left +", "m", "Hips", D::Sides}, Needs::Bar, hipShift, "bar_level"},
      {{"hip_tilt_max_deg", "Hip tilt", "deg", "Hips", D::Sides}, Needs::Bar, hipTilt, "bar_level"},
      {{"shoulder_tilt_max_deg", "Shoulder tilt", "deg", "Bar", D::Sides}, Needs::Bar, shoulderTilt, "bar_level"},
      {{"bar_tilt_max_deg", "Bar tilt, left up +", "deg", "Bar", D::Sides}, Needs::Bar, barTilt, "bar_level"},
      {{"elbow_height_difference_m", "Elbows, left up +", "m", "Bar", D::Sides},
       Needs::Bar,
       elbowHeightDifference,
       "bar_level"},
      {{"stance_width_m", "Stance width", "m", "Set-up", D::Sides}, Needs::Bar, stanceWidth, "knee_line"},
      {{"stance_shoulder_ratio", "Stance / shoulders", "ratio", "Set-up", D::Sides},
       Needs::Bar,
       stanceOverShoulders,
       "knee_line"},
      {{"toe_out_left_deg", "Left toes out", "deg", "Set-up", D::Sides}, Needs::Bar, toeOutLeft, "knee_line"},
      {{"toe_out_right_deg", "Right toes out", "deg", "Set-up", D::Sides}, Needs::Bar, toeOutRight, "knee_line"},
      {{"hand_gap_ratio", "Grip / shoulders", "ratio", "Set-up", D::Sides}, Needs::Bar, handGap, "knee_line"},
      {{"descent_s", "Descent", "s", "Timing", D::None}, Needs::Bar, bar::descent},
      {{"pause_s", "Pause", "s", "Timing", D::None}, Needs::Bar, bar::pause},
      {{"ascent_s", "Ascent", "s", "Timing", D::None}, Needs::Bar, bar::ascent},
      {{"bar_mean_ascent_mps", "Mean concentric velocity", "m/s", "Timing", D::None}, Needs::Bar, bar::meanAscent},
      {{"stroke_m", "Range of motion", "m", "Timing", D::None}, Needs::Bar, bar::stroke},
  };
  return kMeasures;
}

std::span<const RepMeasure> hangingMeasures() {
  static const std::vector<RepMeasure> kMeasures = [] {
    const auto standing = standingMeasures();
    std::vector<RepMeasure> all(standing.begin(), standing.end());
    all.push_back({{"arm_lean_deg", "Arms off vertical", "deg", "Arms", D::Sides}, Needs::Bar, armLean, "knee_line"});
    return all;
  }();
  return kMeasures;
}

}  // namespace jib::lifts::front
