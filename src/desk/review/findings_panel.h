// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
#include <functional>
#include <map>
#include <optional>
#include <set>
#include <string>

#include "core/coaching/clip_check.h"
#include "core/coaching/rule_book.h"
#include "core/coaching/where_it_lies.h"
#include "desk/review/review_document.h"

class QHBoxLayout;
class QVBoxLayout;

namespace jib::desk {

// What the coach decides on: each finding with its scale, most worth saying at the top; what was noticed at first look
// and what the numbers say to it; what is as it should be; what the clip cannot tell.
class FindingsPanel : public QScrollArea {
  Q_OBJECT

 public:
  explicit FindingsPanel(ReviewDocument& document, QWidget* parent = nullptr);

  // At which loads each finding has shown before, in words, by its id.
  void setShownBefore(std::map<std::string, QString> words);
  // For each fault, where it may lie instead (review/where_faults_lie.h), by its id.
  void setLies(std::map<std::string, std::vector<coaching::LiesHint>> lies);
  // What stands here until there are findings.
  void setPlaceholder(const QString& sentence);
  // In how many of the latest sets a limit is sure of its fault, and would be elsewhere; empty: nobody knows.
  using WouldSay = std::function<QString(const coaching::Limit& limit, double moved_to)>;
  void setWouldSay(WouldSay would_say) { would_say_ = std::move(would_say); }
  // The rule sets at hand; the shipped ones until then.
  void setRules(coaching::RuleBook rules);
  // What this clip carries and what not (coaching/clip_check.h).
  void setClaims(std::vector<coaching::Claim> claims);
  // The first of what this clip can't show; empty: it shows everything.
  QString lacking() const;

 signals:
  void evidenceRequested(double t_s, int drawing);
  void byEyeRequested();                     // the checks only a person can make
  void viewRequested(const QString& claim);  // another film, from where it shows
  void rulesEditRequested(const QString& id);
  // A limit of the style is moved, or (nullopt) put back.
  void limitMoved(const QString& finding, std::optional<double> to);

 private:
  void rebuild();
  void refreshIfChosenChanged();
  void addAsked();
  void addBookmarks();
  void addFindings();
  void addFinding(const coaching::Finding& finding);
  void addHead(const coaching::Finding& finding, QVBoxLayout& box);
  void addScale(const coaching::Finding& finding, QVBoxLayout& box);
  void addSigns(const coaching::Finding& finding, QVBoxLayout& box);
  void chooseInstead(const coaching::Finding& sign, const std::string& lead);
  const coaching::Finding* leadOf(const coaching::Finding& finding) const;
  void addLimit(const coaching::Finding& finding, QHBoxLayout& beside, QVBoxLayout& box);
  void addTried(const coaching::Finding& f, const coaching::RivalCause& rival, QVBoxLayout& box);
  void addWhy(const coaching::Finding& finding, QVBoxLayout& box);
  void addLies(const coaching::Finding& finding, QVBoxLayout& box);
  void addSettled(const std::vector<const coaching::Finding*>& settled);
  void addRejected();
  void addClaims();
  void addByEye();
  void addRules();
  QString titleOf(const coaching::Finding& finding) const;
  bool isChosen(const coaching::Finding& finding) const;
  std::vector<std::string> chosen() const;
  const std::string* whyParked(const std::string& finding) const;
  void choose(const coaching::Finding& finding);
  void reject(const coaching::Finding& finding);

  ReviewDocument& document_;
  std::map<std::string, QString> shown_before_;
  std::map<std::string, std::vector<coaching::LiesHint>> lies_;
  std::vector<coaching::Claim> claims_;
  std::vector<std::string> chosen_;  // as it was when this was built
  std::set<std::string> opened_;     // findings whose causes are on show
  std::string limit_open_;           // the finding whose limit is being moved
  WouldSay would_say_;
  std::optional<coaching::RuleBook> rules_;
  std::string rules_shown_;  // the rule set chosen in this review; empty: the athlete's own
  bool settled_open_ = false;
  QString placeholder_;
  QVBoxLayout* column_;
};

// The causes that fit a finding, as lines of rich text: what speaks for and against each, and its test.
QStringList causeLines(const coaching::Finding& finding);

}  // namespace jib::desk
