// SPDX-License-Identifier: GPL-3.0-or-later
// A bar on the front of the shoulders is spoken of in its own words.
#include <gtest/gtest.h>

#include "core/coaching/cue.h"

namespace jib::coaching {
namespace {

const lifts::LiftDefinition& squat() {
  return lifts::definition(lifts::LiftId::Squat);
}

bool looksFor(const CueBook& book, const char* finding) {
  const auto all = book.byEye(lifts::LiftId::Squat);
  return std::any_of(all.begin(), all.end(), [&](const CueEntry* e) { return e->finding == finding; });
}

TEST(CueBook, SpeaksOfAFrontSquatWithoutABarOnTheBack) {
  const CueBook whole = *CueBook::shipped(), front = whole.as(squat(), "front paused"),
                back = whole.as(squat(), "low-bar");
  for (const CueEntry* e : front.all(lifts::LiftId::Squat)) {
    if (!whole.entry(e->finding)->look.empty() && e->look.empty()) continue;  // nobody looks for it
    for (const std::string& wording : e->wordings) {
      EXPECT_EQ(wording.find("into the bar"), std::string::npos) << e->finding << ": " << wording;
      EXPECT_EQ(wording.find("on your back"), std::string::npos) << e->finding << ": " << wording;
    }
  }
  EXPECT_EQ(front.entry("squat.hips_lead")->wordings.front(), "Elbows up first.");
  EXPECT_EQ(back.entry("squat.hips_lead")->wordings.front(), "Drive your upper back into the bar.");
  EXPECT_EQ(front.entry("squat.hips_lead")->proof, back.entry("squat.hips_lead")->proof) << "the number is the same";
}

TEST(CueBook, LooksForDroppingElbowsInAFrontSquatAlone) {
  const CueBook whole = *CueBook::shipped(), front = whole.as(squat(), "front"), back = whole.as(squat(), "high-bar");
  EXPECT_TRUE(looksFor(front, "squat.elbows_drop"));
  EXPECT_FALSE(looksFor(front, "squat.wrists_bent")) << "they have to be, under that bar";
  EXPECT_FALSE(looksFor(back, "squat.elbows_drop"));
  EXPECT_TRUE(looksFor(back, "squat.wrists_bent"));
}

TEST(CueBook, AStylesWordingForABackSquatIsNotSaidOfAFrontSquat) {
  const CueBook front = CueBook::shipped()->as(squat(), "front");
  Style style;
  style.say["squat.hips_lead"] = "Traps into the bar.";
  style.say["squat.too_high"] = "Sink it.";
  Finding f;
  f.id = "squat.hips_lead";
  EXPECT_EQ(cueFor(f, *front.entry(f.id), style).wording, "Elbows up first.");
  f.id = "squat.too_high";
  EXPECT_EQ(cueFor(f, *front.entry(f.id), style).wording, "Sink it.");
}

}  // namespace
}  // namespace jib::coaching
