// SPDX-License-Identifier: GPL-3.0-or-later
// From the cue to the week in the window: a change in centimetres, loads, what waits for a meet, training around pain.
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTabWidget>
#include <QTableWidget>
#include <QToolButton>

#include "core/library/dates.h"
#include "desk/review/cue_panel.h"
#include "desk/review/history_panel.h"
#include "desk/review/load_sheet.h"
#include "desk/widgets/mass_box.h"
#include "desk/widgets/quantity_box.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

// A desk with one cue chosen on the open clip.
struct Plan : Desk {
  desk::ReviewPage* page;

  explicit Plan(const std::function<void(library::Library&, library::SubmissionId)>& before = {}) : Desk() {
    if (before) {
      window.reset();
      auto library = *library::Library::open(folder / "lib");
      before(library, id);
      window = std::make_unique<desk::DeskWindow>(std::move(library));
      present();
    }
    page = &open();
    page->findChild<QTabWidget*>("tabs")->setCurrentIndex(1);
    if (choice().cues.empty()) page->findChild<desk::CuePanel*>()->addOwn(1.0);
    QCoreApplication::processEvents();
  }
  const review::CueChoice& choice() const { return page->document().choice(); }
  template <class W>
  W* find(const char* name) const {
    return page->findChild<W*>(QString::fromLatin1(name));
  }
  void pick(const QString& title) {
    for (QAction* a : find<QToolButton>("addChange0")->menu()->actions())
      if (a->text().startsWith(title)) return a->trigger();
    ADD_FAILURE() << title.toStdString() << " is not offered";
  }
};

void type(desk::QuantityBox& box, const char* text) {
  box.findChild<QLineEdit*>()->setText(QString::fromUtf8(text));
  box.interpretText();
}

TEST(Changes, AStanceInCentimetresOrInchesGoesIntoTheCueAndUndoes) {
  Plan d;
  d.pick("Stance width");
  auto* from = d.find<desk::QuantityBox>("changeFrom");
  ASSERT_NE(from, nullptr);
  from->setValue(0.45);
  auto* by = d.find<desk::QuantityBox>("changeTo");
  type(*by, "2 in wider");
  ASSERT_TRUE(d.choice().cues[0].change);
  EXPECT_NEAR(d.choice().cues[0].change->direction(), 0.0508, 1e-3);
  EXPECT_FALSE(d.choice().cues[0].side_effect.empty()) << "what it may bring is said";
  auto& stack = d.page->document().undoStack();
  while (d.choice().cues.size() && d.choice().cues[0].change && stack.canUndo()) stack.undo();
  EXPECT_TRUE(d.choice().cues.empty() || !d.choice().cues[0].change);
}

TEST(Changes, WhatIsTypedIsReadInEitherUnit) {
  desk::QuantityBox stance(coaching::ChangeKind::Stance, false);
  const auto typed = [](desk::QuantityBox& box, const char* text) {
    type(box, text);
    return box.said();
  };
  EXPECT_NEAR(*typed(stance, "45"), 0.45, 1e-9);
  EXPECT_NEAR(*typed(stance, "45 cm"), 0.45, 1e-9);
  EXPECT_NEAR(*typed(stance, "18 in"), 0.4572, 1e-4);
  EXPECT_NEAR(*typed(stance, "17¾ in"), 0.4509, 1e-3);
  desk::QuantityBox by(coaching::ChangeKind::Stance, true);
  EXPECT_NEAR(*typed(by, "4 cm narrower"), -0.04, 1e-9);
  EXPECT_NEAR(*typed(by, "-4"), -0.04, 1e-9);
  EXPECT_NEAR(*typed(by, "1 in"), 0.0254, 1e-4);
  desk::QuantityBox notches(coaching::ChangeKind::Hooks, true);
  EXPECT_NEAR(*typed(notches, "1 notch lower"), -1, 1e-9);
  // What it shows is read as what it is.
  for (desk::QuantityBox* box : {&stance, &by, &notches}) {
    const auto before = box->said();
    EXPECT_NEAR(*typed(*box, box->text().toUtf8().constData()), *before, 5e-3) << box->text().toStdString();
  }
}

TEST(Loads, SetsAreTypedAndGoIntoTheCueAsLoads) {
  Plan d([](library::Library& library, library::SubmissionId id) {
    const auto who = library.submission(id)->athlete;
    EXPECT_TRUE(library.edit(who, [](library::Athlete& a) { a.profile.setBest("squat", 120); }));
  });
  d.page->findChild<desk::CuePanel*>()->openLoads(0);
  auto* sheet = d.page->findChild<desk::LoadSheet*>();
  ASSERT_NE(sheet, nullptr);
  EXPECT_NEAR(sheet->findChild<desk::MassBox*>("maxOf")->value(), 120, 1e-9);
  sheet->setTyped("3x3 @ 75%");
  auto* table = sheet->findChild<QTableWidget*>("plannedSets");
  ASSERT_EQ(table->rowCount(), 3);
  EXPECT_EQ(table->item(0, 0)->text(), "90 kg (198 lb)");
  EXPECT_EQ(table->item(0, 4)->text(), "25 kg, 10 kg");
  sheet->setTyped("banana");
  EXPECT_FALSE(sheet->findChild<QPushButton*>("takeSets")->isEnabled());
  EXPECT_TRUE(sheet->findChild<QLabel*>("loadNotes")->text().contains("banana"));
  sheet->setTyped("60 x 3");
  sheet->findChild<QPushButton*>("makeWarmUp")->click();
  EXPECT_EQ(table->item(table->rowCount() - 1, 1)->text(), "50 %") << "of the max, not of the top set";
  sheet->findChild<QPushButton*>("makeLadder")->click();
  EXPECT_EQ(table->rowCount(), 3);
  sheet->setTyped("3x3 @ 75%");
  sheet->findChild<QPushButton*>("takeSets")->click();
  EXPECT_EQ(d.choice().cues[0].load, "3 x 3 at 90 kg (198 lb)");
}

