// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/reps.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace jib::motion {
namespace {

using tracing::Landmark;

constexpr double kLeastStroke_m = 0.12;  // re-racks and walk-outs stay under this
constexpr double kOfLargest = 0.4;       // a rep's stroke is at least this share of the largest
constexpr double kBack = 0.75;           // and the bar comes back by this share of it
constexpr double kOff_m = 0.01;          // the contract's centimetre
constexpr double kStill_mps = 0.03;
constexpr double kBarAlone_s = 0.06;        // by which the joints go on extending when the bar is already up
constexpr double kPause_s = 0.12;           // shorter dwells are a turn, not a pause
constexpr double kSurelyKnown_deg = 4;      // an angle that wanders by less tells a moment
constexpr double kStaysDown_s = 1.5;        // a bar that has not come up after so long is not coming
constexpr double kFoundAgain_m = 0.03;      // a fall by this much ends a failed rise
constexpr double kStraightening_deg = 2.0;  // joints within this of their final angle have stopped extending

struct Signal {
  std::vector<double> t, z;
  double slow = 1;
};

// The bar's height where it is known; short gaps are simply stepped over.
Signal signalOf(const Motion& m) {
  Signal s;
  s.slow = m.slow_factor;
  for (std::size_t i = 0; i < m.times_s.size(); ++i)
    if (const auto& p = m.path(Landmark::Bar).at[i]) {
      s.t.push_back(m.times_s[i]);
      s.z.push_back(p->z);
    }
  return s;
}

double speed(const Signal& s, std::size_t i) {
  const std::size_t a = i > 0 ? i - 1 : i, b = i + 1 < s.t.size() ? i + 1 : i;
  return a == b ? 0 : (s.z[b] - s.z[a]) / (s.t[b] - s.t[a]) * s.slow;
}

// Time at which z crosses `level` between samples i and i+1.
double crossing(const Signal& s, std::size_t i, double level) {
  const double dz = s.z[i + 1] - s.z[i];
  if (std::abs(dz) < 1e-9) return s.t[i];
  return s.t[i] + (s.t[i + 1] - s.t[i]) * std::clamp((level - s.z[i]) / dz, 0.0, 1.0);
}

struct Valley {
  std::size_t top, bottom, after;  // indices of the high before, the low, the high after
};

// Lows between highs, by hysteresis: a turn counts once the bar has moved `least` the other way.
std::vector<Valley> valleys(const Signal& s, double least) {
  std::vector<Valley> found;
  std::size_t high = 0, low = 0;
  bool down = false;
  for (std::size_t i = 1; i < s.z.size(); ++i) {
    if (!down) {
      if (s.z[i] > s.z[high]) high = i;
      if (s.z[high] - s.z[i] > least) {
        down = true;
        low = i;
      }
    } else {
      if (s.z[i] < s.z[low]) low = i;
      if (s.z[i] - s.z[low] > least) {
        if (!found.empty() && found.back().after < high) found.back().after = high;
        found.push_back({high, low, i});
        down = false;
        high = i;
      }
    }
  }
  if (!found.empty() && !down) found.back().after = std::max(found.back().after, high);
  return found;
}

// The middle of where the bar is within a centimetre and a half of its lowest: a parabola's vertex, robust to the
// flat and noisy sample minimum.
double vertexTime(const Signal& s, std::size_t bottom) {
  double sw = 0, st = 0;
  std::size_t a = bottom, b = bottom;
  while (a > 0 && s.z[a - 1] - s.z[bottom] < 0.006) --a;
  while (b + 1 < s.z.size() && s.z[b + 1] - s.z[bottom] < 0.006) ++b;
  for (std::size_t i = a; i <= b; ++i) {
    const double w = 0.006 - (s.z[i] - s.z[bottom]);
    sw += w;
    st += w * s.t[i];
  }
  return sw > 0 ? st / sw : s.t[bottom];
}

void setBottom(const Signal& s, std::size_t bottom, Rep& rep) {
  std::size_t a = bottom, b = bottom;
  while (a > 0 && std::abs(speed(s, a - 1)) < kStill_mps) --a;
  while (b + 1 < s.t.size() && std::abs(speed(s, b + 1)) < kStill_mps) ++b;
  if ((s.t[b] - s.t[a]) / s.slow > kPause_s + 0.15) {
    rep.bottom_t = s.t[a];
    rep.ascent_t = s.t[b];
    return;
  }
  rep.bottom_t = std::clamp(vertexTime(s, bottom), s.t[a], s.t[b]);
  rep.ascent_t = std::max(rep.bottom_t, std::min(s.t[b], rep.bottom_t + 0.02 * s.slow));
}

// The height the bar rests at next to a stroke: samples that stand still within half a second of its `edge`, looking
// away from the stroke (step -1: before a descent; +1: after an ascent).
double restingHeight(const Signal& s, std::size_t edge, int step) {
  std::vector<double> still;
  for (std::size_t i = edge; i < s.t.size() && std::abs(s.t[i] - s.t[edge]) < 0.5 * s.slow;
       i += static_cast<std::size_t>(step)) {
    if (std::abs(speed(s, i)) < kStill_mps) still.push_back(s.z[i]);
    if (i == 0) break;
  }
  if (still.size() < 3) return s.z[edge];
  std::nth_element(still.begin(), still.begin() + static_cast<long>(still.size() / 2), still.end());
  return still[still.size() / 2];
}

// From a low, outwards, to where the bar has all but stopped near the level of the high beside it.
std::size_t edgeOf(const Signal& s, std::size_t bottom, std::size_t high, int step) {
  std::size_t i = bottom;
  while (i != high && (s.z[high] - s.z[i] > 0.06 || std::abs(speed(s, i)) > kStill_mps))
    i += static_cast<std::size_t>(step);
  return i;
}

// How far a joint's angle may wander while the joint is still: points slide by so much from posture to posture.
double straightWithin_deg(const Motion& m, std::size_t frame) {
  const auto wander = [&](tracing::Landmark l) { return m.path(l).wander_m[frame]; };
  constexpr double kLimb_m = 0.42;
  return std::max(kStraightening_deg,
                  1.64 * degrees(std::hypot(wander(tracing::Landmark::Ankle), 2 * wander(tracing::Landmark::Knee),
                                            wander(tracing::Landmark::Hip)) /
                                 kLimb_m));
}

bool jointsSeen(const Motion& m, double t) {
  const Angles& a = m.angles[m.frameAt(t)];
  return a.knee_deg && a.hip_deg;
}

double straightTime(const Motion& m, double from_t, double to_t) {
  // The joints' final angles, and the first moment both are within reach of them.
  std::vector<double> knee, hip;
  const std::size_t first = m.frameAt(from_t), last = m.frameAt(to_t);
  for (std::size_t i = first; i <= last; ++i) {
    if (m.angles[i].knee_deg) knee.push_back(*m.angles[i].knee_deg);
    if (m.angles[i].hip_deg) hip.push_back(*m.angles[i].hip_deg);
  }
  if (knee.empty() || hip.empty()) return from_t;
  // The upper quarter: the most would be one frame's chance.
  const auto final = [](std::vector<double>& v) {
    const auto place = v.begin() + static_cast<long>(v.size() * 3 / 4);
    std::nth_element(v.begin(), place, v.end());
    return *place;
  };
  const double knee_deg = final(knee), hip_deg = final(hip), within = straightWithin_deg(m, first);
  for (std::size_t i = first; i <= last; ++i) {
    const Angles& a = m.angles[i];
    if (a.knee_deg && a.hip_deg && *a.knee_deg > knee_deg - within && *a.hip_deg > hip_deg - within)
      return m.times_s[i];
  }
  return to_t;
}

std::optional<double> stickingTime(const Signal& s, double from_t, double to_t) {
  // A bar that leaves the bottom gropes upwards for some frames; what slows down there was not under way yet.
  constexpr double kUnderWay = 0.25, kSlower = 0.1;
  double fastest = 0;
  for (std::size_t i = 0; i < s.t.size(); ++i)
    if (s.t[i] >= from_t && s.t[i] <= to_t) fastest = std::max(fastest, speed(s, i));
  double peak = 0, dip = 0, dip_t = 0;
  bool slowing = false;
  for (std::size_t i = 0; i < s.t.size(); ++i) {
    if (s.t[i] < from_t || s.t[i] > to_t) continue;
    const double v = speed(s, i);
    // Faster again by a tenth: what lay between was the sticking region.
    if (slowing && v > dip + kSlower * peak) return dip_t;
    if (v >= peak) {
      peak = v;
      slowing = false;
    } else if (peak >= kUnderWay * fastest && (!slowing || v < dip)) {
      slowing = true;
      dip = v;
      dip_t = s.t[i];
    }
  }
  return std::nullopt;
}

}  // namespace

