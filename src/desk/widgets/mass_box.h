// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDoubleSpinBox>

namespace jib::desk {

// A weight on the bar: shown as "102.5 kg (226 lb)", typed in either; a bare number is in the coach's own unit. The
// value is in kilograms; zero is unknown.
class MassBox : public QDoubleSpinBox {
  Q_OBJECT

 public:
  explicit MassBox(QWidget* parent = nullptr);

 protected:
  QString textFromValue(double kg) const override;
  double valueFromText(const QString& text) const override;
  QValidator::State validate(QString& text, int& at) const override;
};

}  // namespace jib::desk
