// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>
#include <string>

#include "core/coaching/rule_book.h"

class QVBoxLayout;

namespace jib::desk {

// What the set would be worth on the platform: each thing a rule set asks for, likely or not, rep by rep; and where the
// other rule sets would come to another end. The referees decide, and the card says so.
class RulesCard : public QFrame {
  Q_OBJECT

 public:
  RulesCard(const coaching::Analysis& analysis, const coaching::RuleBook& book, const std::string& rules,
            QWidget* parent = nullptr);

 signals:
  void rulesChosen(const QString& id);
  void editRequested(const QString& id);
  void evidenceRequested(double t_s, int drawing);

 private:
  void addJudgement(const coaching::RuleJudgement& judgement, QVBoxLayout& column);
};

}  // namespace jib::desk
