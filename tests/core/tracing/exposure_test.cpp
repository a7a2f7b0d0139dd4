// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/pose/exposure.h"

#include <gtest/gtest.h>

namespace jib::tracing {
namespace {

// A grey wall with a light thing on a twentieth of it.
cv::Mat room(int wall, int light) {
  cv::Mat m(100, 100, CV_8UC3, cv::Scalar::all(wall));
  m(cv::Rect(20, 20, 25, 20)).setTo(cv::Scalar::all(light));
  return m;
}

TEST(Brightening, LeavesAWellExposedPictureAlone) {
  EXPECT_DOUBLE_EQ(brightening(room(120, 210)), 1);
  EXPECT_DOUBLE_EQ(brightening(room(120, 255)), 1);
}

TEST(Brightening, BringsWhatIsLightInADimOneToWhereItBelongs) {
  EXPECT_NEAR(brightening(room(40, 95)) * 95, 190, 3);
}

TEST(Brightening, DoesNotTurnNoiseIntoAPicture) {
  EXPECT_DOUBLE_EQ(brightening(room(8, 20)), 3);
  EXPECT_DOUBLE_EQ(brightening(cv::Mat(50, 50, CV_8UC3, cv::Scalar::all(0))), 1) << "nothing to see";
}

TEST(Brightening, IsNotFooledByTheBlackBeyondThePicture) {
  cv::Mat m = room(40, 95), wide(100, 400, CV_8UC3, cv::Scalar::all(0));
  m.copyTo(wide(cv::Rect(0, 0, 100, 100)));
  EXPECT_DOUBLE_EQ(brightening(wide), brightening(m));
}

}  // namespace
}  // namespace jib::tracing
