// SPDX-License-Identifier: GPL-3.0-or-later
// Several sets in one clip: cut by rest, one of them judged.
#include "core/motion/sets.h"

#include <gtest/gtest.h>

#include "core/base/angle.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/must.h"

namespace jib::motion {
namespace {

std::vector<Rep> fiveReps() {
  std::vector<Rep> reps;
  for (int i = 0; i < 5; ++i) {
    const double start_t = 5.0 * i + (i >= 3 ? 60 : 0);
    reps.push_back(loweredAndRaised(start_t, start_t + 1, start_t + 1, start_t + 3, 0.6));
  }
  return reps;
}

TEST(Sets, ArePartedByALongRest) {
  const auto sets = cutSets(fiveReps(), 1);
  ASSERT_EQ(sets.size(), 2u);
  EXPECT_EQ(sets[0].count, 3u);
  EXPECT_EQ(sets[1].first, 3u);
  EXPECT_EQ(sets[1].count, 2u);
  EXPECT_EQ(sets[0].to_s, 13);
  EXPECT_EQ(sets[1].from_s, 75);
  EXPECT_EQ(cutSets(fiveReps(), 4).size(), 1u) << "in slow motion the pause is a quarter as long";
  EXPECT_TRUE(cutSets({}, 1).empty());
}

TEST(Sets, ArePartedAndJoinedWhereTheCoachSays) {
  const auto joined = cutSets(fiveReps(), 1, {{}, {}, {}, false, {}});
  ASSERT_EQ(joined.size(), 1u) << "the bar was re-racked and taken again";
  const auto parted = cutSets(fiveReps(), 1, {false, true});
  ASSERT_EQ(parted.size(), 3u) << "the first rep opens a set whatever is said of it";
  EXPECT_EQ(parted[1].first, 1u);
  EXPECT_EQ(parted[1].count, 2u);
}

TEST(Sets, TheTopOneIsTheHeaviestElseTheLast) {
  const std::vector<SetSpan> three(3);
  EXPECT_EQ(topSet(three, {}), 2u);
  EXPECT_EQ(topSet(three, {std::nullopt, std::nullopt, std::nullopt}), 2u);
  EXPECT_EQ(topSet(three, {100, 140, 120}), 1u);
  EXPECT_EQ(topSet(three, {140, std::nullopt, 140}), 2u) << "of equals the later";
  EXPECT_EQ(topSet(three, {120}), 0u) << "the only one that is known";
}

// The small clip's two reps, parted as if a minute lay between them.
coaching::Analysis partedClip(const std::optional<coaching::SetChoice>& choice) {
  coaching::Analysis a = tests::smallAnalysis();
  EXPECT_GE(a.reps.size(), 2u);
  const double middle = (a.reps[0].lockout_t() + a.reps[1].start_t()) / 2;
  auto bar = std::make_shared<tracing::BarTrace>(*a.trace.bar);
  for (auto* times : {&bar->times_s, &a.trace.trace.times_s})
    for (double& t : *times)
      if (t > middle) t += 60;
  a.trace.bar = bar;
  a.request.one_set = choice;
  coaching::judgeAgain(a, *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  return a;
}

// Down and up twice, a rest, and twice again: heights in pixels, ten frames a second.
tracing::BarTrace twoSets(double rest_s) {
  tracing::BarTrace bar;
  const auto stand = [&](double s) {
    for (int i = 0; i < 10 * s; ++i)
      bar.plate.push_back(tracing::TracedPoint{{300, 100}, 0.3, tracing::Origin::Optical});
  };
  const auto rep = [&] {
    for (int i = 0; i < 30; ++i)
      bar.plate.push_back(
          tracing::TracedPoint{{300, 200 - 100 * std::cos(2 * kPi * i / 30)}, 0.3, tracing::Origin::Optical});
  };
  stand(3);
  rep();
  stand(1);
  rep();
  stand(rest_s);
  rep();
  stand(1);
  rep();
  for (std::size_t i = 0; i < bar.plate.size(); ++i) bar.times_s.push_back(static_cast<double>(i) / 10);
  return bar;
}

TEST(Sets, PointsArePlacedBeforeTheFirstDescentOfTheLastSet) {
  EXPECT_LT(tracing::quietFrame(twoSets(4)), 30u) << "a short pause parts nothing";
  const auto bar = twoSets(40);
  const double at = bar.times_s[tracing::quietFrame(bar)];
  EXPECT_GT(at, 12) << "not in the first set";
  EXPECT_LT(at, 50.5) << "and before the last goes down";
  EXPECT_EQ(bar.plate[tracing::quietFrame(bar)]->place.y, 100) << "standing";
}

TEST(Sets, PointsOfAnEarlierSetArePlacedBeforeItsOwnFirstDescent) {
  const auto bar = twoSets(40);
  const double at = bar.times_s[tracing::quietFrame(bar, 45)];  // the first bottom is at 4.5 s
  EXPECT_LT(at, 3.6);
  EXPECT_EQ(tracing::quietFrame(bar, 520), tracing::quietFrame(bar)) << "in the last set";
}

TEST(Sets, TheBodyIsLookedForInTheSetThatIsJudged) {
  // The small clip twice, with 25 s of standing between, and the second time a step further along.
  const tests::ScratchFolder folder;
  const auto clip = folder / "two.mp4";
  ASSERT_TRUE(tests::run(std::string("ffmpeg -y -i ") + JIB_MADE_CLIP + " -i " + JIB_MADE_CLIP +
                         " -filter_complex "
                         "\"[0:v]tpad=stop_mode=clone:stop_duration=25[a];[1:v]crop=iw-50:ih:50:0,pad=iw+50:ih:0:0[b];["
                         "a][b]concat=n=2:v=1\" " +
                         clip.string()));
  const auto style = *coaching::shippedStyle("balanced");
  const auto book = *coaching::CueBook::shipped();
  const auto judged = [&](int set, tracing::KnownTrace known) {
    auto reader = footage::FrameReader::open(clip);
    coaching::AnalysisRequest request;
    request.one_set = coaching::SetChoice{set, {}};
    Task task;
    return tests::must(coaching::analyse(*reader, request, style, book, task, std::move(known)));
  };
  const auto bodyAtBottom = [](const coaching::Analysis& a) {
    return a.trace.body && a.trace.body->poses[a.motion.frameAt(a.reps.front().bottom_t())].has_value();
  };
  auto last = judged(1, {});
  ASSERT_EQ(last.sets.size(), 2u);
  EXPECT_EQ(last.set, 1u);
  EXPECT_TRUE(bodyAtBottom(last));
  EXPECT_FALSE(coaching::bodyMissingAt(last));
  // The coach turns to the first set: what was seen is kept, what was not is looked for.
  coaching::Analysis turned = last;
  turned.request.one_set = coaching::SetChoice{0, {}};
  coaching::judgeAgain(turned, style, book);
  EXPECT_TRUE(coaching::bodyMissingAt(turned));
  const auto first = judged(0, {last.trace.bar, last.trace.sightings});
  EXPECT_EQ(first.set, 0u);
  EXPECT_TRUE(bodyAtBottom(first));
  EXPECT_GT(first.trace.sightings->size(), last.trace.sightings->size());
  EXPECT_LT(first.reps.front().bottom_t(), 20);
}

TEST(Sets, OneSetOfAClipIsJudgedAndSaid) {
  const auto whole = partedClip(std::nullopt);
  ASSERT_EQ(whole.sets.size(), 2u);
  EXPECT_FALSE(whole.set);
  EXPECT_EQ(whole.measures.reps.size(), whole.reps.size());
  EXPECT_EQ(whole.reps.size(), 2u);
  const auto top = partedClip(coaching::SetChoice{});
  EXPECT_EQ(top.set, 1u) << "the last, as sets climb";
  ASSERT_EQ(top.reps.size(), 1u);
  EXPECT_GT(top.reps[0].start_t(), 60);
  EXPECT_EQ(partedClip(coaching::SetChoice{std::nullopt, {150, 120}}).set, 0u) << "the heavier";
  const auto first = partedClip(coaching::SetChoice{0, {}});
  EXPECT_LT(first.reps.at(0).lockout_t(), 60);
  EXPECT_EQ(partedClip(coaching::SetChoice{7, {}}).set, 1u) << "a set that is no longer there";
  EXPECT_TRUE(std::any_of(top.notices.begin(), top.notices.end(), [](const auto& n) {
    return n.id == "one_of_sets" && n.text.find("2 sets. This is set 2") != std::string::npos;
  }));
}

}  // namespace
}  // namespace jib::motion
