// SPDX-License-Identifier: GPL-3.0-or-later
// A limit the coach moves: kept in a file of its own, applied to its style, and tried on the latest sets first.
#include "core/library/would_say.h"

#include <gtest/gtest.h>

#include "core/coaching/style_book.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

using coaching::StyleBook;
using tests::must;

TEST(MovedLimit, HoldsForItsStyleAloneAndIsTakenBack) {
  const tests::ScratchFolder folder;
  const char* kFinding = "squat.chest_drops";
  const auto before = must(must(StyleBook::forLibrary(folder.path())).style("balanced"));
  const double usual = before.limit(kFinding)->limit;
  must(StyleBook::moveLimit(folder.path(), "balanced", kFinding, usual + 2));
  const auto moved = must(must(StyleBook::forLibrary(folder.path())).style("balanced"));
  EXPECT_EQ(moved.limit(kFinding)->limit, usual + 2);
  EXPECT_EQ(moved.limit(kFinding)->moved_from, usual);
  const auto other = must(must(StyleBook::forLibrary(folder.path())).style("minimal"));
  EXPECT_FALSE(other.limit(kFinding)->moved_from);
  must(StyleBook::moveLimit(folder.path(), "balanced", kFinding, std::nullopt));
  const auto back = must(must(StyleBook::forLibrary(folder.path())).style("balanced"));
  EXPECT_EQ(back.limit(kFinding)->limit, usual);
  EXPECT_FALSE(back.limit(kFinding)->moved_from);
}

TEST(MovedLimit, AFileThatCannotBeReadIsSaidAndMovesNothing) {
  const tests::ScratchFolder folder;
  for (const char* broken : {"{", "[]", R"({"balanced": 3})", R"({"balanced": {"squat.chest_drops": "x"}})"}) {
    folder.write("limits.json", broken);
    const auto book = must(StyleBook::forLibrary(folder.path()));
    ASSERT_EQ(book.troubles().size(), 1u) << broken;
    const auto style = must(book.style("balanced"));
    EXPECT_FALSE(style.limit("squat.chest_drops")->moved_from);
    EXPECT_FALSE(StyleBook::moveLimit(folder.path(), "balanced", "squat.chest_drops", 9)) << "it is not written over";
  }
}

// Twenty-five sets whose value goes from 0 to 24: the latest twenty count.
TEST(MovedLimit, TellsWhatItWouldHaveSaidOfTheLatestTwentySets) {
  const tests::ScratchFolder folder;
  auto library = must(Library::open(folder / "lib"));
  const auto who = must(library.addAthlete({AthleteId(0), "Ola Marsh", "", "balanced"}));
  coaching::Limit lean;
  lean.finding = "squat.chest_drops";
  lean.measure = "trunk_lean_gain_deg";
  lean.side = coaching::Side::Above;
  lean.limit = 10.5;
  for (int i = 0; i < 25; ++i) {
    Submission s;
    s.athlete = who;
    s.lift = "squat";
    s.received_on = "2026-01-" + std::string(i < 9 ? "0" : "") + std::to_string(i + 1);
    Task task;
    const auto id = must(library.addSubmission(s, JIB_MADE_CLIP, task));
    coaching::Analysis a = tests::unplaced();
    a.measures.reps.resize(1);
    a.measures.reps[0] = {
        {lifts::measureDefinition("trunk_lean_gain_deg"), lifts::Measured{static_cast<double>(i), 0.1, 1}}};
    must(library.saveResults(id, a));
  }
  WouldSay said = must(wouldSay(library, lean, 20.5));
  EXPECT_EQ(said.sets, 20);
  EXPECT_EQ(said.as_it_is, 14) << "11 to 24";
  EXPECT_EQ(said.as_moved, 4) << "21 to 24";
  lean.finding = "bench.sinks";
  EXPECT_EQ(must(wouldSay(library, lean, 1)).sets, 0) << "of its own lift";
}

}  // namespace
}  // namespace jib::library
