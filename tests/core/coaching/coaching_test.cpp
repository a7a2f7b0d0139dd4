// SPDX-License-Identifier: GPL-3.0-or-later
// Styles, verdicts and the choice of cues.
#include <gtest/gtest.h>

#include "core/coaching/cue.h"
#include "core/coaching/style_book.h"
#include "core/lifts/measure_set.h"
#include "tests/core/scratch_folder.h"

namespace jib::coaching {
namespace {

const lifts::LiftDefinition& kSquat = lifts::definition(lifts::LiftId::Squat);

using lifts::Measured;
using tests::ScratchFolder;

Limit limitAt(double limit, Side side) {
  Limit l;
  l.finding = "squat.test";
  l.measure = "trunk_lean_gain_deg";
  l.side = side;
  l.limit = limit;
  l.strong = 2 * limit;
  return l;
}

// sigma 1, so that 1.64 either way of the limit is "too close".
TEST(Verdict, IsOnlySureBeyond164Sigma) {
  const Limit above = limitAt(7, Side::Above);
  EXPECT_EQ(verdictOf({7 + 1.65, 1, 0}, above), Verdict::Yes);
  EXPECT_EQ(verdictOf({7 + 1.63, 1, 0}, above), Verdict::TooClose);
  EXPECT_EQ(verdictOf({7 - 1.63, 1, 0}, above), Verdict::TooClose);
  EXPECT_EQ(verdictOf({7 - 1.65, 1, 0}, above), Verdict::No);
}

TEST(Verdict, KnowsItsSide) {
  EXPECT_EQ(verdictOf({0.5, 0.1, 0}, limitAt(1, Side::Below)), Verdict::Yes);
  EXPECT_EQ(verdictOf({1.5, 0.1, 0}, limitAt(1, Side::Below)), Verdict::No);
  EXPECT_EQ(verdictOf({-0.08, 0.01, 0}, limitAt(0.04, Side::Beyond)), Verdict::Yes);
  EXPECT_EQ(verdictOf({0.08, 0.01, 0}, limitAt(0.04, Side::Beyond)), Verdict::Yes);
  EXPECT_EQ(verdictOf({-0.01, 0.01, 0}, limitAt(0.04, Side::Beyond)), Verdict::No);
}

// A set with one measured value a rep for some measures.
lifts::SetMeasures setOf(const std::vector<std::pair<const char*, std::vector<double>>>& values,
                         double sigma_rel = 0.02) {
  lifts::SetMeasures set;
  for (const auto& [id, reps] : values) {
    set.reps.resize(std::max(set.reps.size(), reps.size()));
    for (std::size_t i = 0; i < reps.size(); ++i)
      set.reps[i].push_back({lifts::measureDefinition(id),
                             Measured{reps[i], std::abs(reps[i]) * sigma_rel + 1e-4, static_cast<double>(i)}});
  }
  return set;
}

struct Coach {
  Style style = *shippedStyle("balanced");
  CueBook book = *CueBook::shipped();
  std::optional<double> share_of_best;
  Proposal propose(const lifts::SetMeasures& set) const {
    return coaching::propose(judge(set, style, kSquat), {set.reps.size(), share_of_best}, book, style);
  }
};

TEST(Judge, NamesTheRepsAndTheWorstFrame) {
  const auto findings = judge(setOf({{"trunk_lean_gain_deg", {3, 12, 15}}}), *shippedStyle("balanced"), kSquat);
  ASSERT_EQ(findings.size(), 1u);
  EXPECT_EQ(findings[0].id, "squat.chest_drops");
  EXPECT_EQ(findings[0].reps, (std::vector<int>{2, 3}));
  EXPECT_EQ(findings[0].worst.value, 15);
  EXPECT_EQ(findings[0].worst.t_s, 2);
  EXPECT_EQ(findings[0].severity, 3);
}

TEST(Judge, IsSilentAboutWhatWasNotMeasured) {
  EXPECT_TRUE(judge(setOf({{"stroke_m", {0.6}}}), *shippedStyle("balanced"), kSquat).empty());
}

TEST(Judge, ChangesVerdictsWithTheStyleButNotValues) {
  const auto set = setOf({{"trunk_lean_gain_deg", {8.5, 8.5, 8.5}}});
  const auto balanced = judge(set, *shippedStyle("balanced"), kSquat),
             lean = judge(set, *shippedStyle("lean_friendly"), kSquat);
  EXPECT_EQ(balanced[0].verdict, Verdict::Yes);
  EXPECT_EQ(lean[0].verdict, Verdict::No);
  EXPECT_EQ(balanced[0].worst.value, lean[0].worst.value);
}

TEST(Propose, SaysChangeNothingWhenEveryCheckPasses) {
  const auto p = Coach().propose(setOf({{"trunk_lean_gain_deg", {2, 2}}, {"descent_s", {1.5, 1.5}}}));
  EXPECT_TRUE(p.change_nothing);
  EXPECT_TRUE(p.cues.empty());
  EXPECT_FALSE(p.keep.empty());
}

TEST(Propose, DoesNotSayChangeNothingWhenSomethingIsTooClose) {
  const auto p = Coach().propose(setOf({{"trunk_lean_gain_deg", {7, 7}}}));
  EXPECT_FALSE(p.change_nothing);
  EXPECT_TRUE(p.cues.empty());
}

TEST(Propose, TakesTheEarliestLinkAndLeavesWhatItClears) {
  // Knees sliding back usually brings hips leading and the chest dropping: one cue for the three.
  const auto p = Coach().propose(setOf({{"trunk_lean_gain_deg", {12, 13}},
                                        {"hip_shoulder_rise_ratio", {1.6, 1.7}},
                                        {"knee_slide_back_pct_shin", {20, 22}}}));
  ASSERT_EQ(p.cues.size(), 1u);
  EXPECT_EQ(p.cues[0].finding, "squat.knees_slide_back");
  ASSERT_EQ(p.parked.size(), 2u);
  EXPECT_EQ(p.parked[0].finding, "squat.hips_lead");
  EXPECT_EQ(p.parked[1].finding, "squat.chest_drops");
  EXPECT_FALSE(p.cues[0].why_first.empty());
  EXPECT_NE(p.cues[0].proof.find("12 %"), std::string::npos) << "the limit is in the words";
}

TEST(Propose, NeverSaysMoreThanTheStyleAllows) {
  const auto set = setOf({{"descent_s", {0.6, 0.6}},
                          {"heel_lift_m", {0.03, 0.03}},
                          {"hip_crease_above_knee_m", {0.06, 0.06}},
                          {"knee_slide_back_pct_shin", {22, 22}}});
  EXPECT_EQ(Coach().propose(set).cues.size(), 2u);
  Coach minimal;
  minimal.style = *shippedStyle("minimal");
  EXPECT_LE(minimal.propose(set).cues.size(), 1u);
}

TEST(Propose, PrefersWhatIsRepeated) {
  // Heels lift once (an earlier link), knees slide in every rep.
  const auto p =
      Coach().propose(setOf({{"heel_lift_m", {0.03, 0.0, 0.0}}, {"knee_slide_back_pct_shin", {20, 20, 20}}}));
  ASSERT_EQ(p.cues.size(), 2u);
  EXPECT_EQ(p.cues[0].finding, "squat.knees_slide_back");
}

TEST(Propose, PutsWhatMakesARepCountBeforeEconomy) {
  // A rushed descent is the earlier link, but too high is no lift.
  const auto p = Coach().propose(setOf({{"descent_s", {0.6, 0.6}}, {"hip_crease_above_knee_m", {0.05, 0.05}}}));
  ASSERT_EQ(p.cues.size(), 2u);
  EXPECT_EQ(p.cues[0].finding, "squat.too_high");
  EXPECT_NE(p.cues[0].why_first.find("whether the rep counts"), std::string::npos);
  EXPECT_FALSE(p.cues[0].price.empty());
}

TEST(Propose, SaysWhyAFindingIsLeft) {
  Coach minimal;
  minimal.style = *shippedStyle("minimal");
  const auto p = minimal.propose(setOf({{"descent_s", {0.4, 0.4}}, {"hip_crease_above_knee_m", {0.05, 0.05}}}));
  ASSERT_EQ(p.cues.size(), 1u);
  ASSERT_EQ(p.parked.size(), 1u);
  EXPECT_EQ(p.parked[0].finding, "squat.descent_too_fast");
  EXPECT_EQ(p.parked[0].why, "For later: one thing at a time.");
  Coach three;
  three.style.cue_limit = 3;
  const auto many = three.propose(setOf({{"descent_s", {0.4, 0.4}},
                                         {"hip_crease_above_knee_m", {0.05, 0.05}},
                                         {"heel_lift_m", {0.04, 0.04}},
                                         {"knee_slide_back_pct_shin", {25, 25}}}));
  EXPECT_EQ(many.cues.size(), 3u);
  ASSERT_EQ(many.parked.size(), 1u);
  EXPECT_EQ(many.parked[0].why, "For later: 3 things at a time.");
}

bool remarked(const Proposal& p, const std::string& words) {
  return std::any_of(p.remarks.begin(), p.remarks.end(),
                     [&](const std::string& r) { return r.find(words) != std::string::npos; });
}

TEST(Propose, RemarksHowFirmlyItMayBeSaid) {
  const auto one = Coach().propose(setOf({{"descent_s", {0.6}}}));
  EXPECT_TRUE(remarked(one, "not consistency"));
  Coach heavy;
  heavy.share_of_best = 0.93;
  const auto near_best = heavy.propose(setOf({{"trunk_lean_gain_deg", {12, 12}}, {"descent_s", {1.0, 1.0}}}));
  EXPECT_TRUE(remarked(near_best, "93 % of max"));
  EXPECT_TRUE(remarked(near_best, "Too close to call: Dive-bombs"));
  EXPECT_TRUE(remarked(near_best, "may start at the top")) << "a late link, with no look at the set-up";
  heavy.share_of_best = 0.7;
  const auto usual = heavy.propose(setOf({{"trunk_lean_gain_deg", {12, 12}}}));
  EXPECT_FALSE(remarked(usual, "of the best"));
  EXPECT_FALSE(remarked(usual, "Not sure"));
}

TEST(ShippedStyles, AllLoadAndJudgeTheSameFindings) {
  const auto shipped = StyleBook::shipped();
  ASSERT_TRUE(shipped) << shipped.error().sentence();
  const auto& styles = shipped->styles();
  ASSERT_EQ(styles.size(), 4u);
  const CueBook book = *CueBook::shipped();
  for (const Style& s : styles) {
    EXPECT_EQ(s.limits.size(), styles[0].limits.size()) << s.id;
    for (const Limit& l : s.limits) EXPECT_NE(book.entry(l.finding), nullptr) << l.finding;
  }
}

TEST(CueBook, NeverPromisesThatATrickPreventsInjury) {
  const CueBook book = *CueBook::shipped();
  const Style style = *shippedStyle("balanced");
  for (const Limit& l : style.limits) {
    const CueEntry& e = *book.entry(l.finding);
    for (const std::string& text : {e.drill, e.proof, e.side_effect, e.load}) {
      EXPECT_EQ(text.find("injur"), std::string::npos) << text;
      EXPECT_EQ(text.find("pain"), std::string::npos) << text;
    }
    EXPECT_GE(e.wordings.size(), 3u) << l.finding;
  }
}

std::string styleWith(const std::string& change_from, const std::string& change_to) {
  std::string text =
      "[style]\nid = \"x\"\ntitle = \"X\"\ncue_limit = 1\nwhy = \"w\"\n[squat.chest_drops]\nmeasure = "
      "\"trunk_lean_gain_deg\"\nside = \"above\"\nlimit = 7.0\nstrong = 14.0\nunit = \"deg\"\nwhy = \"w\"\nsettle = "
      "\"s\"\n";
  if (const auto p = text.find(change_from); p != std::string::npos) text.replace(p, change_from.size(), change_to);
  return text;
}

TEST(StyleFile, IsReadAsWritten) {
  const ScratchFolder folder;
  const auto s = loadStyle(folder.write("x.toml", styleWith("", "")));
  ASSERT_TRUE(s) << s.error().what;
  EXPECT_EQ(s->limit("squat.chest_drops")->limit, 7);
}

TEST(StyleFile, RefusesWhatItDoesNotKnowWithFileAndLine) {
  const ScratchFolder folder;
  const std::pair<const char*, const char*> wrong[] = {{"limit = 7.0", "limit = \"seven\""},
                                                       {"unit = \"deg\"", "unit = \"rad\""},
                                                       {"side = \"above\"", "side = \"over\""},
                                                       {"trunk_lean_gain_deg", "trunk_lean_gian_deg"},
                                                       {"settle = \"s\"", "setle = \"s\""},
                                                       {"strong = 14.0\n", ""},
                                                       {"[style]", "[stile]"},
                                                       {"id = \"x\"", "id = x"}};
  for (const auto& [from, to] : wrong) {
    const auto s = loadStyle(folder.write("x.toml", styleWith(from, to)));
    ASSERT_FALSE(s) << to;
    EXPECT_EQ(s.error().code, ErrorCode::BadData);
    EXPECT_NE(s.error().what.find("x.toml, line "), std::string::npos) << s.error().what;
  }
}

}  // namespace
}  // namespace jib::coaching
