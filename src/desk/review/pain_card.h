// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFrame>

#include "core/coaching/pain_plan.h"

class QLabel;

namespace jib::desk {

// How an athlete trains around something that hurts, as the coach and they have found out: what brings it on, how long
// to hold, the next step. What it says to the athlete stands below.
class PainCard : public QFrame {
  Q_OBJECT

 public:
  explicit PainCard(coaching::PainPlan plan, QWidget* parent = nullptr);

 signals:
  void changed(const jib::coaching::PainPlan& to);
  void removed();

 private:
  void tell();
  coaching::PainPlan plan_;
  QLabel* says_;
};

}  // namespace jib::desk
