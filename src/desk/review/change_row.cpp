// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/change_row.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>

#include "desk/text.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/quantity_box.h"

namespace jib::desk {

ChangeRow::ChangeRow(const lifts::LiftDefinition&, coaching::Change change, QWidget* parent)
    : QWidget(parent), change_(std::move(change)) {
  const coaching::ChangeDefinition& kind = coaching::definitionOf(change_.kind);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  auto* top = new QHBoxLayout;
  auto* name = words(q(kind.title));
  name->setObjectName(QStringLiteral("changeName"));
  top->addWidget(name, 1);
  auto* away = new QPushButton(tr("Remove"));
  away->setObjectName(QStringLiteral("quiet"));
  away->setProperty("does", QStringLiteral("removeChange"));
  away->setToolTip(tr("Take the change out; the cue stays"));
  connect(away, &QPushButton::clicked, this, &ChangeRow::removed, Qt::QueuedConnection);
  top->addWidget(away);
  column->addLayout(top);
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  kind.unit == coaching::ChangeUnit::Words ? addWords(*row) : addNumbers(*row);
  column->addLayout(row);
}

void ChangeRow::addNumbers(QHBoxLayout& row) {
  const coaching::ChangeUnit unit = coaching::definitionOf(change_.kind).unit;
  const bool by = unit == coaching::ChangeUnit::Notches || (change_.by && !change_.from && !change_.to);
  if (unit != coaching::ChangeUnit::Notches) {
    auto* from = new QuantityBox(change_.kind, false);
    from->setObjectName(QStringLiteral("changeFrom"));
    from->setAccessibleName(tr("From"));
    from->setToolTip(change_.from_sigma > 0 ? tr("As this clip shows it") : tr("How it is now; – if you don't know"));
    from->say(change_.from);
    connect(from, &QDoubleSpinBox::valueChanged, this, [this, from] {
      change_.from = from->said();
      change_.from_sigma = 0;  // typed
      if (change_.from && change_.by) {
        change_.to = *change_.from + *change_.by;
        change_.by.reset();
      }
      emit changed(change_);
    });
    row.addWidget(words(tr("from"), true));
    row.addWidget(from, 1);
    if (!by) row.addWidget(words(tr("to"), true));
  }
  auto* to = new QuantityBox(change_.kind, by);
  to->setObjectName(QStringLiteral("changeTo"));
  to->setAccessibleName(by ? tr("By how much") : tr("To"));
  to->say(by ? change_.by : change_.to);
  connect(to, &QDoubleSpinBox::valueChanged, this, [this, to, by] {
    (by ? change_.by : change_.to) = to->said();
    emit changed(change_);
  });
  row.addWidget(to, 1);
}

void ChangeRow::addWords(QHBoxLayout& row) {
  auto* from = new QLineEdit(q(change_.from_words));
  from->setObjectName(QStringLiteral("changeFromWords"));
  from->setPlaceholderText(tr("now"));
  connect(from, &QLineEdit::textEdited, this, [this](const QString& text) {
    change_.from_words = text.trimmed().toStdString();
    emit changed(change_);
  });
  auto* to = new QComboBox;
  to->setObjectName(QStringLiteral("changeToWords"));
  to->setEditable(true);
  to->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  for (const std::string_view one : coaching::definitionOf(change_.kind).offered) to->addItem(q(one));
  to->setEditText(q(change_.to_words));
  to->lineEdit()->setPlaceholderText(tr("What to do instead"));
  connect(to, &QComboBox::editTextChanged, this, [this](const QString& text) {
    change_.to_words = text.trimmed().toStdString();
    emit changed(change_);
  });
  row.addWidget(from, 1);
  row.addWidget(words(tr("to"), true));
  row.addWidget(to, 2);
}

}  // namespace jib::desk
