// SPDX-License-Identifier: GPL-3.0-or-later
// What one posture has over another is told with its ±, and nothing is told of a film with itself.
#include "core/coaching/then_now.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"
#include "tests/core/analysed_clip.h"

namespace jib::coaching {
namespace {

const MomentDifference* named(const std::vector<MomentDifference>& all, const char* title) {
  for (const MomentDifference& d : all)
    if (d.title == title) return &d;
  return nullptr;
}

// The shoulder of every frame turned about the hip, forward.
Analysis leaning(double more_deg) {
  Analysis a = tests::unplaced();
  auto& shoulder = a.motion.paths[tracing::at(tracing::Landmark::Shoulder)].at;
  const auto& hip = a.motion.path(tracing::Landmark::Hip).at;
  for (std::size_t i = 0; i < shoulder.size(); ++i) {
    if (!shoulder[i] || !hip[i]) continue;
    const double dx = shoulder[i]->x - hip[i]->x, dz = shoulder[i]->z - hip[i]->z;
    const double c = std::cos(radians(more_deg)), s = std::sin(radians(more_deg));
    shoulder[i] = MetrePoint{hip[i]->x + c * dx + s * dz, hip[i]->z - s * dx + c * dz};
  }
  return a;
}

TEST(ThenNow, AFilmDiffersFromItselfInNothing) {
  const Analysis& a = tests::unplaced();
  const double t = a.reps[0].bottom_t();
  const auto all = differencesAt(a, t, a, t);
  ASSERT_GE(all.size(), 3u);
  for (const MomentDifference& d : all) {
    EXPECT_EQ(d.value, 0) << d.title;
    EXPECT_GT(d.sigma, 0) << d.title;
    EXPECT_NE(d.text().find("same (±"), std::string::npos) << d.text();
  }
}

TEST(ThenNow, ALeanOfSoManyDegreesIsReadOff) {
  const Analysis now = leaning(20);
  const Analysis& then = tests::unplaced();
  const double t = then.reps[0].bottom_t();
  const auto all = differencesAt(now, t, then, t);
  const auto* torso = named(all, "Torso");
  ASSERT_NE(torso, nullptr);
  EXPECT_NEAR(torso->value, 20, 1e-6);
  EXPECT_NE(torso->text().find("more leaned"), std::string::npos) << torso->text();
  EXPECT_NE(named(differencesAt(then, t, now, t), "Torso")->text().find("more upright"), std::string::npos);
  EXPECT_FALSE(named(all, "Shins")->sure()) << "they have not moved";
  // What is filmed otherwise is told with a wider ±, in the end as nothing.
  EXPECT_FALSE(named(differencesAt(now, t, then, t, 20), "Torso")->sure());
}

TEST(ThenNow, WithoutABodyNothingIsCompared) {
  Analysis bare = tests::unplaced();
  bare.trace.body.reset();
  const Analysis& then = tests::unplaced();
  EXPECT_TRUE(differencesAt(bare, 1, then, 1).empty());
}

}  // namespace
}  // namespace jib::coaching
