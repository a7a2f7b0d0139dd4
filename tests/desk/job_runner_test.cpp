// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/jobs/job_runner.h"

#include <gtest/gtest.h>

#include <QSignalSpy>
#include <QTest>
#include <QThread>
#include <atomic>

namespace jib::desk {
namespace {

constexpr int kPatience_ms = 30000;

TEST(JobRunner, BringsTheResultBackToTheWindowsThread) {
  JobRunner jobs(Lane::Replace);
  int got = 0;
  QThread* delivered_on = nullptr;
  jobs.start<int>(
      "count", [](Task&) { return Result<int>(42); },
      [&](Result<int> r) {
        got = *r;
        delivered_on = QThread::currentThread();
      });
  ASSERT_TRUE(QTest::qWaitFor([&] { return got != 0; }, kPatience_ms));
  EXPECT_EQ(got, 42);
  EXPECT_EQ(delivered_on, QThread::currentThread());
  EXPECT_FALSE(jobs.busy());
}

TEST(JobRunner, DropsTheResultOfACancelledJob) {
  JobRunner jobs(Lane::Replace);
  std::atomic<bool> ended{false};
  bool delivered = false;
  jobs.start<int>(
      "wait",
      [&](Task& task) {
        while (!task.cancelled()) QThread::yieldCurrentThread();
        ended = true;
        return Result<int>(1);
      },
      [&](Result<int>) { delivered = true; });
  jobs.cancel();
  EXPECT_FALSE(jobs.busy());
  ASSERT_TRUE(QTest::qWaitFor([&] { return ended.load(); }, kPatience_ms));
  QCoreApplication::processEvents();
  EXPECT_FALSE(delivered);
}

TEST(JobRunner, TurnsABugIntoWordsAndLives) {
  JobRunner jobs(Lane::Replace);
  std::optional<Error> error;
  jobs.start<int>(
      "fail",
      [](Task&) -> Result<int> {
        JIB_ASSERT(1 == 2);
        return 0;
      },
      [&](Result<int> r) { error = r.error(); });
  ASSERT_TRUE(QTest::qWaitFor([&] { return error.has_value(); }, kPatience_ms));
  EXPECT_NE(error->next.find("review is kept"), std::string::npos);
}

}  // namespace
}  // namespace jib::desk
