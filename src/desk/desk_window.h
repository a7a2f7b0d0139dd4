// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QMainWindow>
#include <memory>

#include "core/library/library.h"

class QStackedWidget;

namespace jib::desk {

class LibraryPage;
class OutboxPage;
class Preparer;
class Returns;
class ReviewPage;
class RosterPage;

// The program's one window: the library, the outbox, and the review that is open. Never larger than what the screen
// leaves free.
class DeskWindow : public QMainWindow {
  Q_OBJECT

 public:
  explicit DeskWindow(library::Library library, QWidget* parent = nullptr);
  ~DeskWindow() override;

  LibraryPage& libraryPage() { return *library_page_; }
  ReviewPage* reviewPage() { return review_page_; }
  OutboxPage& outboxPage() { return *outbox_page_; }
  RosterPage& rosterPage() { return *roster_page_; }
  void openSubmission(qlonglong id);
  // Opens a clip and, once its review stands, sends its reply.
  void returnAgain(qlonglong submission);
  void openSubmissionAt(qlonglong id, double t_s);  // at the frame of that time
  void showLibrary();
  void showOutbox();
  void showRoster();
  void toggleNight();
  // The keys of what is on show.
  void showKeys();
  // How a review goes, in one page; and what program this is.
  void showHelp();
  void showAbout();
  // Opens the next submission that waits, or the queue when none does.
  void openNext(qlonglong after);
  // New clips are looked at while the library is on show.
  void prepareInBackground();
  bool preparing() const;
  // Said where the coach looks: on the page that is on show.
  void say(const QString& sentence, bool is_trouble = true);
  // Makes the window no larger than `free`, and puts it inside, its frame included.
  void fitInto(const QRect& free);

 protected:
  void closeEvent(QCloseEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  void buildActions();
  void connectReturns();
  void refreshMenus();
  QList<QAction*> listedHere() const;  // what the page on show can do
  void fitScreen();
  void goBack();

  library::Library library_;
  QStackedWidget* stack_;
  LibraryPage* library_page_;
  OutboxPage* outbox_page_;
  RosterPage* roster_page_;
  ReviewPage* review_page_ = nullptr;
  Preparer* preparer_ = nullptr;
  Returns* returns_;
  bool close_when_returned_ = false;
  bool stopped_by_coach_ = false;  // looking at clips in the background
};

}  // namespace jib::desk
