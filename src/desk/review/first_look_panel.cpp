// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/first_look_panel.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "desk/review/commands/change_bookmarks.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

FirstLookPanel::FirstLookPanel(ReviewDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
  setObjectName(QStringLiteral("firstLook"));
  const std::string ours = std::string(document_.lift().name) + ".";
  for (const auto& limit : document_.style().limits)
    if (limit.finding.starts_with(ours) && static_cast<int>(words_.size()) < kQuickWords)
      words_.push_back({limit.finding, q(document_.book().titleOf(limit.finding))});
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(10, 8, 10, 4);
  column->setSpacing(8);
  column->addWidget(heading(tr("First look")));
  column->addWidget(
      words(tr("The whole set at full speed: no lines, no numbers. B drops a bookmark and the clip plays "
               "on; a number gives it a word.")));
  auto* words_column = new QVBoxLayout;
  words_column->setSpacing(3);
  for (int i = 0; i < static_cast<int>(words_.size()); ++i) {
    auto* button = new QPushButton(QStringLiteral("%1  %2").arg(i + 1).arg(words_[static_cast<std::size_t>(i)].title));
    button->setObjectName(QStringLiteral("quickWord_%1").arg(i + 1));
    button->setProperty("narrow", true);
    button->setFocusPolicy(Qt::TabFocus);
    button->setStyleSheet(QStringLiteral("text-align: left;"));
    connect(button, &QPushButton::clicked, this, [this, i] {
      if (!document_.bookmarks().empty()) pick(i + 1, document_.bookmarks().back().t_s);
    });
    button->setToolTip(tr("Names the last bookmark (%1)").arg(i + 1));
    words_column->addWidget(button);  // one under the other: no title is cut
  }
  column->addLayout(words_column);
  column->addWidget(heading(tr("Bookmarks")));
  auto* scroll = new QScrollArea;
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  auto* content = new QWidget;
  list_ = new QVBoxLayout(content);
  list_->setContentsMargins(0, 0, 0, 0);
  list_->setSpacing(4);
  scroll->setWidget(content);
  column->addWidget(scroll, 1);
  waiting_ = words(tr("Still tracking in the background. Keep watching."), true);
  column->addWidget(waiting_);
  show_ = new QPushButton(tr("Show me"));
  show_->setObjectName(QStringLiteral("showMe"));
  show_->setToolTip(tr("Measures and findings, and how they compare with your bookmarks (Return)"));
  connect(show_, &QPushButton::clicked, this, &FirstLookPanel::showRequested);
  column->addWidget(show_);
  connect(&document_, &ReviewDocument::bookmarksChanged, this, [this] {
    if (!typing_) rebuild();
  });
  setReady(false);
  rebuild();
}

void FirstLookPanel::setReady(bool ready) {
  show_->setEnabled(ready);
  waiting_->setVisible(!ready);
}

void FirstLookPanel::showIfReady() {
  show_->click();
}

void FirstLookPanel::put(const QString& text, coaching::Bookmarks to, int gesture) {
  document_.undoStack().push(new ChangeBookmarks(document_, text, std::move(to), gesture));
}

void FirstLookPanel::drop(double t) {
  auto to = document_.bookmarks();
  to.push_back({t, {}, {}});
  put(tr("drop a bookmark"), std::move(to), newGesture());
}

void FirstLookPanel::pick(int word, double t) {
  if (word < 1 || word > static_cast<int>(words_.size())) return;
  auto to = document_.bookmarks();
  if (to.empty()) to.push_back({t, {}, {}});
  const QuickWord& chosen = words_[static_cast<std::size_t>(word - 1)];
  to.back().finding = chosen.finding;
  to.back().word = chosen.title.toStdString();
  put(tr("word a bookmark"), std::move(to), newGesture());
}

void FirstLookPanel::rebuild() {
  clearLayout(list_);
  const auto& all = document_.bookmarks();
  if (all.empty()) list_->addWidget(words(tr("None yet. Press B when something catches your eye."), true));
  for (std::size_t i = 0; i < all.size(); ++i) addBookmark(i);
  list_->addStretch(1);
}

void FirstLookPanel::addBookmark(std::size_t index) {
  const auto& b = document_.bookmarks()[index];
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  auto* go = new QPushButton(tr("%1 s").arg(b.t_s, 0, 'f', 2));
  go->setProperty("narrow", true);
  go->setObjectName(QStringLiteral("bookmark_%1").arg(index));
  go->setFocusPolicy(Qt::TabFocus);
  go->setToolTip(tr("Show the frame"));
  connect(go, &QPushButton::clicked, this, [this, t = b.t_s] { emit timeRequested(t); });
  auto* word = new QLineEdit(q(b.word));
  word->setObjectName(QStringLiteral("bookmarkWord_%1").arg(index));
  word->setPlaceholderText(tr("a word, if you like"));
  connect(word, &QLineEdit::textEdited, this, [this, index, gesture = newGesture()](const QString& text) {
    auto to = document_.bookmarks();
    if (index >= to.size()) return;
    to[index].word = text.toStdString();
    to[index].finding.clear();  // words of one's own
    typing_ = true;
    put(tr("word a bookmark"), std::move(to), gesture);
    typing_ = false;
  });
  connect(word, &QLineEdit::returnPressed, this, &FirstLookPanel::doneWithWord);
  auto* away = new QPushButton(tr("Remove"));
  away->setObjectName(QStringLiteral("bookmarkAway_%1").arg(index));
  away->setProperty("narrow", true);
  away->setFocusPolicy(Qt::TabFocus);
  away->setToolTip(tr("Removes the bookmark. Ctrl+Z brings it back"));
  connect(away, &QPushButton::clicked, this, [this, index] {
    auto to = document_.bookmarks();
    if (index >= to.size()) return;
    to.erase(to.begin() + static_cast<std::ptrdiff_t>(index));
    put(tr("remove a bookmark"), std::move(to), newGesture());
  });
  row->addWidget(go);
  row->addWidget(word, 1);
  row->addWidget(away);
  list_->addLayout(row);
}

}  // namespace jib::desk
