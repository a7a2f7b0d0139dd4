// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/pulled_reps.h"

#include <algorithm>
#include <cmath>

#include "core/base/median.h"
#include "core/motion/bar_height.h"
#include "core/motion/bar_on_floor.h"
#include "core/motion/set_up.h"

namespace jib::motion {
namespace {

constexpr double kTurn_m = 0.06;          // the bar has turned once it moved this far the other way
constexpr double kLeastPull_m = 0.08;     // less is a bar that is rolled, loaded or jacked up
constexpr double kWhole = 0.7;            // of the largest pull: less was not brought to lockout
constexpr double kNobodysWhole_m = 0.35;  // from floor to lockout is more than this for everybody
constexpr double kStillUp = 0.3;          // a bar that sank to no less of the pull was not put down
constexpr double kTouch_s = 0.25;         // on the floor for less: touch and go
constexpr double kSetUpAnew_s = 3;        // for more: hands and feet were set anew
constexpr double kOffFloor_m = 0.005, kSurelyOff_m = 0.02;

struct Hill {
  std::size_t foot, top;             // last low before it, highest sample
  std::optional<std::size_t> after;  // the low after it; none where the film ends with the bar up
};

std::vector<Hill> hills(const BarHeight& s) {
  std::vector<Hill> found;
  std::size_t low = 0, high = 0;
  bool up = false;
  for (std::size_t i = 1; i < s.size(); ++i) {
    if (!up) {
      if (s.z[i] <= s.z[low]) low = i;
      if (s.z[i] - s.z[low] > kTurn_m) {
        up = true;
        high = i;
        found.push_back({low, high, std::nullopt});
      }
      continue;
    }
    if (s.z[i] > s.z[high]) found.back().top = high = i;
    if (s.z[high] - s.z[i] > kTurn_m) {
      up = false;
      low = i;
      found.back().after = i;
    }
  }
  for (std::size_t k = 0; k < found.size(); ++k) {
    if (!found[k].after) continue;
    const std::size_t to = k + 1 < found.size() ? found[k + 1].foot : s.size() - 1;
    const auto from = s.z.begin() + static_cast<long>(found[k].top), end = s.z.begin() + static_cast<long>(to) + 1;
    found[k].after = static_cast<std::size_t>(std::min_element(from, end) - s.z.begin());
  }
  return found;
}

// A pull whose bar sank and went on is one pull.
std::vector<Hill> pulls(const BarHeight& s) {
  std::vector<Hill> all;
  for (const Hill& h : hills(s)) {
    if (!all.empty() && all.back().after) {
      Hill& last = all.back();
      const double floor = s.z[last.foot], top = std::max(s.z[last.top], s.z[h.top]);
      if (s.z[h.foot] - floor > kStillUp * (top - floor)) {
        if (s.z[h.top] > s.z[last.top]) last.top = h.top;
        last.after = h.after;
        continue;
      }
    }
    all.push_back(h);
  }
  return all;
}

// Last time before `top` at which the bar rises through a level.
double lastRise(const BarHeight& s, std::size_t foot, std::size_t top, double level) {
  std::size_t i = top;
  while (i > foot && s.z[i - 1] > level) --i;
  return i > 0 ? s.crossing(i - 1, level) : s.t[i];
}

// The last sample before the rise that is surely not part of it.
std::size_t lastOnFloor(const BarHeight& s, const Hill& h) {
  std::size_t last = h.top;
  while (last > h.foot && s.z[last] > s.z[h.foot] + kSurelyOff_m) --last;
  return last;
}

// Where the bar lies before it goes up. The lowest sample alone may be one that strayed, as the first of a trace do:
// the middle of what rests within reach of it is meant, and of that what comes last.
// `off_m`: how far above it the bar is off the floor.
double floorBefore(const BarHeight& s, const Hill& h, double off_m = kOffFloor_m) {
  const std::size_t surely = lastOnFloor(s, h);
  std::vector<double> resting;
  for (std::size_t i = h.foot; i <= surely; ++i)
    if (std::abs(s.speed_mps(i)) < kBarStill_mps) resting.push_back(s.z[i]);
  const double lies = resting.size() < 3 ? s.z[h.foot] : median(std::move(resting));
  std::size_t edge = h.top;
  while (edge > h.foot && s.z[edge] > lies + off_m) --edge;
  return restingHeight(s, edge, -1);
}

// Where the bar lies on the shoulders before it is pressed: the middle of what rests there last, within the lower third
// of its way. Before that it may be lower, in the hooks, and lower again as the knees dip. `from`: the last time it was
// up.
double restBefore(const BarHeight& s, const Hill& h, std::size_t from) {
  constexpr double kLast_s = 1.5;
  constexpr std::size_t kFew = 3;
  const double third = s.z[h.foot] + (s.z[h.top] - s.z[h.foot]) / 3;
  std::vector<double> low, resting;
  for (std::size_t i = h.top; i-- > from;) {
    if (s.z[i] >= third) {
      if (!low.empty()) break;  // up, of the rep before
      continue;
    }
    low.push_back(s.z[i]);
    if (std::abs(s.speed_mps(i)) < kBarStill_mps) resting.push_back(s.z[i]);
    if (resting.size() >= kFew && s.t[h.top] - s.t[i] > kLast_s * s.slow + (s.t[h.top] - s.t[h.foot])) break;
  }
  if (low.empty()) return s.z[h.foot];
  return median(resting.size() < kFew ? std::move(low) : std::move(resting));
}

// Of the bar held at the top: the middle of its still samples about the highest.
double heldHeight(const BarHeight& s, const Hill& h) {
  std::size_t from = h.top;
  while (from > h.foot && s.z[h.top] - s.z[from - 1] < 3 * kOff_m) --from;
  while (from < h.top && s.speed_mps(from) > kBarStill_mps) ++from;
  return restingHeight(s, from, 1);
}

RepType typeAfter(double on_floor_s) {
  return on_floor_s < kTouch_s ? RepType::TouchAndGo : on_floor_s > kSetUpAnew_s ? RepType::Reset : RepType::DeadStop;
}

// What the lifter does before the plates leave. The bar has lain since `from_s`.
void addSetUp(Rep& rep, const Motion& m, double from_s) {
  constexpr double kBegan_s = 0.05;
  const double off_s = rep.ascent_t();
  if (const auto hips = hipsBeforeOff(m, off_s); hips && hips->begins_s && *hips->begins_s < off_s)
    rep.set(EventKind::Start, *hips->begins_s, kBegan_s * m.slow_factor);
  if (const auto hands = handsOnBefore(m, from_s, rep.start_t())) rep.set(hands->kind, hands->t_s, hands->sigma_s);
}

// When the plates are down: within a centimetre of where they lie. In the hand of whoever films, a bar that lies still
// goes on sinking for a while; so at the latest when its fall is stopped near the floor. `down`: its lowest afterwards.
Event landing(const BarHeight& s, std::size_t from, std::size_t after, double down, double near_m, double wanders) {
  constexpr double kFalling_mps = 0.15;
  const auto within = [&](double above) {
    std::size_t i = from;
    while (i < after && s.z[i] > down + above) ++i;
    return i;
  };
  const auto at = [&](std::size_t i, double above) { return i > 0 ? s.crossing(i - 1, down + above) : s.t[i]; };
  const std::size_t lies = within(kOff_m);
  const double lies_t = at(lies, kOff_m);
  std::size_t stopped = within(near_m + kOff_m);
  const double near_t = at(stopped, near_m + kOff_m);
  while (stopped < lies && -s.speed_mps(stopped) > kFalling_mps) ++stopped;
  const double t = std::min(lies_t, s.t[stopped]);
  // What it wanders by is passed within this.
  const double fall_s = wanders > kOffFloor_m ? std::max(0.0, t - near_t) : 0;
  return {EventKind::End, t, fall_s / 2};
}

// `wanders`: how far the bar seems to go up and down while it lies there, 1 σ; it has left only where it is higher.
Rep repFrom(const Motion& m, const BarHeight& s, const Hill& h, double wanders, RepPattern pattern,
            std::size_t last_up) {
  const bool from_floor = pattern == RepPattern::UpFirst;
  Rep rep;
  rep.type = RepType::DeadStop;
  const double off_m = std::max(kOffFloor_m, wanders), surely_m = std::max(kSurelyOff_m, 3 * wanders);
  const double floor = from_floor ? floorBefore(s, h, off_m) : restBefore(s, h, last_up), top = heldHeight(s, h);
  const double off_t = lastRise(s, h.foot, h.top, floor + off_m),
               surely_t = lastRise(s, h.foot, h.top, floor + surely_m);
  const bool steady = surely_m <= kSurelyOff_m;
  const double between_s = surely_t - off_t, back_s = std::clamp(between_s, 0.0, 0.15 * s.slow);
  rep.set(EventKind::LiftOff, off_t - back_s, steady ? back_s / 3 : between_s);
  // Up within a centimetre, and by when at the earliest, as far as the bar seems to wander.
  const auto upAt = [&](double below_m) {
    std::size_t arrive = h.foot;
    while (arrive + 1 < h.top && s.z[arrive + 1] < top - below_m) ++arrive;
    return s.crossing(arrive, top - below_m);
  };
  std::size_t leave = h.after.value_or(s.size() - 1);
  while (leave > h.top && s.z[leave] < top - kOff_m) --leave;
  const double up_t = upAt(kOff_m),
               down_t = h.after && leave + 1 < s.size() ? s.crossing(leave, top - kOff_m) : s.t.back();
  const double early_s = steady ? 0 : up_t - upAt(kOff_m + wanders);
  const Event lockout = lockoutFrom(m, up_t, std::min(down_t, up_t + 0.8 * s.slow));
  rep.set(EventKind::Lockout, lockout.t_s, std::hypot(lockout.sigma_s, early_s));
  if (const auto slowest = stickingTime(s, rep.ascent_t(), lockout.t_s)) rep.set(EventKind::Sticking, *slowest);
  rep.stroke_m = top - floor;
  if (!h.after) return rep;
  rep.set(EventKind::Lowering, std::max(down_t, lockout.t_s), early_s);
  // Racked again it comes lower than the shoulders.
  const double down = from_floor ? s.z[*h.after] : std::max(s.z[*h.after], floor);
  const Event end = landing(s, leave, *h.after, down, surely_m, wanders);
  rep.set(EventKind::End, std::max(down_t, end.t_s), end.sigma_s);
  return rep;
}

double largestOf(const BarHeight& s, const std::vector<Hill>& all) {
  double largest = 0;
  for (const Hill& h : all) largest = std::max(largest, s.z[h.top] - s.z[h.foot]);
  return largest;
}

bool whole(const BarHeight& s, const Hill& h, double largest) {
  return s.z[h.top] - s.z[h.foot] > std::max(kNobodysWhole_m, kWhole * largest);
}

}  // namespace

std::vector<Rep> pulledReps(const Motion& motion, RepPattern pattern) {
  const BarHeight s = barHeight(motion);
  if (s.size() < 10) return {};
  std::vector<Hill> all = pulls(s);
  const double largest = largestOf(s, all);
  std::erase_if(all, [&](const Hill& h) { return !whole(s, h, largest); });
  std::vector<double> lies;
  std::size_t rested = 0;
  for (const Hill& h : all) {
    const std::size_t last = lastOnFloor(s, h);
    for (std::size_t i = rested; i < last; ++i) lies.push_back(s.z[i]);
    rested = h.after.value_or(s.size());
  }
  const double wanders = scatter(std::move(lies));
  std::vector<Rep> reps;
  std::size_t last_up = 0;
  for (const Hill& h : all) {
    Rep rep = repFrom(motion, s, h, wanders, pattern, last_up);
    last_up = h.top;
    if (rep.ascent_t() >= rep.lockout_t()) continue;
    if (!reps.empty())
      if (const auto down = reps.back().when(EventKind::End))
        rep.type = typeAfter(motion.real_s(*down, rep.ascent_t()));
    if (pattern == RepPattern::UpFirst)
      addSetUp(rep, motion, reps.empty() ? motion.times_s.front() : reps.back().end_t());
    reps.push_back(std::move(rep));
  }
  return reps;
}

std::vector<Rep> missedPulls(const Motion& motion) {
  const BarHeight s = barHeight(motion);
  if (s.size() < 10) return {};
  const std::vector<Hill> all = pulls(s);
  const double largest = largestOf(s, all);
  std::vector<Rep> misses;
  for (const Hill& h : all) {
    const double pulled = s.z[h.top] - s.z[h.foot];
    if (whole(s, h, largest) || !h.after || pulled < kLeastPull_m) continue;
    Rep miss{RepType::Miss, {}, pulled, 1};
    if (largest > kNobodysWhole_m) miss.risen = std::min(1.0, pulled / largest);
    miss.set(EventKind::LiftOff, lastRise(s, h.foot, h.top, floorBefore(s, h) + kOffFloor_m));
    miss.set(EventKind::Highest, s.t[h.top]);
    misses.push_back(std::move(miss));
  }
  return misses;
}

}  // namespace jib::motion
