// SPDX-License-Identifier: GPL-3.0-or-later
// Like is held against like, by one judge.
#include "core/lifts/alike.h"

#include <gtest/gtest.h>

#include <algorithm>

namespace jib::lifts {
namespace {

FilmedAs squat() {
  return {"squat", "low-bar", "left", 5.0, 2.0, 100.0, {{"shoes", "flat"}, {"bar", "stiff"}}, "rim"};
}

const Difference* named(const Likeness& l, std::string_view what) {
  const auto it = std::find_if(l.differs.begin(), l.differs.end(), [&](const auto& d) { return d.what == what; });
  return it == l.differs.end() ? nullptr : &*it;
}

TEST(Alike, AClipIsLikeItselfAndLikeOneOfAlmostTheSameLoad) {
  EXPECT_EQ(alikeOf(squat(), squat()).label, Alike::Like);
  FilmedAs other = squat();
  other.load_kg = 92.5;
  EXPECT_EQ(alikeOf(squat(), other).label, Alike::Like);
  EXPECT_DOUBLE_EQ(alikeOf(squat(), other).widening(), 1.0);
}

TEST(Alike, WhatIsNotKnownIsNotKnownToDiffer) {
  EXPECT_EQ(alikeOf(squat(), {"squat", "", "", {}, {}, {}, {}, ""}).label, Alike::Like);
}

TEST(Alike, EachThingThatDiffersIsNamedAndWeighed) {
  const auto against = [](auto change) {
    FilmedAs other = squat();
    change(other);
    return alikeOf(squat(), other);
  };
  EXPECT_EQ(against([](auto& o) { o.load_kg = 80; }).label, Alike::WithCare);
  EXPECT_EQ(named(against([](auto& o) { o.load_kg = 80; }), "load")->why, "The second one is lighter.");
  EXPECT_EQ(against([](auto& o) { o.variant = "high-bar"; }).label, Alike::Unlike);
  EXPECT_EQ(against([](auto& o) { o.variant = "low-bar paused"; }).label, Alike::Like) << "the first said no tempo";
  EXPECT_EQ(against([](auto& o) { o.lift = "bench"; }).label, Alike::Unlike);
  EXPECT_EQ(against([](auto& o) { o.view = "front"; }).label, Alike::Unlike);
  EXPECT_EQ(against([](auto& o) { o.view = "right"; }).label, Alike::WithCare);
  EXPECT_EQ(against([](auto& o) { o.turned_deg = 20; }).label, Alike::WithCare);
  EXPECT_EQ(against([](auto& o) { o.turned_deg = -40; }).label, Alike::Unlike) << "from behind, not from in front";
  EXPECT_TRUE(named(against([](auto& o) { o.look_down_deg = 12; }), "lens_height"));
  EXPECT_TRUE(named(against([](auto& o) { o.kit["bar"] = "safety"; }), "bar"));
  EXPECT_EQ(named(against([](auto& o) { o.kit["shoes"] = "raised"; }), "kit")->why, "flat then, raised heel now.");
  EXPECT_TRUE(named(against([](auto& o) { o.scale = "body"; }), "scale"));
}

TEST(Alike, TheHeaviestDifferenceIsTheReason) {
  FilmedAs other = squat();
  other.load_kg = 60;
  other.variant = "high-bar";
  EXPECT_EQ(alikeOf(squat(), other).why(), "They show different variations.");
  EXPECT_EQ(alikeOf(squat(), other).differs.size(), 2u);
}

}  // namespace
}  // namespace jib::lifts
