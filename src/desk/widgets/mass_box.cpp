// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/mass_box.h"

#include "core/base/quantity.h"
#include "core/coaching/loading.h"
#include "desk/text.h"

namespace jib::desk {

MassBox::MassBox(QWidget* parent) : QDoubleSpinBox(parent) {
  setRange(0, 600);
  setDecimals(2);
  setSingleStep(2.5);
  setSpecialValueText(tr("unknown"));
}

QString MassBox::textFromValue(double kg) const {
  return q(coaching::bothUnits(kg));
}

double MassBox::valueFromText(const QString& text) const {
  return kilogramsFrom(text.toStdString()).value_or(0);
}

// Half a unit is on its way to being one; what is no mass at the end falls back to what was there.
QValidator::State MassBox::validate(QString& text, int&) const {
  const QString typed = text.trimmed();
  if (typed.isEmpty() || typed == specialValueText()) return QValidator::Intermediate;
  if (!typed.at(0).isDigit() && specialValueText().startsWith(typed)) return QValidator::Intermediate;
  const auto kg = kilogramsFrom(typed.toStdString());
  if (kg) return *kg <= maximum() ? QValidator::Acceptable : QValidator::Intermediate;
  return typed.at(0).isDigit() ? QValidator::Intermediate : QValidator::Invalid;
}

}  // namespace jib::desk
