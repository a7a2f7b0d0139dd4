// SPDX-License-Identifier: GPL-3.0-or-later
// The rep of earlier sets that new ones are held against.
#include "core/library/own_best.h"

#include <gtest/gtest.h>

#include "core/lifts/measure_set.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

const lifts::LiftDefinition& squat() {
  return *lifts::liftNamed("squat");
}

// The small set with the lean that is added on the way up changed in one of its reps.
coaching::Analysis leaning(std::size_t rep, double more_deg) {
  coaching::Analysis a = tests::smallAnalysis();
  for (auto& m : a.measures.reps[rep])
    if (m.kind->id == "trunk_lean_gain_deg") std::get<lifts::Measured>(m.measure).value += more_deg;
  return a;
}

struct Sets {
  tests::ScratchFolder folder;
  Library library = *Library::open(folder / "lib");
  AthleteId ola = *library.addAthlete({AthleteId(0), "Ola Marsh", "", "balanced"});

  Submission add(const std::string& day, const std::string& variant, const coaching::Analysis* a) {
    Submission s;
    s.athlete = ola;
    s.received_on = day;
    s.lift = "squat";
    s.variant = variant;
    Task task;
    s.id = *library.addSubmission(s, JIB_MADE_CLIP, task);
    if (a) {
      EXPECT_TRUE(library.saveResults(s.id, *a));
    }
    return s;
  }
};

TEST(OwnBest, IsTheRepOfEarlierSetsLeastBehindAFaultlessOne) {
  Sets sets;
  const auto worse = leaning(0, 20), better = leaning(1, -20);
  sets.add("2026-01-05", "low-bar", &worse);
  const Submission best = sets.add("2026-01-12", "low-bar", &better);
  sets.add("2026-01-19", "high-bar", &better);
  sets.add("2026-01-20", "low-bar", nullptr);
  const Submission now = sets.add("2026-02-02", "low-bar", &worse);
  const auto own = *ownBest(sets.library, now);
  ASSERT_TRUE(own);
  EXPECT_EQ(own->submission.id, best.id) << "another variant's do not count";
  EXPECT_EQ(own->rep, 2);
  EXPECT_FALSE(*ownBest(sets.library, sets.add("2025-12-01", "low-bar", nullptr))) << "nothing was before";

  // Itself is not behind itself; 40 degrees more lean are surely behind, in the ranking's own unit.
  const auto same = behind(better.measures.reps[1], *own, squat());
  ASSERT_TRUE(same);
  EXPECT_NEAR(same->value, 0, 1e-9);
  EXPECT_GT(same->sigma, 0);
  const auto off = *behind(leaning(1, 20).measures.reps[1], *own, squat());
  const auto term = std::find_if(squat().ranking.begin(), squat().ranking.end(),
                                 [](const auto& t) { return t.measure == "trunk_lean_gain_deg"; });
  const double lean = lifts::find(leaning(1, 20).measures.reps[1], "trunk_lean_gain_deg")->measured()->value;
  EXPECT_NEAR(off.value, lifts::usualFaults(*term, lean) - lifts::usualFaults(*term, lean - 40), 1e-9);
  EXPECT_GT(off.value, 1.64 * off.sigma);
}

TEST(OwnBest, ARepThatLacksWhatRanksItIsHeldAgainstNothing) {
  Sets sets;
  const auto& a = tests::smallAnalysis();
  sets.add("2026-01-05", "low-bar", &a);
  const auto own = *ownBest(sets.library, sets.add("2026-02-02", "low-bar", nullptr));
  ASSERT_TRUE(own);
  auto rep = a.measures.reps[0];
  for (auto& m : rep)
    if (m.kind->id == "trunk_lean_gain_deg") m.measure = lifts::Absent{"not seen"};
  EXPECT_FALSE(behind(rep, *own, squat()));
}

}  // namespace
}  // namespace jib::library
