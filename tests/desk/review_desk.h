// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <gtest/gtest.h>

#include <QTableView>
#include <QTest>
#include <functional>
#include <memory>

#include "desk/desk_window.h"
#include "desk/library_page/library_page.h"
#include "desk/review/review_page.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/scratch_folder.h"

namespace jib::tests {

constexpr int kPatience_ms = 120000;  // how long a signal is waited for; nothing is timed

// Placed: with the coach's points, so that the knees that slide back are sure.
enum class Begin { Traced, Untraced, Placed };

// A window on a library of one athlete with one squat, opened and left as a coach would.
struct Desk {
  ScratchFolder folder;
  library::SubmissionId id{0};
  std::unique_ptr<desk::DeskWindow> window;

  explicit Desk(Begin begin = Begin::Traced) {
    auto library = *library::Library::open(folder / "lib");
    library::Submission s;
    s.lift = "squat";
    s.variant = "low-bar";
    s.athlete = *library.addAthlete({library::AthleteId(0), "Ola Marsh", "", "balanced"});
    s.received_on = "2026-01-05";
    s.message = "my knees?";
    s.load_kg = 80;
    Task task;
    id = *library.addSubmission(s, JIB_MADE_CLIP, task);
    if (begin == Begin::Traced) {
      EXPECT_TRUE(library.saveTracing(id, traced()));
    }
    if (begin == Begin::Placed) {
      library::Review review;
      review.placed = smallAnalysis().request.trace.placed;
      EXPECT_TRUE(library.saveReview(id, review));
      EXPECT_TRUE(library.saveTracing(id, placedTracing()));
    }
    window = std::make_unique<desk::DeskWindow>(std::move(library));
    present();
  }

  // The clip as it is traced by itself.
  static std::string traced() { return unplacedTracing(); }

  // Keys go to the active window only.
  void present() {
    window->resize(1280, 800);
    window->show();
    window->activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(window.get()));
  }

  desk::ReviewPage& open() {
    auto* table = window->findChild<QTableView*>("submissions");
    table->selectRow(0);
    table->setFocus();
    QTest::keyClick(table, Qt::Key_Return);
    EXPECT_NE(window->reviewPage(), nullptr);
    waitFor([&] { return window->reviewPage()->settled() && window->reviewPage()->document().analysis(); });
    return *window->reviewPage();
  }

  void reopen() {
    window.reset();
    window = std::make_unique<desk::DeskWindow>(*library::Library::open(folder / "lib"));
    present();
  }

  static void waitFor(const std::function<bool()>& there) { EXPECT_TRUE(QTest::qWaitFor(there, kPatience_ms)); }
};

}  // namespace jib::tests
