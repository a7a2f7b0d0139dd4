// SPDX-License-Identifier: GPL-3.0-or-later
// What a coach types in where no message says it: sets as they are written, either unit, unread fields, one person's
// second address.
#include <gtest/gtest.h>

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalSpy>
#include <QTest>

#include "desk/library_page/library_page.h"
#include "desk/library_page/submission_panel.h"
#include "desk/widgets/mass_box.h"
#include "tests/core/scratch_folder.h"

namespace jib::desk {
namespace {

struct ByHand {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  LibraryPage page{library};

  ByHand() {
    page.show();
    page.activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(&page));
  }
  template <class Widget>
  Widget* find(const char* name) {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    return page.findChild<Widget*>(QString::fromLatin1(name));
  }
  QString said() { return find<QLabel>("libraryStatus")->text(); }
  void choose(const char* box, const char* data) {
    auto* combo = find<QComboBox>(box);
    const int row = combo->findData(QString::fromLatin1(data));
    ASSERT_GE(row, 0) << data;
    combo->setCurrentIndex(row);
  }
  void add(const QString& athlete, const QString& set) {
    find<QComboBox>("newAthlete")->setEditText(athlete);
    find<QLineEdit>("newLoad")->setText(set);
    page.addClip(QStringLiteral(JIB_MADE_CLIP));
    EXPECT_TRUE(QTest::qWaitFor([&] { return !page.busy(); }, 60000));
  }
  void type(const char* field, const QString& text) {
    auto* edit = find<QLineEdit>(field);
    ASSERT_NE(edit, nullptr) << field;
    edit->setFocus();
    edit->setText(text);
    QTest::keyClick(edit, Qt::Key_Return);
    QCoreApplication::processEvents();
  }
  library::Submission first() { return library.submissions()->at(0); }
};

TEST(RecordsByHand, AClipComesWithLiftVariantAndTheSetAsItIsWritten) {
  ByHand desk;
  desk.choose("newLift", "deadlift");
  desk.choose("newVariant", "sumo");
  desk.add("Ola Marsh", "3x5 @ 225 lb");
  const auto s = desk.first();
  EXPECT_EQ(s.lift, "deadlift");
  EXPECT_EQ(s.variant, "sumo");
  EXPECT_EQ(s.details.variant_by, library::ToldBy::Coach);
  ASSERT_TRUE(s.load_kg);
  EXPECT_NEAR(*s.load_kg, 102.1, 0.1);
  EXPECT_EQ(s.details.sets_said, 3);
  EXPECT_EQ(s.details.reps_said, 5);
}

TEST(RecordsByHand, ASetThatIsNotUnderstoodIsSaidAndNothingIsAdded) {
  ByHand desk;
  desk.add("Ola Marsh", "heavy-ish");
  EXPECT_TRUE(desk.said().contains("Can't read")) << desk.said().toStdString();
  EXPECT_TRUE(desk.library.submissions()->empty());
  EXPECT_EQ(desk.find<QLineEdit>("newLoad")->text(), "heavy-ish") << "it can be put right";
}

TEST(RecordsByHand, WhatNobodySaidIsTypedInInEitherUnit) {
  ByHand desk;
  desk.choose("newLift", "squat");
  desk.add("Ola Marsh", "");
  desk.type("unknown_load_kg", "225 lb");
  EXPECT_NEAR(*desk.first().load_kg, 102.06, 0.01);
  EXPECT_EQ(desk.find<QLineEdit>("unknown_load_kg"), nullptr) << "known now";
  desk.type("unknown_height_cm", "5'10");
  desk.type("unknown_reps", "4");
  desk.type("unknown_best_kg", "a lot");
  EXPECT_TRUE(desk.said().contains("not a weight"));
  const auto profile = desk.library.athlete(desk.first().athlete)->profile;
  EXPECT_NEAR(*profile.height_cm, 177.8, 0.01);
  EXPECT_EQ(profile.bestOf("squat"), std::nullopt);
  EXPECT_EQ(desk.first().details.reps_said, 4);
}

TEST(RecordsByHand, KitAndStateAreChosenWithoutAMessageAndKept) {
  ByHand desk;
  desk.choose("newLift", "squat");
  desk.add("Ola Marsh", "100");
  auto* kit = desk.find<QToolButton>("kit");
  ASSERT_NE(kit, nullptr);
  EXPECT_TRUE(kit->text().contains("nothing yet"));
  kit->click();
  desk.choose("kit_shoes", "raised");
  desk.choose("kit_state", "sore");
  EXPECT_EQ(desk.first().details.kit, (lifts::Kit{{"shoes", "raised"}, {"state", "sore"}}));
  EXPECT_EQ(desk.first().load_kg, 100) << "and nothing else of the row is touched";
  kit->click();
  EXPECT_TRUE(kit->text().contains("raised heel, sore")) << kit->text().toStdString();
  kit->click();
  desk.choose("kit_state", "");
  EXPECT_EQ(desk.first().details.kit, (lifts::Kit{{"shoes", "raised"}})) << "taken back";
}

TEST(RecordsByHand, AnotherHandAddedClipKeepsItsOwnLoad) {
  ByHand desk;
  desk.choose("newLift", "squat");
  desk.add("Ola Marsh", "100");
  desk.choose("newLift", "squat");
  desk.add("Kim Dale", "");
  desk.type("unknown_load_kg", "60");
  std::vector<double> loads;
  const auto all = *desk.library.submissions();
  for (const auto& s : all) loads.push_back(s.load_kg.value_or(0));
  std::sort(loads.begin(), loads.end());
  EXPECT_EQ(loads, (std::vector<double>{60, 100})) << "neither came with a message";
}

TEST(RecordsByHand, ASecondAddressOfAKnownAthleteIsAskedAboutOnce) {
  ByHand desk;
  library::Athlete one, two;
  one.name = "Kim Dale";
  two.name = "kim dale";
  one.profile.height_cm = 180;
  const auto old = *desk.library.addAthlete(one), fresh = *desk.library.addAthlete(two);
  ASSERT_TRUE(desk.library.addAddress(old, "kim@one.invalid"));
  library::Submission s;
  s.athlete = fresh;
  s.received_on = "2026-11-20";
  Task task;
  const auto id = *desk.library.addSubmission(s, JIB_MADE_CLIP, task);
  desk.page.refresh();
  auto* panel = desk.find<SubmissionPanel>("submissionPanel");
  panel->show(id);
  ASSERT_NE(desk.find<QPushButton>("merge"), nullptr);
  desk.find<QPushButton>("tellApart")->click();
  panel->show(id);
  EXPECT_EQ(desk.find<QPushButton>("merge"), nullptr) << "told apart once is enough";
  EXPECT_EQ(desk.library.athletes()->size(), 2u);

  auto again = *desk.library.athlete(fresh);
  again.profile.apart_from.clear();
  ASSERT_TRUE(desk.library.edit(again.id, [&](auto& row_now) { row_now = again; }));
  panel->show(id);
  desk.find<QPushButton>("merge")->click();
  ASSERT_EQ(desk.library.athletes()->size(), 1u);
  EXPECT_EQ(desk.first().athlete, old) << "whoever was there first stays";
  EXPECT_EQ(desk.library.athletes()->at(0).profile.height_cm, 180);
}

TEST(MassBox, ShowsBothUnitsAndTakesEither) {
  MassBox box;
  box.setValue(102.5);
  EXPECT_EQ(box.text(), "102.5 kg (226 lb)");
  box.selectAll();
  QTest::keyClicks(&box, "225 lb");
  QTest::keyClick(&box, Qt::Key_Return);
  EXPECT_NEAR(box.value(), 102.06, 0.005);
  EXPECT_EQ(box.text(), "102.1 kg (225 lb)");
  box.setValue(0);
  EXPECT_EQ(box.text(), "–");
}

}  // namespace
}  // namespace jib::desk
