// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QUndoStack>
#include <vector>

#include "core/library/library.h"

class QLabel;
class QLineEdit;
class QPlainTextEdit;
class QPushButton;
class QTableWidget;

namespace jib::desk {

// The coach's own book: every wording that went out in a reply, how often it was said and how often it helped. Words
// and drill can be changed for the next time, and what is no longer said put away; what went out stays as it was.
class BookDialog : public QDialog {
  Q_OBJECT

 public:
  explicit BookDialog(library::Library& library, QWidget* parent = nullptr);

  Result<bool> exportTo(const std::filesystem::path& file) const;

 private:
  QWidget* buildEditing();
  void reload();
  void filter(const QString& words);
  void showChosen();
  void keep();
  void putAway();
  void change(const QString& text, const library::Library::SaidBefore& was, const library::Library::SaidBefore& to);
  const library::Library::SaidBefore* chosen() const;
  void tell(const QString& sentence, bool is_trouble);

  library::Library& library_;
  QUndoStack undo_;
  std::vector<library::Library::SaidBefore> book_;
  QLineEdit* find_ = nullptr;
  QTableWidget* table_ = nullptr;
  QPlainTextEdit *wording_ = nullptr, *drill_ = nullptr;
  QPushButton *keep_ = nullptr, *put_away_ = nullptr;
  QLabel* told_ = nullptr;
};

}  // namespace jib::desk
