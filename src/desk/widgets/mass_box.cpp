// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/mass_box.h"

#include "core/base/quantity.h"
#include "desk/text.h"

namespace jib::desk {

MassBox::MassBox(QWidget* parent) : QDoubleSpinBox(parent) {
  setRange(0, 600);
  setDecimals(3);  // a pound is no round number of kilograms
  setSingleStep(2.5);
  // A number is read once it is typed to its end: "365" is no 3 kg on its way.
  setKeyboardTracking(false);
  setSpecialValueText(tr("–"));
}

QString MassBox::textFromValue(double kg) const {
  return q(massText(kg));
}

double MassBox::valueFromText(const QString& text) const {
  return kilogramsFrom(text.toStdString(), displayUnits().mass).value_or(0);
}

// Half a unit is on its way to being one; what is no mass at the end falls back to what was there.
QValidator::State MassBox::validate(QString& text, int&) const {
  const QString typed = text.trimmed();
  if (typed.isEmpty() || typed == specialValueText()) return QValidator::Intermediate;
  if (!typed.at(0).isDigit() && specialValueText().startsWith(typed)) return QValidator::Intermediate;
  const auto kg = kilogramsFrom(typed.toStdString(), displayUnits().mass);
  if (kg) return *kg <= maximum() ? QValidator::Acceptable : QValidator::Intermediate;
  return typed.at(0).isDigit() ? QValidator::Intermediate : QValidator::Invalid;
}

}  // namespace jib::desk