TEST(Loads, ASixteenYearOldGetsNoMaximumAnywhere) {
  Plan d([](library::Library& library, library::SubmissionId id) {
    const auto who = library.submission(id)->athlete;
    EXPECT_TRUE(library.edit(who, [](library::Athlete& a) {
      a.profile.birth_year = std::stoi(library::today().substr(0, 4)) - 16;
      a.profile.setBest("squat", 120);
    }));
  });
  d.page->findChild<desk::CuePanel*>()->openLoads(0);
  auto* sheet = d.page->findChild<desk::LoadSheet*>();
  EXPECT_EQ(sheet->findChild<desk::MassBox*>("maxOf"), nullptr);
  EXPECT_NE(sheet->findChild<QLabel*>("noMax"), nullptr);
  EXPECT_FALSE(sheet->findChild<QPushButton*>("makeAttempts")->isEnabled());
  EXPECT_FALSE(sheet->findChild<QPushButton*>("makeLadder")->isEnabled());
  sheet->setTyped("3x3 @ 75%");
  EXPECT_EQ(sheet->findChild<QTableWidget*>("plannedSets")->item(0, 0)->text(), "–") << "of what is not said";
}

TEST(Dose, WhatRunsPastAMeetIsSavedForAfterIt) {
  Plan d([](library::Library& library, library::SubmissionId id) {
    const auto who = library.submission(id)->athlete;
    EXPECT_TRUE(
        library.edit(who, [](library::Athlete& a) { a.profile.meet_on = library::daysLater(library::today(), 10); }));
  });
  ASSERT_NE(d.find<QLabel>("pastMeet"), nullptr);
  d.find<QPushButton>("laterCue0")->click();
  QCoreApplication::processEvents();
  EXPECT_TRUE(d.choice().cues[0].after_meet);
  EXPECT_EQ(d.page->replyContent().cues.size(), d.choice().cues.size() - 1);
  ASSERT_NE(d.find<QLabel>("afterMeet"), nullptr);
  d.find<QPushButton>("laterCue0")->click();
  EXPECT_FALSE(d.choice().cues[0].after_meet);
}

TEST(Dose, TheWeekIsALineADayAndTheCoachsToEdit) {
  Plan d;
  d.find<QPushButton>("addWeek")->click();
  QCoreApplication::processEvents();
  auto* week = d.find<QPlainTextEdit>("week");
  ASSERT_NE(week, nullptr);
  EXPECT_TRUE(week->toPlainText().contains("Day 3"));
  week->setPlainText("Monday: squat.\n\nThursday: rest.");
  EXPECT_EQ(d.page->replyContent().week, (std::vector<std::string>{"Monday: squat.", "Thursday: rest."}));
}

// A sore knee: the plan stands in the reply, a cue is paused for it and taken up again.
TEST(Pain, ASoreKneePausesACueAndResumesIt) {
  Plan d([](library::Library& library, library::SubmissionId id) {
    const auto who = library.submission(id)->athlete;
    EXPECT_TRUE(library.edit(who, [](library::Athlete& a) { a.profile.pain = "my left knee hurts"; }));
    library::Submission then = *library.submission(id);
    then.id = library::SubmissionId(0);
    then.received_on = "2025-12-01";
    Task task;
    library::Library::Return back;
    back.id = *library.addSubmission(then, JIB_MADE_CLIP, task);
    library::CueThread t;
    t.athlete = who;
    t.asked_in = back.id;
    t.asked_on = "2025-12-01";
    t.review_on = "2025-12-29";
    t.finding = "squat.eyes_on_floor";
    t.title = "Eyes on the floor or ceiling";
    t.wording = "Eyes on one spot.";
    back.asked = {t};
    EXPECT_TRUE(library.returnReview(back));
  });
  ASSERT_NE(d.find<QPushButton>("addPain"), nullptr) << "offered where something hurts";
  d.find<QPushButton>("addPain")->click();
  QCoreApplication::processEvents();
  d.find<QLineEdit>("painWhere")->setText("left knee");
  emit d.find<QLineEdit>("painWhere")->textEdited("left knee");
  d.find<desk::MassBox>("painLoad")->setValue(80);
  ASSERT_FALSE(d.page->replyContent().pain.empty());
  EXPECT_EQ(d.page->replyContent().pain[0], "Stay at 75 kg (165 lb) or less. It starts at 80 kg (176 lb).");
  auto* history = d.page->findChild<desk::HistoryPanel*>();
  history->findChild<QPushButton*>("pauseCue")->click();
  Desk::waitFor([&] { return history->findChild<QPushButton*>("resumeCue") != nullptr; });
  EXPECT_TRUE(history->findChild<QLabel*>("threadState")->text().contains("Paused: something hurts"));
  history->findChild<QPushButton*>("resumeCue")->click();
  Desk::waitFor([&] { return history->findChild<QPushButton*>("pauseCue") != nullptr; });
}

}  // namespace
}  // namespace jib::tests
