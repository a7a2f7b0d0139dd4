// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/trimmed.h"

#include <gtest/gtest.h>

namespace jib::review {
namespace {

using Span = std::pair<double, double>;

TEST(Trimmed, OnlyPartsAtTheEndsShortenWhatIsShown) {
  EXPECT_EQ(trimmed({}, 0, 20, 0.05), Span(0, 20));
  EXPECT_EQ(trimmed({{0, 3}, {9, 11}, {16, 20}}, 0, 20, 0.05), Span(3, 16));
  EXPECT_EQ(trimmed({{9, 11}}, 0, 20, 0.05), Span(0, 20)) << "a part in the middle is not measured, and shown";
  EXPECT_EQ(trimmed({{0.04, 3}}, 0, 20, 0.05), Span(3, 20)) << "within a frame of the end";
  EXPECT_EQ(trimmed({{0.2, 3}}, 0, 20, 0.05), Span(0, 20));
}

TEST(Trimmed, AClipIsNeverTrimmedAway) {
  EXPECT_EQ(trimmed({{0, 20}}, 0, 20, 0.05), Span(0, 20));
  EXPECT_EQ(trimmed({{0, 12}, {12, 20}}, 0, 20, 0.05), Span(0, 20));
}

}  // namespace
}  // namespace jib::review
