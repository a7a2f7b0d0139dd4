// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/lowered_reps.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/motion/bar_height.h"
#include "core/motion/rest.h"

namespace jib::motion {
namespace {

constexpr double kOfLargest = 0.4;      // a rep's stroke is at least this share of the largest
constexpr double kBack = 0.75;          // and the bar comes back by this share of it
constexpr double kPause_s = 0.27;       // a turn without a pause takes up to so long, slowly done
constexpr double kStaysDown_s = 1.5;    // a bar that has not come up after so long is not coming
constexpr double kFoundAgain_m = 0.03;  // a fall by this much ends a failed rise
constexpr double kPartial = 0.75;       // of the usual stroke: under it a rep was cut short

struct Valley {
  std::size_t top, bottom, after;  // indices of the high before, the low, the high after
};

// Lows between highs, by hysteresis: a turn counts once the bar has moved `least` the other way.
std::vector<Valley> valleys(const BarHeight& s, double least) {
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
double vertexTime(const BarHeight& s, std::size_t bottom) {
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

void setBottom(const BarHeight& s, std::size_t bottom, double stillness_mps, Rep& rep) {
  const BottomRest rest = restAtBottom(s, bottom, stillness_mps);
  if (rest.real_s > kPause_s) {
    rep.type = RepType::Paused;
    rep.set(EventKind::Bottom, rest.from_t, rest.from_sigma);
    rep.set(EventKind::Ascent, rest.to_t, rest.to_sigma);
    return;
  }
  // A turn, or a rest too short to be told from one, which would be as long as `rest` or not there at all: both moments
  // are put half-way.
  const double lowest_t = std::clamp(vertexTime(s, bottom), s.t[rest.from], s.t[rest.to]);
  const double either_s = rest.real_s * s.slow / 4;
  rep.set(EventKind::Bottom, lowest_t - either_s, std::max(1.2 * either_s, rest.from_sigma));
  rep.set(EventKind::Ascent, lowest_t + std::max(either_s, 0.01 * s.slow), std::max(1.2 * either_s, rest.to_sigma));
}

// From a low, outwards, to where the bar has all but stopped near the level of the high beside it.
std::size_t edgeOf(const BarHeight& s, std::size_t bottom, std::size_t high, int step) {
  std::size_t i = bottom;
  while (i != high && (s.z[high] - s.z[i] > 0.06 || std::abs(s.speed_mps(i)) > kBarStill_mps))
    i += static_cast<std::size_t>(step);
  return i;
}

// By how long a bar may seem to leave its rest too early or too late: what it strays by while it rests, at the speed it
// leaves with. `leave`: the last sample within a centimetre of `rest`.
double leavingSigma_s(const BarHeight& s, std::size_t leave, double rest) {
  constexpr double kBefore_s = 0.5, kScatter = 1.48, kCreep_mps = 0.03;
  std::vector<double> strays_m;
  for (std::size_t i = leave + 1; i-- > 0 && s.t[leave] - s.t[i] <= kBefore_s * s.slow;)
    strays_m.push_back(std::abs(s.z[i] - rest));
  const double speed_mps = std::max(kCreep_mps, std::abs(s.speed_mps(std::min(leave + 1, s.size() - 1))));
  return kScatter * median(std::move(strays_m)) / speed_mps * s.slow;
}

// A rep turned round far above where the others were. Two reps do not tell which of them is the usual one.
void markPartials(std::vector<Rep>& reps) {
  if (reps.size() < 3) return;
  std::vector<double> strokes;
  for (const Rep& r : reps) strokes.push_back(r.stroke_m);
  const double usual = median(strokes);
  for (Rep& r : reps)
    if (r.stroke_m < kPartial * usual) r.type = RepType::Partial;
}

}  // namespace

std::vector<Rep> missedAscents(const Motion& motion) {
  const BarHeight s = barHeight(motion);
  if (s.t.size() < 10) return {};
  const std::vector<Rep> reps = loweredReps(motion);
  double largest = 2 * kLeastStroke_m;
  for (const Rep& r : reps) largest = std::max(largest, r.stroke_m);
  std::vector<Rep> misses;
  // What no rep covers, stretch by stretch: a miss is a deep descent in one of them.
  double from_t = s.t.front();
  for (std::size_t k = 0; k <= reps.size(); ++k) {
    const double to_t = k < reps.size() ? reps[k].start_t() : s.t.back();
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
    from_t = k < reps.size() ? reps[k].lockout_t() : to_t;
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
    Rep miss{RepType::Miss, {}, stroke, risen};
    miss.set(EventKind::Start, s.t[high]);
    miss.set(EventKind::Bottom, s.t[low]);
    miss.set(EventKind::Highest, s.t[best]);
    misses.push_back(std::move(miss));
  }
  return misses;
}

std::vector<Rep> loweredReps(const Motion& motion) {
  const BarHeight s = barHeight(motion);
  if (s.t.size() < 10) return {};
  std::vector<Valley> found = valleys(s, kLeastStroke_m);
  double largest = 0;
  for (const Valley& v : found) largest = std::max(largest, s.z[v.top] - s.z[v.bottom]);
  const double stillness_mps = stillnessOf(s);
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
    rep.set(EventKind::Start, s.crossing(leave, rest - kOff_m), leavingSigma_s(s, leave, rest));
    setBottom(s, v.bottom, stillness_mps, rep);
    // After the last rep the lockout is looked for as long as the joints may still extend, whatever the frame rate.
    constexpr double kStillExtends_s = 1.5;
    const auto later = std::upper_bound(s.t.begin(), s.t.end(), s.t[v.after] + kStillExtends_s * s.slow);
    const std::size_t next_top =
        k + 1 < found.size() ? found[k + 1].top : std::max(v.after, static_cast<std::size_t>(later - s.t.begin()) - 1);
    const double final_z = restingHeight(s, edgeOf(s, v.bottom, v.after, 1), 1);
    std::size_t arrive = v.bottom;
    while (arrive + 1 < s.t.size() && s.z[arrive + 1] < final_z - kOff_m) ++arrive;
    const double up_t = arrive + 1 < s.t.size() ? s.crossing(arrive, final_z - kOff_m) : s.t.back();
    const double limit_t = std::min(s.t[std::max(next_top, v.after)], up_t + 0.8 * s.slow);
    const Event lockout = lockoutFrom(motion, up_t, limit_t);
    rep.set(EventKind::Lockout, lockout.t_s, lockout.sigma_s);
    rep.set(EventKind::End, lockout.t_s, lockout.sigma_s);
    rep.stroke_m = rest - s.z[v.bottom];
    if (const auto slowest = stickingTime(s, rep.ascent_t(), rep.lockout_t())) rep.set(EventKind::Sticking, *slowest);
    if (rep.start_t() < rep.bottom_t() && rep.ascent_t() < rep.lockout_t()) reps.push_back(std::move(rep));
  }
  markPartials(reps);
  return reps;
}

}  // namespace jib::motion
