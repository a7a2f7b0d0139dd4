// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/meet.h"

#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/library/records.h"

namespace jib::library {
namespace {

using lifts::LiftId;

TEST(Meet, AttemptsAreReadAsCoachesTypeThem) {
  const auto kilos = *attemptsFrom("170, 180, 190x", MassUnit::Kilograms);
  EXPECT_EQ(kilos, (std::vector<Attempt>{{170, true}, {180, true}, {190, false}}));
  EXPECT_EQ(attemptsText(kilos, MassUnit::Kilograms), "170, 180, 190x");
  const auto pounds = *attemptsFrom("375 / x 395 / 395", MassUnit::Pounds);
  ASSERT_EQ(pounds.size(), 3u);
  EXPECT_NEAR(pounds[0].load_kg, 170.097, 1e-3);
  EXPECT_FALSE(pounds[1].good);
  EXPECT_EQ(attemptsText(pounds, MassUnit::Pounds), "375, 395x, 395");
  EXPECT_EQ((*attemptsFrom("102,5", MassUnit::Kilograms)).size(), 2u) << "a comma parts attempts";
  EXPECT_TRUE(attemptsFrom("", MassUnit::Kilograms)->empty());
  EXPECT_EQ(attemptsFrom("170, heavy", MassUnit::Kilograms).error().what, "\"heavy\" is not an attempt.");
  EXPECT_FALSE(attemptsFrom("1, 2, 3, 4, 5", MassUnit::Kilograms));
}

TEST(Meet, TheBestCountedOnesMakeTheTotal) {
  Meet meet;
  meet.attempts[lifts::at(LiftId::Squat)] = {{180, true}, {190, true}, {195, false}};
  meet.attempts[lifts::at(LiftId::Bench)] = {{110, false}, {110, true}};
  EXPECT_EQ(meet.best_kg(LiftId::Squat), 190);
  EXPECT_EQ(meet.best_kg(LiftId::Deadlift), std::nullopt);
  EXPECT_EQ(meet.total_kg(), std::nullopt) << "without a pull there is no total";
  meet.attempts[lifts::at(LiftId::Deadlift)] = {{210, true}};
  EXPECT_EQ(meet.total_kg(), 510);
}

TEST(Meet, IsKeptWithTheAthlete) {
  Profile p;
  Meet meet;
  meet.on = "2026-03-14";
  meet.name = "Spring Open";
  meet.rules = "open-lakes";
  meet.weight_class = "83";
  meet.body_mass_kg = 82.4;
  meet.attempts[0] = {{180, true}, {190, false}};
  p.meets = {meet};
  p.groups = {"juniors", "Tuesdays"};
  p.membership = Membership::Paused;
  p.rules = "two-rivers";
  EXPECT_EQ(profileFromJson(profileToJson(p)), p);
  // What is no meet is left out, and costs nothing else.
  const Profile damaged = profileFromJson(R"({"meets": [{"on": 3}, 7], "groups": ["a", 4], "membership": "gone"})");
  EXPECT_TRUE(damaged.meets.empty());
  EXPECT_EQ(damaged.groups, std::vector<std::string>{"a"});
  EXPECT_EQ(damaged.membership, Membership::Active);
}

}  // namespace
}  // namespace jib::library
