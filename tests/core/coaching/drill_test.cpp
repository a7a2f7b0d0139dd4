// SPDX-License-Identifier: GPL-3.0-or-later
// Drills as cards: found by what a cue says, drawn with the athlete's own limbs, and sent with the reply.
#include "core/coaching/drill.h"

#include <gtest/gtest.h>

#include <regex>

#include "core/coaching/cue.h"
#include "core/exchange/reports/report.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"

namespace jib::coaching {
namespace {

using tests::must;

const DrillBook kDrills = must(DrillBook::shipped());

TEST(Drills, ACueFindsItsCardInItsOwnLift) {
  const auto* pause = kDrills.cardFor("3 x 3 pause squats, three-count in the hole.", lifts::LiftId::Squat);
  ASSERT_NE(pause, nullptr);
  EXPECT_EQ(pause->id, "pause_squat");
  EXPECT_EQ(kDrills.cardFor("4 x 4 paused. Check your forearms.", lifts::LiftId::Bench)->id, "paused_bench");
  EXPECT_EQ(kDrills.cardFor("4 x 3 block pulls from just below the knee", lifts::LiftId::Deadlift)->id, "block_pull");
  EXPECT_EQ(kDrills.cardFor("3 x 3 pause squats", lifts::LiftId::Bench), nullptr);
  EXPECT_EQ(kDrills.cardFor("", lifts::LiftId::Squat), nullptr);
  EXPECT_EQ(kDrills.cardFor("Pick a spot straight ahead.", lifts::LiftId::Squat), nullptr);
}

TEST(Drills, EveryCardSaysAllAndIsUsedByTheBook) {
  const CueBook book = must(CueBook::shipped());
  for (const DrillCard& card : kDrills.cards()) {
    for (const std::string* part : {&card.title, &card.purpose, &card.setup, &card.dose, &card.must_not})
      EXPECT_FALSE(part->empty()) << card.id;
    bool used = false;
    for (const lifts::LiftId lift : card.lifts)
      for (const CueEntry* entry : book.all(lift)) used = used || kDrills.cardFor(entry->drill, lift) == &card;
    EXPECT_TRUE(used) << card.id << " never goes out";
  }
}

// Height of the hip in a picture whose floor is the longest level line; pixels.
double tall(const std::string& svg) {
  const std::regex box("viewBox='(-?\\d+) (-?\\d+) (\\d+) (\\d+)'");
  std::smatch m;
  return std::regex_search(svg, m, box) ? std::stod(m[4].str()) : 0;
}

TEST(Drills, TheFigureHasTheAthletesOwnProportions) {
  DrillPosture standing;
  Limbs limbs;
  const double usual = tall(drillSvg(standing, limbs, "x"));
  limbs.thigh += 0.1;
  EXPECT_NEAR(tall(drillSvg(standing, limbs, "x")) - usual, 20, 1.5) << "ten centimetres at 200 pixels a metre";
  const Limbs measured = limbsOf(tests::unplaced());
  EXPECT_NEAR(measured.thigh, 0.43, 0.08);
  EXPECT_NE(measured.thigh, Limbs{}.thigh) << "of the film, not the average";
}

TEST(Drills, ATitleCannotBreakOutOfThePicture) {
  const std::string svg = drillSvg({}, {}, "'><script>x</script>");
  EXPECT_EQ(svg.find("<script"), std::string::npos);
}

TEST(Drills, TheCardGoesOutWithTheReplyOnce) {
  exchange::Report r;
  Cue cue = ownCue(0);
  cue.wording = "Stay tight.";
  cue.drill = "3 x 3 pause squats";
  r.cues = {cue, cue};
  const std::string page = exchange::reportToHtml(r, tests::unplaced());
  const auto at = page.find("How to do it: Pause squat");
  ASSERT_NE(at, std::string::npos);
  EXPECT_EQ(page.find("How to do it", at + 10), std::string::npos);
  EXPECT_NE(page.find("<svg ", at), std::string::npos);
  EXPECT_NE(page.find("What must not happen", at), std::string::npos);
}

}  // namespace
}  // namespace jib::coaching
