// SPDX-License-Identifier: GPL-3.0-or-later
// Clips due for deletion: said in the queue, listed, and gone only when the coach confirms it; their numbers stay.
#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <QTreeWidget>

#include "core/library/dates.h"
#include "core/library/falling_due.h"
#include "desk/library_page/due_films_dialog.h"
#include "tests/desk/review_desk.h"

namespace jib::tests {
namespace {

// An answered clip that came in two years ago.
struct Old : Desk {
  Old() : Desk(Begin::Traced) {
    window.reset();
    auto library = *library::Library::open(folder / "lib");
    library::CoachCard card;
    card.name = "Mara Quill";
    card.keep_films_months = 12;
    EXPECT_TRUE(library.setCoach(card));
    EXPECT_TRUE(library.edit(id, [](library::Submission& s) {
      s.received_on = library::daysLater(library::today(), -730);
      s.state = library::SubmissionState::Returned;
    }));
    window = std::make_unique<desk::DeskWindow>(std::move(library));
    present();
  }
  // The dialog is answered while it is open.
  void inDialog(const std::function<void(desk::DueFilmsDialog&)>& answer) {
    QTimer::singleShot(0, [&] {
      auto* dialog = window->findChild<desk::DueFilmsDialog*>();
      ASSERT_NE(dialog, nullptr);
      answer(*dialog);
      dialog->accept();
    });
    window->findChild<QPushButton*>("showDue")->click();
  }
  library::Library again() { return *library::Library::openAgain(folder / "lib"); }
};

TEST(DueFilms, AreListedAndGoOnlyWhenConfirmed) {
  Old d;
  auto* card = d.window->findChild<QFrame*>("dueCard");
  ASSERT_TRUE(card->isVisible());
  d.inDialog([&](desk::DueFilmsDialog& dialog) {
    auto* list = dialog.findChild<QTreeWidget*>("dueList");
    ASSERT_EQ(list->topLevelItemCount(), 1);
    auto* ask = dialog.findChild<QPushButton*>("dueAsk");
    EXPECT_FALSE(ask->isEnabled()) << "nothing is ticked for the coach";
    list->topLevelItem(0)->setCheckState(0, Qt::Checked);
    ask->click();
    EXPECT_TRUE(dialog.findChild<QLabel*>("dueGoes")->text().startsWith("1 clip goes"));
  });
  EXPECT_NE(d.again().submission(d.id)->clip_hash, "") << "closed without the second press";
  d.inDialog([&](desk::DueFilmsDialog& dialog) {
    auto* list = dialog.findChild<QTreeWidget*>("dueList");
    list->topLevelItem(0)->setCheckState(0, Qt::Checked);
    dialog.findChild<QPushButton*>("dueAsk")->click();
    dialog.findChild<QPushButton*>("dueDelete")->click();
    EXPECT_EQ(list->topLevelItemCount(), 0);
  });
  EXPECT_FALSE(card->isVisible());
  const auto gone = *d.again().submission(d.id);
  EXPECT_EQ(gone.clip_hash, "");
  EXPECT_EQ(gone.details.film_gone_on, library::today());
  // Wherever it is opened from, the window says so and stays.
  d.window->openSubmissionAt(d.id.number, 1);
  EXPECT_EQ(d.window->reviewPage(), nullptr);
  EXPECT_TRUE(d.window->findChild<QLabel*>("libraryStatus")->text().startsWith("This clip was deleted on"));
}

TEST(DueFilms, AreKeptHalfAYearMore) {
  Old d;
  d.inDialog([&](desk::DueFilmsDialog& dialog) {
    dialog.findChild<QTreeWidget*>("dueList")->topLevelItem(0)->setCheckState(0, Qt::Checked);
    dialog.findChild<QPushButton*>("dueKeep")->click();
  });
  EXPECT_FALSE(d.window->findChild<QFrame*>("dueCard")->isVisible());
  EXPECT_NE(d.again().submission(d.id)->clip_hash, "");
}

}  // namespace
}  // namespace jib::tests
