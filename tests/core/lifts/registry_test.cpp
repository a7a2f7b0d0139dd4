// SPDX-License-Identifier: GPL-3.0-or-later
// What every lift must have to be one: walked over the registry, so that a new lift is held to it as well.
#include <gtest/gtest.h>

#include <algorithm>
#include <set>

#include "core/base/resources.h"
#include "core/coaching/cue.h"
#include "core/coaching/style.h"
#include "core/exchange/letters/filming_request.h"
#include "core/lifts/which_lift.h"
#include "tests/core/scratch_folder.h"

namespace jib::lifts {
namespace {

std::set<std::string_view> measuresOf(const LiftDefinition& lift) {
  std::set<std::string_view> ids;
  for (const RepMeasure& row : lift.rep_measures) ids.insert(row.kind.id);
  for (const SetMeasure& row : lift.set_measures) ids.insert(row.kind.id);
  return ids;
}

// From the side or from the front.
bool measures(const LiftDefinition& lift, std::string_view id) {
  return measuresOf(lift).count(id) > 0 || std::any_of(lift.front_measures.begin(), lift.front_measures.end(),
                                                       [&](const RepMeasure& row) { return row.kind.id == id; });
}

TEST(LiftRegistry, AFrontViewsMeasuresFallUnderClaimsThatItCarries) {
  for (const LiftDefinition& lift : allLifts())
    for (const RepMeasure& row : lift.front_measures) {
      const auto claim =
          std::find_if(lift.claims.begin(), lift.claims.end(), [&](const ClaimRow& c) { return c.id == row.claim; });
      ASSERT_NE(claim, lift.claims.end()) << lift.name << " " << row.kind.id;
      if (row.kind.group != "Timing") {
        EXPECT_EQ(claim->front, Can::Yes) << lift.name << " " << row.kind.id;
      }
      EXPECT_EQ(measureDefinition(row.kind.id)->unit, row.kind.unit)
          << row.kind.id << " means the same from every side";
    }
}

TEST(LiftRegistry, FindsEveryLiftByItsIdAndItsName) {
  ASSERT_EQ(allLifts().size(), kLifts);
  for (std::size_t i = 0; i < kLifts; ++i) {
    const LiftDefinition& lift = allLifts()[i];
    EXPECT_EQ(at(lift.id), i);
    EXPECT_EQ(&definition(lift.id), &lift);
    EXPECT_EQ(liftNamed(lift.name), &lift);
    EXPECT_FALSE(lift.title.empty() || lift.way.empty() || lift.words.empty() || lift.lens.empty() || lift.seen.empty())
        << lift.name;
    EXPECT_GT(lift.best_mps, 2 * lift.best_sigma_mps) << lift.name;
    EXPECT_NE(lift.referee_signals.empty(), lift.contested) << lift.name;
  }
  EXPECT_EQ(liftNamed("snatch"), nullptr);
}

TEST(LiftRegistry, EveryMeasureHasATitleAUnitAndAnIdOfItsOwn) {
  for (const LiftDefinition& lift : allLifts()) {
    EXPECT_GE(lift.rep_measures.size(), 10u) << lift.name;
    EXPECT_EQ(measuresOf(lift).size(), lift.rep_measures.size() + lift.set_measures.size()) << "an id twice";
    for (const RepMeasure& row : lift.rep_measures) {
      EXPECT_FALSE(row.kind.title.empty() || row.kind.group.empty()) << row.kind.id;
      EXPECT_NE(row.answer, nullptr) << row.kind.id;
      const bool known = std::any_of(lift.claims.begin(), lift.claims.end(),
                                     [&](const ClaimRow& claim) { return claim.id == row.claim; });
      EXPECT_TRUE(known) << lift.name << " " << row.kind.id << " falls under no claim";
    }
    for (const RankTerm& term : lift.ranking) EXPECT_TRUE(measuresOf(lift).count(term.measure)) << term.measure;
  }
}

// A file may name a measure without its lift: then it must mean one thing.
TEST(LiftRegistry, AMeasureThatLiftsShareHasOneUnit) {
  for (const LiftDefinition& lift : allLifts()) {
    for (const RepMeasure& row : lift.rep_measures) EXPECT_EQ(measureDefinition(row.kind.id)->unit, row.kind.unit);
    for (const SetMeasure& row : lift.set_measures) EXPECT_EQ(measureDefinition(row.kind.id)->unit, row.kind.unit);
  }
  EXPECT_EQ(measureDefinition("no_such"), nullptr);
}

TEST(LiftRegistry, EveryFindingIsMeasuredInItsLiftAndHasSomethingToSay) {
  const auto limits = coaching::shippedLimits();
  ASSERT_TRUE(limits) << limits.error().sentence();
  const auto book = *coaching::CueBook::shipped();
  for (const LiftDefinition& lift : allLifts()) {
    int findings = 0;
    for (const coaching::Limit& limit : *limits) {
      if (!limit.finding.starts_with(std::string(lift.name) + ".")) continue;
      ++findings;
      EXPECT_TRUE(measures(lift, limit.measure)) << limit.finding << " by " << limit.measure;
      EXPECT_FALSE(limit.why.empty() || limit.settle.empty()) << limit.finding;
      const auto* entry = book.entry(limit.finding);
      ASSERT_NE(entry, nullptr) << limit.finding;
      EXPECT_GE(entry->wordings.size(), 3u) << limit.finding;
      for (const std::string& other : entry->clears) EXPECT_NE(book.entry(other), nullptr) << other;
      const bool variant_known = limit.variant.empty() || [&] {
        const auto known = variantsOf(lift);
        return std::any_of(known.begin(), known.end(), [&](const auto& v) { return isOf(v, limit.variant); });
      }();
      EXPECT_TRUE(variant_known) << limit.finding << " of " << limit.variant;
    }
    EXPECT_GE(findings, 5) << lift.name;
    EXPECT_FALSE(book.byEye(lift.id).empty()) << lift.name;
  }
}

TEST(LiftRegistry, EveryLiftHasAFilmingRequestClaimsEventsAndAUsualVariant) {
  tests::ScratchFolder folder;
  for (const LiftDefinition& lift : allLifts()) {
    EXPECT_TRUE(exchange::filmingRequest(std::string(lift.name), folder.path())) << lift.name;
    const auto side = std::count_if(lift.claims.begin(), lift.claims.end(),
                                    [](const ClaimRow& claim) { return claim.side == Can::Yes; });
    EXPECT_GT(side, 0) << lift.name;
    for (auto kind : {motion::EventKind::Lockout, motion::EventKind::End}) EXPECT_FALSE(lift.titleOf(kind).empty());
    const bool down_first = lift.pattern == motion::RepPattern::DownFirst;
    EXPECT_EQ(lift.titleOf(motion::EventKind::Bottom).empty(), !down_first) << lift.name;
    EXPECT_EQ(lift.titleOf(motion::EventKind::LiftOff).empty(), down_first) << lift.name;
    std::set<std::string_view> keys;
    for (const EventName& event : lift.events) EXPECT_TRUE(keys.insert(event.key).second) << event.key;
    const auto variants = variantsOf(lift);
    EXPECT_NE(std::find(variants.begin(), variants.end(), lift.usual), variants.end()) << lift.name;
  }
}

TEST(Variant, SaysPositionAndTempoIndependently) {
  const LiftDefinition& squat = definition(LiftId::Squat);
  const Variant both = variantOf(squat, "paused high-bar");
  EXPECT_EQ(both.position, "high-bar");
  EXPECT_EQ(both.tempo, "paused");
  EXPECT_EQ(nameOf(both), "high-bar paused");
  EXPECT_EQ(titleOf(squat, nameOf(both)), "high bar, paused");
  EXPECT_TRUE(isOf("high-bar paused", "paused"));
  EXPECT_TRUE(isOf("high-bar paused", "high-bar"));
  EXPECT_FALSE(isOf("high-bar", "paused"));
  EXPECT_EQ(variantOf(squat, "tempo-303").position, "tempo-303") << "a word nobody knows is kept";
  EXPECT_EQ(variantsOf(definition(LiftId::Bench)), (std::vector<std::string>{"paused", "touch-and-go"}));
}

}  // namespace
}  // namespace jib::lifts
