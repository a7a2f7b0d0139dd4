// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/rest.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/base/median.h"

namespace jib::motion {
namespace {

constexpr double kNoMotion_mps = 0.09;  // a bar on its way is faster than any that is held
constexpr double kNearTop_m = 0.04;     // of where a bar is held
constexpr double kCrawl_mps = 0.12;     // slower than any stroke but its ends
constexpr double kOfFastest = 0.4;      // or so slow against the same stroke
constexpr double kBand_m = 0.05;        // a chest gives by so much under a resting bar
constexpr double kOfStroke = 0.2;       // and a short stroke by so much of it
constexpr double kOfBraking = 0.75;     // of its fastest: slower than this a bar is on its way to a stop
constexpr double kWellUnderWay = 0.65;  // of its fastest
constexpr double kSmear_s = 0.03;       // of the filter

// Over a tenth of a second: what jitters from frame to frame is no speed.
double slowSpeed(const BarHeight& bar, std::size_t i) {
  constexpr double kEachWay_s = 0.045;
  std::size_t a = i > 0 ? i - 1 : i, b = std::min(i + 1, bar.size() - 1);
  while (a > 0 && bar.t[i] - bar.t[a - 1] <= kEachWay_s * bar.slow) --a;
  while (b + 1 < bar.size() && bar.t[b + 1] - bar.t[i] <= kEachWay_s * bar.slow) ++b;
  return a == b ? 0 : (bar.z[b] - bar.z[a]) / (bar.t[b] - bar.t[a]) * bar.slow;
}

// From a moment of a stroke's crawl to where it has stopped, s of presentation time.
struct Stop {
  double after = 0, sigma = 0;
  double gentle = 0.5;  // 0 evenly braked, 1 let down gently
};

// A bar that is braked evenly loses speed along a straight line; one that is let down gently loses it ever more slowly,
// along a parabola, and takes about twice as long. Both are laid through what is seen of the braking, up to `fast_mps`,
// and the one that fits counts more.
Stop stopOf(const BarHeight& bar, std::size_t from, int step, double fast_mps) {
  struct Line {
    double n = 0, t = 0, y = 0, tt = 0, ty = 0, yy = 0;
    void add(double x, double v) { n += 1, t += x, y += v, tt += x * x, ty += x * v, yy += v * v; }
    double slope() const { return (n * ty - t * y) / (n * tt - t * t); }
    double zero() const { return t / n - y / n / slope(); }
    // What is left of the scatter, as a share of the mean.
    double misfit() const {
      const double var = yy / n - y * y / n / n, explained = slope() * (ty / n - t / n * y / n);
      return std::sqrt(std::max(0.0, var - explained)) / (y / n);
    }
  };
  Line even, gentle;
  constexpr double kLongest_s = 0.5;
  for (std::size_t j = from; j > 0 && j + 1 < bar.size(); j -= static_cast<std::size_t>(step)) {
    const double ahead = step * (bar.t[j] - bar.t[from]) / bar.slow, v = std::abs(slowSpeed(bar, j));
    if (ahead < -kLongest_s || (v > fast_mps && even.n >= 3)) break;
    even.add(ahead, v);
    gentle.add(ahead, std::sqrt(v));
  }
  constexpr double kAtOnce_s = 0.06;
  if (even.n < 3 || even.slope() >= -0.1 || gentle.slope() >= 0) return {kAtOnce_s * bar.slow, kAtOnce_s * bar.slow};
  const double short_s = std::max(0.0, even.zero()), long_s = std::max(short_s, gentle.zero());
  const double a = even.misfit(), b = 2 * gentle.misfit();  // a root halves what is relative
  const double share = a + b > 0 ? a * a / (a * a + b * b) : 0.5;
  const double doubt = 0.12 + 0.3 * std::min(share, 1 - share) * 2;
  return {(short_s + share * (long_s - short_s)) * bar.slow, doubt * (long_s - short_s) * bar.slow, share};
}

// Where one end of the turn is looked for: from the first sample of the crawl towards the lowest one.
struct Approach {
  std::size_t from, limit;
  int step;
  double crawl, fastest;  // m/s
};
struct Edge {
  std::size_t still_at = 0;
  double t = 0, sigma = 0;
};

Edge edgeOf(const BarHeight& bar, const Approach& a, double still) {
  std::size_t i = a.from;
  while (i != a.limit && std::abs(slowSpeed(bar, i)) > still) i += static_cast<std::size_t>(a.step);
  const Stop stop = stopOf(bar, a.from, a.step, std::min(kOfBraking * a.fastest, 3 * a.crawl));
  // What is still already stops soon after, whatever its pace before.
  const double part = still / std::max(1.5 * still, a.crawl);
  const double even = 1 / (1 - part), gentle = 1 / (1 - std::sqrt(part));
  const double soon = std::abs(bar.t[i] - bar.t[a.from]) * (even + stop.gentle * (gentle - even));
  const double after = std::min(stop.after, soon);
  // A bar that sinks on is hardly slower than one that is lowered with care: it may have stopped well before.
  std::size_t j = a.from;
  while (j > 0 && j + 1 < bar.size() && std::abs(slowSpeed(bar, j)) < kWellUnderWay * a.fastest)
    j -= static_cast<std::size_t>(a.step);
  const double braked = std::abs(bar.t[j] - bar.t[a.from]);
  const double expected = 1.5 * after * std::max(0.0, kWellUnderWay * a.fastest / a.crawl - 1) + 0.05 * bar.slow;
  const double before = 0.4 * std::max(0.0, braked - expected);
  return {i, bar.t[a.from] + a.step * after,
          std::hypot(std::min(stop.sigma, 0.5 * soon), std::hypot(before, 0.12 * after), kSmear_s * bar.slow)};
}

// For how long a bar drops once more just before it rises: it has been let go of its rest, or was set deeper, and
// either may be meant. 0 where it does not, and of one that sinks for longer: that one rests, and sinks.
double dropBeforeRise_s(const BarHeight& bar, std::size_t bottom, const BottomRest& rest, double still) {
  constexpr double kJustBefore_s = 0.15, kOfRest = 0.3;
  if (bar.t[rest.to] - bar.t[bottom] >= kJustBefore_s * bar.slow) return 0;
  const auto falls = [&](std::size_t i) { return slowSpeed(bar, i) < -0.5 * still; };
  std::size_t before = bottom;
  while (before > rest.from && !falls(before) && bar.t[bottom] - bar.t[before] < kJustBefore_s * bar.slow) --before;
  while (before > rest.from && falls(before)) --before;
  const double dropped = rest.to_t - bar.t[before];
  return dropped > kJustBefore_s * bar.slow && dropped < kOfRest * (rest.to_t - rest.from_t) ? dropped : 0;
}

// For how long a bar that has all but stopped goes on down before it lies as it lies half-way through its rest. A plate
// that is followed a centimetre off for a tenth of a second seems to stop before it does; a chest that gives looks much
// the same. 0 where it stays, and of one that drops later, which has rested before.
double goesOn_s(const BarHeight& bar, double from_t, double to_t) {
  constexpr double kGoes_m = 0.007, kThere_m = 0.003;
  const auto sample = [&](double t) {
    const auto next = std::lower_bound(bar.t.begin(), bar.t.end(), t);
    return std::min(static_cast<std::size_t>(next - bar.t.begin()), bar.size() - 1);
  };
  const std::size_t first = sample(from_t), half = sample((from_t + to_t) / 2);
  if (bar.z[first] - bar.z[half] < kGoes_m) return 0;
  std::size_t i = first;
  while (i < half && bar.z[i] - bar.z[half] > kThere_m) ++i;
  return bar.t[i] - from_t;
}

}  // namespace

double stillnessOf(const BarHeight& bar) {
  if (bar.size() < 3) return kBarStill_mps;
  const double top = *std::max_element(bar.z.begin(), bar.z.end());
  std::vector<double> held;
  for (std::size_t i = 0; i < bar.size(); ++i)
    if (const double v = std::abs(slowSpeed(bar, i)); bar.z[i] > top - kNearTop_m && v < kNoMotion_mps)
      held.push_back(v);
  constexpr std::size_t kEnough = 8;
  if (held.size() < kEnough) return kBarStill_mps;
  return std::clamp(2.0 * median(held), kBarStill_mps, kNoMotion_mps / 1.5);
}

BottomRest restAtBottom(const BarHeight& bar, std::size_t bottom, double still) {
  const double high = *std::max_element(bar.z.begin(), bar.z.end());
  const double band = std::min(kBand_m, kOfStroke * std::max(high - bar.z[bottom], kLeastStroke_m));
  const auto near = [&](std::size_t i) { return bar.z[i] - bar.z[bottom] < band; };
  // All of the turn, and in it the last fast moment down and the first fast moment of the last rise.
  std::size_t in = bottom, out = bottom;
  while (in > 0 && near(in - 1)) --in;
  while (out + 1 < bar.size() && near(out + 1)) ++out;
  std::size_t arrives = in, leaves = out;
  // A crawl is slow for this stroke: a light bar lowered with care is never fast.
  const auto fastestOf = [&](int step) {
    double fastest = 0;
    for (std::size_t i = bottom; i > 0 && i + 1 < bar.size() && bar.z[i] - bar.z[bottom] < 0.6 * (high - bar.z[bottom]);
         i += static_cast<std::size_t>(step))
      fastest = std::max(fastest, std::abs(slowSpeed(bar, i)));
    return fastest;
  };
  const auto crawlOf = [&](double fastest) {
    return std::clamp(kOfFastest * fastest, 1.5 * still, std::max(kCrawl_mps, 2 * still));
  };
  const double fast_in = fastestOf(-1), fast_out = fastestOf(1);
  const double crawl_in = crawlOf(fast_in), crawl_out = crawlOf(fast_out);
  while (arrives < bottom && slowSpeed(bar, arrives) < -crawl_in) ++arrives;
  while (leaves > bottom && slowSpeed(bar, leaves) > crawl_out) --leaves;

  BottomRest rest;
  const Edge begins = edgeOf(bar, {arrives, bottom, 1, crawl_in, fast_in}, still);
  const Edge ends = edgeOf(bar, {leaves, bottom, -1, crawl_out, fast_out}, still);
  rest = {begins.still_at, ends.still_at, begins.t, ends.t, begins.sigma, ends.sigma, 0};
  rest.from = std::min(rest.from, bottom);
  rest.to = std::max(rest.to, bottom);
  if (const double dropped = dropBeforeRise_s(bar, bottom, rest, still); dropped > 0) {
    rest.to_t -= dropped / 2;
    rest.to_sigma = std::hypot(rest.to_sigma, dropped / 2);
  }
  constexpr double kOfGoingOn = 0.6;
  // Where the bar may be anywhere within what the clip shakes by, so may the moment.
  const double shaken = (still - kBarStill_mps) * 0.6 * bar.slow;
  rest.from_sigma = std::hypot(rest.from_sigma, shaken, kOfGoingOn * goesOn_s(bar, rest.from_t, rest.to_t));
  rest.to_sigma = std::hypot(rest.to_sigma, shaken);
  rest.real_s = std::max(0.0, (rest.to_t - rest.from_t) / bar.slow);
  return rest;
}

}  // namespace jib::motion
