// SPDX-License-Identifier: GPL-3.0-or-later
// Drills as cards: found by what a cue says, drawn with the athlete's own limbs, and sent with the reply.
#include "core/coaching/drill.h"

#include <gtest/gtest.h>

#include <regex>

#include "core/coaching/cue.h"
#include "core/exchange/reports/report.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

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
  r.drills = *DrillBook::shipped();
  const std::string page = exchange::reportToHtml(r, tests::unplaced());
  const auto at = page.find("How to do it: Pause squat");
  ASSERT_NE(at, std::string::npos);
  EXPECT_EQ(page.find("How to do it", at + 10), std::string::npos);
  EXPECT_NE(page.find("<svg ", at), std::string::npos);
  EXPECT_NE(page.find("What must not happen", at), std::string::npos);
}

DrillCard wallSquat() {
  DrillCard card;
  card.title = "Wall squat";
  card.purpose = "Torso up.";
  card.setup = "Toes a hand from the wall.";
  card.dose = "2 x 8";
  card.must_not = "Don't touch the wall.";
  card.words = {"wall squat"};
  card.lifts = {lifts::LiftId::Squat};
  card.posture.bar = DrillPosture::Bar::None;
  card.posture.shin_deg = 21;
  card.jpeg = "not looked at here";
  return card;
}

TEST(OwnDrills, ACardComesBackAsItWasAndGoesBeforeTheShippedOnes) {
  const tests::ScratchFolder folder;
  const auto kept = must(DrillBook::keep(folder.path(), wallSquat()));
  EXPECT_EQ(kept.id, "wall_squat");
  const DrillBook book = DrillBook::forLibrary(folder.path());
  ASSERT_FALSE(book.cards().empty());
  const DrillCard& back = book.cards().front();
  EXPECT_TRUE(back.own);
  EXPECT_EQ(back.title, "Wall squat");
  EXPECT_EQ(back.must_not, "Don't touch the wall.");
  EXPECT_EQ(back.jpeg, wallSquat().jpeg);
  EXPECT_EQ(back.posture.bar, DrillPosture::Bar::None);
  EXPECT_EQ(back.posture.shin_deg, 21);
  EXPECT_EQ(book.cards().size(), must(DrillBook::shipped()).cards().size() + 1);
  EXPECT_EQ(book.cardFor("2 x 8 wall squats", lifts::LiftId::Squat)->id, kept.id);
  EXPECT_EQ(book.cardFor("2 x 8 wall squats", lifts::LiftId::Bench), nullptr);
  EXPECT_EQ(must(DrillBook::keep(folder.path(), wallSquat())).id, "wall_squat_2") << "another one of that name";
}

TEST(OwnDrills, AShippedCardIsChangedAndComesBack) {
  const tests::ScratchFolder folder;
  const auto shipped = must(DrillBook::shipped());
  DrillCard mine = *shipped.cardFor("pause squat", lifts::LiftId::Squat);
  mine.dose = "5 x 2";
  must(DrillBook::keep(folder.path(), mine));
  const DrillBook book = DrillBook::forLibrary(folder.path());
  EXPECT_EQ(book.cards().size(), shipped.cards().size());
  EXPECT_EQ(book.cardFor("pause squat", lifts::LiftId::Squat)->dose, "5 x 2");
  must(DrillBook::giveBack(folder.path(), mine.id));
  EXPECT_NE(DrillBook::forLibrary(folder.path()).cardFor("pause squat", lifts::LiftId::Squat)->dose, "5 x 2");
  EXPECT_FALSE(std::filesystem::exists(folder / "drills.toml"));
}

TEST(OwnDrills, APictureThatIsReplacedOrGivenUpDoesNotStay) {
  const tests::ScratchFolder folder;
  const auto pictures = [&] {
    return std::distance(std::filesystem::directory_iterator(folder / "drills"), std::filesystem::directory_iterator());
  };
  DrillCard card = must(DrillBook::keep(folder.path(), wallSquat()));
  card.jpeg = "another";
  card = must(DrillBook::keep(folder.path(), card));
  EXPECT_EQ(pictures(), 1);
  must(DrillBook::giveBack(folder.path(), card.id));
  EXPECT_EQ(pictures(), 0);
}

TEST(OwnDrills, AFileThatCannotBeReadIsToldOfAndNotWrittenOver) {
  const tests::ScratchFolder folder;
  const auto file = folder.write("drills.toml", "[wall\ntitle = ");
  const DrillBook book = DrillBook::forLibrary(folder.path());
  EXPECT_NE(book.trouble().find("drills.toml"), std::string::npos);
  EXPECT_EQ(book.cards().size(), must(DrillBook::shipped()).cards().size());
  EXPECT_FALSE(DrillBook::keep(folder.path(), wallSquat()));
  EXPECT_EQ(tests::bytesOf(file), "[wall\ntitle = ");
}

TEST(OwnDrills, ACardFromElsewhereReadsNoFileOutsideItsFolder) {
  const tests::ScratchFolder folder;
  must(DrillBook::keep(folder / "lib", wallSquat()));
  folder.write("secret.jpg", "secret");
  const auto file = folder / "lib" / "drills.toml";
  std::string text = tests::bytesOf(file);
  const auto at = text.find("picture = ");
  text.replace(at, text.find('\n', at) - at, "picture = '../../secret.jpg'");
  ASSERT_TRUE(FileSystem::real().write(file, text));
  EXPECT_EQ(DrillBook::forLibrary(folder / "lib").cards().front().jpeg, "");
}

TEST(OwnDrills, OneWithoutPictureOrPostureShowsNobodyStandingAbout) {
  DrillPosture nothing;
  nothing.bar = DrillPosture::Bar::None;
  EXPECT_EQ(drillSvg(nothing, {}, "Breathing"), "");
  for (const DrillCard& card : kDrills.cards()) EXPECT_NE(drillSvg(card.posture, {}, card.title), "") << card.id;
}

TEST(OwnDrills, TheirPictureStandsInTheReply) {
  const tests::ScratchFolder folder;
  must(DrillBook::keep(folder.path(), wallSquat()));
  exchange::Report r;
  Cue cue = ownCue(0);
  cue.drill = "wall squat, 2 x 8";
  r.cues = {cue};
  r.drills = DrillBook::forLibrary(folder.path());
  const std::string page = exchange::reportToHtml(r, tests::unplaced());
  const auto at = page.find("How to do it: Wall squat");
  ASSERT_NE(at, std::string::npos);
  EXPECT_NE(page.find(exchange::base64(wallSquat().jpeg), at), std::string::npos);
  EXPECT_EQ(page.find("<svg ", at), std::string::npos) << "no figure beside it";
}

}  // namespace
}  // namespace jib::coaching
