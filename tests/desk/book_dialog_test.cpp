// SPDX-License-Identifier: GPL-3.0-or-later
// The coach's own book of cues, in its window: found, reworded, put away, taken back, exported.
#include <gtest/gtest.h>

#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QTest>

#include "desk/library_page/book_dialog.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/returned.h"
#include "tests/core/scratch_folder.h"

namespace jib::desk {
namespace {

struct Shelf {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  library::AthleteId ola = *library.addAthlete({library::AthleteId(0), "Ola Marsh", "", "balanced"});

  void say(const std::string& wording, const std::string& drill) {
    library::Submission s;
    s.athlete = ola;
    s.received_on = "2026-10-01";
    Task task;
    const auto id = *library.addSubmission(s, folder.write(wording, wording), task);
    library::CueThread t;
    t.athlete = ola;
    t.asked_in = id;
    t.asked_on = "2026-10-01";
    t.finding = "squat.hips_lead";
    t.title = "Hips lead";
    t.wording = wording;
    t.drill = drill;
    ASSERT_TRUE(tests::returned(library, id, {t}));
  }
  std::vector<std::string> offered() {
    std::vector<std::string> words;
    const auto all = *library.saidBefore(ola);
    for (const auto& said : all) words.push_back(said.wording);
    std::sort(words.begin(), words.end());
    return words;
  }
};

using Words = std::vector<std::string>;

TEST(BookDialog, SaysWhatGathersThereWhileItIsEmpty) {
  Shelf shelf;
  BookDialog dialog(shelf.library);
  EXPECT_TRUE(dialog.findChild<QLabel*>("bookTold")->text().contains("collected here"));
  EXPECT_FALSE(dialog.findChild<QPlainTextEdit*>("bookWording")->isEnabled());
}

TEST(BookDialog, RewordsPutsAwayAndTakesBack) {
  Shelf shelf;
  shelf.say("Chest up first", "Pause squats");
  shelf.say("Push the floor away", "Tempo squats");
  BookDialog dialog(shelf.library);
  dialog.show();
  dialog.activateWindow();
  ASSERT_TRUE(QTest::qWaitForWindowActive(&dialog));
  auto* table = dialog.findChild<QTableWidget*>("bookTable");
  auto* keep = dialog.findChild<QPushButton*>("bookKeep");
  ASSERT_EQ(table->rowCount(), 2);
  QTest::keyClicks(dialog.findChild<QLineEdit*>("bookFind"), "pause");
  const int row = table->item(0, 1)->text() == "Chest up first" ? 0 : 1;
  EXPECT_FALSE(table->isRowHidden(row)) << "found by its drill";
  EXPECT_TRUE(table->isRowHidden(1 - row));

  table->setCurrentCell(row, 1);
  EXPECT_FALSE(keep->isEnabled()) << "nothing changed yet";
  dialog.findChild<QPlainTextEdit*>("bookWording")->setPlainText("Lead with the chest");
  ASSERT_TRUE(keep->isEnabled());
  keep->click();
  EXPECT_EQ(shelf.offered(), (Words{"Lead with the chest", "Push the floor away"}));

  dialog.findChild<QPushButton*>("bookPutAway")->click();
  EXPECT_EQ(shelf.offered(), Words{"Push the floor away"});
  EXPECT_EQ(table->rowCount(), 2) << "it can be offered again";
  QTest::keyClick(&dialog, Qt::Key_Z, Qt::ControlModifier);
  QTest::keyClick(&dialog, Qt::Key_Z, Qt::ControlModifier);
  EXPECT_EQ(shelf.offered(), (Words{"Chest up first", "Push the floor away"}));
}

TEST(BookDialog, IsExportedAsToml) {
  Shelf shelf;
  shelf.say("Chest up first", "Pause squats");
  BookDialog dialog(shelf.library);
  const auto file = shelf.folder / "own.toml";
  ASSERT_TRUE(dialog.exportTo(file));
  const std::string toml = tests::bytesOf(file);
  EXPECT_NE(toml.find("[[cue]]"), std::string::npos) << toml;
  EXPECT_NE(toml.find("Chest up first"), std::string::npos);
  EXPECT_FALSE(dialog.exportTo(shelf.folder / "nowhere" / "own.toml"));
}

}  // namespace
}  // namespace jib::desk
