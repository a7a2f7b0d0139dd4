// SPDX-License-Identifier: GPL-3.0-or-later
// What a finding rests on rep by rep, in which order findings deserve a look, and what they say to a bookmark.
#include "core/coaching/reading.h"

#include <gtest/gtest.h>

#include "core/coaching/bookmark.h"

namespace jib::coaching {
namespace {

const lifts::MeasureDefinition kDepth{"hip_crease_above_knee_m", "Hip crease above knee", "m", "Bottom"};

Finding finding(std::string id, Verdict verdict, int severity = 1, std::vector<int> reps = {}) {
  Finding f;
  f.id = std::move(id);
  f.verdict = verdict;
  f.severity = severity;
  f.reps = std::move(reps);
  f.kind = &kDepth;
  f.limit = 0;
  f.worst = {0.03, 0.01, 2};
  return f;
}

// Three reps at 2, 5 and 8 s: surely too high, too close to call, not seen.
lifts::SetMeasures threeReps() {
  lifts::SetMeasures m;
  m.reps.push_back({{&kDepth, lifts::Measured{0.05, 0.01, 2}}});
  m.reps.push_back({{&kDepth, lifts::Measured{0.005, 0.01, 5}}});
  m.reps.push_back({{&kDepth, lifts::Absent{"hidden"}}});
  return m;
}

std::vector<motion::Rep> threeTimes() {
  return {motion::loweredAndRaised(1, 2, 2.1, 3, 0.5), motion::loweredAndRaised(4, 5, 5.1, 6, 0.5),
          motion::loweredAndRaised(7, 8, 8.1, 9, 0.5)};
}

TEST(Readings, AreEachRepsOwnVerdictWithoutThoseThatWereNotSeen) {
  const auto readings = readingsOf(threeReps(), finding("squat.too_high", Verdict::Yes));
  ASSERT_EQ(readings.size(), 2u);
  EXPECT_EQ(readings[0].rep, 1);
  EXPECT_EQ(readings[0].verdict, Verdict::Yes);
  EXPECT_EQ(readings[1].rep, 2);
  EXPECT_EQ(readings[1].verdict, Verdict::TooClose);
  Finding by_eye = finding("own.grip", Verdict::Yes);
  by_eye.kind = nullptr;
  EXPECT_TRUE(readingsOf(threeReps(), by_eye).empty());
}

TEST(Worth, PutsWhatIsChosenFirstThenTheStrongestThenTheOpen) {
  const std::vector<Finding> all{finding("fine", Verdict::No, 0), finding("close", Verdict::TooClose, 0),
                                 finding("slight", Verdict::Yes, 1), finding("strong", Verdict::Yes, 3),
                                 finding("chosen", Verdict::TooClose, 0)};
  std::vector<std::string> order;
  for (const auto* f : byWorth(all, {"chosen"})) order.push_back(f->id);
  EXPECT_EQ(order, (std::vector<std::string>{"chosen", "strong", "slight", "close", "fine"}));
}

TEST(Bookmark, IsHeldAgainstTheFindingThatWasPicked) {
  const auto echo = [&](const Bookmark& b, const Finding& f) { return echoOf(b, {f}, threeReps(), threeTimes()).echo; };
  const Bookmark in_first{2.4, "high", "squat.too_high"};
  EXPECT_EQ(echo(in_first, finding("squat.too_high", Verdict::Yes, 1, {1})), Echo::Agrees);
  EXPECT_EQ(echo(in_first, finding("squat.too_high", Verdict::Yes, 1, {2})), Echo::OtherRep);
  EXPECT_EQ(echo(in_first, finding("squat.too_high", Verdict::Yes)), Echo::Agrees) << "of the whole set";
  EXPECT_EQ(echo(in_first, finding("squat.too_high", Verdict::TooClose)), Echo::TooClose);
  EXPECT_EQ(echo(in_first, finding("squat.too_high", Verdict::No)), Echo::Disagrees);
  EXPECT_EQ(echo(in_first, finding("squat.heels_lift", Verdict::Yes)), Echo::NotMeasured);
  // The finger comes after the eye: just after a rep the rep is meant.
  EXPECT_EQ(echo({3.6, "high", "squat.too_high"}, finding("squat.too_high", Verdict::Yes, 1, {1})), Echo::Agrees);
  EXPECT_EQ(echo({4.2, "high", "squat.too_high"}, finding("squat.too_high", Verdict::Yes, 1, {1})), Echo::OtherRep)
      << "by then the next one runs";
}

TEST(Bookmark, OfOwnWordsFindsWhatWasFoundJustBeforeIt) {
  const std::vector<Finding> found{finding("squat.too_high", Verdict::Yes, 1, {1})};
  const auto near = echoOf({2.9, "hm", ""}, found, threeReps(), threeTimes());
  EXPECT_EQ(near.echo, Echo::Near);
  ASSERT_EQ(near.findings.size(), 1u);
  EXPECT_EQ(near.findings[0]->id, "squat.too_high");
  EXPECT_EQ(echoOf({1.2, "hm", ""}, found, threeReps(), threeTimes()).echo, Echo::NotMeasured) << "before it showed";
  EXPECT_EQ(echoOf({6.0, "hm", ""}, found, threeReps(), threeTimes()).echo, Echo::NotMeasured)
      << "the second rep's is too close to call";
}

TEST(Bookmark, IsReadBackAndDamagedOnesAreLeftOut) {
  const Bookmarks all{{1.25, "knees “in”", "squat.knees_cave"}, {3, "", ""}};
  EXPECT_EQ(bookmarksFromJson(bookmarksToJson(all)), all);
  EXPECT_EQ(bookmarksFromJson(R"([{"t_s": "late"}, 7, {"t_s": 2, "word": 5}])"), (Bookmarks{{2, "", ""}}));
  EXPECT_TRUE(bookmarksFromJson("not json").empty());
}

}  // namespace
}  // namespace jib::coaching
