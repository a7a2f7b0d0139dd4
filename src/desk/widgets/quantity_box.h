// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDoubleSpinBox>

#include "core/coaching/change.h"

namespace jib::desk {

// A stance, an angle, a time or a load of a change: shown as "45 cm (17¾ in)" and typed in either unit. The value is in
// what the kind counts in; nothing is said while it stands at its lowest.
class QuantityBox : public QDoubleSpinBox {
  Q_OBJECT

 public:
  // `by`: more or less than now ("4 cm (1½ in) narrower"), for when the present value isn't known.
  QuantityBox(coaching::ChangeKind kind, bool by, QWidget* parent = nullptr);

  std::optional<double> said() const;
  void say(std::optional<double> value);

 protected:
  QString textFromValue(double value) const override;
  double valueFromText(const QString& text) const override;
  QValidator::State validate(QString& text, int& at) const override;

 private:
  std::optional<double> read(const QString& text) const;
  coaching::ChangeKind kind_;
  bool by_;
};

}  // namespace jib::desk
