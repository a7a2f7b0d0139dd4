// SPDX-License-Identifier: GPL-3.0-or-later
// A front squat: the bar lies before the shoulders, and what is told of body and lift follows from there.
#include <gtest/gtest.h>

#include "core/simulate/truth_file.h"
#include "tests/core/kept_analysis.h"

namespace jib {
namespace {

struct Racked {
  simulate::TrueSet truth = simulate::trueSet(simulate::truthOf(
      *simulate::parseSpec(tests::bytesOf(std::filesystem::path(JIB_TEST_DATA) / "small-racked.json"))));
  coaching::Analysis a;
  Racked() {
    coaching::AnalysisRequest request;
    request.variant = "front";
    a = tests::keptAnalysis("racked", std::filesystem::path(JIB_MADE_CLIPS) / "small-racked.mp4", request);
  }
};

TEST(FrontSquat, IsFollowedWithTheBarBeforeTheShoulders) {
  const Racked f;
  ASSERT_EQ(f.a.reps.size(), 1u);
  ASSERT_TRUE(f.a.trace.body);
  EXPECT_GT(f.a.trace.body->skeleton.bar_ahead_m, 0.03);
  for (const char* id : {"hip_crease_above_knee_m", "trunk_lean_bottom_deg", "shin_bottom_deg", "bar_to_midfoot_max_m",
                         "trunk_lean_gain_deg", "descent_s"}) {
    const auto* measured = lifts::find(f.a.measures.reps.at(0), id);
    const auto* wanted = lifts::find(f.truth.measures.reps.at(0), id);
    ASSERT_TRUE(measured && measured->measured()) << id;
    ASSERT_TRUE(wanted && wanted->measured()) << id;
    EXPECT_LE(std::abs(measured->measured()->value - wanted->measured()->value), 2.6 * measured->measured()->sigma)
        << id << ": " << measured->measured()->value << " for " << wanted->measured()->value;
  }
}

TEST(FrontSquat, NoVerdictThatIsSureIsWrong) {
  const Racked f;
  const auto style = *coaching::shippedStyle("balanced");
  const auto true_findings = coaching::judge(f.truth.measures, style, lifts::definition(lifts::LiftId::Squat), "front");
  for (const auto& finding : f.a.findings) {
    if (finding.verdict == coaching::Verdict::TooClose) continue;
    const auto same =
        std::find_if(true_findings.begin(), true_findings.end(), [&](const auto& t) { return t.id == finding.id; });
    if (same == true_findings.end() || same->verdict == coaching::Verdict::TooClose) continue;
    EXPECT_EQ(finding.verdict, same->verdict) << finding.id;
  }
}

}  // namespace
}  // namespace jib
