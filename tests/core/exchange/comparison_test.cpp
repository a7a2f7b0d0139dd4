// SPDX-License-Identifier: GPL-3.0-or-later
// Then and now: what has changed, and what cannot be told.
#include "core/exchange/reports/comparison.h"

#include <gtest/gtest.h>

#include <cmath>
#include <nlohmann/json.hpp>

namespace jib::exchange {
namespace {

using Json = nlohmann::json;

Json analysis(double lean, double sigma, const std::string& view = "left", double yaw = 0) {
  const Json measures{{"trunk_lean_bottom_deg", {{"value", lean}, {"sigma", sigma}, {"t", 1.0}, {"unit", "deg"}}},
                      {"knees", {{"absent", "The side does not show it."}}}};
  return {{"schema", "jagged-jib/analysis"},
          {"version", 1},
          {"clip", {{"lift", "squat"}, {"variant", "low-bar"}, {"view", view}}},
          {"scale", {{"source", "rim"}}},
          {"camera", {{"yaw_deg", yaw}, {"pitch_deg", 0.0}}},
          {"reps", Json::array({{{"start_t", 0.5}, {"bottom_t", 1.0}, {"measures", measures}}})},
          {"measures", {{"speed_loss_pct", {{"value", 10.0}, {"sigma", 2.0}}}}}};
}

Json compared(const Json& a, const Json& b, const std::string& at = {}) {
  const auto made = comparisonOf(a.dump(), b.dump(), at);
  EXPECT_TRUE(made) << (made ? "" : made.error().sentence());
  return made ? Json::parse(*made) : Json();
}
Json measure(const Json& comparison, const std::string& id) {
  for (const Json& m : comparison["measures"])
    if (m["id"] == id) return m;
  return {};
}

TEST(Comparison, SaysMoreOrLessOnlyWhereItIsSure) {
  const Json sure = compared(analysis(45, 1), analysis(39, 1));
  EXPECT_EQ(sure["alike"]["label"], "like");
  const Json lean = measure(sure, "trunk_lean_bottom_deg");
  EXPECT_EQ(lean["verdict"], "less");
  EXPECT_DOUBLE_EQ(lean["difference"], -6);
  EXPECT_NEAR(lean["sigma"], std::sqrt(2.0), 1e-9) << "both clips' own doubt";
  EXPECT_EQ(measure(compared(analysis(45, 3), analysis(42, 3)), "trunk_lean_bottom_deg")["verdict"], "no_change_seen");
  EXPECT_EQ(measure(compared(analysis(39, 1), analysis(45, 1)), "trunk_lean_bottom_deg")["verdict"], "more");
  EXPECT_TRUE(measure(sure, "knees").is_null()) << "nobody saw it in either";
}

TEST(Comparison, AnotherAngleOrVariationIsNoChange) {
  const Json front = compared(analysis(45, 1), analysis(39, 1, "front"));
  EXPECT_EQ(front["alike"]["label"], "unlike");
  EXPECT_EQ(measure(front, "trunk_lean_bottom_deg")["verdict"], "not_comparable");
  EXPECT_FALSE(measure(front, "trunk_lean_bottom_deg")["why"].get<std::string>().empty());
  Json high = analysis(39, 1);
  high["clip"]["variant"] = "high-bar";
  EXPECT_EQ(compared(analysis(45, 1), high)["alike"]["differs"][0]["what"], "variant");

  const Json turned = compared(analysis(45, 1), analysis(39, 1, "left", 20));
  EXPECT_EQ(turned["alike"]["label"], "with_care");
  EXPECT_GT(measure(turned, "trunk_lean_bottom_deg")["sigma"].get<double>(), std::sqrt(2.0)) << "and is less sure";
}

TEST(Comparison, LinesUpEventsAndRefusesWhatIsNoAnalysis) {
  const Json all = compared(analysis(45, 1), analysis(39, 1));
  EXPECT_EQ(all["events"].size(), 2u);
  const Json bottom = compared(analysis(45, 1), analysis(39, 1), "bottom");
  ASSERT_EQ(bottom["events"].size(), 1u);
  EXPECT_EQ(bottom["events"][0]["name"], "bottom");
  EXPECT_EQ(comparisonOf(analysis(1, 1).dump(), analysis(1, 1).dump(), "nonsense").error().code, ErrorCode::WrongUse);
  EXPECT_EQ(comparisonOf("{}", analysis(1, 1).dump()).error().code, ErrorCode::BadData);
  EXPECT_EQ(comparisonOf(analysis(1, 1).dump(), "not json").error().code, ErrorCode::BadData);
  Json damaged = analysis(1, 1);
  damaged["reps"][0]["measures"]["trunk_lean_bottom_deg"]["sigma"] = "wide";
  EXPECT_EQ(comparisonOf(damaged.dump(), analysis(1, 1).dump()).error().code, ErrorCode::BadData);
}

}  // namespace
}  // namespace jib::exchange
