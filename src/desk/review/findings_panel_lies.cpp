// SPDX-License-Identifier: GPL-3.0-or-later
// Is it technique? The questions a coach asks before a fault is coached away, folded into one line of a finding's card.
#include <QHBoxLayout>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "desk/review/findings_panel.h"
#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

void FindingsPanel::setLies(std::map<std::string, std::vector<coaching::LiesHint>> lies) {
  lies_ = std::move(lies);
  rebuild();
}

void FindingsPanel::addLies(const coaching::Finding& f, QVBoxLayout& box) {
  using coaching::Standing;
  const auto found = lies_.find(f.id);
  if (found == lies_.end() || found->second.empty()) return;
  const auto& hints = found->second;
  auto* all = new QWidget;
  all->setObjectName(QStringLiteral("liesAll_") + q(f.id));
  auto* lines = new QVBoxLayout(all);
  lines->setContentsMargins(10, 0, 0, 2);
  lines->setSpacing(3);
  for (const coaching::LiesHint& hint : hints) {
    const QString mark = hint.standing == Standing::Supported  ? QStringLiteral("▲")
                         : hint.standing == Standing::Unlikely ? QStringLiteral("▽")
                                                               : QStringLiteral("○");
    QStringList reasons;
    for (const auto& reason : hint.reasons) reasons << q(reason);
    // What is known answers the question; what is not is asked.
    const QString known = reasons.isEmpty() ? q(hint.question) : reasons.join(QLatin1Char(' '));
    auto* line = words(tr("%1 %2: %3").arg(mark, q(hint.title), known), hint.standing == Standing::Unlikely);
    line->setObjectName(QStringLiteral("lies"));
    lines->addWidget(line);
  }
  const coaching::LiesHint& first = hints.front();
  const QString lead = first.standing == Standing::Supported && !first.reasons.empty()
                           ? tr("Technique, or something else? %1: %2").arg(q(first.title), q(first.reasons.front()))
                           : tr("Technique, or something else?");
  auto* open = new QToolButton;
  open->setObjectName(QStringLiteral("lies_") + q(f.id));
  open->setProperty("quiet", true);
  open->setCheckable(true);
  open->setAccessibleName(lead);
  open->setToolTip(tr("Pain, kit, build, load or technique: what points to each, and what to ask"));
  auto* said = words(lead, true);
  const auto turn = [open, all, said, lead](bool on) {
    open->setText(on ? QStringLiteral("▾") : QStringLiteral("▸"));
    said->setText(on ? tr("Technique, or something else?") : lead);  // what was found stands below, once it is open
    all->setVisible(on);
  };
  const std::string key = "lies " + f.id;
  open->setChecked(opened_.count(key) > 0);
  turn(open->isChecked());
  connect(open, &QToolButton::toggled, this, [this, turn, key](bool show) {
    show ? static_cast<void>(opened_.insert(key)) : static_cast<void>(opened_.erase(key));
    turn(show);
  });
  auto* row = new QHBoxLayout;
  row->setSpacing(2);
  row->addWidget(open, 0, Qt::AlignTop);
  row->addWidget(said, 1);
  box.addLayout(row);
  box.addWidget(all);
}

}  // namespace jib::desk
