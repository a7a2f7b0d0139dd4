// SPDX-License-Identifier: GPL-3.0-or-later
// Replies that were on their way when their program ended.
#include "core/library/unfinished_returns.h"

#include <gtest/gtest.h>
#include <sys/wait.h>
#include <unistd.h>

#include "core/base/running_program.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::library {
namespace {

using Ids = std::vector<SubmissionId>;

TEST(UnfinishedReturns, WhatIsUnderWayIsNotUnfinishedAndWhatEndedIsForgotten) {
  const tests::ScratchFolder folder;
  EXPECT_EQ(unfinishedReturns(folder.path()), Ids{});
  tests::must(beginReturn(folder.path(), SubmissionId(7)));
  EXPECT_EQ(unfinishedReturns(folder.path()), Ids{}) << "this program lives";
  endReturn(folder.path(), SubmissionId(7));
  EXPECT_TRUE(std::filesystem::is_empty(folder / "returning"));
}

TEST(UnfinishedReturns, AProgramThatWasKilledLeavesWordOfWhatItWasAt) {
  const tests::ScratchFolder folder;
  for (const int number : {12, 5}) {
    const pid_t child = fork();
    ASSERT_GE(child, 0);
    if (child == 0) {
      (void)beginReturn(folder.path(), SubmissionId(number));
      ::kill(::getpid(), SIGKILL);
    }
    int status = 0;
    ASSERT_EQ(waitpid(child, &status, 0), child);
    ASSERT_TRUE(WIFSIGNALED(status));
  }
  EXPECT_EQ(unfinishedReturns(folder.path()), (Ids{SubmissionId(5), SubmissionId(12)}));
  endReturn(folder.path(), SubmissionId(5));
  EXPECT_EQ(unfinishedReturns(folder.path()), Ids{SubmissionId(12)});
}

TEST(UnfinishedReturns, WhatLiesThereByAccidentIsNoReply) {
  const tests::ScratchFolder folder;
  std::filesystem::create_directory(folder / "returning");
  for (const char* name : {"returning/notes.txt", "returning/12x", "returning/-3"}) folder.write(name, "1:1");
  EXPECT_EQ(unfinishedReturns(folder.path()), Ids{});
}

TEST(RunningProgram, IsTheSameNumberAndTheSameBeginning) {
  EXPECT_TRUE(lives(thisProgram()));
  EXPECT_FALSE(lives(std::to_string(::getpid()) + ":1")) << "another program of that number";
  EXPECT_FALSE(lives(""));
  EXPECT_FALSE(lives("-1:5"));
}

}  // namespace
}  // namespace jib::library
