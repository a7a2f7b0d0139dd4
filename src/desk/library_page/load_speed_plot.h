// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "core/coaching/load_speed.h"

namespace jib::desk {

// An athlete's sets, load across and mean speed up, with their ±, and the line through them down to the band of a best.
class LoadSpeedPlot : public QWidget {
  Q_OBJECT

 public:
  LoadSpeedPlot(const std::vector<coaching::LoadedSet>& sets, const std::optional<coaching::LoadSpeedLine>& line,
                QWidget* parent = nullptr);
};

}  // namespace jib::desk
