// SPDX-License-Identifier: GPL-3.0-or-later
// The parts of the review desk beside the stage, each on its own: cue choice, history, guided placing, set-up.
#include <gtest/gtest.h>

#include <QAbstractItemView>
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QSignalSpy>
#include <QSpinBox>
#include <QTest>

#include "core/review/strain_check.h"
#include "desk/review/approach_strip.h"
#include "desk/review/commands/change_cues.h"
#include "desk/review/commands/mark_by_eye.h"
#include "desk/review/commands/place_point.h"
#include "desk/review/cue_panel.h"
#include "desk/review/findings_panel.h"
#include "desk/review/history_panel.h"
#include "desk/review/measures_model.h"
#include "desk/review/pin_panel.h"
#include "desk/review/placing_guide.h"
#include "desk/review/set_up_strip.h"
#include "tests/core/analysed_clip.h"

namespace jib::desk {
namespace {

using tests::smallAnalysis;
using tracing::Landmark;

library::Review reviewOf(const coaching::Analysis& a) {
  library::Review review;
  review.placed = a.request.trace.placed;
  return review;
}

// A review of the small clip, traced and judged.
struct Reviewed {
  ReviewDocument document{{library::AthleteId(1), "Ola", "", "balanced"},
                          {},
                          reviewOf(smallAnalysis()),
                          JIB_MADE_CLIP,
                          *coaching::shippedStyle("balanced"),
                          *coaching::CueBook::shipped()};

  Reviewed() { document.setAnalysis(smallAnalysis()); }

