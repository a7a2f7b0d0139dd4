// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "desk/review/review_document.h"

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace jib::desk {

// The whole set at full speed, no lines, no numbers: what the coach notices goes down as bookmarks, with a word that is
// typed or picked, while the clip plays on. "Show me" ends it.
class FirstLookPanel : public QWidget {
  Q_OBJECT

 public:
  static constexpr int kQuickWords = 9;

  explicit FirstLookPanel(ReviewDocument& document, QWidget* parent = nullptr);

  // A bookmark at a moment of the clip.
  void drop(double t_s);
  // Gives the last bookmark the n-th of the words that are offered, counted from 1; drops one at `t_s` when there is
  // none yet.
  void pick(int word, double t_s);
  // What the button does, as soon as it can be pressed.
  void showIfReady();
  void setReady(bool ready);  // numbers and findings are there to be shown

 signals:
  void showRequested();
  void timeRequested(double t_s);
  void doneWithWord();  // the keys go back to the clip

 private:
  struct QuickWord {
    std::string finding;
    QString title;
  };
  void rebuild();
  void addBookmark(std::size_t index);
  void put(const QString& text, coaching::Bookmarks to, int gesture);

  ReviewDocument& document_;
  std::vector<QuickWord> words_;
  QVBoxLayout* list_ = nullptr;
  QPushButton* show_ = nullptr;
  QLabel* waiting_ = nullptr;
  bool typing_ = false;  // the change came from a field here: it is not rebuilt under the cursor
};

}  // namespace jib::desk
