// SPDX-License-Identifier: GPL-3.0-or-later
// Then beside now: an earlier film runs in step with the clip, as a ghost over it, and what differs is said.
#include <QComboBox>
#include <QLabel>

#include "desk/review/other_view.h"
#include "desk/review/player.h"
#include "desk/review/stage.h"
#include "desk/review/then_panel.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

// A second film of the same squat, four weeks later, lighter; the first is what it is held against.
struct Weeks : Desk {
  desk::ReviewPage* page = nullptr;
  desk::ThenPanel* then = nullptr;

  explicit Weeks(bool earlier = true) {
    if (earlier) {
      window.reset();
      auto library = *library::Library::open(folder / "lib");
      library::Submission s = *library.submission(id);
      s.id = library::SubmissionId(0);
      s.received_on = "2025-12-08";
      s.load_kg = 60;
      Task task;
      const auto before = *library.addSubmission(s, JIB_MADE_CLIP, task);
      EXPECT_TRUE(library.saveTracing(before, traced()));
      for (const auto each : {before, id}) EXPECT_TRUE(library.saveResults(each, unplaced()));
      window = std::make_unique<desk::DeskWindow>(std::move(library));
      present();
    }
    page = &openLatest();
    then = page->findChild<desk::ThenPanel*>();
    QTest::keyClick(page->findChild<desk::Stage*>(), Qt::Key_G, Qt::ShiftModifier);
  }
  desk::ReviewPage& openLatest() {
    window->openSubmission(id.number);
    waitFor([&] {
      return window->reviewPage() && window->reviewPage()->settled() && window->reviewPage()->document().analysis();
    });
    return *window->reviewPage();
  }
  QString label(const char* name) const { return then->findChild<QLabel*>(QString::fromLatin1(name))->text(); }
};

TEST(ThenBesideNow, TheSameMomentOfBothIsOnShowAndNoDifferenceIsMadeUp) {
  Weeks d;
  ASSERT_TRUE(d.then->isVisible());
  Desk::waitFor([&] { return d.then->then() != nullptr; });
  const auto a = d.page->document().analysis();
  const double bottom = a->reps[0].bottom_t();
  d.page->player().goTo(bottom);
  Desk::waitFor([&] { return std::abs(d.then->thenTime() - bottom) < 0.02; });
  EXPECT_TRUE(d.label("thenReading").contains("same (±")) << d.label("thenReading").toStdString();
  EXPECT_FALSE(d.label("thenReading").contains("more leaned"));
  EXPECT_TRUE(d.label("thenDiffers").contains("load")) << d.label("thenDiffers").toStdString();
}

TEST(ThenBesideNow, AGhostLiesOverTheClipAndGoesWithThePanel) {
  Weeks d;
  Desk::waitFor([&] { return d.then->then() != nullptr; });
  d.page->player().goTo(d.page->document().analysis()->reps[0].bottom_t());
  auto* stage = d.page->findChild<desk::Stage*>();
  EXPECT_FALSE(stage->showsThen());
  auto* step = d.then->findChild<QComboBox*>("thenStep");
  step->setCurrentIndex(2);
  emit step->activated(2);
  EXPECT_TRUE(stage->showsThen());
  QTest::keyClick(stage, Qt::Key_G, Qt::ShiftModifier);
  EXPECT_FALSE(d.then->isVisible());
  EXPECT_FALSE(stage->showsThen());
}

TEST(ThenBesideNow, WithoutAnEarlierClipItSaysSo) {
  Weeks d(false);
  EXPECT_FALSE(d.then->isVisible());
  EXPECT_TRUE(d.page->findChild<QLabel*>("status")->text().contains("No earlier clip"));
}

TEST(Stills, AFrameIsSavedToAFileOrSaysWhyNot) {
  Weeks d(false);
  d.page->saveStill(QString::fromStdString((d.folder / "frame.png").string()));
  EXPECT_FALSE(QImage(QString::fromStdString((d.folder / "frame.png").string())).isNull());
  d.page->saveStill(QStringLiteral("/nowhere/at/all.png"));
  EXPECT_TRUE(d.page->findChild<QLabel*>("status")->text().contains("can't be written"));
}

}  // namespace
}  // namespace jib::tests
