// SPDX-License-Identifier: GPL-3.0-or-later
// An athlete's page: what became of what was asked, the course of a number, a click that opens its frame; a cue that is
// dropped with a reason and comes back; in what the athlete counts.
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QTabWidget>
#include <QTextBrowser>
#include <QToolButton>

#include "desk/library_page/progress_dialog.h"
#include "desk/library_page/trend_plot.h"
#include "desk/review/history_panel.h"
#include "desk/review/player.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

constexpr const char* kLean = "trunk_lean_bottom_deg";

// The desk of one squat, with a second one four weeks later, both measured, and something asked on the first.
struct Story : Desk {
  library::SubmissionId later{0};
  library::AthleteId ola{0};

  Story() : Desk(Begin::Traced) {
    window.reset();
    QSettings().remove("trendMeasure");
    auto library = *library::Library::open(folder / "lib");
    ola = library.submission(id)->athlete;
    library::Submission s = *library.submission(id);
    s.id = library::SubmissionId(0);
    s.received_on = "2026-02-02";
    Task task;
    later = *library.addSubmission(s, JIB_MADE_CLIP, task);
    EXPECT_TRUE(library.saveTracing(later, traced()));
    keep(library, id, 9);
    keep(library, later, 0);
    library::CueThread t;
    t.athlete = ola;
    t.asked_in = id;
    t.asked_on = "2026-01-05";
    t.review_on = "2026-01-26";
    t.finding = "squat.chest_drops";
    t.measure = kLean;
    t.title = "Chest falls";
    t.wording = "Drive your upper back into the bar.";
    library::Library::Return back;
    back.id = id;
    back.asked = {t};
    EXPECT_TRUE(library.returnReview(back));
    window = std::make_unique<desk::DeskWindow>(std::move(library));
    present();
    auto* side = window->findChild<QTabWidget*>("side");
    side->setCurrentIndex(1);
    window->findChild<QTableView*>("submissions")->selectRow(0);
  }
  static void keep(library::Library& library, library::SubmissionId of, double more) {
    coaching::Analysis a = unplaced();
    for (auto& rep : a.measures.reps)
      for (auto& m : rep)
        if (auto* measured = std::get_if<lifts::Measured>(&m.measure); measured && m.kind->id == kLean) {
          measured->value += more;
          measured->sigma = 1;
        }
    EXPECT_TRUE(library.saveResults(of, a));
  }
  template <class W>
  W* find(const char* name) {
    return window->findChild<W*>(name);
  }
};

TEST(AthleteStory, TellsWhatWasAskedAndDrawsItsNumberFirst) {
  Story d;
  ASSERT_TRUE(d.find<QLabel>("openCue"));
  EXPECT_TRUE(d.find<QLabel>("openCue")->text().contains("Drive your upper back into the bar."));
  EXPECT_EQ(d.find<QComboBox>("trendMeasure")->currentData().toString(), QString("squat.") + kLean);
  const QString change = d.find<QLabel>("trendChange")->text();
  EXPECT_TRUE(change.contains("less than on 5 Jan")) << change.toStdString();
}

