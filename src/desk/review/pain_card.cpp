// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/review/pain_card.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>

#include "desk/text.h"
#include "desk/widgets/flow.h"
#include "desk/widgets/mass_box.h"

namespace jib::desk {

PainCard::PainCard(coaching::PainPlan plan, QWidget* parent) : QFrame(parent), plan_(std::move(plan)) {
  // long because one field after the other
  setObjectName(QStringLiteral("coachCard"));
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(10, 8, 10, 8);
  grid->setVerticalSpacing(4);
  auto* top = new QHBoxLayout;
  top->addWidget(heading(tr("While it hurts")), 1);
  auto* away = new QPushButton(tr("Remove"));
  away->setObjectName(QStringLiteral("quiet"));
  away->setProperty("does", QStringLiteral("removePain"));
  connect(away, &QPushButton::clicked, this, &PainCard::removed, Qt::QueuedConnection);
  top->addWidget(away);
  grid->addLayout(top, 0, 0, 1, 2);
  int row = 1;
  const auto put = [&](const QString& name, QWidget* field) {
    grid->addWidget(words(name, true), row, 0);
    grid->addWidget(field, row++, 1);
  };
  const auto line = [&](const QString& name, const char* id, const QString& hint, std::string& value) {
    auto* edit = new QLineEdit(q(value));
    edit->setObjectName(QString::fromLatin1(id));
    edit->setPlaceholderText(hint);
    connect(edit, &QLineEdit::textEdited, this, [this, &value](const QString& text) {
      value = text.trimmed().toStdString();
      tell();
    });
    put(name, edit);
  };
  line(tr("Where"), "painWhere", tr("left knee"), plan_.where);
  auto* load = new MassBox;
  load->setObjectName(QStringLiteral("painLoad"));
  load->setToolTip(tr("The weight that brings it on; the plan stays 5 % under it"));
  load->setValue(plan_.trigger_kg.value_or(0));
  connect(load, &QDoubleSpinBox::valueChanged, this, [this](double kg) {
    plan_.trigger_kg = kg > 0 ? std::optional(kg) : std::nullopt;
    tell();
  });
  put(tr("Comes on at"), load);
  auto* sets = new QSpinBox;
  sets->setObjectName(QStringLiteral("painSets"));
  sets->setRange(1, 20);
  sets->setSpecialValueText(tr("–"));
  sets->setPrefix(tr("set "));
  sets->setValue(plan_.trigger_sets.value_or(1));
  connect(sets, &QSpinBox::valueChanged, this, [this](int n) {
    plan_.trigger_sets = n > 1 ? std::optional(n) : std::nullopt;
    tell();
  });
  put(tr("or in"), sets);
  line(tr("Fine as far as"), "painRange", tr("just above parallel"), plan_.range);
  line(tr("Part of the lift"), "painPart", tr("off the chest"), plan_.part);
  auto* weeks = new QSpinBox;
  weeks->setObjectName(QStringLiteral("painWeeks"));
  weeks->setRange(1, 12);
  weeks->setSuffix(tr(" weeks"));
  weeks->setValue(plan_.hold_weeks);
  connect(weeks, &QSpinBox::valueChanged, this, [this](int n) {
    plan_.hold_weeks = n;
    tell();
  });
  put(tr("Hold for"), weeks);
  auto* step = new QComboBox;
  step->setObjectName(QStringLiteral("painStep"));
  step->addItems({tr("one set more a week"), tr("about 2.5 % a week"), tr("about 5 % a week")});
  step->setCurrentIndex(static_cast<int>(plan_.step));
  connect(step, &QComboBox::activated, this, [this](int i) {
    plan_.step = static_cast<coaching::PainPlan::Step>(i);
    tell();
  });
  put(tr("Then"), step);
  line(tr("Anything else"), "painNote", tr("in your words"), plan_.note);
  says_ = words(QString(), true);
  says_->setObjectName(QStringLiteral("painSays"));
  grid->addWidget(says_, row, 0, 1, 2);
  grid->setColumnStretch(1, 1);
  QStringList all;
  for (const std::string& sentence : coaching::sentencesOf(plan_)) all << q(sentence);
  says_->setText(all.join(QLatin1Char(' ')));
}

void PainCard::tell() {
  QStringList all;
  for (const std::string& sentence : coaching::sentencesOf(plan_)) all << q(sentence);
  says_->setText(all.join(QLatin1Char(' ')));
  emit changed(plan_);
}

}  // namespace jib::desk
