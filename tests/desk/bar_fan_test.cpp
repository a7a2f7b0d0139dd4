// SPDX-License-Identifier: GPL-3.0-or-later
// All reps of a set over one another: what is drawn, and where a click goes.
#include "desk/review/bar_fan.h"

#include <qcustomplot.h>

#include <QSettings>

#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

TEST(BarFan, AllRepsLieOverOneAnotherAndAClickGoesToTheNearest) {
  Desk t;
  auto& page = t.open();
  page.findChild<QAction*>("stripAction")->trigger();
  page.findChild<QAction*>("plotsAction")->trigger();
  auto* fan = page.findChild<desk::BarFan*>();
  auto* path = fan->findChild<QCustomPlot*>("pathPlot");
  auto* speed = fan->findChild<QCustomPlot*>("speedHeightPlot");
  const auto a = page.document().analysis();
  // Down and up of each rep, and the dot.
  EXPECT_EQ(path->plottableCount(), static_cast<int>(2 * a->reps.size() + 1));
  EXPECT_EQ(speed->plottableCount(), static_cast<int>(a->reps.size() + 1));
  page.player().goTo((a->reps[0].ascent_t() + a->reps[0].lockout_t()) / 2);
  const auto bar = a->motion.placeAt(tracing::Landmark::Bar, page.player().time());
  const auto v = a->motion.speedAt(page.player().time());
  ASSERT_TRUE(bar && v);
  const QPoint there(static_cast<int>(speed->xAxis->coordToPixel(*v)),
                     static_cast<int>(speed->yAxis->coordToPixel(100 * bar->z)));
  const auto found = fan->timeAt(*speed, there);
  ASSERT_TRUE(found);
  EXPECT_NEAR(a->motion.placeAt(tracing::Landmark::Bar, *found)->z, bar->z, 0.03) << "of whichever rep is nearest";
  EXPECT_FALSE(fan->timeAt(*speed, QPoint(-500, -500)));
  page.player().goTo(a->reps.front().start_t());
  QTest::mouseClick(speed, Qt::LeftButton, {}, there);
  EXPECT_NEAR(page.player().time(), *found, 0.05);
  // What is on show is remembered: the next test finds the desk as usual.
  for (const char* key : {"keyFrames", "plots"}) QSettings().remove(key);
}

}  // namespace
}  // namespace jib::tests
