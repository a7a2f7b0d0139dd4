// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
#include <functional>

#include "desk/review/review_document.h"

class QGridLayout;
class QVBoxLayout;

namespace jib::desk {

// The reply in the making: what is good, the few cues with every word editable, the last words, and "change nothing".
class CuePanel : public QScrollArea {
  Q_OBJECT

 public:
  // What stands here until there is something to say.
  void setPlaceholder(const QString& sentence);
  // What was said before, by finding: offered beside the book's wordings.
  void setSaidBefore(std::vector<library::Library::SaidBefore> said);
  // A cue of the coach's own about the frame at `t_s`, ready to be worded.
  void addOwn(double t_s);
  // The sheet that works out loads, for a cue.
  void openLoads(int index);
  explicit CuePanel(ReviewDocument& document, QWidget* parent = nullptr);
  // Tells the moment that is on the stage.
  void setClock(std::function<double()> now) { now_ = std::move(now); }

 signals:
  void evidenceRequested(double t_s, int drawing);
  void previewRequested();

 private:
  void rebuild();
  void refreshUnlessTyping();
  void addGreeting();
  void addKeep();
  void addPraise(const std::vector<std::pair<QString, bool>>& lines, std::size_t index);
  void addCue(int index);
  void addCueTop(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addWording(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addFrames(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addFollowedBy(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addOwnRow();
  void addClosing();
  template <class Set>
  auto editor(int index, const QString& name, Set set);
  void move(int index, int by);
  void addChange(int index, const coaching::Cue& cue, QGridLayout& grid, int row);
  void putChange(int index, const std::optional<coaching::Change>& to_be, const QString& what, bool rebuilt,
                 int gesture);
  void addChangeWarning();
  void addLoadHelp(int index, const coaching::Cue& cue, QGridLayout& grid, int row);
  void addWorth(int index, const coaching::Cue& cue, QGridLayout& grid, int row);
  void addMeetWarning(int index, const coaching::Cue& cue, QGridLayout& grid, int row);
  void addPain();
  void addWeek();
  void change(const QString& text, CueChoice to, int gesture);
  void addRemarks();

  ReviewDocument& document_;
  std::vector<library::Library::SaidBefore> said_before_;
  std::function<double()> now_ = [] { return 0.0; };
  QString placeholder_;
  QVBoxLayout* column_;
  bool changing_ = false;  // the edit came from a field of this panel: do not rebuild under the cursor
};

}  // namespace jib::desk