std::vector<Miss> findMisses(const Motion& motion) {
  const Signal s = signalOf(motion);
  if (s.t.size() < 10) return {};
  const std::vector<Rep> reps = findReps(motion);
  double largest = 2 * kLeastStroke_m;
  for (const Rep& r : reps) largest = std::max(largest, r.stroke_m);
  std::vector<Miss> misses;
  // What no rep covers, stretch by stretch: a miss is a deep descent in one of them.
  double from_t = s.t.front();
  for (std::size_t k = 0; k <= reps.size(); ++k) {
    const double to_t = k < reps.size() ? reps[k].start_t : s.t.back();
    std::size_t high = s.t.size(), low = s.t.size();
    double deepest = 0;
    for (std::size_t i = 0, top = s.t.size(); i < s.t.size(); ++i) {
      if (s.t[i] < from_t || s.t[i] > to_t) continue;
      if (top == s.t.size() || s.z[i] > s.z[top]) top = i;
      // Putting the bar on the floor is no miss of a squat's depth: the first turn counts, not the last.
      if (low < s.t.size() && s.z[i] > s.z[low] + kFoundAgain_m) break;
      if (s.z[top] - s.z[i] > deepest) {
        deepest = s.z[top] - s.z[i];
        high = top;
        low = deepest > kOfLargest * largest ? i : low;
      }
    }
    from_t = k < reps.size() ? reps[k].lockout_t : to_t;
    if (low >= s.t.size()) continue;
    std::size_t best = low, last = low;
    for (std::size_t i = low; i < s.t.size() && s.t[i] <= to_t; ++i) {
      if (s.z[i] > s.z[best]) best = i;
      last = i;
      if (s.z[best] - s.z[i] > kFoundAgain_m) break;
    }
    const double stroke = s.z[high] - s.z[low];
    const bool fell = s.z[best] - s.z[last] > kFoundAgain_m;
    const bool stayed = (s.t[last] - s.t[low]) / s.slow > kStaysDown_s;
    const double risen = (s.z[best] - s.z[low]) / stroke;
    if ((!fell && !stayed) || risen > kBack) continue;
    misses.push_back({s.t[high], s.t[low], s.t[best], risen, stroke});
  }
  return misses;
}

