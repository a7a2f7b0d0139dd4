// SPDX-License-Identifier: GPL-3.0-or-later
// Plates tapped on a drawn bar, loads held against what was said, several sets in one clip.
#include "desk/library_page/load_card.h"

#include <gtest/gtest.h>

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QRadioButton>
#include <QSignalSpy>
#include <QTest>

#include "desk/library_page/gym_plates.h"
#include "desk/library_page/plate_counter.h"
#include "tests/core/scratch_folder.h"

namespace jib::desk {
namespace {

// A submission of 140 kg by someone whose best is 160.
struct Weighed {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  library::Athlete athlete;
  library::SubmissionId id{0};
  coaching::ClipCheck check;

  Weighed() {
    athlete.name = "Ola";
    athlete.profile.best_kg[0] = 160;
    athlete.id = *library.addAthlete(athlete);
    library::Submission s;
    s.lift = "squat";
    s.variant = "low-bar";
    s.athlete = athlete.id;
    s.received_on = "2026-11-20";
    s.load_kg = 140;
    Task task;
    id = *library.addSubmission(s, folder.write("a.mp4", "film"), task);
    check.reps = 3;
    check.sets = {{3, 4, 15}};
  }
  std::unique_ptr<LoadCard> card(bool counting = true) {
    auto c = std::make_unique<LoadCard>(library, *library.submission(id), athlete, std::vector<library::MessageField>{},
                                        &check, counting);
    c->resize(370, 500);
    c->show();
    return c;
  }
  library::Submission now() { return *library.submission(id); }
};

void tap(QWidget& card, int kind) {
  card.findChild<QPushButton*>(QStringLiteral("plate_%1").arg(kind))->click();
}

QString line(QWidget& card, const char* id) {
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  auto* label = card.findChild<QLabel*>(QStringLiteral("load_") + QString::fromLatin1(id));
  return label ? label->text() : QString();
}

TEST(GymPlates, OnlyThoseOnTheRackAreOfferedAndWhatWasCountedStays) {
  Weighed w;
  {
    GymPlates rack;
    for (int k = 0; k < static_cast<int>(coaching::kPlateKinds.size()); ++k)
      rack.findChild<QCheckBox*>(QStringLiteral("rack_%1").arg(k))->setChecked(k == 1 || k == 4);
    rack.keep();
  }
  auto card = w.card();
  EXPECT_NE(card->findChild<QPushButton*>("plate_1"), nullptr);
  EXPECT_EQ(card->findChild<QPushButton*>("plate_0"), nullptr);
  card->findChild<QPushButton*>("plate_1")->click();
  GymPlates again;
  EXPECT_TRUE(again.findChild<QCheckBox*>("rack_4")->isChecked());
  EXPECT_FALSE(again.findChild<QCheckBox*>("rack_0")->isChecked());
  // None ticked is no rack at all: all are offered.
  for (auto* box : again.findChildren<QCheckBox*>()) box->setChecked(false);
  again.keep();
  auto other = w.card();
  EXPECT_NE(other->findChild<QPushButton*>("plate_0"), nullptr);
  EXPECT_EQ(other->findChild<PlateCounter*>()->loading().near, std::vector<int>{1});
}

TEST(LoadCard, HoldsTheStatedLoadAgainstBestAndReps) {
  Weighed w;
  const auto card = w.card(false);
  EXPECT_TRUE(line(*card, "share").contains("88 % of the recorded max"));
  EXPECT_TRUE(line(*card, "best").contains("3 reps at 140 kg (309 lb)")) << "the reps were counted on the film";
  EXPECT_TRUE(line(*card, "stated").isEmpty()) << "nothing was counted yet";
  EXPECT_FALSE(card->findChild<PlateCounter*>()->isVisible());
  card->findChild<QPushButton*>("countPlates")->click();
  EXPECT_TRUE(card->findChild<PlateCounter*>()->isVisible());
}

TEST(LoadCard, PlatesTappedAreSummedKeptAndQuestioned) {
  Weighed w;
  const auto card = w.card();
  tap(*card, 0);
  tap(*card, 0);  // 20 + 2 * 50 = 120
  EXPECT_TRUE(line(*card, "counted").contains("120 kg (265 lb)"));
  EXPECT_TRUE(line(*card, "stated").startsWith("? The plates add up to 120 kg"));
  tap(*card, 3);
  EXPECT_TRUE(line(*card, "stated").isEmpty()) << "with a ten a side it is what was said";
  EXPECT_EQ(coaching::totalKilos(*w.now().details.plates), 140);
  card->findChild<QCheckBox*>("collars")->click();
  EXPECT_TRUE(line(*card, "stated").contains("145 kg"));
  card->findChild<QComboBox*>("barWeight")->setCurrentIndex(2);
  EXPECT_TRUE(line(*card, "counted").contains("140 kg")) << "a bar of 15";
  const auto again = w.card();
  EXPECT_EQ(again->findChild<PlateCounter*>()->loading(), card->findChild<PlateCounter*>()->loading());
}

TEST(LoadCard, APlateIsTakenOffWhereItIsDrawn) {
  Weighed w;
  const auto card = w.card();
  tap(*card, 0);
  tap(*card, 4);
  auto* sleeve = card->findChild<SleeveView*>("nearSleeve");
  QTest::mouseClick(sleeve, Qt::LeftButton, {}, sleeve->plateRect(0).center().toPoint());
  EXPECT_EQ(card->findChild<PlateCounter*>()->loading().near, std::vector<int>{4}) << "the inner one is gone";
  QTest::mouseClick(sleeve, Qt::LeftButton, {}, QPoint(sleeve->width() - 8, 4));
  EXPECT_EQ(card->findChild<PlateCounter*>()->loading().near.size(), 1u) << "a click beside them takes nothing off";
}

TEST(LoadCard, AFarSideOfItsOwnIsCountedAndUnevennessAsked) {
  Weighed w;
  const auto card = w.card();
  tap(*card, 1);
  card->findChild<QCheckBox*>("farSide")->click();
  EXPECT_TRUE(card->findChild<SleeveView*>("farSleeve")->isVisible());
  tap(*card, 5);  // onto the far side, which is the active one now
  EXPECT_TRUE(line(*card, "uneven").contains("far side has 2.5 kg more"));
  QTest::mouseClick(card->findChild<SleeveView*>("nearSleeve"), Qt::LeftButton, {}, QPoint(290, 4));
  tap(*card, 5);
  EXPECT_TRUE(line(*card, "uneven").isEmpty());
  EXPECT_EQ(coaching::totalKilos(*w.now().details.plates), 65);
  card->findChild<QCheckBox*>("farSide")->click();
  EXPECT_FALSE(w.now().details.plates->far);
}

TEST(LoadCard, WhatWasCountedBecomesTheLoadWhenTheCoachSaysSo) {
  Weighed w;
  const auto card = w.card();
  QSignalSpy changed(card.get(), &LoadCard::changed);
  tap(*card, 1);
  EXPECT_EQ(changed.count(), 0) << "counting alone changes nothing in the queue";
  EXPECT_EQ(w.now().load_kg, 140);
  card->findChild<QPushButton*>("takeLoad")->click();
  EXPECT_EQ(w.now().load_kg, 60);
  EXPECT_EQ(changed.count(), 1);
}

TEST(LoadCard, LeavesAloneWhatOthersChangedMeanwhile) {
  Weighed w;
  const auto card = w.card();
  auto s = w.now();
  s.state = library::SubmissionState::CarriedOver;
  ASSERT_TRUE(w.library.edit(s.id, [&](auto& row_now) { row_now = s; }));
  tap(*card, 1);
  EXPECT_EQ(w.now().state, library::SubmissionState::CarriedOver);
}

TEST(LoadCard, SetsHaveTheirOwnLoadsAndOneIsTheTopSet) {
  Weighed w;
  w.check.sets = {{3, 4, 15}, {2, 75, 84}};
  const auto card = w.card(false);
  auto* first = card->findChild<QRadioButton*>("topSet_0");
  auto* second = card->findChild<QRadioButton*>("topSet_1");
  ASSERT_NE(second, nullptr);
  EXPECT_TRUE(second->isChecked()) << "the last, while no load is known";
  EXPECT_EQ(second->text(), "Set 2 · 2 reps · 1:15 to 1:24");
  auto* load = card->findChild<QDoubleSpinBox*>("setLoad_0");
  load->setValue(150);
  QTest::keyClick(load, Qt::Key_Return);
  EXPECT_EQ(w.now().details.set_loads_kg, (std::vector<std::optional<double>>{150, std::nullopt}));
  EXPECT_EQ(w.now().load_kg, 140) << "it is not the set that is judged";
  first->click();
  EXPECT_EQ(w.now().details.top_set, 0);
  EXPECT_EQ(w.now().load_kg, 150) << "the load of the set that is judged";
  w.check.sets = {{3, 4, 15}};
  EXPECT_EQ(w.card(false)->findChild<QRadioButton*>("topSet_0"), nullptr) << "one set needs no choice";
}

}  // namespace
}  // namespace jib::desk
