// SPDX-License-Identifier: GPL-3.0-or-later
// What the coach said over the clip, and what was on the screen meanwhile.
#include "core/review/takes.h"

#include <gtest/gtest.h>

#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::review {
namespace {

TEST(Takes, ThePictureFollowsThePlays) {
  const tests::ScratchFolder folder;
  const auto takes =
      tests::must(takesFrom(folder.write("takes.json", R"({"takes": [{"file": "cue1.wav", "chapter": "cue 1", "plays": [
        {"at_s": 3, "clip_t": 6, "rate": 0}, {"at_s": 0, "clip_t": 5, "rate": 0.25}, {"at_s": 4, "clip_t": 6, "rate": -1}]}]})")));
  ASSERT_EQ(takes.size(), 1u);
  EXPECT_EQ(takes[0].file, folder / "cue1.wav") << "beside the list";
  EXPECT_NEAR(clipTimeAt(takes[0], 0), 5, 1e-9);
  EXPECT_NEAR(clipTimeAt(takes[0], 2), 5.5, 1e-9);
  EXPECT_NEAR(clipTimeAt(takes[0], 3.7), 6, 1e-9);
  EXPECT_TRUE(frozenAt(takes[0], 3.7));
  EXPECT_FALSE(frozenAt(takes[0], 2));
  EXPECT_NEAR(clipTimeAt(takes[0], 4.5), 5.5, 1e-9) << "backward";
}

TEST(Takes, WhatIsCutOffTheStartMovesThePictureAlong) {
  Take take{"a.wav", "cue 1", 0, {{0, 5, 1}, {2, 7, 0}}};
  take.cut_start_s = 1.5;
  EXPECT_NEAR(clipTimeAt(take, 0), 6.5, 1e-9);
  EXPECT_FALSE(frozenAt(take, 0.4));
  EXPECT_TRUE(frozenAt(take, 0.6));
  take.cut_end_s = 0.25;
  take.caption = "Hips \"back\".";
  const tests::ScratchFolder folder;
  take.file = folder / "a.wav";
  EXPECT_EQ(tests::must(takesFrom(folder.write("takes.json", takesToJson({take})))), std::vector{take});
}

TEST(Takes, WhatIsNoTakeIsSaid) {
  const tests::ScratchFolder folder;
  for (const char* json :
       {"", "[]", "{}", R"({"takes": []})", R"({"takes": [{}]})", R"({"takes": [{"file": "a.wav"}]})",
        R"({"takes": [{"file": "a.wav", "plays": [{"at_s": 1}]}]})",
        R"({"takes": [{"file": "a.wav", "plays": [{"clip_t": 1, "rate": 99}]}]})"}) {
    const auto takes = takesFrom(folder.write("takes.json", json));
    ASSERT_FALSE(takes) << json;
    EXPECT_EQ(takes.error().code, ErrorCode::BadData);
  }
  EXPECT_FALSE(takesFrom(folder / "gone.json"));
}

}  // namespace
}  // namespace jib::review
