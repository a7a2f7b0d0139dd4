// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/widgets/quantity_box.h"

#include <QRegularExpression>
#include <cmath>

#include "core/base/quantity.h"
#include "desk/text.h"

namespace jib::desk {
namespace {

using coaching::ChangeUnit;

}  // namespace

QuantityBox::QuantityBox(coaching::ChangeKind kind, bool by, QWidget* parent)
    : QDoubleSpinBox(parent), kind_(kind), by_(by) {
  const coaching::ChangeDefinition& d = coaching::definitionOf(kind);
  setDecimals(4);
  setSingleStep(d.step);
  // One step below the least stands for nothing said.
  const double most = by ? std::max(d.most - d.least, d.step) : d.most;
  setRange(by ? -most : d.least - d.step, most);
  if (!by) setSpecialValueText(tr("–"));
  setKeyboardTracking(false);
}

std::optional<double> QuantityBox::said() const {
  if (by_) return value() == 0 ? std::nullopt : std::optional(value());
  return value() <= minimum() ? std::nullopt : std::optional(value());
}

void QuantityBox::say(std::optional<double> to) {
  setValue(to.value_or(by_ ? 0 : minimum()));
}

QString QuantityBox::textFromValue(double value) const {
  if (!by_) return q(coaching::quantityText(kind_, value));
  coaching::Change change;
  change.kind = kind_;
  change.by = value;
  return value == 0 ? tr("as it is") : q(coaching::fromTo(change));
}

std::optional<double> QuantityBox::read(const QString& text) const {
  QString typed = text.trimmed().toLower();
  static const QRegularExpression kLess(QStringLiteral("narrower|lower|less|shorter|further in|^-|^\u2212|\\bin$"));
  static const QRegularExpression kWords(QStringLiteral(
      "\\(.*\\)|narrower|wider|lower|higher|less|more|shorter|longer|further out|further in|notch(es)?|°|"
      "deg(rees)?|\\bs(ec(onds?)?)?\\b|^[-+\u2212]"));
  const bool inches_alone = typed.endsWith(QLatin1String(" in"));
  const bool less = by_ && !inches_alone && typed.contains(kLess);
  const ChangeUnit unit = coaching::definitionOf(kind_).unit;
  // Quarters of an inch as they are shown.
  for (const auto& [sign, part] : {std::pair("¼", ".25"), std::pair("½", ".5"), std::pair("¾", ".75")})
    typed.replace(QString::fromUtf8(sign), QString::fromLatin1(part));
  if (typed.startsWith(QLatin1Char('.'))) typed.prepend(QLatin1Char('0'));
  typed = typed.remove(kWords).trimmed();
  std::optional<double> value;
  if (unit == ChangeUnit::Metres) {
    if (const auto cm = centimetresFrom(typed.toStdString(), displayUnits().length)) value = *cm / 100;
  } else if (unit == ChangeUnit::Kilograms) {
    value = kilogramsFrom(typed.toStdString(), displayUnits().mass);
  } else {
    typed.replace(QLatin1Char(','), QLatin1Char('.'));
    value = numberFrom(typed.toStdString());
  }
  // Nothing at all is no length, but flat is a heel's height.
  if (!value && (typed == QLatin1String("0") || typed == QLatin1String("0 cm"))) value = 0;
  return value ? std::optional(less ? -*value : *value) : std::nullopt;
}

double QuantityBox::valueFromText(const QString& text) const {
  return read(text).value_or(by_ ? 0 : minimum());
}

QValidator::State QuantityBox::validate(QString& text, int&) const {
  if (text.trimmed().isEmpty() || text == specialValueText()) return QValidator::Intermediate;
  const auto value = read(text);
  if (value && *value >= minimum() && *value <= maximum()) return QValidator::Acceptable;
  return QValidator::Intermediate;
}

}  // namespace jib::desk
