// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/display_units.h"

#include <atomic>

namespace jib {
namespace {

std::atomic<DisplayUnits> current{DisplayUnits{}};

}  // namespace

DisplayUnits displayUnits() {
  return current;
}

void setDisplayUnits(DisplayUnits units) {
  current = units;
}

}  // namespace jib
