// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/rules_card.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "core/library/dates.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

using coaching::Outcome;

namespace {

// The tone of the worst that was found.
const char* toneOf(const std::vector<Outcome>& reps) {
  const auto any = [&](Outcome o) { return std::find(reps.begin(), reps.end(), o) != reps.end(); };
  return any(Outcome::NotLikely) ? "bad" : any(Outcome::TooClose) ? "warn" : any(Outcome::Likely) ? "good" : "";
}

const char* markOf(const std::vector<Outcome>& reps) {
  const std::string tone = toneOf(reps);
  return tone == "bad" ? "▲" : tone == "warn" ? "≈" : tone == "good" ? "✓" : "–";
}

}  // namespace

RulesCard::RulesCard(const coaching::Analysis& a, const coaching::RuleBook& book, const std::string& rules,
                     QWidget* parent)
    : QFrame(parent) {
  setObjectName(QStringLiteral("card"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(10, 5, 8, 6);
  column->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->addWidget(heading(tr("On the platform")), 1);
  const coaching::RuleSet& set = book.setOf(rules);
  auto* which = new QComboBox;
  which->setObjectName(QStringLiteral("ruleSet"));
  which->setToolTip(tr("Whose rules. Each athlete's own are set on their page."));
  for (const coaching::RuleSet& s : book.sets()) which->addItem(q(s.title), q(s.id));
  which->setCurrentIndex(std::max(0, which->findData(q(set.id))));
  connect(which, &QComboBox::activated, this, [this, which] { emit rulesChosen(which->currentData().toString()); });
  head->addWidget(which);
  auto* edit = new QPushButton(tr("Edit…"));
  edit->setObjectName(QStringLiteral("editRules"));
  edit->setToolTip(tr("Change what these rules ask for, or make a set of your own"));
  connect(edit, &QPushButton::clicked, this, [this, id = q(set.id)] { emit editRequested(id); });
  head->addWidget(edit);
  column->addLayout(head);
  for (const auto& judgement : coaching::judgedUnder(a, set)) addJudgement(judgement, *column);
  QStringList calls;
  if (const auto said = set.calls.find(lifts::definition(a.request.lift).name); said != set.calls.end())
    for (const std::string& call : said->second) calls << tr("“%1”").arg(q(call));
  column->addWidget(words(calls.isEmpty() ? tr("Kit: %1").arg(q(set.kit))
                                          : tr("Calls: %1. Kit: %2").arg(calls.join(QStringLiteral(", ")), q(set.kit)),
                          true));
  for (const coaching::RuleSet& other : book.sets()) {
    if (other.id == set.id) continue;
    for (const std::string& line : coaching::differencesBetween(a, set, other)) {
      auto* differs = words(q(line), true);
      differs->setObjectName(QStringLiteral("rulesDiffer"));
      column->addWidget(differs);
    }
  }
  const QString version = set.edited_on.empty()
                              ? q(set.version)
                              : tr("%1, edited %2").arg(q(set.version), q(library::spoken(set.edited_on)));
  auto* foot =
      words(tr("Rules of %1, as far as this clip shows. The rule book and the referees decide.").arg(version), true);
  foot->setObjectName(QStringLiteral("rulesVersion"));
  column->addWidget(foot);
}

void RulesCard::addJudgement(const coaching::RuleJudgement& j, QVBoxLayout& column) {
  auto* row = new QHBoxLayout;
  auto* show = new QPushButton(q(j.check.title));
  show->setObjectName(QStringLiteral("quiet"));
  show->setToolTip(q(j.check.asks));
  show->setEnabled(j.worst.has_value());
  if (j.worst)
    connect(show, &QPushButton::clicked, this,
            [this, t = j.worst->measured()->t_s, drawing = static_cast<int>(j.worst->kind->drawing)] {
              emit evidenceRequested(t, drawing);
            });
  row->addWidget(show, 0, Qt::AlignTop);
  QString said = QString::fromUtf8(markOf(j.reps)) + QLatin1Char(' ') + q(j.words);
  if (j.worst) said += tr(" Closest: %1.").arg(q(lifts::textWithSigma(*j.worst->kind, *j.worst->measured())));
  auto* line = words(said);
  line->setObjectName(QStringLiteral("rule_") + q(j.check.limit.measure));
  line->setToolTip(q(j.check.asks));
  setTone(line, toneOf(j.reps));
  row->addWidget(line, 1);
  column.addLayout(row);
}

}  // namespace jib::desk
