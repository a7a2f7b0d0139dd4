// SPDX-License-Identifier: GPL-3.0-or-later
// The queue for people who look: pictures, several rows at once, the menu bar, units everywhere, and one reply after
// the other.
#include <gtest/gtest.h>

#include <QAction>
#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QTableView>
#include <QTest>
#include <QTimer>

#include "core/base/display_units.h"
#include "core/tracing/trace_store.h"
#include "desk/jobs/clip_pictures.h"
#include "desk/library_page/coach_dialog.h"
#include "desk/library_page/submissions_model.h"
#include "desk/review/findings_panel.h"
#include "desk/units.h"
#include "tests/desk/review_desk.h"

namespace jib::desk {
namespace {

using library::SubmissionState;
using tests::kPatience_ms;

// Three athletes and their clips, all traced; the last two came with one message.
struct Gym {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  std::vector<library::SubmissionId> ids;
  std::unique_ptr<DeskWindow> window;

  Gym() {
    EXPECT_TRUE(library.setCoach({"Rae Tan", "rae@reef.invalid"}));
    const std::string traced = tests::placedTracing();
    for (const char* name : {"Ola Marsh", "Ida Fenn", "Per Holt"}) {
      library::Submission s;
      s.athlete = *library.addAthlete({library::AthleteId(0), name, "", "balanced"});
      EXPECT_TRUE(library.addAddress(s.athlete, std::string(name, 3) + "@reef.invalid"));
      s.lift = "squat";
      s.variant = "low-bar";
      s.load_kg = 100;
      s.received_on = "2026-01-0" + std::to_string(5 + ids.size());
      Task task;
      ids.push_back(*library.addSubmission(s, JIB_MADE_CLIP, task));
      EXPECT_TRUE(library.saveTracing(ids.back(), traced));
    }
    window = std::make_unique<DeskWindow>(*library::Library::open(folder / "lib"));
    window->resize(1280, 800);
    window->show();
    window->activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(window.get()));
  }