TEST(AthleteStory, ShowsEveryClipAndWhatHasWorkedAndFromWhichLoadItShows) {
  Story d;
  d.window.reset();
  auto library = *library::Library::open(d.folder / "lib");
  auto threads = *library.threads(d.ola);
  threads[0].value_now = 20;
  threads[0].sigma_now = 1;
  threads[0].measured_in = d.later;
  threads[0].measured_on = "2026-02-02";
  threads[0].state = library::ThreadState::Better;
  EXPECT_TRUE(library.saveMeasuredNow(threads));
  const auto shows = [&](library::SubmissionId in, double kg) {
    EXPECT_TRUE(library.edit(in, [&](library::Submission& s) { s.load_kg = kg; }));
    coaching::Finding f;
    f.id = "squat.chest_drops";
    f.verdict = coaching::Verdict::Yes;
    EXPECT_TRUE(library.saveFindings(in, {f}));
  };
  shows(d.id, 100);
  shows(d.later, 130);
  d.window = std::make_unique<desk::DeskWindow>(std::move(library));
  d.present();
  d.find<QTabWidget>("side")->setCurrentIndex(1);
  d.find<QTableView>("submissions")->selectRow(0);
  ASSERT_TRUE(d.find<QLabel>("loadShown"));
  EXPECT_EQ(d.find<QLabel>("loadShown")->text(),
            "Shows from 100 kg (220 lb) on 5 Jan 2026, from 130 kg (287 lb) on 2 Feb 2026.");
  EXPECT_FALSE(d.find<QLabel>("worked"));
  const auto tiles = d.window->findChildren<QToolButton*>("storyClip");
  ASSERT_EQ(tiles.size(), 2);
  EXPECT_TRUE(tiles[0]->text().startsWith("5 Jan")) << tiles[0]->text().toStdString();
  EXPECT_TRUE(tiles[0]->text().contains("1 asked"));
  Desk::waitFor([&] { return !tiles[1]->icon().isNull(); });
  tiles[1]->click();
  Desk::waitFor([&] { return d.window->reviewPage() != nullptr; });
  EXPECT_EQ(d.window->reviewPage()->document().submission().id, d.later);
}

TEST(AthleteStory, WhatWasMetIsWhatHasWorked) {
  Story d;
  auto library = *library::Library::openAgain(d.folder / "lib");
  EXPECT_TRUE(library.settleThread(library.threads(d.ola)->at(0).id, library::ThreadState::Met, d.later));
  d.find<QTableView>("submissions")->clearSelection();
  d.find<QTableView>("submissions")->selectRow(1);
  Desk::waitFor([&] { return d.find<QLabel>("worked") != nullptr; });
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  ASSERT_TRUE(d.find<QLabel>("worked"));
  EXPECT_TRUE(d.find<QLabel>("worked")->text().startsWith("✓ “Drive your upper back into the bar.”"));
  EXPECT_FALSE(d.find<QLabel>("openCue"));
}

TEST(AthleteStory, APointOpensItsClipAtItsFrame) {
  Story d;
  auto* plot = d.find<desk::TrendPlot>("trend");
  ASSERT_TRUE(plot);
  const QPoint place = plot->placeOf(0);
  ASSERT_EQ(plot->pointAt(place), std::optional<std::size_t>(0));
  EXPECT_FALSE(plot->pointAt(place + QPoint(40, 40)));
  QWidget* chart = plot->childAt(place);
  ASSERT_TRUE(chart);
  QTest::mouseClick(chart, Qt::LeftButton, Qt::NoModifier, chart->mapFrom(plot, place));
  Desk::waitFor([&] { return d.window->reviewPage() != nullptr; });
  Desk::waitFor([&] { return d.window->reviewPage()->settled() && d.window->reviewPage()->document().analysis(); });
  EXPECT_EQ(d.window->reviewPage()->document().submission().id, d.id);
  const auto library = library::Library::openAgain(d.folder / "lib");
  const auto kept = unplaced();
  double nearest = 1e9;
  for (const auto& rep : kept.measures.reps)
    nearest =
        std::min(nearest, std::abs(lifts::find(rep, kLean)->measured()->t_s - d.window->reviewPage()->player().time()));
  EXPECT_LT(nearest, 0.05) << "the play head stands where the number was measured";
}

TEST(AthleteStory, AcrossLoadsNothingIsJoinedAndNothingLost) {
  Story d;
  auto* across = d.find<QComboBox>("trendAcross");
  across->setCurrentIndex(1);
  emit across->activated(1);
  auto* plot = d.find<desk::TrendPlot>("trend");
  EXPECT_NE(plot->placeOf(0), plot->placeOf(1)) << "one load, two values";
}

