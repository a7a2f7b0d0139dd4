// SPDX-License-Identifier: GPL-3.0-or-later
#include "desk/library_page/gym_plates.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QSettings>

#include "core/coaching/loading.h"
#include "desk/text.h"

namespace jib::desk {
namespace {

const QString kKept = QStringLiteral("platesOnTheRack");
constexpr int kKinds = static_cast<int>(coaching::kPlateKinds.size());

QString titleOf(int kind) {
  return q(coaching::kPlateKinds[static_cast<std::size_t>(kind)].name);
}

}  // namespace

bool isOnTheRack(int kind) {
  const QStringList kept = QSettings().value(kKept).toStringList();
  return kept.isEmpty() || kept.contains(titleOf(kind));
}

coaching::Rack gymRack(MassUnit unit) {
  coaching::Rack rack = coaching::Rack::usual(unit);
  std::erase_if(rack.plates, [](const coaching::PlatePair& plate) {
    for (int kind = 0; kind < kKinds; ++kind)
      if (titleOf(kind).toStdString() == plate.name) return !isOnTheRack(kind);
    return false;
  });
  return rack;
}

GymPlates::GymPlates(QWidget* parent) : QWidget(parent) {
  auto* grid = new QGridLayout(this);
  grid->setContentsMargins(0, 0, 0, 0);
  constexpr int kColumns = 5;
  for (int k = 0; k < kKinds; ++k) {
    kinds_.push_back(new QCheckBox(titleOf(k)));
    kinds_.back()->setObjectName(QStringLiteral("rack_%1").arg(k));
    kinds_.back()->setChecked(isOnTheRack(k));
    grid->addWidget(kinds_.back(), k / kColumns, k % kColumns);
  }
}

void GymPlates::keep() const {
  QStringList kept;
  for (const QCheckBox* kind : kinds_)
    if (kind->isChecked()) kept << kind->text();
  QSettings().setValue(kKept, kept.size() == kKinds ? QStringList() : kept);
}

}  // namespace jib::desk
