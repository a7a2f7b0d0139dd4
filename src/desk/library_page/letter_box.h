// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "core/exchange/letters.h"
#include "core/library/library.h"

class QLabel;
class QPlainTextEdit;

namespace jib::desk {

// A message to an athlete: words ready, the coach's to change, put in the outbox as a ready file.
class LetterBox : public QFrame {
  Q_OBJECT

 public:
  explicit LetterBox(library::Library& library, QWidget* parent = nullptr);

  // `page`: HTML that goes along as an attachment; empty for none.
  void write(const QString& to, const exchange::Letter& letter, const std::string& page = {});
  QString text() const;

 signals:
  void sent(const QString& file);

 private:
  void send();
  void complain(const Error& why);

  library::Library& library_;
  QString subject_, to_;
  std::string page_;
  QLabel* head_;
  QLabel* trouble_;
  QPlainTextEdit* words_;
};

}  // namespace jib::desk