  QTableView& queue() { return *window->findChild<QTableView*>("submissions"); }
  SubmissionState state(std::size_t i) { return library.submission(ids[i])->state; }
};

TEST(PictureQueue, ShowsEachClipOnceItHasBeenMadeInTheBackground) {
  Gym g;
  const auto picture = [&](int row) {
    return g.queue().model()->index(row, SubmissionsModel::Picture).data(Qt::DecorationRole).value<QPixmap>();
  };
  g.queue().grab();
  EXPECT_TRUE(QTest::qWaitFor([&] { return !picture(0).isNull(); }, kPatience_ms));
  EXPECT_EQ(picture(0).deviceIndependentSize().toSize(), ClipPictures::kSize);
  const auto file = g.library.pictureFile(g.library.submission(g.ids[0])->clip_hash);
  EXPECT_TRUE(std::filesystem::exists(file)) << "it need not be made again";
  // Delete means delete: the last submission of the clip takes its picture along.
  for (const auto id : g.ids) {
    auto removal = g.library.removalOf(id);
    ASSERT_TRUE(removal);
    EXPECT_TRUE(std::filesystem::exists(file));
    ASSERT_TRUE(g.library.remove(*removal));
  }
  EXPECT_FALSE(std::filesystem::exists(file));
}

TEST(PictureQueue, IsALowerListWithoutPictures) {
  Gym g;
  const int high = g.queue().rowHeight(0);
  auto* pictures = g.window->findChild<QAction*>("queuePictures");
  pictures->setChecked(false);
  EXPECT_LT(g.queue().rowHeight(0), high);
  EXPECT_TRUE(g.queue().isColumnHidden(SubmissionsModel::Picture));
  EXPECT_FALSE(g.queue().isColumnHidden(SubmissionsModel::Load)) << "the load has a column of its own again";
  pictures->setChecked(true);
  EXPECT_EQ(g.queue().rowHeight(0), high);
}

TEST(PictureQueue, SortsSeveralAtOnceAndTakesItBackAsOne) {
  Gym g;
  g.queue().setFocus();
  g.queue().selectAll();
  QTest::keyClick(&g.queue(), Qt::Key_C);
  for (std::size_t i = 0; i < 3; ++i) EXPECT_EQ(g.state(i), SubmissionState::CarriedOver);
  QTest::keyClick(&g.queue(), Qt::Key_Z, Qt::ControlModifier);
  for (std::size_t i = 0; i < 3; ++i) EXPECT_EQ(g.state(i), SubmissionState::New);
  EXPECT_EQ(g.queue().contextMenuPolicy(), Qt::ActionsContextMenu) << "a right click offers the same";
  EXPECT_GE(g.queue().actions().size(), 6);
}

TEST(PictureQueue, AReplyIsReturnedAndTheNextOpens) {
  Gym g;
  g.window->openSubmission(g.ids[2].number);
  const auto ready = [&] { return g.window->reviewPage()->settled() && g.window->reviewPage()->document().analysis(); };
  ASSERT_TRUE(QTest::qWaitFor(ready, kPatience_ms));
  auto* next = g.window->reviewPage()->findChild<QPushButton*>("returnNext");
  ASSERT_TRUE(next->isEnabled());
  next->click();
  ASSERT_TRUE(QTest::qWaitFor(
      [&] { return g.window->reviewPage() && g.window->reviewPage()->document().submission().id == g.ids[1]; },
      kPatience_ms))
      << "the next below it in the queue";
  // The reply is written meanwhile.
  ASSERT_TRUE(QTest::qWaitFor([&] { return g.state(2) == SubmissionState::Returned; }, kPatience_ms));
  EXPECT_EQ(g.library.outgoing()->size(), 1u);
  // When nothing waits any more, the queue says so.
  for (std::size_t i : {0u, 1u}) {
    auto s = *g.library.submission(g.ids[i]);
    s.state = SubmissionState::Returned;
    ASSERT_TRUE(g.library.edit(s.id, [&](auto& row_now) { row_now = s; }));
  }
  g.window->showLibrary();
  g.window->openNext(g.ids[2].number);
  EXPECT_EQ(g.window->reviewPage(), nullptr);
  EXPECT_TRUE(g.window->findChild<QLabel*>("libraryStatus")->text().contains("Nothing else is waiting"));
}

TEST(MenuBar, HasWhatThePageCanDoWithItsKeys) {
  Gym g;
  const auto titles = [&] {
    QStringList all;
    for (const QAction* menu : g.window->menuBar()->actions()) all << menu->text();
    return all;
  };
  EXPECT_EQ(titles(), (QStringList{"File", "Edit", "Queue", "View", "Help"}));
  g.window->openSubmission(g.ids[0].number);
  EXPECT_EQ(titles(), (QStringList{"File", "Edit", "View", "Play", "Go", "Review", "Help"}));
  for (const QAction* menu : g.window->menuBar()->actions())
    for (const QAction* a : menu->menu()->actions()) EXPECT_FALSE(a->text().isEmpty());
  ASSERT_TRUE(QTest::qWaitFor([&] { return g.window->reviewPage()->settled(); }, kPatience_ms));
  g.window->showLibrary();
  EXPECT_TRUE(titles().contains("Queue"));
  g.window->findChild<QAction*>("aboutAction")->trigger();
  auto* about = g.window->findChild<QMessageBox*>("aboutBox");
  ASSERT_NE(about, nullptr);
  EXPECT_TRUE(about->informativeText().contains("never diagnoses"));
  about->close();
}

TEST(Units, ChangeEverywhereAtOnce) {
  Gym g;
  g.window->openSubmission(g.ids[0].number);
  ReviewPage& page = *g.window->reviewPage();
  ASSERT_TRUE(QTest::qWaitFor([&] { return page.settled() && page.document().analysis(); }, kPatience_ms));
  const auto said = [&](const QString& words) {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    const auto labels = page.findChild<FindingsPanel*>()->findChildren<QLabel*>();
    return std::any_of(labels.begin(), labels.end(), [&](QLabel* l) { return l->text().endsWith(words); });
  };
  const auto load = [&] { return page.findChild<QToolButton*>("meta")->text(); };
  EXPECT_TRUE(load().contains("100 kg (220 lb)"));
  EXPECT_TRUE(said(" cm"));
  // As a coach would: the settings, two choices, save.
  QTimer::singleShot(0, [&] {
    auto* dialog = qobject_cast<CoachDialog*>(QApplication::activeModalWidget());
    ASSERT_NE(dialog, nullptr);
    dialog->findChild<QComboBox*>("massUnit")->setCurrentIndex(1);
    dialog->findChild<QComboBox*>("lengthUnit")->setCurrentIndex(1);
    dialog->accept();
  });
  g.window->findChild<QAction*>("settingsAction")->trigger();
  EXPECT_TRUE(load().contains("220 lb (100 kg)"));
  EXPECT_FALSE(said(" cm"));
  EXPECT_TRUE(said(" in"));
  const QModelIndex row = g.queue().model()->index(0, SubmissionsModel::Load);
  EXPECT_EQ(row.data().toString(), "220 lb (100 kg)");
  // And after a restart.
  setDisplayUnits({});
  applyKeptUnits();
  EXPECT_EQ(displayUnits(), (DisplayUnits{MassUnit::Pounds, LengthUnit::Inches}));
  keepUnits({});
  g.window->libraryPage().refresh();
}

}  // namespace
}  // namespace jib::desk
