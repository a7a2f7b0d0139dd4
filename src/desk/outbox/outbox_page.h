// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/library/library.h"
#include "desk/jobs/job_runner.h"

class QLabel;
class QListWidget;
class QPushButton;
class QPlainTextEdit;

namespace jib::desk {

// The outbox as a place: what waits to go out, what was handed over and what was taken back, with everything that goes
// along to look at before it goes. The program sends nothing itself: a letter leaves through the coach's own mail
// program.
class OutboxPage : public QWidget {
  Q_OBJECT

 public:
  explicit OutboxPage(library::Library& library, QWidget* parent = nullptr);

  void refresh();
  int waiting() const { return waiting_; }
  // What opens files and mails, and says later when nothing does; a test sets another.
  using Opener =
      std::function<void(const QString& program, const QStringList& arguments, const std::function<void()>& failed)>;
  void setOpener(Opener opener) { opener_ = std::move(opener); }
  QSize minimumSizeHint() const override { return {640, 420}; }

 signals:
  void leaveRequested();
  void changed();
  void openSubmissionRequested(qlonglong submission);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void showEvent(QShowEvent* event) override;

 private:
  void buildLayout();
  void showChosen();
  void handOver();
  void setState(library::OutgoingState state);
  void openPart(const QString& file);
  bool keepWords();
  const library::Outgoing* chosen() const;

  library::Library& library_;
  Opener opener_;
  JobRunner reading_{Lane::Replace};
  std::vector<library::Outgoing> all_;
  std::optional<library::Outgoing> shown_;  // the one whose words can be changed, once they are read
  int waiting_ = 0;
  QListWidget* list_;
  QLabel* head_;
  QPlainTextEdit* letter_;
  QWidget* parts_;
  QLabel* status_;
  QPushButton *hand_over_, *mark_, *back_, *copy_, *about_;
};

}  // namespace jib::desk
