// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/shape_painter.h"

#include <gtest/gtest.h>

#include <QImage>

#include "drawing/palette.h"

namespace jib::drawing {
namespace {

using coaching::Sense;
using coaching::ShapeKind;

// What one shape looks like on a black picture of an untraced clip, magnified by `zoom`.
QImage painted(ShapeKind kind, Sense sense, const std::vector<PixelPoint>& ends, double zoom = 1) {
  coaching::Analysis a;
  a.clip.width = a.clip.height = 200;
  a.trace.trace.times_s = {0};
  a.trace.trace.frames.resize(1);
  a.motion.times_s = {0};
  coaching::Shape shape;
  shape.kind = kind;
  shape.sense = sense;
  for (const PixelPoint end : ends) shape.anchors.push_back({end, std::nullopt, 0, {}});
  QImage image(200, 200, QImage::Format_RGB32);
  image.fill(Qt::black);
  QPainter painter(&image);
  paintShapes(painter, {{shape}, {}}, a, 0, QTransform::fromScale(zoom, zoom), 1);
  return image;
}

int pixelsOf(const QImage& image, const QColor& colour, const QRect& where) {
  int n = 0;
  for (int y = where.top(); y <= where.bottom(); ++y)
    for (int x = where.left(); x <= where.right(); ++x) n += image.pixelColor(x, y) == colour;
  return n;
}

TEST(ShapePainter, APlumbLineCrossesThePictureFromEdgeToEdge) {
  const QImage image = painted(ShapeKind::Plumb, Sense::AsItIs, {{60, 90}});
  for (int y = 0; y < 200; ++y) EXPECT_EQ(image.pixelColor(60, y), kCoachColour) << "at " << y;
  EXPECT_EQ(pixelsOf(image, kCoachColour, QRect(80, 0, 120, 200)), 0);
}

TEST(ShapePainter, ALineThatLeavesThePictureIsDrawnAsFarAsItIsSeen) {
  const QImage image = painted(ShapeKind::Line, Sense::AsItIs, {{100, 100}, {5000, 100}});
  EXPECT_EQ(image.pixelColor(150, 100), kCoachColour);
  EXPECT_EQ(image.pixelColor(199, 100), kCoachColour);
  EXPECT_NE(image.pixelColor(80, 100), kCoachColour);
  EXPECT_EQ(
      pixelsOf(painted(ShapeKind::Line, Sense::AsItIs, {{-900, -50}, {900, -50}}), kCoachColour, QRect(0, 0, 200, 200)),
      0)
      << "wholly outside";
}

TEST(ShapePainter, WhatIsWantedIsDashedInItsOwnColour) {
  const QImage image = painted(ShapeKind::Line, Sense::AsWanted, {{10, 100}, {190, 100}});
  int dashes = 0;
  for (int x = 1; x < 200; ++x)
    dashes += image.pixelColor(x, 100) == kWantedColour && image.pixelColor(x - 1, 100) != kWantedColour;
  EXPECT_GE(dashes, 8);
  EXPECT_EQ(pixelsOf(image, kCoachColour, QRect(0, 0, 200, 200)), 0);
}

TEST(ShapePainter, AWantedRingIsDashedAllTheWayRound) {
  const QImage image = painted(ShapeKind::Ring, Sense::AsWanted, {{100, 100}, {170, 100}});
  constexpr int kEdgeGreen = 0x12;  // of the dark edge below the dashes
  int dashes = 0;
  bool was = false;
  for (int tenth = 0; tenth < 3600; ++tenth) {
    const double turn = tenth * M_PI / 1800;
    const QColor there(
        image.pixelColor(std::lround(100 + 70 * std::cos(turn)), std::lround(100 + 70 * std::sin(turn))));
    const bool on = 2 * there.green() > kWantedColour.green() + kEdgeGreen;
    dashes += on && !was;
    was = on;
  }
  // Once round is 440 pixels, a dash with its gap 15.6.
  EXPECT_GE(dashes, 24);
  EXPECT_LE(dashes, 34);
}

TEST(ShapePainter, ARingIsRoundAndHollowAtAnyZoom) {
  for (double zoom : {0.5, 1.0, 2.0}) {
    const double middle = 100 / zoom, radius = 70 / zoom;
    const QImage image = painted(ShapeKind::Ring, Sense::AsItIs, {{middle, middle}, {middle + radius, middle}}, zoom);
    for (int degrees = 0; degrees < 360; degrees += 15) {
      const double turn = degrees * M_PI / 180;
      const QPoint on(std::lround(100 + 70 * std::cos(turn)), std::lround(100 + 70 * std::sin(turn)));
      EXPECT_GT(image.pixelColor(on).red(), kCoachColour.red() / 2) << degrees << " degrees, zoom " << zoom;
    }
    EXPECT_EQ(pixelsOf(image, kCoachColour, QRect(60, 60, 80, 80)), 0);
  }
}

}  // namespace
}  // namespace jib::drawing
