// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/sightings/first_look.h"

#include <gtest/gtest.h>

#include "tests/core/must.h"

namespace jib::tests {
namespace {

using namespace tracing;

TEST(FirstLook, IsTakenOnceForALifter) {
  auto reader = must(footage::FrameReader::open(JIB_MADE_CLIP));
  Task task;
  const PointedAt somewhere{1.0, {320, 180}};
  auto made = std::make_shared<FirstLook>();
  made->lifter = somewhere;
  EXPECT_EQ(must(glanceAt(reader, task, somewhere, made)), made);
  const auto anew = must(glanceAt(reader, task, std::nullopt, made));
  EXPECT_NE(anew, made) << "of whoever is the largest";
  EXPECT_GT(anew->found, 6);
}

}  // namespace
}  // namespace jib::tests
