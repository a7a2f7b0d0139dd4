// SPDX-License-Identifier: GPL-3.0-or-later
// Filter, rates and reps on motions given by formulas.
#include <gtest/gtest.h>

#include <cmath>
#include <functional>

#include "core/base/angle.h"
#include "core/motion/low_pass.h"
#include "core/motion/reps.h"

namespace jib::motion {
namespace {

using tracing::Landmark;
using Values = std::vector<std::optional<double>>;

struct Sampled {
  std::vector<double> t;
  Values v;
};

Sampled sampled(double rate_hz, double duration_s, const std::function<double(double)>& f) {
  Sampled s;
  for (int i = 0; i <= static_cast<int>(rate_hz * duration_s); ++i) {
    s.t.push_back(i / rate_hz);
    s.v.emplace_back(f(i / rate_hz));
  }
  return s;
}

TEST(LowPass, KeepsASlowStrokeAndDoesNotShiftIt) {
  const auto slow = [](double t) { return 0.3 * std::sin(2 * kPi * 0.5 * t); };
  const Sampled s = sampled(30, 6, slow);
  const auto out = lowPass(s.t, s.v, 6);
  // Half a hertz through a 6 Hz filter loses (0.5/6)^4 / 2 of its size: nothing. A shift of a frame would be 3 cm/s *
  // 33 ms.
  for (std::size_t i = 0; i < s.t.size(); ++i) EXPECT_NEAR(*out[i], slow(s.t[i]), 0.001) << s.t[i];
}

TEST(LowPass, HalvesTheEnergyAtItsCutoff) {
  const Sampled s = sampled(60, 8, [](double t) { return std::sin(2 * kPi * 6 * t); });
  const auto out = lowPass(s.t, s.v, 6);
  double most = 0;
  for (std::size_t i = 120; i < 360; ++i) most = std::max(most, std::abs(*out[i]));
  EXPECT_NEAR(most, std::sqrt(0.5), 0.03);
}

TEST(LowPass, TakesOutJitter) {
  const Sampled s = sampled(60, 4, [](double t) { return 0.01 * std::sin(2 * kPi * 25 * t); });
  const auto out = lowPass(s.t, s.v, 6);
  for (std::size_t i = 60; i < 180; ++i) EXPECT_LT(std::abs(*out[i]), 0.0005);
}

TEST(LowPass, LeavesALongGapAGapAndAShortOneToo) {
  Sampled s = sampled(30, 4, [](double t) { return t; });
  for (std::size_t i = 30; i < 33; ++i) s.v[i].reset();  // 0.1 s
  for (std::size_t i = 60; i < 90; ++i) s.v[i].reset();  // 1 s
  const auto out = lowPass(s.t, s.v, 6);
  EXPECT_FALSE(out[31]);
  EXPECT_FALSE(out[75]);
  for (std::size_t i : {0u, 29u, 33u, 59u, 90u, 119u})
    EXPECT_NEAR(*out[i], s.t[i], 1e-4) << "a straight line stays one, to what the filter settles at its start";
}

TEST(LowPass, AcceptsUnevenTimes) {
  std::vector<double> t;
  Values v;
  for (int i = 0; i < 150; ++i) {
    t.push_back(i / 30.0 + 0.008 * std::sin(1.7 * i));
    v.emplace_back(0.3 * std::sin(kPi * t.back()));
  }
  const auto out = lowPass(t, v, 6);
  for (std::size_t i = 5; i + 5 < t.size(); ++i) EXPECT_NEAR(*out[i], 0.3 * std::sin(kPi * t[i]), 0.004);
}

// z = 0.3 m (1 - cos pi t), so v = 0.3 pi sin pi t. Central difference errs by h^2 w^2 / 6 of the peak = 0.0017 m/s.
TEST(Rate, MatchesTheClosedFormAwayFromTheEnds) {
  const Sampled s = sampled(30, 2, [](double t) { return 0.3 * (1 - std::cos(kPi * t)); });
  const auto v = rateOf(s.t, s.v);
  for (std::size_t i = 1; i + 1 < s.t.size(); ++i) EXPECT_NEAR(*v[i], 0.3 * kPi * std::sin(kPi * s.t[i]), 0.002);
}

// A set: rest, then for each rep down (half a cosine), pause, up, rest.
struct Script {
  int reps = 3;
  double down_s = 1.5, pause_s = 0, up_s = 1.2, rest_s = 1.0, stroke_m = 0.6, top_m = 1.4;
  double heightAt(double t) const {
    for (int r = 0; r < reps; ++r) {
      const double from = rest_s + r * (down_s + pause_s + up_s + rest_s);
      const double d = t - from;
      if (d < 0) return top_m;
      if (d < down_s) return top_m - stroke_m * (1 - std::cos(kPi * d / down_s)) / 2;
      if (d < down_s + pause_s) return top_m - stroke_m;
      if (d < down_s + pause_s + up_s)
        return top_m - stroke_m * (1 + std::cos(kPi * (d - down_s - pause_s) / up_s)) / 2;
    }
    return top_m;
  }
  double bottom(int r) const { return rest_s + r * (down_s + pause_s + up_s + rest_s) + down_s; }
  double duration() const { return rest_s + reps * (down_s + pause_s + up_s + rest_s) + 0.5; }
};

Motion barMotion(
    const Script& script, double rate_hz = 30,
    const std::function<double(double)>& extra = [](double) { return 0.0; }) {
  std::vector<double> t;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres;
  for (int i = 0; i < static_cast<int>(script.duration() * rate_hz); ++i) {
    t.push_back(i / rate_hz);
    std::array<std::optional<MetrePoint>, tracing::kLandmarks> frame;
    frame[tracing::at(Landmark::Bar)] = MetrePoint{0, script.heightAt(t.back()) + extra(t.back())};
    metres.push_back(frame);
  }
  return exactMotion(t, metres);
}

// Half a cosine leaves rest by 1 cm after T/pi acos(1 - 2 * 0.01 / stroke).
double leaving(double time_s, double stroke_m) {
  return time_s / kPi * std::acos(1 - 0.02 / stroke_m);
}

TEST(Reps, AreCountedAndTimedToTheFrame) {
  const Script script;
  const auto reps = findReps(barMotion(script), motion::RepPattern::DownFirst);
  ASSERT_EQ(reps.size(), 3u);
  for (int r = 0; r < 3; ++r) {
    const Rep& rep = reps[static_cast<std::size_t>(r)];
    const double start = script.bottom(r) - script.down_s + leaving(script.down_s, script.stroke_m);
    EXPECT_NEAR(rep.start_t(), start, 0.02);
    EXPECT_NEAR(rep.bottom_t(), script.bottom(r), 0.05);
    EXPECT_NEAR(rep.lockout_t(), script.bottom(r) + script.up_s - leaving(script.up_s, script.stroke_m), 0.02);
    EXPECT_NEAR(rep.stroke_m, 0.6, 0.002);
  }
}

TEST(Reps, AreTheSameAtAnotherFrameRate) {
  const auto a = findReps(barMotion({}, 24), motion::RepPattern::DownFirst),
             b = findReps(barMotion({}, 60), motion::RepPattern::DownFirst);
  ASSERT_EQ(a.size(), b.size());
  for (std::size_t i = 0; i < a.size(); ++i) EXPECT_NEAR(a[i].bottom_t(), b[i].bottom_t(), 0.05);
}

TEST(Reps, SeeAPause) {
  Script script;
  script.pause_s = 2.0;
  const auto reps = findReps(barMotion(script), motion::RepPattern::DownFirst);
  ASSERT_EQ(reps.size(), 3u);
  EXPECT_NEAR(reps[0].ascent_t() - reps[0].bottom_t(), 2.0, 0.25);
}

TEST(Reps, PassOverUnrackWalkOutAndReRack) {
  Script script;
  script.reps = 2;
  const double end = script.duration() - 0.6;
  // 5 cm up out of the hooks at the start, 8 cm down into them at the end, a bob of 2 cm while walking.
  const auto reps = findReps(barMotion(script, 30,
                                       [&](double t) {
                                         const double unrack = t < 0.3 ? -0.05 * (1 - t / 0.3) : 0;
                                         const double rerack = t > end ? -0.08 * std::min(1.0, (t - end) / 0.3) : 0;
                                         const double bob = t > 0.3 && t < 0.8 ? 0.02 * std::sin(20 * t) : 0;
                                         return unrack + rerack + bob;
                                       }),
                             RepPattern::DownFirst);
  EXPECT_EQ(reps.size(), 2u);
}

TEST(Reps, DoNotCountADescentThatNeverComesBack) {
  Script script;
  script.reps = 1;
  const double stuck = script.bottom(0) + 0.4;
  EXPECT_TRUE(
      findReps(barMotion(script, 30,
                         [&](double t) { return t > stuck ? script.heightAt(stuck) - script.heightAt(t) : 0.0; }),
               RepPattern::DownFirst)
          .empty());
}

// The bar's motion whose speed runs straight through (time, speed).
Motion withSpeeds(const std::vector<std::pair<double, double>>& knots) {
  std::vector<double> t;
  std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> metres;
  double z = 1.4, before = 0;
  for (int i = 0; i < static_cast<int>(60 * knots.back().first); ++i) {
    const double now = i / 60.0;
    std::size_t k = 1;
    while (knots[k].first < now) ++k;
    const auto& [t0, v0] = knots[k - 1];
    const auto& [t1, v1] = knots[k];
    const double v = v0 + (v1 - v0) * (now - t0) / (t1 - t0);
    z += (v + before) / 2 / 60;
    before = v;
    std::array<std::optional<MetrePoint>, tracing::kLandmarks> frame;
    frame[tracing::at(Landmark::Bar)] = MetrePoint{0, z};
    t.push_back(now);
    metres.push_back(frame);
  }
  return exactMotion(t, metres);
}

TEST(Reps, StickingIsWhereTheBarSlowsDownNotWhereItGropes) {
  const auto reps = findReps(withSpeeds({{0, 0},
                                         {1, 0},
                                         {1.75, -0.6},
                                         {2.5, 0},
                                         {2.58, 0.06},
                                         {2.66, 0.03},
                                         {2.9, 0.4},
                                         {3.3, 0.22},
                                         {3.7, 0.55},
                                         {4.08, 0},
                                         {5, 0}}),
                             motion::RepPattern::DownFirst);
  ASSERT_EQ(reps.size(), 1u);
  ASSERT_TRUE(reps[0].when(EventKind::Sticking));
  EXPECT_NEAR(*reps[0].when(EventKind::Sticking), 3.3, 0.03);
}

TEST(Reps, GropingAloneIsNoSticking) {
  const auto reps = findReps(
      withSpeeds({{0, 0}, {1, 0}, {1.75, -0.6}, {2.5, 0}, {2.58, 0.06}, {2.66, 0.03}, {3.2, 0.6}, {4.18, 0}, {5, 0}}),
      motion::RepPattern::DownFirst);
  ASSERT_EQ(reps.size(), 1u);
  EXPECT_FALSE(reps[0].when(EventKind::Sticking));
}

TEST(Reps, NoneInABarThatStandsStill) {
  Script script;
  script.reps = 0;
  script.rest_s = 4;
  EXPECT_TRUE(findReps(barMotion(script), motion::RepPattern::DownFirst).empty());
}

TEST(Motion, DividesTheSlowFactorOutOfSpeeds) {
  Motion m;
  m.slow_factor = 4;
  EXPECT_DOUBLE_EQ(m.real_s(1.0, 5.0), 1.0);
}

}  // namespace
}  // namespace jib::motion
