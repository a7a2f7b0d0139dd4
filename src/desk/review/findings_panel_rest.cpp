// SPDX-License-Identifier: GPL-3.0-or-later
// What stands below the findings: the rules of the platform, what was dismissed, and what the clip can't tell.
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include "core/library/dates.h"
#include "desk/review/commands/change_set_up.h"
#include "desk/review/commands/reject_finding.h"
#include "desk/review/findings_panel.h"
#include "desk/review/rules_card.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

void FindingsPanel::addRules() {
  const auto& book = rules_ ? *rules_ : coaching::RuleBook::shipped();
  const std::string& rules = rules_shown_.empty() ? document_.athlete().profile.rules : rules_shown_;
  if (coaching::judgedUnder(*document_.analysis(), book.setOf(rules)).empty()) return;
  auto* card = new RulesCard(*document_.analysis(), book, rules);
  connect(card, &RulesCard::evidenceRequested, this, &FindingsPanel::evidenceRequested);
  connect(
      card, &RulesCard::rulesChosen, this,
      [this](const QString& id) {
        rules_shown_ = id.toStdString();
        rebuild();
      },
      Qt::QueuedConnection);
  connect(card, &RulesCard::editRequested, this, &FindingsPanel::rulesEditRequested, Qt::QueuedConnection);
  column_->addWidget(card);
}

// What the coach does not share stays in sight, and can be taken back.
void FindingsPanel::addRejected() {
  const auto a = document_.analysis();
  if (a->rejected.empty()) return;
  column_->addWidget(heading(tr("Dismissed")));
  for (const auto& f : a->rejected) {
    auto* row = new QHBoxLayout;
    const std::string& why = document_.rejected().at(f.id);
    const QString title = q(document_.book().titleOf(f.id));
    row->addWidget(words(why.empty() ? title : tr("%1: %2").arg(title, q(why)), true), 1);
    auto* back = new QPushButton(tr("Undo"));
    back->setObjectName(QStringLiteral("unreject_") + q(f.id));
    connect(back, &QPushButton::clicked, this, [this, id = f.id] {
      auto to = document_.rejected();
      to.erase(id);
      document_.undoStack().push(new RejectFinding(document_, tr("take a finding back"), std::move(to)));
    });
    row->addWidget(back);
    column_->addLayout(row);
  }
}

// What the view does not carry stays grey, with its reason. The coach may judge it all the same; that is recorded, and
// the reply says so.
void FindingsPanel::addClaims() {
  bool any = false;
  for (const auto& claim : claims_) {
    if (claim.can != coaching::Can::No) continue;
    if (!any) column_->addWidget(heading(tr("Can't tell from this clip")));
    any = true;
    auto* row = new QHBoxLayout;
    const auto& overruled = document_.setUp().overruled;
    const auto day = overruled.find(claim.id);
    const bool judged = day != overruled.end();
    auto* text = words(judged ? tr("%1: your call, %2").arg(q(claim.title), q(day->second))
                              : tr("– %1: %2").arg(q(claim.title), q(claim.why)),
                       !judged);
    text->setObjectName(QStringLiteral("notCarried_") + q(claim.id));
    if (judged) setTone(text, "warn");
    auto* overrule = new QPushButton(judged ? tr("Undo override") : tr("Judge anyway"));
    overrule->setObjectName(QStringLiteral("overrule_") + q(claim.id));
    overrule->setToolTip(tr("Your call, saved with the date; the ± doesn't cover what this angle hides"));
    connect(overrule, &QPushButton::clicked, this, [this, id = claim.id, judged] {
      SetUp to = document_.setUp();
      if (judged)
        to.overruled.erase(id);
      else
        to.overruled[id] = library::today();
      document_.undoStack().push(
          new ChangeSetUp(document_, judged ? tr("leave a claim open") : tr("judge all the same"), to, newGesture()));
    });
    row->addWidget(text, 1);
    if (!judged) {
      auto* ask = new QPushButton(tr("Ask for it"));
      ask->setObjectName(QStringLiteral("askFor_") + q(claim.id));
      ask->setToolTip(tr("A letter with where to put the phone is ready in the queue (Shift+A: the first of these)"));
      connect(ask, &QPushButton::clicked, this, [this, id = claim.id] { emit viewRequested(q(id)); });
      row->addWidget(ask, 0, Qt::AlignTop);
    }
    row->addWidget(overrule, 0, Qt::AlignTop);
    column_->addLayout(row);
  }
}

}  // namespace jib::desk
