// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/kit_card.h"

#include <QComboBox>
#include <QGridLayout>
#include <QToolButton>
#include <QVBoxLayout>

#include "desk/text.h"
#include "desk/widgets/flow.h"

namespace jib::desk {

KitCard::KitCard(library::Library& library, library::Submission submission, bool open, QWidget* parent)
    : QWidget(parent), library_(library), submission_(std::move(submission)) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  auto* unfold = new QToolButton;
  unfold->setObjectName(QStringLiteral("kit"));
  unfold->setProperty("quiet", true);
  unfold->setCheckable(true);
  unfold->setChecked(open);
  auto* fields = new QWidget;
  auto* grid = new QGridLayout(fields);
  grid->setContentsMargins(0, 0, 0, 0);
  grid->setVerticalSpacing(4);
  const auto name = [this, unfold](bool on) {
    unfold->setText(on ? tr("▾ Gear and condition") : tr("▸ Gear and condition: %1").arg(summary()));
  };
  int row = 0;
  for (const lifts::KitField& field : lifts::kitFields()) {
    auto* box = new QComboBox;
    box->setObjectName(QStringLiteral("kit_") + q(field.id));
    box->setToolTip(q(field.why));
    box->addItem(tr("missing"), QString());
    for (const auto& choice : field.choices) box->addItem(q(choice.title), q(choice.id));
    const auto known = submission_.details.kit.find(field.id);
    // What a newer program knows and this one does not stays as it is until another is chosen.
    if (known != submission_.details.kit.end() && box->findData(q(known->second)) < 0)
      box->addItem(q(known->second), q(known->second));
    if (known != submission_.details.kit.end()) box->setCurrentIndex(box->findData(q(known->second)));
    connect(box, &QComboBox::currentIndexChanged, this,
            [this, box, id = field.id] { keep(id, box->currentData().toString().toStdString()); });
    grid->addWidget(words(q(field.title), true), row, 0);
    grid->addWidget(box, row++, 1);
  }
  grid->setColumnStretch(1, 1);
  fields->setVisible(open);
  name(open);
  connect(unfold, &QToolButton::toggled, this, [this, fields, name](bool on) {
    fields->setVisible(on);
    name(on);
    emit openChanged(on);
  });
  column->addWidget(unfold, 0, Qt::AlignLeft);
  column->addWidget(fields);
}

QString KitCard::summary() const {
  QStringList said;
  for (const lifts::KitField& field : lifts::kitFields()) {
    const auto known = submission_.details.kit.find(field.id);
    if (known == submission_.details.kit.end()) continue;
    for (const auto& choice : field.choices)
      if (choice.id == known->second) said << q(choice.title);
  }
  return said.isEmpty() ? tr("nothing yet") : said.join(QStringLiteral(", "));
}

void KitCard::keep(std::string_view field, const std::string& choice) {
  auto kept = library_.edit(submission_.id, [&](library::Submission& row) {
    auto& kit = row.details.kit;
    if (!choice.empty())
      kit[std::string(field)] = choice;
    else if (const auto known = kit.find(field); known != kit.end())
      kit.erase(known);
  });
  if (!kept) return emit said(q(kept.error().sentence()));
  submission_ = std::move(*kept);
}

}  // namespace jib::desk