std::vector<Rep> findReps(const Motion& motion) {
  const Signal s = signalOf(motion);
  if (s.t.size() < 10) return {};
  std::vector<Valley> found = valleys(s, kLeastStroke_m);
  double largest = 0;
  for (const Valley& v : found) largest = std::max(largest, s.z[v.top] - s.z[v.bottom]);
  std::vector<Rep> reps;
  for (std::size_t k = 0; k < found.size(); ++k) {
    const Valley& v = found[k];
    const double stroke = s.z[v.top] - s.z[v.bottom];
    if (stroke < kOfLargest * largest || s.z[v.after] - s.z[v.bottom] < kBack * stroke) continue;
    const double rest = restingHeight(s, edgeOf(s, v.bottom, v.top, -1), -1);
    // Last sample still within a centimetre of rest, going back from the bottom.
    std::size_t leave = v.bottom;
    while (leave > 0 && s.z[leave] < rest - kOff_m) --leave;
    Rep rep;
    rep.start_t = crossing(s, leave, rest - kOff_m);
    setBottom(s, v.bottom, rep);
    const std::size_t next_top = k + 1 < found.size() ? found[k + 1].top : std::min(v.after + 45, s.t.size() - 1);
    const double final_z = restingHeight(s, edgeOf(s, v.bottom, v.after, 1), 1);
    std::size_t arrive = v.bottom;
    while (arrive + 1 < s.t.size() && s.z[arrive + 1] < final_z - kOff_m) ++arrive;
    const double up_t = arrive + 1 < s.t.size() ? crossing(s, arrive, final_z - kOff_m) : s.t.back();
    const double limit_t = std::min(s.t[std::max(next_top, v.after)], up_t + 0.8 * s.slow);
    rep.lockout_t = std::max(up_t, straightTime(motion, up_t, std::max(limit_t, up_t)));
    // The bar says "not before". Joints that are surely known say when; those that wander only "not after".
    const double undecided = rep.lockout_t - up_t;
    const bool wander = straightWithin_deg(motion, motion.frameAt(up_t)) > kSurelyKnown_deg;
    if (wander) rep.lockout_t = up_t + undecided / 2;
    rep.end_t = rep.lockout_t;
    rep.lockout_sigma_s =
        std::max((wander ? 0.3 : 0.7) * undecided, jointsSeen(motion, up_t) ? 0.0 : kBarAlone_s * s.slow);
    rep.stroke_m = rest - s.z[v.bottom];
    rep.sticking_t = stickingTime(s, rep.ascent_t, rep.lockout_t);
    if (rep.start_t < rep.bottom_t && rep.ascent_t < rep.lockout_t) reps.push_back(rep);
  }
  return reps;
}

}  // namespace jib::motion
