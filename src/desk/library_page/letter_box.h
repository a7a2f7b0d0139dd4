// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "core/exchange/letters/outbox.h"
#include "core/library/library.h"

class QLabel;
class QPlainTextEdit;
class QPushButton;

namespace jib::desk {

// A letter to an athlete: words ready, the coach's to change, and put in the outbox as a ready message.
class LetterBox : public QFrame {
  Q_OBJECT

 public:
  explicit LetterBox(library::Library& library, QWidget* parent = nullptr);

  // `page`: HTML that goes along as an attachment; empty for none. `to_type`: the cursor goes into the words; without
  // it the keys stay where they are.
  void write(exchange::Dispatch letter, const std::string& page = {}, bool to_type = true);
  QString text() const;
  void complain(const QString& sentence);

 signals:
  void sendRequested(const exchange::Dispatch& letter);
  void leaveRequested();  // Escape: back to where the keys came from; the words stay

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void send();

  library::Library& library_;
  exchange::Dispatch letter_;
  std::string page_;
  QLabel* head_;
  QLabel* trouble_;
  QPlainTextEdit* words_;
  QPushButton* out_;
};

}  // namespace jib::desk
