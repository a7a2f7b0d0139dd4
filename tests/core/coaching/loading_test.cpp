// SPDX-License-Identifier: GPL-3.0-or-later
// What is on the bar, and what a load says of a best.
#include "core/coaching/loading.h"
#include "core/base/quantity.h"

#include <gtest/gtest.h>

namespace jib::coaching {
namespace {

int plate(std::string_view name) {
  for (std::size_t k = 0; k < kPlateKinds.size(); ++k)
    if (kPlateKinds[k].name == name) return static_cast<int>(k);
  ADD_FAILURE() << "no plate " << name;
  return 0;
}

Loading loaded(std::initializer_list<std::string_view> near, double collars_kg = 0) {
  Loading l;
  l.collars_kg = collars_kg;
  for (auto name : near) l.near.push_back(plate(name));
  return l;
}

const LoadLine* line(const std::vector<LoadLine>& lines, std::string_view id) {
  for (const auto& l : lines)
    if (l.id == id) return &l;
  return nullptr;
}

TEST(Loading, SumsBarCollarsAndBothSides) {
  EXPECT_EQ(totalKilos(Loading{}), 20);
  EXPECT_EQ(totalKilos(loaded({"25 kg", "25 kg", "10 kg"})), 140);
  EXPECT_EQ(totalKilos(loaded({"25 kg", "25 kg", "10 kg"}, 5)), 145);
  Loading uneven = loaded({"20 kg"});
  uneven.far = std::vector{plate("20 kg"), plate("2.5 kg")};
  EXPECT_EQ(totalKilos(uneven), 62.5);
}

TEST(Loading, PoundPlatesMakeTheUsualPoundLoads) {
  Loading l = loaded({"45 lb", "45 lb"});
  l.bar_kg = 45 / kPoundsPerKilogram;
  EXPECT_NEAR(totalKilos(l) * kPoundsPerKilogram, 225, 1e-9);
  EXPECT_EQ(massText(totalKilos(l)), "102.1 kg (225 lb)");
  EXPECT_EQ(massText(140), "140 kg (309 lb)");
  EXPECT_EQ(massText(142.5), "142.5 kg (314 lb)");
}

TEST(Loading, IsKeptExactlyAndForgivesWhatItCannotRead) {
  Loading l = loaded({"25 kg", "1.25 kg"}, 5);
  l.bar_kg = 15;
  EXPECT_EQ(loadingFromJson(loadingToJson(l)), l);
  l.far = std::vector<int>{};
  EXPECT_EQ(loadingFromJson(loadingToJson(l)), l) << "an empty far side is not an unseen one";
  EXPECT_EQ(loadingFromJson("nonsense"), Loading{});
  EXPECT_TRUE(loadingFromJson("{\"near\": [\"99 kg\", 7]}").near.empty());
}

TEST(BestFrom, IsARangeOfTwoTablesThatMeetAtTenReps) {
  // Worked by hand: 100 * (1 + 5 / 30) = 116.67 and 100 * 36 / 32 = 112.5.
  const auto five = *bestFrom(100, 5);
  EXPECT_NEAR(five.least_kg, 112.5, 1e-9);
  EXPECT_NEAR(five.most_kg, 116.6667, 1e-3);
  const auto ten = *bestFrom(100, 10);
  EXPECT_NEAR(ten.least_kg, ten.most_kg, 1e-9) << "133.3 by both";
  EXPECT_EQ(bestFrom(100, 1)->most_kg, 100) << "a single at the limit is itself";
  EXPECT_GT(bestFrom(100, 1, 2)->least_kg, 105) << "with two left it is a triple's worth";
  EXPECT_FALSE(bestFrom(100, 15)) << "beyond what the tables were made for";
  EXPECT_FALSE(bestFrom(0, 3));
  EXPECT_FALSE(bestFrom(100, 0));
}

TEST(AboutLoad, SaysNothingWhereNothingIsKnown) {
  EXPECT_TRUE(aboutLoad({}).empty());
}

TEST(AboutLoad, AsksWhenPlatesAndMessageDisagree) {
  LoadFacts f;
  f.stated_kg = 140;
  f.counted = loaded({"25 kg", "25 kg", "10 kg"});
  EXPECT_FALSE(line(aboutLoad(f), "stated")) << "they agree";
  EXPECT_FALSE(line(aboutLoad(f), "counted")->question);
  f.counted = loaded({"25 kg", "25 kg"});
  const auto lines = aboutLoad(f);
  const auto* stated = line(lines, "stated");
  ASSERT_TRUE(stated);
  EXPECT_TRUE(stated->question);
  EXPECT_NE(stated->text.find("120 kg (265 lb)"), std::string::npos) << stated->text;
  EXPECT_NE(stated->text.find("140 kg (309 lb)"), std::string::npos);
  // 225 lb is 102.06 kg: who says 102 kg means the same bar.
  f.counted = loaded({"45 lb", "45 lb"});
  f.counted->bar_kg = 45 / kPoundsPerKilogram;
  f.stated_kg = 102;
  EXPECT_FALSE(line(aboutLoad(f), "stated"));
}

TEST(AboutLoad, AsksAboutUnevenSides) {
  LoadFacts f;
  f.counted = loaded({"20 kg", "5 kg"});
  EXPECT_FALSE(line(aboutLoad(f), "uneven"));
  EXPECT_NE(line(aboutLoad(f), "counted")->text.find("assuming the far side matches"), std::string::npos);
  f.counted->far = std::vector{plate("20 kg")};
  const auto lines = aboutLoad(f);
  ASSERT_TRUE(line(lines, "uneven"));
  EXPECT_NE(line(lines, "uneven")->text.find("near side has 5 kg more"), std::string::npos);
  EXPECT_EQ(line(lines, "counted")->text.find("taken to be the same"), std::string::npos);
}

TEST(AboutLoad, HoldsTheShareAgainstTheRecordedBest) {
  LoadFacts f;
  f.stated_kg = 140;
  f.best_kg = 175;
  f.share_pct = 80;
  EXPECT_FALSE(line(aboutLoad(f), "share")->question);
  EXPECT_NE(line(aboutLoad(f), "share")->text.find("80 % of the recorded max, 175 kg"), std::string::npos);
  f.share_pct = 90;
  EXPECT_TRUE(line(aboutLoad(f), "share")->question);
  f.best_kg.reset();
  EXPECT_NE(line(aboutLoad(f), "share")->text.find("the max is about 156 kg"), std::string::npos);
}

TEST(AboutLoad, DoubtsARepMaxAsAQuestion) {
  LoadFacts f;
  f.stated_kg = 140;
  f.best_kg = 145;
  f.reps = 5;
  const auto beyond = aboutLoad(f);
  ASSERT_TRUE(line(beyond, "best"));
  EXPECT_TRUE(line(beyond, "best")->question) << "five with 140 speak for 157.5 at least";
  f.best_kg = 165;
  EXPECT_FALSE(line(aboutLoad(f), "best")->question);
  // Short of the best says something only when the set is said to have been hard.
  f.best_kg = 220;
  EXPECT_FALSE(line(aboutLoad(f), "best")->question);
  f.effort = 9.5;
  EXPECT_TRUE(line(aboutLoad(f), "best")->question);
  for (const auto& l : aboutLoad(f)) EXPECT_EQ(l.text.find("wrong"), std::string::npos) << "never an accusation";
}

TEST(AboutLoad, WhatWasCountedStandsInWhereNothingWasSaid) {
  LoadFacts f;
  f.counted = loaded({"25 kg", "25 kg", "10 kg"});
  f.best_kg = 175;
  f.reps = 4;
  const auto lines = aboutLoad(f);
  ASSERT_TRUE(line(lines, "share"));
  EXPECT_NE(line(lines, "share")->text.find("140 kg (309 lb) is 80 %"), std::string::npos);
  ASSERT_TRUE(line(lines, "best"));
  EXPECT_NE(line(lines, "best")->text.find("4 reps at 140 kg"), std::string::npos);
  EXPECT_FALSE(line(lines, "stated")) << "there is nothing to hold it against";
  f.counted = Loading{};
  EXPECT_TRUE(aboutLoad(f).empty()) << "an empty bar was not counted";
}

TEST(AboutLoad, ASingleSaysNothingOfABest) {
  LoadFacts f;
  f.stated_kg = 140;
  f.reps = 1;
  EXPECT_FALSE(line(aboutLoad(f), "best"));
  f.effort = 8;
  EXPECT_TRUE(line(aboutLoad(f), "best")) << "but with reps left it does";
}

}  // namespace
}  // namespace jib::coaching