TEST(PreviousCues, OneIsDroppedWithAReasonAndTakenUpAgain) {
  Story d;
  d.find<QTabWidget>("side")->setCurrentIndex(2);
  QTest::mouseClick(d.find<QPushButton>("dropCue"), Qt::LeftButton);
  auto* why = d.find<QLineEdit>("dropWhy");
  ASSERT_TRUE(why->isVisible());
  QTest::keyClicks(why, "shoulder first");
  QTest::keyClick(why, Qt::Key_Return);
  Desk::waitFor([&] { return d.find<QPushButton>("resumeCue") != nullptr; });
  EXPECT_TRUE(d.find<QLabel>("threadState")->text().contains("shoulder first"));
  EXPECT_FALSE(d.find<QLabel>("openCue")) << "what is dropped is not worked on";
  QTest::mouseClick(d.find<QPushButton>("resumeCue"), Qt::LeftButton);
  Desk::waitFor([&] { return d.find<QPushButton>("dropCue") != nullptr; });
  EXPECT_EQ(library::Library::openAgain(d.folder / "lib")->threads(d.ola)->at(0).state, library::ThreadState::Asked);
}

TEST(AthletePanel, SaysAndChangesWhatTheAthleteCountsIn) {
  Story d;
  auto* unit = d.find<QLineEdit>("athleteUnit");
  ASSERT_TRUE(unit);
  unit->setFocus();
  unit->setText("lb");
  emit unit->editingFinished();
  EXPECT_EQ(library::Library::openAgain(d.folder / "lib")->athlete(d.ola)->profile.unit, MassUnit::Pounds);
  unit = d.find<QLineEdit>("athleteUnit");
  unit->setText("stone");
  emit unit->editingFinished();
  EXPECT_EQ(library::Library::openAgain(d.folder / "lib")->athlete(d.ola)->profile.unit, MassUnit::Pounds)
      << "what cannot be read leaves what was there";
}

TEST(ProgressDialog, ShowsThenAndNowAndPutsThemIntoTheOutbox) {
  Story d;
  d.window.reset();
  auto library = *library::Library::open(d.folder / "lib");
  EXPECT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false}));
  {
    desk::ProgressDialog early(library, d.ola);
    EXPECT_FALSE(early.ready());
    EXPECT_TRUE(early.findChild<QLabel*>("progressTold")->text().contains("measured again"));
  }
  auto threads = *library.threads(d.ola);
  threads[0].value_now = 20;
  threads[0].sigma_now = 1;
  threads[0].measured_in = d.later;
  threads[0].measured_on = "2026-02-02";
  threads[0].state = library::ThreadState::Better;
  EXPECT_TRUE(library.saveMeasuredNow(threads));
  desk::ProgressDialog dialog(library, d.ola);
  Desk::waitFor([&] { return dialog.ready(); });
  const QString page = dialog.findChild<QTextBrowser*>("progressPage")->toPlainText();
  EXPECT_TRUE(page.contains("Chest falls"));
  EXPECT_TRUE(page.contains("Better, and still moving."));
  EXPECT_TRUE(page.contains("5 Jan 2026") && page.contains("2 Feb 2026"));
  dialog.putInOutbox();
  EXPECT_TRUE(dialog.findChild<QLabel*>("progressTold")->text().contains("address"));
  EXPECT_TRUE(library.addAddress(d.ola, "ola@example.invalid"));
  dialog.putInOutbox();
  const auto out = *library.outgoing();
  ASSERT_EQ(out.size(), 1u);
  const std::string mail = bytesOf(library.outgoingFile(out[0]));
  EXPECT_NE(mail.find("progress"), std::string::npos);
  EXPECT_NE(mail.find("application/pdf"), std::string::npos);
  const ScratchFolder elsewhere;
  dialog.saveTo(QString::fromStdString(elsewhere.path().string()));
  EXPECT_FALSE(fileWith(elsewhere.path(), ".html").empty());
  EXPECT_GT(std::filesystem::file_size(fileWith(elsewhere.path(), ".pdf")), 10000u) << "with pictures";
}

}  // namespace
}  // namespace jib::tests
