// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QMainWindow>
#include <memory>

#include "core/library/library.h"

class QStackedWidget;

namespace jib::desk {

class LibraryPage;
class Preparer;
class ReviewPage;

// The program's one window: the library, and the review that is open.
class DeskWindow : public QMainWindow {
  Q_OBJECT

 public:
  explicit DeskWindow(library::Library library, QWidget* parent = nullptr);
  ~DeskWindow() override;

  LibraryPage& libraryPage() { return *library_page_; }
  ReviewPage* reviewPage() { return review_page_; }
  void openSubmission(qlonglong id);
  void showLibrary();
  // New clips are looked at while the library is on show.
  void prepareInBackground();
  bool preparing() const;

 protected:
  void closeEvent(QCloseEvent* event) override;

 private:
  library::Library library_;
  QStackedWidget* stack_;
  LibraryPage* library_page_;
  ReviewPage* review_page_ = nullptr;
  Preparer* preparer_ = nullptr;
  bool stopped_by_coach_ = false;  // looking at clips in the background
};

}  // namespace jib::desk
