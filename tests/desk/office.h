// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <gtest/gtest.h>

#include <QTest>
#include <memory>
#include <nlohmann/json.hpp>

#include "core/exchange/intake/importer.h"
#include "core/tracing/trace_store.h"
#include "desk/desk_window.h"
#include "desk/review/review_page.h"
#include "desk/review/stage.h"
#include "tests/core/analysed_clip.h"
#include "tests/core/exchange/made_mail.h"
#include "tests/core/footage/made_clips.h"

namespace jib::desk {

inline constexpr int kPatience_ms = 120000;  // how long a signal is waited for; nothing is timed

// A coach's library into which films come by mail, and the window on it.
struct Office {
  tests::ScratchFolder folder;
  library::Library library = *library::Library::open(folder / "lib");
  std::unique_ptr<DeskWindow> window;

  Office() { EXPECT_TRUE(library.setCoach({"Mara Quill", "mara@quill.invalid", false})); }

  library::SubmissionId send(const std::string& who, const std::string& film, const std::string& words) {
    const std::string address = who.substr(0, who.find(' ')) + "@tide.invalid";
    const auto eml = folder.write(
        who + ".eml", tests::header(who + " <" + address + ">", who + "@k", "a lift") +
                          tests::multipart({tests::textPart(words), tests::filePart("set.mp4", tests::bytesOf(film))}));
    Task task;
    EXPECT_TRUE(exchange::receive(library, eml, "2026-11-25", task));
    library::SubmissionId newest{0};
    const auto all = *library.submissions();
    for (const auto& s : all)
      if (s.id.number > newest.number) newest = s.id;
    return newest;
  }
  // What the background would have found out.
  void tell(library::SubmissionId id, const char* view) {
    coaching::ClipCheck check;
    check.view = view;
    ASSERT_TRUE(library.saveCheck(library.submission(id)->clip_hash, coaching::checkToJson(check)));
  }
  ReviewPage& open(library::SubmissionId id) {
    window = std::make_unique<DeskWindow>(*library::Library::open(folder / "lib"));
    window->resize(1280, 800);
    window->show();
    window->activateWindow();
    EXPECT_TRUE(QTest::qWaitForWindowActive(window.get()));
    window->openSubmission(id.number);
    EXPECT_TRUE(QTest::qWaitFor(
        [&] {
          auto* page = window->reviewPage();
          return page && page->settled() && page->document().analysis() && page->findChild<Stage*>()->hasPicture();
        },
        kPatience_ms));
    return *window->reviewPage();
  }
  void press(Qt::Key key, Qt::KeyboardModifiers with = {}) {
    window->reviewPage()->takeKeys();
    QTest::keyClick(window->reviewPage()->focusWidget(), key, with);
    QCoreApplication::processEvents();
  }
  std::filesystem::path replyFile(library::SubmissionId id, const char* kind) {
    return tests::fileWith(library.folder() / "replies" / std::to_string(id.number), kind);
  }
};

template <class W>
W* in(ReviewPage& page, const QString& name) {
  QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
  auto* w = page.findChild<W*>(name);
  EXPECT_NE(w, nullptr) << name.toStdString();
  return w;
}

inline void clickOn(Stage& stage, PixelPoint p) {
  const QPoint at = stage.toStage(p).toPoint();
  QTest::mouseMove(&stage, at);
  QTest::mouseClick(&stage, Qt::LeftButton, {}, at);
}

inline void dragOn(Stage& stage, PixelPoint from, PixelPoint to) {
  const QPoint a = stage.toStage(from).toPoint(), b = stage.toStage(to).toPoint();
  QTest::mouseMove(&stage, a);
  QTest::mousePress(&stage, Qt::LeftButton, {}, a);
  QTest::mouseMove(&stage, (a + b) / 2);
  QTest::mouseMove(&stage, b);
  QTest::mouseRelease(&stage, Qt::LeftButton, {}, b);
}

// As it is done while nobody is there.
inline void traceAsAPress(Office& office, library::SubmissionId id) {
  const auto row = *office.library.submission(id);
  ASSERT_TRUE(office.library.saveTracing(
      id, tests::keptTracing("bench", office.library.clipFile(row), exchange::requestFor(row, {}, {}))));
}

// The small squat, traced ahead.
struct Squat : Office {
  library::SubmissionId id{0};
  Squat() {
    id = send("Kit Marlin", JIB_MADE_CLIP, "Squat 60 kg x 3.");
    const auto& a = tests::smallAnalysis();
    EXPECT_TRUE(library.saveTracing(id, tracing::traceToJson(a.trace).dump()));
    tell(id, "side");
  }
};

}  // namespace jib::desk
