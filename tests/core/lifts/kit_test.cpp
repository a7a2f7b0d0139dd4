// SPDX-License-Identifier: GPL-3.0-or-later
// What a set was done with, and what it keeps from being compared.
#include "core/lifts/kit.h"

#include <gtest/gtest.h>

#include <set>

#include "core/library/records.h"

namespace jib::lifts {
namespace {

TEST(Kit, DifferencesThatMatterAreSaidAndUnknownOnesAreNot) {
  EXPECT_EQ(kitApart({{"shoes", "raised"}}, {{"shoes", "flat"}}), "raised heel then, flat now");
  EXPECT_EQ(kitApart({{"heel_raise", "wedge"}}, {{"heel_raise", "none"}}), "wedge under the heels then, none now");
  EXPECT_EQ(kitApart({{"state", "fresh"}}, {{"state", "sore"}}), "fresh then, sore now");
  EXPECT_EQ(kitApart({{"shoes", "raised"}}, {}), "") << "nobody said what it is now";
  EXPECT_EQ(kitApart({{"filmed_by", "stand"}}, {{"filmed_by", "coach"}}), "") << "who films changes no lift";
  EXPECT_EQ(kitApart({{"shoes", "flat"}, {"belt", "belt"}}, {{"belt", "belt"}, {"shoes", "flat"}}), "");
}

TEST(Kit, EveryFieldHasChoicesAndAReason) {
  std::set<std::string_view> ids;
  for (const KitField& field : kitFields()) {
    EXPECT_TRUE(ids.insert(field.id).second) << field.id;
    EXPECT_GE(field.choices.size(), 2u) << field.id;
    EXPECT_TRUE(field.why.ends_with(".")) << field.why;
  }
}

TEST(Kit, IsKeptWithTheSubmissionWhateverItHolds) {
  library::SubmissionDetails details;
  details.kit = {{"shoes", "flat"}, {"of_tomorrow", "x"}};
  EXPECT_EQ(library::detailsFromJson(library::detailsToJson(details)).kit, details.kit);
  EXPECT_TRUE(library::detailsFromJson(R"({"kit": {"shoes": 4}})").kit.empty());
}

}  // namespace
}  // namespace jib::lifts
