// SPDX-License-Identifier: GPL-3.0-or-later
// When a rep is over: the bar at its height, and the joints done extending.
#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/base/angle.h"
#include "core/motion/reps.h"

namespace jib::motion {
namespace {

using tracing::at;
using tracing::Landmark;

constexpr double kDown_s = 1.0, kBottom_s = 2.4, kUp_s = 3.6, kEnd_s = 5.5, kRate_hz = 60;

// One squat. The knees go on closing for `late_s` after the bar is up, by `soft_deg`.
struct Squat {
  double late_s = 0, soft_deg = 0, jitter_deg = 0;
  bool joints = true;
  double wander_m = 0.002;

  double share(double t) const {  // 1 at the bottom
    if (t < kDown_s || t > kUp_s) return 0;
    const double p = t < kBottom_s ? (t - kDown_s) / (kBottom_s - kDown_s) : (kUp_s - t) / (kUp_s - kBottom_s);
    return (1 - std::cos(kPi * p)) / 2;
  }
  double softness_deg(double t) const {
    if (t < kDown_s || late_s <= 0) return 0;
    return soft_deg * std::clamp((kUp_s + late_s - t) / late_s, 0.0, 1.0) * (t > kBottom_s ? 1 : 0);
  }

  Motion motion() const {
    std::mt19937 random(9);
    std::normal_distribution<double> jitter(0, jitter_deg);
    std::vector<double> times;
    std::vector<std::array<std::optional<MetrePoint>, tracing::kLandmarks>> places;
    for (int i = 0; i < static_cast<int>(kEnd_s * kRate_hz); ++i) {
      const double t = i / kRate_hz, s = share(t), bend = radians(55 * s + softness_deg(t) + jitter(random));
      std::array<std::optional<MetrePoint>, tracing::kLandmarks> p;
      p[at(Landmark::Bar)] = MetrePoint{0, 1.4 - 0.6 * s};
      if (joints) {
        const MetrePoint ankle{0, 0.1}, knee = ankle + MetrePoint{0.42 * std::sin(bend), 0.42 * std::cos(bend)};
        const MetrePoint hip = knee + MetrePoint{-0.42 * std::sin(bend), 0.42 * std::cos(bend)};
        p[at(Landmark::Ankle)] = ankle;
        p[at(Landmark::Knee)] = knee;
        p[at(Landmark::Hip)] = hip;
        p[at(Landmark::Shoulder)] = hip + MetrePoint{0.1, 0.5};
      }
      times.push_back(t);
      places.push_back(p);
    }
    Motion m = exactMotion(times, places);
    for (auto& path : m.paths) std::fill(path.wander_m.begin(), path.wander_m.end(), wander_m);
    return m;
  }
  Rep rep() const {
    const auto reps = findReps(motion(), motion::RepPattern::DownFirst);
    EXPECT_EQ(reps.size(), 1u);
    return reps.empty() ? Rep{} : reps.front();
  }
};

TEST(Lockout, IsWhereTheBarArrivesWhenTheJointsAreDone) {
  const Rep rep = Squat{}.rep();
  EXPECT_NEAR(rep.lockout_t(), kUp_s, 0.12);
  EXPECT_LT(rep.lockout_t(), kUp_s + 0.02);
}

TEST(Lockout, WaitsForKneesThatAreStillClosing) {
  const Rep prompt = Squat{}.rep();
  const Rep late = Squat{.late_s = 0.4, .soft_deg = 12}.rep();
  EXPECT_GT(late.lockout_t(), prompt.lockout_t() + 0.15);
  EXPECT_LT(late.lockout_t(), kUp_s + 0.45);
}

TEST(Lockout, SaysHowMuchTheJointsLeaveUndecided) {
  const Rep prompt = Squat{}.rep();
  const Rep late = Squat{.late_s = 0.4, .soft_deg = 12}.rep();
  EXPECT_GT(late.sigma_s(EventKind::Lockout), prompt.sigma_s(EventKind::Lockout) + 0.05);
}

TEST(Lockout, IsNotHeldUpByPointsThatWander) {
  // Points that may wander by a centimetre make the knee's angle shake by degrees long after it is straight.
  const Rep rep = Squat{.jitter_deg = 1.2, .wander_m = 0.01}.rep();
  EXPECT_NEAR(rep.lockout_t(), Squat{}.rep().lockout_t(), 0.08);
}

TEST(Lockout, FromTheBarAloneIsLessSure) {
  const Rep bar = Squat{.joints = false}.rep(), both = Squat{}.rep();
  EXPECT_GT(bar.sigma_s(EventKind::Lockout), 0.04);
  EXPECT_LT(both.sigma_s(EventKind::Lockout), bar.sigma_s(EventKind::Lockout));
}

}  // namespace
}  // namespace jib::motion
