// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/namesake_card.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {
namespace {

bool areToldApart(const library::Athlete& a, const library::Athlete& b) {
  const auto& others = a.profile.apart_from;
  return std::find(others.begin(), others.end(), b.id.number) != others.end();
}

}  // namespace

std::vector<library::Athlete> NamesakeCard::namesakes(library::Library& library, const library::Athlete& athlete) {
  std::vector<library::Athlete> found;
  const auto all = library.athletes();
  if (!all) return found;
  for (const auto& other : *all)
    if (other.id != athlete.id &&
        QString::compare(q(other.name).simplified(), q(athlete.name).simplified(), Qt::CaseInsensitive) == 0 &&
        !areToldApart(athlete, other) && !areToldApart(other, athlete))
      found.push_back(other);
  return found;
}

NamesakeCard::NamesakeCard(library::Library& library, library::Athlete athlete, library::Athlete other, QWidget* parent)
    : QFrame(parent), library_(library), athlete_(std::move(athlete)), other_(std::move(other)) {
  setObjectName(QStringLiteral("card"));
  auto* column = new QVBoxLayout(this);
  QStringList addresses;
  if (const auto all = library.addresses(other_.id))
    for (const auto& address : *all) addresses << q(address);
  column->addWidget(words(addresses.isEmpty()
                              ? tr("There is another %1 in your list. Is this the same person?").arg(q(other_.name))
                              : tr("There is another %1 in your list, who writes from %2. Is this the same person?")
                                    .arg(q(other_.name), addresses.join(QStringLiteral(", ")))));
  auto* row = new QHBoxLayout;
  auto* same = new QPushButton(tr("Same person: merge"));
  same->setObjectName(QStringLiteral("merge"));
  same->setToolTip(tr("Clips, messages and cues of both become one athlete's. This cannot be undone."));
  connect(same, &QPushButton::clicked, this, &NamesakeCard::putTogether);
  auto* apart = new QPushButton(tr("Someone else"));
  apart->setToolTip(tr("Both stay as they are. You won't be asked again."));
  apart->setObjectName(QStringLiteral("tellApart"));
  connect(apart, &QPushButton::clicked, this, &NamesakeCard::tellApart);
  row->addWidget(same);
  row->addWidget(apart);
  row->addStretch();
  column->addLayout(row);
}

// Whoever was there first stays: the coach has written to them, and knows more of them.
void NamesakeCard::putTogether() {
  const auto kept = std::min(athlete_.id.number, other_.id.number),
             gone = std::max(athlete_.id.number, other_.id.number);
  if (auto done = library_.mergeAthletes(library::AthleteId(gone), library::AthleteId(kept)); !done)
    return emit said(q(done.error().sentence()));
  emit merged(library::AthleteId(kept));
}

void NamesakeCard::tellApart() {
  const auto kept =
      library_.edit(athlete_.id, [this](library::Athlete& a) { a.profile.apart_from.push_back(other_.id.number); });
  if (!kept) return emit said(q(kept.error().sentence()));
  emit toldApart();
}

}  // namespace jib::desk
