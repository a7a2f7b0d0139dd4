// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
#include <functional>
#include <map>
#include <string>

#include "core/coaching/clip_check.h"
#include "desk/review/review_document.h"

class QGridLayout;
class QVBoxLayout;

namespace jib::desk {

// What to say: what is right, at most two cues with every word editable, what else was found, and "change nothing".
class CuePanel : public QScrollArea {
  Q_OBJECT

 public:
  // At which loads each finding has shown before, in words, by its id.
  void setShownBefore(std::map<std::string, QString> words);
  // What this clip carries and what not (coaching/clip_check.h).
  // What stands here until there are findings.
  void setPlaceholder(const QString& sentence);
  void setClaims(std::vector<coaching::Claim> claims);
  // What was said before, by finding: offered beside the book's wordings.
  void setSaidBefore(std::vector<library::Library::SaidBefore> said);
  // A cue of the coach's own about the frame at `t_s`, ready to be worded.
  void addOwn(double t_s);
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
  void addCue(int index);
  void addCueTop(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addWording(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addFrames(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addFollowedBy(int index, const coaching::Cue& cue, QGridLayout& grid);
  void addOwnRow();
  void addClosing();
  void addRejected();
  void reject(const coaching::Finding& finding);
  template <class Set>
  auto editor(int index, const QString& name, Set set);
  void move(int index, int by);
  void addMeetWarning(QGridLayout& grid, int weeks);
  void addFindings();
  void addClaims();
  void addFinding(const coaching::Finding& finding);
  void change(const QString& text, CueChoice to, int gesture);
  void addRivals(const coaching::Finding& f, QVBoxLayout& box);
  void choose(const coaching::Finding& finding);
  const std::string* whyParked(const std::string& finding) const;
  void addRemarks();
  std::size_t repCount() const;

  ReviewDocument& document_;
  std::map<std::string, QString> shown_before_;
  std::vector<library::Library::SaidBefore> said_before_;
  std::function<double()> now_ = [] { return 0.0; };
  std::vector<coaching::Claim> claims_;
  QString placeholder_;
  QWidget* content_;
  QVBoxLayout* column_;
  bool changing_ = false;  // the edit came from a field of this panel: do not rebuild under the cursor
};

}  // namespace jib::desk
