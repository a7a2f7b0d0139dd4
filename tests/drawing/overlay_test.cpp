// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/overlay.h"

#include <gtest/gtest.h>

#include <QImage>

#include "drawing/palette.h"

namespace jib::drawing {
namespace {

using tracing::at;
using tracing::Landmark;

coaching::Analysis twoPoints(tracing::Origin knee) {
  coaching::Analysis a;
  a.trace.trace.times_s = {0};
  a.trace.trace.frames.resize(1);
  a.trace.trace.frames[0][at(Landmark::Ankle)] = tracing::TracedPoint{{100, 180}, 1, tracing::Origin::Optical};
  a.trace.trace.frames[0][at(Landmark::Knee)] = tracing::TracedPoint{{100, 60}, 1, knee};
  a.motion.times_s = {0};
  a.motion.angles.resize(1);
  return a;
}

QImage painted(const coaching::Analysis& a, const OverlayChoice& choice) {
  QImage image(200, 240, QImage::Format_RGB32);
  image.fill(Qt::black);
  QPainter painter(&image);
  OverlayPainter(painter, a, QTransform(), 1).paint(0, choice);
  return image;
}

bool has(const QImage& image, const QRect& where, const QColor& colour) {
  for (int y = where.top(); y <= where.bottom(); ++y)
    for (int x = where.left(); x <= where.right(); ++x)
      if (image.pixelColor(x, y) == colour) return true;
  return false;
}

const OverlayChoice kBody{.bar_path = false, .mid_foot = false, .segments = true, .angles = false, .depth = false};
const QRect kAtKnee(92, 52, 17, 17);

TEST(Overlay, PaintsTheShinInItsColourBetweenAnkleAndKnee) {
  const QImage image = painted(twoPoints(tracing::Origin::Optical), kBody);
  EXPECT_TRUE(has(image, QRect(97, 118, 7, 4), kShinColour));
  EXPECT_FALSE(has(image, QRect(20, 20, 40, 200), kShinColour));
}

TEST(Overlay, GivesMagentaOnlyToTheCoachsOwnMarks) {
  EXPECT_TRUE(has(painted(twoPoints(tracing::Origin::Pinned), kBody), kAtKnee, kCoachColour));
  EXPECT_FALSE(has(painted(twoPoints(tracing::Origin::Optical), kBody), QRect(0, 0, 200, 240), kCoachColour));
}

// The network's own sighting of the knee, ten pixels beside where the fit has it.
coaching::Analysis sighted(double seconds_away, double confidence) {
  coaching::Analysis a = twoPoints(tracing::Origin::Optical);
  a.motion.times_s = {0, seconds_away};
  tracing::Sighting s;
  s.frame = seconds_away > 0 ? 1 : 0;
  const auto knee = s.reading.index(tracing::PoseMark::Knee, tracing::BodySide::Right);
  s.reading.places[knee] = {150, 60};
  s.reading.confidence[knee] = confidence;
  a.trace.sightings = std::make_shared<const std::vector<tracing::Sighting>>(std::vector{s});
  return a;
}

TEST(Overlay, ShowsWhatTheNetworkSawBesideTheFit) {
  OverlayChoice raw = kBody;
  raw.seen = true;
  const QRect at_sighting(143, 53, 15, 15);
  const auto marked = [&](const coaching::Analysis& a, const OverlayChoice& choice) {
    const QImage image = painted(a, choice);
    for (int y = at_sighting.top(); y <= at_sighting.bottom(); ++y)
      for (int x = at_sighting.left(); x <= at_sighting.right(); ++x)
        if (image.pixelColor(x, y).red() > 60) return true;
    return false;
  };
  EXPECT_TRUE(marked(sighted(0, 0.9), raw));
  EXPECT_TRUE(marked(sighted(0.1, 0.9), raw)) << "that of a frame close by, fainter";
  EXPECT_TRUE(marked(sighted(0.15, 0.9), raw)) << "between two looks at a bar that rests";
  EXPECT_FALSE(marked(sighted(0, 0.9), kBody)) << "only when asked for";
  auto outlined = sighted(0, 0.2);
  auto look = outlined.trace.sightings->front();
  look.reading.outline = {{145, 55}, {156, 55}, {156, 66}, {145, 66}};
  outlined.trace.sightings = std::make_shared<const std::vector<tracing::Sighting>>(std::vector{look});
  EXPECT_TRUE(marked(outlined, raw)) << "the outline of which it is sure";
  EXPECT_FALSE(marked(sighted(0.5, 0.9), raw)) << "not that of another moment";
  EXPECT_FALSE(marked(sighted(0, 0.2), raw)) << "not what it hardly saw";
}

TEST(Overlay, PaintsNothingThatIsSwitchedOff) {
  const OverlayChoice none{.bar_path = false, .mid_foot = false, .segments = false, .angles = false, .depth = false};
  QImage black(200, 240, QImage::Format_RGB32);
  black.fill(Qt::black);
  EXPECT_EQ(painted(twoPoints(tracing::Origin::Pinned), none), black);
}

}  // namespace
}  // namespace jib::drawing