  const coaching::Analysis& analysis() { return *document.analysis(); }
  double value(const char* id) { return lifts::find(analysis().measures.reps.at(0), id)->measured()->value; }
  // A choice of the coach's own, so that the proposal no longer matters.
  void choose(std::vector<coaching::Cue> cues) {
    document.undoStack().push(new ChangeCues(document, "choose", {std::move(cues), false, {}}, newGesture()));
  }
};

coaching::Cue cueNamed(const std::string& finding) {
  coaching::Cue cue;
  cue.finding = finding;
  cue.title = finding;
  cue.wording = "Say " + finding;
  cue.measure = "knee_slide_back_m";
  cue.t_s = 2.5;
  return cue;
}

// What was taken out of a rebuilt panel goes with the event loop's next turn.
template <class Widget>
QList<Widget*> shown(QWidget& panel, const QString& pattern) {
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  return panel.findChildren<Widget*>(QRegularExpression(pattern));
}

bool says(QWidget& panel, const QString& words) {
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  const auto labels = panel.findChildren<QLabel*>();
  return std::any_of(labels.begin(), labels.end(), [&](QLabel* l) { return l->text().contains(words); });
}

TEST(CuePanel, SaysWhatWillComeWhileNothingIsTraced) {
  ReviewDocument document({library::AthleteId(1), "Ola", "", "balanced"}, {}, {}, "clip.mp4",
                          *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  CuePanel panel(document);
  EXPECT_TRUE(says(panel, "once the clip is tracked"));
}

TEST(FindingsPanel, TakesAFindingAsACueAndGivesItBackOnUndo) {
  Reviewed r;
  r.choose({});
  FindingsPanel panel(r.document);
  const auto say = shown<QPushButton>(panel, "^say_");
  ASSERT_FALSE(say.empty()) << "the clip's knees slide back, and that is found";
  const QString id = say.front()->objectName().mid(4);
  say.front()->click();
  ASSERT_EQ(r.document.choice().cues.size(), 1u);
  EXPECT_EQ(r.document.choice().cues[0].finding, id.toStdString());
  EXPECT_TRUE(shown<QPushButton>(panel, "^say_" + QRegularExpression::escape(id) + "$").empty())
      << "what is said already is not offered again";
  r.document.undoStack().undo();
  EXPECT_TRUE(r.document.choice().cues.empty());
  EXPECT_FALSE(shown<QPushButton>(panel, "^say_" + QRegularExpression::escape(id) + "$").empty());
}

TEST(MarkByEye, IsARowOfTheTableAFindingAndOneUndo) {
  Reviewed r;
  r.choose({});
  MeasuresModel model;
  model.setByEye(r.document.book().byEye(lifts::LiftId::Squat));
  model.setAnalysis(r.document.analysis());
  const auto row = [&](const char* finding) {
    for (int i = 0; i < model.rowCount(); ++i)
      if (model.index(i, 0).data(MeasuresModel::ByEyeRole).toString() == QLatin1String(finding)) return i;
    return -1;
  };
  const int tucks = row("squat.pelvis_tucks");
  ASSERT_GE(tucks, 0);
  EXPECT_EQ(model.index(tucks, 1).data().toString(), "–");
  FindingsPanel panel(r.document);
  r.document.undoStack().push(
      new MarkByEye(r.document, "mark", {{"squat.pelvis_tucks", coaching::MarkState::Seen, 2, 4.0}}));
  model.setAnalysis(r.document.analysis());
  EXPECT_EQ(model.index(tucks, 1).data().toString(), "–") << "each rep has its own";
  EXPECT_EQ(model.index(tucks, 2).data().toString(), "▲ seen");
  EXPECT_EQ(model.index(tucks, 2).data(MeasuresModel::TimeRole).toDouble(), 4.0);
  EXPECT_FALSE(shown<QPushButton>(panel, "^say_squat.pelvis_tucks$").empty()) << "and can be said";
  EXPECT_EQ(r.document.review().marks.size(), 1u);
  r.document.undoStack().undo();
  model.setAnalysis(r.document.analysis());
  EXPECT_EQ(model.index(tucks, 2).data().toString(), "–");
}

TEST(PinPanel, ListsWhatWasPlacedAndTakesItAwayWithUndo) {
  Reviewed r;
  PinPanel panel(r.document);
  const int placed = panel.count();
  ASSERT_EQ(r.document.placed().size(), 2u);
  EXPECT_EQ(placed, 14) << "six on a still frame, eight at the bottom";
  EXPECT_EQ(shown<QPushButton>(panel, "^unpin$").size(), placed);
  const double knee = r.value("knee_slide_back_m");
  QSignalSpy asked(&panel, &PinPanel::timeRequested);
  shown<QPushButton>(panel, "^quiet$").back()->click();
  ASSERT_EQ(asked.count(), 1);
  EXPECT_NEAR(asked.front().front().toDouble(), r.document.placed().back().t_s, 1e-9) << "frames in order of time";
  shown<QPushButton>(panel, "^unpinFrame$").back()->click();
  EXPECT_EQ(panel.count(), 6);
  EXPECT_NE(r.value("knee_slide_back_m"), knee) << "the numbers follow at once";
  EXPECT_EQ(shown<QPushButton>(panel, "^unpin$").size(), 6);
  r.document.undoStack().undo();
  EXPECT_EQ(panel.count(), placed) << "the whole frame is one step of undo";
  EXPECT_EQ(r.value("knee_slide_back_m"), knee);
  shown<QPushButton>(panel, "^unpin$").front()->click();
  EXPECT_EQ(panel.count(), placed - 1);
}

TEST(PinPanel, SaysWhatItIsForWhileNothingIsPlaced) {
  ReviewDocument document({library::AthleteId(1), "Ola", "", "balanced"}, {}, {}, "clip.mp4",
                          *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  PinPanel panel(document);
  EXPECT_EQ(panel.count(), 0);
  EXPECT_TRUE(says(panel, "No points placed by hand yet"));
}

TEST(FindingsPanel, SaysAtWhichLoadAFaultHasShownBefore) {
  Reviewed r;
  FindingsPanel panel(r.document);
  EXPECT_TRUE(shown<QLabel>(panel, "^shownBefore$").empty());
  panel.setShownBefore({{"squat.knees_slide_back", "Lightest load it has shown at: 120 kg"}, {"squat.other", "x"}});
  const auto lines = shown<QLabel>(panel, "^shownBefore$");
  ASSERT_EQ(lines.size(), 1) << "only beside the finding it is about";
  EXPECT_TRUE(lines.front()->text().contains("120 kg"));
}

TEST(FindingsPanel, OffersNoMoreThanTheStyleAllows) {
  Reviewed r;
  const auto limit = static_cast<std::size_t>(r.document.style().cue_limit);
  std::vector<coaching::Cue> cues;
  for (std::size_t i = 0; i < limit; ++i) cues.push_back(cueNamed("squat.other_" + std::to_string(i)));
  r.choose(cues);
  FindingsPanel panel(r.document);
  for (const QPushButton* say : shown<QPushButton>(panel, "^say_")) {
    EXPECT_FALSE(say->isEnabled());
    EXPECT_TRUE(say->toolTip().contains("remove one first"));
  }
  cues.pop_back();
  r.choose(cues);
  for (const QPushButton* say : shown<QPushButton>(panel, "^say_")) EXPECT_TRUE(say->isEnabled());
}

TEST(CuePanel, EveryFieldOfACueIsTheCoachsToWrite) {
  Reviewed r;
  r.choose({cueNamed("squat.knees_slide_back")});
  CuePanel panel(r.document);
  panel.resize(430, 700);
  panel.show();
  shown<QLineEdit>(panel, ".*");
  auto* drill = panel.findChild<QPlainTextEdit*>("Drill0");
  ASSERT_NE(drill, nullptr);
  drill->setFocus();
  QTest::keyClicks(drill, "pause squats");
  panel.findChild<QSpinBox*>()->setValue(6);
  auto* wording = panel.findChild<QComboBox*>("wording0");
  wording->setEditText("Push the floor.");
  const coaching::Cue& cue = r.document.choice().cues.at(0);
  EXPECT_EQ(cue.drill, "pause squats");
  EXPECT_EQ(cue.weeks, 6);
  EXPECT_EQ(cue.wording, "Push the floor.");
  // Chosen, then three fields: what was typed into one field undoes as one edit.
  EXPECT_EQ(r.document.undoStack().count(), 4);
}

TEST(CuePanel, OffersTheBooksOtherWordings) {
  Reviewed r;
  r.choose({cueNamed("squat.knees_slide_back")});
  CuePanel panel(r.document);
  const auto* wording = panel.findChild<QComboBox*>("wording0");
  const auto& book = r.document.book().entry("squat.knees_slide_back")->wordings;
  ASSERT_EQ(wording->count(), static_cast<int>(book.size()));
  EXPECT_GE(book.size(), 2u);
  EXPECT_EQ(wording->currentText(), "Say squat.knees_slide_back") << "the coach's words stay until another is chosen";
}

TEST(CuePanel, ChangeNothingTakesTheCuesAwayAndUndoBringsThemBack) {
  Reviewed r;
  r.choose({cueNamed("squat.knees_slide_back")});
  CuePanel panel(r.document);
  panel.findChild<QCheckBox*>("changeNothing")->setChecked(true);
  EXPECT_TRUE(r.document.choice().change_nothing);
  EXPECT_TRUE(r.document.choice().cues.empty());
  EXPECT_TRUE(says(panel, "keep doing what you're doing"));
  r.document.undoStack().undo();
  EXPECT_FALSE(r.document.choice().change_nothing);
  EXPECT_EQ(r.document.choice().cues.size(), 1u);
}

TEST(CuePanel, GoesToTheFrameACueWasSeenOn) {
  Reviewed r;
  r.choose({cueNamed("squat.knees_slide_back")});
  CuePanel panel(r.document);
  QSignalSpy asked(&panel, &CuePanel::evidenceRequested);
  for (QPushButton* b : panel.findChildren<QPushButton*>("quiet"))
    if (b->text().startsWith("squat.knees_slide_back")) b->click();
  ASSERT_EQ(asked.count(), 1);
  const auto& findings = r.analysis().findings;
  const auto seen =
      std::find_if(findings.begin(), findings.end(), [](const auto& f) { return f.id == "squat.knees_slide_back"; });
  ASSERT_NE(seen, findings.end());
  EXPECT_EQ(asked.front().at(0).toDouble(), seen->worst.t_s) << "as the analysis has it now";
  EXPECT_EQ(asked.front().at(1).toInt(), static_cast<int>(lifts::measureDefinition("knee_slide_back_m")->drawing));
}

library::CueThread thread() {
  library::CueThread t;
  t.title = "Squat is high";
  t.wording = "Sit a little longer.";
  t.asked_on = "2026-01-05";
  t.review_on = "2026-02-02";
  t.measure = "hip_crease_above_knee_m";
  t.value_then = 0.031;
  t.sigma_then = 0.008;
  return t;
}

TEST(HistoryPanel, SaysWhatWillBeKeptWhenNothingWasAsked) {
  HistoryPanel panel;
  EXPECT_TRUE(says(panel, "Nothing asked"));
}

TEST(HistoryPanel, ShowsThenAndNowWithTheirUncertainty) {
  HistoryPanel panel;
  library::CueThread t = thread();
  panel.setThreads({t});
  EXPECT_TRUE(says(panel, "Then 3.1 ± 1.3 cm · now not measured yet"));
  t.value_now = -0.012;
  t.sigma_now = 0.009;
  t.measured_on = "2026-02-03";
  t.state = library::ThreadState::Met;
  panel.setThreads({t});
  EXPECT_TRUE(says(panel, "now −1.2 ± 1.5 cm (3 Feb 2026)"));
  const auto states = shown<QLabel>(panel, "threadState");
  ASSERT_EQ(states.size(), 1);
  EXPECT_TRUE(states.front()->text().startsWith("✓ ")) << "a shape as well as a colour";
}

TEST(HistoryPanel, WhatWasAskedThreeTimesIsOneCard) {
  HistoryPanel panel;
  std::vector<library::CueThread> asked;
  for (const char* day : {"2026-03-09", "2026-02-09", "2026-01-09"}) {
    asked.push_back(thread());
    asked.back().id = library::CueThreadId(static_cast<std::int64_t>(10 - asked.size()));
    asked.back().asked_on = day;
    asked.back().state = library::ThreadState::Met;
  }
  panel.setThreads(asked);
  EXPECT_EQ(shown<QLabel>(panel, "threadState").size(), 1);
  EXPECT_TRUE(says(panel, "Asked on 9 Mar 2026"));
  EXPECT_TRUE(says(panel, "Asked before, and met: 9 Feb 2026, 9 Jan 2026"));
  asked[1].state = library::ThreadState::NotYet;
  asked[2].finding = "squat.heels_lift";
  panel.setThreads(asked);
  EXPECT_EQ(shown<QLabel>(panel, "threadState").size(), 3) << "what is open, and what is another fault, stays";
  EXPECT_TRUE(shown<QLabel>(panel, "askedBefore").empty());
}

TEST(HistoryPanel, PaintsHollowForThenAndFilledForNow) {
  HistoryPanel panel;
  library::CueThread t = thread();
  t.value_now = -0.02;
  t.sigma_now = 0.005;
  panel.resize(360, 300);
  panel.setThreads({t});
  panel.show();
  const QImage with_now = panel.grab().toImage();
  t.value_now.reset();
  panel.setThreads({t});
  shown<QLabel>(panel, ".*");
  EXPECT_NE(panel.grab().toImage(), with_now);
}

TEST(PlacingGuide, LeadsFromTheFloorUpAndEndsAfterSix) {
  Reviewed r;
  PlacingGuide guide(r.document);
  QSignalSpy completed(&guide, &PlacingGuide::completed);
  EXPECT_FALSE(guide.next());
  guide.start(0.5);
  for (Landmark l : tracing::kPlacedLandmarks) {
    ASSERT_EQ(guide.next(), l);
    r.document.undoStack().push(new PlacePoint(r.document, {0.5, l}, PixelPoint{100, 100}, newGesture()));
  }
  EXPECT_EQ(completed.count(), 1);
  EXPECT_FALSE(guide.active());
  EXPECT_TRUE(guide.isHidden());
}

TEST(PlacingGuide, GoesBackAStepWhenThatIsUndone) {
  Reviewed r;
  PlacingGuide guide(r.document);
  guide.start(0.5);
  r.document.undoStack().push(new PlacePoint(r.document, {0.5, Landmark::Toe}, PixelPoint{10, 10}, newGesture()));
  EXPECT_EQ(guide.next(), Landmark::Heel);
  EXPECT_TRUE(guide.findChild<QLabel*>("placingWhat")->text().contains("2 of 6"));
  r.document.undoStack().undo();
  EXPECT_EQ(guide.next(), Landmark::Toe);
  EXPECT_TRUE(guide.findChild<QLabel*>("placingWhat")->text().contains("1 of 6"));
}

TEST(PlacingGuide, KeepsWhatIsPlacedWhenStopped) {
  Reviewed r;
  PlacingGuide guide(r.document);
  guide.start(0.5);
  r.document.undoStack().push(new PlacePoint(r.document, {0.5, Landmark::Toe}, PixelPoint{10, 10}, newGesture()));
  guide.stop();
  EXPECT_FALSE(guide.next());
  guide.start(0.5);
  EXPECT_EQ(guide.next(), Landmark::Heel);
}

TEST(SetUpStrip, ASmallerPlateMakesEveryLengthSmallerAtOnce) {
  Reviewed r;
  SetUpStrip strip(r.document);
  const double before = r.value("stroke_m"), angle = r.value("shin_bottom_deg");
  auto* plate = strip.findChild<QComboBox*>("plate");
  plate->setCurrentIndex(plate->findData(400.0));
  EXPECT_EQ(r.document.submission().plate_mm, 400);
  // To a few parts in a thousand: bar end and rim stand at fixed distances from the lifter, which do not shrink along.
  EXPECT_NEAR(r.value("stroke_m") / before, 400.0 / 450, 0.004);
  EXPECT_NEAR(r.value("shin_bottom_deg"), angle, 1.0) << "angles do not depend on the scale";
  r.document.undoStack().undo();
  EXPECT_DOUBLE_EQ(r.value("stroke_m"), before);
  EXPECT_EQ(plate->currentData().toDouble(), 450);
}

TEST(SetUpStrip, SlowMotionMakesTheBarFasterAndTheDescentShorter) {
  Reviewed r;
  SetUpStrip strip(r.document);
  const double descent_s = r.value("descent_s");
  auto* slow = strip.findChild<QComboBox*>("slow");
  slow->setCurrentIndex(slow->findData(2.0));
  EXPECT_NEAR(r.value("descent_s"), descent_s / 2, 0.05 * descent_s / 2 + 0.02);
  // Eight times is more than a falling bar does: it is said, and the bar's numbers are left out.
  slow->setCurrentIndex(slow->findData(8.0));
  EXPECT_FALSE(lifts::find(r.analysis().measures.reps.at(0), "descent_s")->measured());
  const auto& notices = r.analysis().notices;
  EXPECT_TRUE(std::any_of(notices.begin(), notices.end(), [](const auto& n) { return n.id == "falls_too_fast"; }));
}

TEST(SetUpStrip, KeepsAValueThatIsNoneOfTheUsualOnes) {
  library::Submission odd;
  odd.variant = "cambered";
  odd.plate_mm = 381;
  ReviewDocument document({library::AthleteId(1), "Ola", "", "balanced"}, odd, {}, "clip.mp4",
                          *coaching::shippedStyle("balanced"), *coaching::CueBook::shipped());
  SetUpStrip strip(document);
  EXPECT_EQ(strip.findChild<QComboBox*>("plate")->currentText(), "381 mm");
  EXPECT_EQ(strip.findChild<QComboBox*>("variant")->currentText(), "cambered");
  EXPECT_EQ(document.undoStack().count(), 0) << "looking is not editing";
}

TEST(SetUpStrip, TurningTheLoadsWheelIsOneEdit) {
  Reviewed r;
  SetUpStrip strip(r.document);
  auto* load = strip.findChild<QDoubleSpinBox*>("load");
  EXPECT_EQ(load->text(), "–");
  for (double kg : {97.5, 100.0, 102.5}) load->setValue(kg);
  EXPECT_EQ(r.document.submission().load_kg, 102.5);
  EXPECT_EQ(r.document.undoStack().count(), 1);
  r.document.undoStack().undo();
  EXPECT_FALSE(r.document.submission().load_kg);
}

TEST(ApproachStrip, ASideChangesLimitsAndWordsNoMeasureAndUndoes) {
  Reviewed r;
  r.document.setStyles(*coaching::StyleBook::shipped(), {{"descent", "slow"}});
  ApproachStrip strip(r.document);
  QSignalSpy kept(&r.document, &ReviewDocument::approachChanged);
  auto* knees = strip.findChild<QComboBox*>("topic_knees_past_toes");
  auto* descent = strip.findChild<QComboBox*>("topic_descent");
  ASSERT_TRUE(knees && descent);
  EXPECT_TRUE(descent->itemText(0).contains("slow")) << "what the coach holds for everyone is the usual";
  const auto finding = [&](const char* id) {
    const auto& all = r.analysis().findings;
    return std::any_of(all.begin(), all.end(), [&](const auto& f) { return f.id == id; });
  };
  const double past = r.value("knee_past_toe_m"), shin = r.value("shin_bottom_deg");
  EXPECT_FALSE(finding("squat.knees_past_toes"));
  knees->setCurrentIndex(knees->findData("flag"));
  EXPECT_TRUE(finding("squat.knees_past_toes"));
  EXPECT_EQ(r.document.style().limit("squat.descent_too_fast")->limit, 1.2) << "the coach's own side still holds";
  descent->setCurrentIndex(descent->findData("rebound"));
  EXPECT_EQ(r.document.style().limit("squat.descent_too_fast")->limit, 0.7) << "the athlete's goes before it";
  EXPECT_EQ(r.value("knee_past_toe_m"), past);
  EXPECT_EQ(r.value("shin_bottom_deg"), shin);
  EXPECT_EQ(r.document.athlete().profile.switches.size(), 2u);
  EXPECT_EQ(r.document.style().sides.at(0).words, "Knees past the toes: not past them");
  EXPECT_EQ(kept.size(), 2);
  EXPECT_LT(strip.minimumSizeHint().width(), 1200) << "fits a window of 1280";
  r.document.undoStack().undo();
  r.document.undoStack().undo();
  EXPECT_FALSE(finding("squat.knees_past_toes"));
  EXPECT_EQ(knees->currentIndex(), 0) << "the strip shows what holds";
  EXPECT_TRUE(r.document.athlete().profile.switches.empty());
}

TEST(CuePanel, SaysWhyACueWhyAFindingIsLeftAndHowFirmly) {
  Reviewed r;
  CuePanel panel(r.document);
  FindingsPanel findings(r.document);
  coaching::Marks marks;
  for (const char* check : {"squat.unrack_loose", "squat.pelvis_tucks", "squat.tension_lost"})
    marks.push_back({check, coaching::MarkState::Seen, 1, 2.0});
  r.document.undoStack().push(new MarkByEye(r.document, "mark", marks));
  ASSERT_EQ(r.analysis().proposal.cues.size(), 2u);
  ASSERT_GE(r.analysis().proposal.parked.size(), 1u);
  EXPECT_TRUE(says(panel, "Why: Seen by you"));
  EXPECT_TRUE(says(panel, "It starts in the setup"));
  for (const auto& p : r.analysis().proposal.parked) {
    if (!p.part_of.empty()) {
      EXPECT_TRUE(findings.findChild<QPushButton*>("sign_" + QString::fromStdString(p.finding)))
          << "on its fault's card";
      continue;
    }
    const auto* line = findings.findChild<QLabel*>("parked_" + QString::fromStdString(p.finding));
    ASSERT_TRUE(line) << p.finding;
    EXPECT_EQ(line->text(), QString::fromStdString(p.why));
  }
  ASSERT_FALSE(r.analysis().proposal.remarks.empty());
  for (const auto& remark : r.analysis().proposal.remarks) EXPECT_TRUE(says(panel, QString::fromStdString(remark)));
}

TEST(CuePanel, PraiseIsTheCoachsToChooseRewordAndWrite) {
  Reviewed r;
  const auto proposed = coaching::praiseToSay(r.analysis().proposal);
  ASSERT_GE(proposed.size(), 2u);
  CuePanel panel(r.document);
  EXPECT_EQ(r.document.session().praise(), proposed);
  panel.findChild<QCheckBox*>("praiseIn_0")->click();
  EXPECT_EQ(r.document.session().praise().size(), proposed.size() - 1) << "one is left out";
  r.document.undoStack().undo();
  EXPECT_EQ(r.document.session().praise(), proposed);
  auto* first = shown<QLineEdit>(panel, "^praise_0$").front();
  first->setText("Depth was there on all three.");
  emit first->editingFinished();
  EXPECT_EQ(r.document.session().praise().front(), "Depth was there on all three.");
  const auto lines = shown<QLineEdit>(panel, "^praise_\\d+$");
  lines.back()->setText("Nice walkout.");
  emit lines.back()->editingFinished();
  EXPECT_EQ(r.document.session().praise().back(), "Nice walkout.");
  EXPECT_EQ(*r.document.review().praise, r.document.session().praise()) << "and it is saved";
}

TEST(CuePanel, WithPainNothingIsChosenAndWhatStrainsIsAskedOnce) {
  Reviewed r;
  coaching::Marks marks{{"squat.pelvis_tucks", coaching::MarkState::Seen, 1, 2.0}};
  r.document.undoStack().push(new MarkByEye(r.document, "mark", marks));
  ASSERT_FALSE(r.document.choice().cues.empty()) << "without pain a cue is proposed";
  r.document.setCare({.minor = false, .pain = true, .words = "my left knee hurts", .on = "2026-11-24"});
  EXPECT_TRUE(r.document.choice().cues.empty());
  EXPECT_TRUE(review::strainsToConfirm(r.document.session()).empty()) << "nothing to ask about yet";
  coaching::Cue deeper = cueNamed("squat.too_high");
  deeper.wording = "Sit to a box below parallel.";
  r.choose({deeper});
  const std::string asked = review::strainsToConfirm(r.document.session());
  EXPECT_NE(asked.find("my left knee hurts"), std::string::npos) << "in their words";
  EXPECT_NE(asked.find("more depth"), std::string::npos);
  coaching::Cue gentle = cueNamed("squat.too_high");
  gentle.wording = "Knees out.";
  r.choose({gentle});
  EXPECT_TRUE(review::strainsToConfirm(r.document.session()).empty());
}

}  // namespace
}  // namespace jib::desk
