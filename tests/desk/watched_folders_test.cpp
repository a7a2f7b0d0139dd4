// SPDX-License-Identifier: GPL-3.0-or-later
// A folder of the coach's that clips are saved to: chosen in the settings, and what comes into it turns up in the
// queue.
#include <gtest/gtest.h>

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSignalSpy>
#include <QTableView>
#include <QTest>

#include "desk/library_page/coach_dialog.h"
#include "tests/core/footage/made_clips.h"
#include "tests/core/must.h"
#include "tests/desk/review_desk.h"

namespace jib::desk {
namespace {

namespace fs = std::filesystem;
using tests::kPatience_ms;

struct Watching {
  tests::ScratchFolder scratch;
  fs::path folder = scratch / "From the chat";
  library::Library records = tests::must(library::Library::open(scratch / "lib"));

  WatchList list = WatchList(scratch / "lib");

  Watching() {
    fs::create_directories(folder / "Ida Fenn");
    EXPECT_TRUE(records.setCoach({"Rae Tan", "rae@reef.invalid"}));
  }

  void save(const fs::path& name, int frames) {
    EXPECT_TRUE(tests::writeCountingClip(folder / name, frames));
    fs::last_write_time(folder / name, fs::file_time_type::clock::now() - std::chrono::minutes(1));
  }
  QString path() const { return QString::fromStdString(folder.string()); }
};

TEST(WatchedFolders, WhatIsSavedThereJoinsTheQueueAndWhatWasThereDoesNot) {
  Watching w;
  w.save("Ida Fenn/last year.mp4", 8);
  {
    CoachDialog dialog(w.records);
    dialog.watchFolder(w.path());
    dialog.accept();
  }
  EXPECT_EQ(w.list.folders(), QStringList{w.path()});
  EXPECT_TRUE(WatchList(w.scratch / "another").folders().isEmpty()) << "what one library watches is not the other's";
  DeskWindow window(tests::must(library::Library::open(w.scratch / "lib")));
  window.show();
  // What it holds is noted before anything is new.
  ASSERT_TRUE(QTest::qWaitFor([&] { return w.list.lookedInto(w.path()); }, kPatience_ms));
  w.save("Ida Fenn/today.mp4", 16);
  const auto* queue = window.findChild<QTableView*>("submissions");
  ASSERT_TRUE(QTest::qWaitFor([&] { return queue->model()->rowCount() == 1; }, kPatience_ms));
  const auto rows = tests::must(w.records.submissions());
  ASSERT_EQ(rows.size(), 1u);
  EXPECT_EQ(rows[0].clip_name, "today.mp4");
  EXPECT_EQ(tests::must(w.records.athlete(rows[0].athlete)).name, "Ida Fenn");
  EXPECT_TRUE(fs::exists(w.folder / "Ida Fenn/today.mp4"));
}

TEST(WatchedFolders, AreTakenOffTheListAgain) {
  Watching w;
  w.list.keep({w.path()});
  w.list.keepAsSeen(w.path(), {{"x.mp4", "", "x.mp4\t1\t2"}});
  CoachDialog dialog(w.records);
  auto* list = dialog.findChild<QListWidget*>("watchedFolders");
  auto* remove = dialog.findChild<QPushButton*>("unwatchFolder");
  EXPECT_FALSE(remove->isEnabled());
  list->setCurrentRow(0);
  ASSERT_TRUE(remove->isEnabled());
  remove->click();
  dialog.accept();
  EXPECT_TRUE(w.list.folders().isEmpty());
  EXPECT_FALSE(w.list.lookedInto(w.path())) << "watched anew, it begins anew";
}

TEST(WatchedFolders, ADriveThatIsAwayHasNotBeenLookedInto) {
  Watching w;
  const QString away = QString::fromStdString((w.scratch / "drive/clips").string());
  w.list.keep({away, w.path()});
  WatchedFolders watched(w.scratch / "lib");
  QSignalSpy found(&watched, &WatchedFolders::found);
  watched.start();
  ASSERT_TRUE(QTest::qWaitFor([&] { return w.list.lookedInto(w.path()); }, kPatience_ms));
  EXPECT_FALSE(w.list.lookedInto(away)) << "what it held before would be news";
  EXPECT_EQ(found.count(), 0);
}

TEST(WatchedFolders, TheLibraryItselfIsRefused) {
  Watching w;
  CoachDialog dialog(w.records);
  for (const fs::path& folder : {w.scratch / "lib", w.scratch / "lib/media", w.scratch.path()}) {
    dialog.watchFolder(QString::fromStdString(folder.string()));
    EXPECT_EQ(dialog.findChild<QListWidget*>("watchedFolders")->count(), 0) << folder;
    EXPECT_TRUE(dialog.findChild<QLabel*>("coachTold")->text().contains("library itself"));
  }
}

}  // namespace
}  // namespace jib::desk
