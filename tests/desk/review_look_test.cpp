// SPDX-License-Identifier: GPL-3.0-or-later
// What the review desk shows of certainty and causes, read back from what it paints and says.
#include <gtest/gtest.h>

#include <QLabel>
#include <QPushButton>
#include <QRegularExpression>
#include <QTest>

#include "desk/review/findings_panel.h"
#include "desk/review/ghost_figure.h"
#include "desk/review/measures_model.h"
#include "desk/review/scrubber.h"
#include "desk/theme.h"
#include "tests/core/analysed_clip.h"

namespace jib::desk {
namespace {

using tests::smallAnalysis;
using tracing::at;
using tracing::Landmark;

struct Reviewed {
  ReviewDocument document{{library::AthleteId(1), "Ola", "", "balanced"},
                          {},
                          {},
                          JIB_MADE_CLIP,
                          *coaching::shippedStyle("balanced"),
                          *coaching::CueBook::shipped()};
  explicit Reviewed(coaching::Analysis a = smallAnalysis()) { document.takeAnalysis(std::move(a)); }
};

// The small clip as if the points' σ were this many metres everywhere.
coaching::Analysis assured(double sigma_m) {
  coaching::Analysis a = smallAnalysis();
  const double px = a.trace.camera.pixelsPerMetre(a.trace.camera.hip_m);
  for (auto& frame : a.trace.trace.frames)
    for (Landmark l : {Landmark::Hip, Landmark::Knee})
      if (frame[at(l)]) frame[at(l)]->sigma_px = sigma_m * px;
  return a;
}

// Rows of ink in the strip under the curve, at a moment of the clip.
int certaintyAt(const coaching::Analysis& a, double t_s) {
  Reviewed reviewed(a);
  Scrubber scrubber(reviewed.document);
  scrubber.resize(600, 104);
  scrubber.setDuration(a.motion.times_s.front(), a.motion.times_s.back());
  scrubber.setPlayHead(a.motion.times_s.front());
  const QImage image = scrubber.grab().toImage();
  const int x = static_cast<int>(scrubber.xAt(t_s) * image.devicePixelRatio());
  int rows = 0;
  for (int y = image.height() - 14; y < image.height(); ++y) rows += image.pixelColor(x, y) == colours().ink ? 1 : 0;
  return rows;
}

TEST(CertaintyStrip, IsThickerTheSurerThePoints) {
  const double t = smallAnalysis().reps[0].bottom_t() + 0.3;
  const int sure = certaintyAt(assured(0.010), t), fair = certaintyAt(assured(0.030), t),
            poor = certaintyAt(assured(0.080), t);
  EXPECT_GT(sure, fair);
  EXPECT_GT(fair, poor);
  EXPECT_GT(poor, 0);
}

TEST(CertaintyStrip, IsEmptyWithoutABody) {
  coaching::Analysis a = smallAnalysis();
  a.trace.body = nullptr;
  EXPECT_EQ(certaintyAt(a, a.reps[0].bottom_t() + 0.3), 0);
}

TEST(TimeLine, TellsWhereARefereeCouldHaveSignalled) {
  Reviewed reviewed;
  const auto& a = *reviewed.document.analysis();
  const auto signalled = motion::signalsOf(a.reps, a.motion, motion::RepPattern::DownFirst);
  ASSERT_FALSE(signalled.empty());
  Scrubber scrubber(reviewed.document);
  scrubber.resize(900, 104);
  scrubber.setDuration(a.motion.times_s.front(), a.motion.times_s.back());
  scrubber.show();
  const auto& last = signalled.back();
  ASSERT_EQ(last.place, motion::SignalPlace::AtTop);
  QTest::mouseMove(&scrubber, QPoint(static_cast<int>(std::lround(scrubber.xAt(last.t_s))), 50));
  EXPECT_TRUE(scrubber.toolTip().contains("Rack")) << scrubber.toolTip().toStdString();
  EXPECT_TRUE(scrubber.toolTip().contains("referees")) << "who have the last word";
}

TEST(MeasuresModel, PutsEveryMeasureUnderItsHeading) {
  MeasuresModel model;
  model.setAnalysis(std::make_shared<const coaching::Analysis>(smallAnalysis()));
  QString heading;
  QStringList headings;
  int measures = 0;
  for (int r = 0; r < model.rowCount(); ++r) {
    if (model.isHeading(r)) {
      heading = model.index(r, 0).data().toString();
      headings << heading;
      EXPECT_FALSE(model.index(r, 1).data().isValid());
      continue;
    }
    ++measures;
    const auto id = model.index(r, 0).data(MeasuresModel::IdRole).toString().toStdString();
    const auto* kind = lifts::measureDefinition(id);
    ASSERT_NE(kind, nullptr) << id;
    EXPECT_EQ(heading.toStdString(), kind->group) << id;
  }
  EXPECT_EQ(headings, QStringList({"Walk-out", "Set-up", "Descent", "Bottom", "Ascent", "Lockout", "Bar", "Set"}));
  EXPECT_EQ(measures, static_cast<int>(smallAnalysis().measures.reps[0].size() + smallAnalysis().measures.set.size()));
}

TEST(FindingsPanel, ShowsRivalCausesWithWhatSpeaksForThem) {
  coaching::Analysis a = smallAnalysis();
  coaching::Finding f;
  f.id = "squat.hips_lead";
  f.verdict = coaching::Verdict::Yes;
  f.kind = lifts::measureDefinition("hip_shoulder_rise_ratio");
  f.worst = {1.6, 0.1, 2.0};
  f.limit = 1.25;
  f.reps = {1, 2};
  coaching::Evidence e;
  e.kind = lifts::measureDefinition("lean_mismatch_deg");
  e.value = {11, 1, 2.0};
  e.rule = {"lean_mismatch_deg", true, 8, true};
  f.rivals = {{"upright on the way down", "match the lean", 1, coaching::Standing::Supported, {e}, {}, {}},
              {"seen from <nowhere>", "ask", 1, coaching::Standing::Open, {}, {}, {}},
              {"dropped too fast", "three counts", 1, coaching::Standing::Unlikely, {}, {e}, {}}};
  a.findings = {f};
  a.proposal.cues.clear();
  Reviewed reviewed(a);
  FindingsPanel panel(reviewed.document);
  const auto lines = panel.findChildren<QLabel*>(QStringLiteral("rival"));
  ASSERT_EQ(lines.size(), 3);
  EXPECT_TRUE(lines[0]->text().contains("Lean, down vs up 11 ± 2"));
  EXPECT_TRUE(lines[0]->text().contains("match the lean"));
  EXPECT_TRUE(lines[1]->text().contains("can't tell from this clip"));
  EXPECT_TRUE(lines[1]->text().contains("&lt;nowhere&gt;")) << "words are words, not markup";
  EXPECT_TRUE(lines[2]->text().contains("speaks against it:"));
  EXPECT_FALSE(lines[2]->text().contains("three counts")) << "an unlikely cause need not be tested";
}

TEST(GhostFigure, StandsWhereTheProgramSeesTheBody) {
  const auto& a = smallAnalysis();
  const auto ghost = ghostFigure(a, 20, {});
  for (Landmark l : tracing::kPlacedLandmarks) {
    ASSERT_TRUE(ghost[at(l)]);
    EXPECT_LT(length(*ghost[at(l)] - *a.trace.trace.place(20, l)), 1e-9);
  }
}

TEST(GhostFigure, IsAnAverageLifterUnderTheBarWhenNothingIsSeen) {
  coaching::Analysis a = smallAnalysis();
  a.trace.body = nullptr;
  const auto ghost = ghostFigure(a, 20, {});
  const PixelPoint bar = *a.trace.trace.place(20, Landmark::Plate);
  ASSERT_TRUE(ghost[at(Landmark::Hip)] && ghost[at(Landmark::Knee)] && ghost[at(Landmark::Toe)]);
  EXPECT_GT(ghost[at(Landmark::Hip)]->y, bar.y);
  EXPECT_GT(ghost[at(Landmark::Knee)]->y, ghost[at(Landmark::Hip)]->y);
  EXPECT_GT(ghost[at(Landmark::Toe)]->y, ghost[at(Landmark::Knee)]->y);
  const double forward = *a.trace.forward;
  EXPECT_GT(forward * (ghost[at(Landmark::Toe)]->x - ghost[at(Landmark::Heel)]->x), 0);
  // A placed toe pulls the whole figure along.
  std::array<std::optional<PixelPoint>, tracing::kLandmarks> placed;
  placed[at(Landmark::Toe)] = *ghost[at(Landmark::Toe)] + PixelPoint{40, 0};
  EXPECT_NEAR(ghostFigure(a, 20, placed)[at(Landmark::Knee)]->x, ghost[at(Landmark::Knee)]->x + 40, 1e-6);
}

}  // namespace
}  // namespace jib::desk
