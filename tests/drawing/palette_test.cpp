// SPDX-License-Identifier: GPL-3.0-or-later
#include "drawing/palette.h"

#include <gtest/gtest.h>

#include <cmath>

namespace jib::drawing {
namespace {

double linear(double channel) {
  return channel <= 0.04045 ? channel / 12.92 : std::pow((channel + 0.055) / 1.055, 2.4);
}

double luminance(const QColor& c) {
  return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}

// Contrast as the Web Content Accessibility Guidelines 2.1 define it.
double contrast(const QColor& a, const QColor& b) {
  const double x = luminance(a), y = luminance(b);
  return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

class Themes : public testing::TestWithParam<const Palette* (*)()> {};

INSTANTIATE_TEST_SUITE_P(DayAndNight, Themes,
                         testing::Values(
                             +[] { return &day(); }, +[] { return &night(); }));

TEST_P(Themes, WordsAreReadableOnEveryGround) {
  const Palette& p = *GetParam()();
  for (const QColor& ground : {p.paper, p.panel, p.raised}) {
    EXPECT_GE(contrast(p.ink, ground), 7.0);
    EXPECT_GE(contrast(p.faint, ground), 4.5);
    for (const QColor& verdict : {p.good, p.warn, p.bad}) EXPECT_GE(contrast(verdict, ground), 4.5);
  }
}

TEST_P(Themes, TheCoachsMagentaStandsOutAndIsNobodyElses) {
  const Palette& p = *GetParam()();
  EXPECT_GE(contrast(p.coach, p.panel), 3.0);
  for (const QColor& other : {p.ink, p.faint, p.good, p.warn, p.bad, p.deep}) {
    const int apart = std::abs(p.coach.hsvHue() - other.hsvHue());
    EXPECT_TRUE(other.hsvSaturation() < 60 || std::min(apart, 360 - apart) > 20) << other.name().toStdString();
  }
}

TEST(OverlayColours, OfNeighbouringPartsDifferInLightnessToo) {
  // Told apart without seeing hues: by a twentieth of the way from black to white at least.
  const QColor chain[] = {kFootColour, kShinColour, kThighColour};
  for (int i = 0; i + 1 < 3; ++i) EXPECT_GT(std::abs(luminance(chain[i]) - luminance(chain[i + 1])), 0.02) << i;
  EXPECT_GT(std::abs(luminance(kDescentColour) - luminance(kAscentColour)), 0.02);
}

}  // namespace
}  // namespace jib::drawing
