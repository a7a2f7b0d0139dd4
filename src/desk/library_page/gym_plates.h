// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/coaching/plan.h"

class QCheckBox;

namespace jib::desk {

// Which kinds of plates stand on the rack: those that are offered when a bar is counted. All, unless the coach said so.
bool isOnTheRack(int kind);  // index into coaching::kPlateKinds

// What loads are made up from in this gym: a usual rack in `unit`, without the kinds that the coach has taken off it.
coaching::Rack gymRack(MassUnit unit);

// A box for each kind, for the settings.
class GymPlates : public QWidget {
  Q_OBJECT

 public:
  explicit GymPlates(QWidget* parent = nullptr);
  // With none ticked all are offered.
  void keep() const;

 private:
  std::vector<QCheckBox*> kinds_;
};

}  // namespace jib::desk
