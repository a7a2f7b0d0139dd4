// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/display_units.h"

#include <atomic>

namespace jib {
namespace {

// One bit each: a word that any thread can read at once.
constexpr unsigned kPounds = 1, kInches = 2, kOneOnly = 4;
std::atomic<unsigned> current{0};

}  // namespace

DisplayUnits displayUnits() {
  const unsigned bits = current.load();
  return {bits & kPounds ? MassUnit::Pounds : MassUnit::Kilograms,
          bits & kInches ? LengthUnit::Inches : LengthUnit::Centimetres, (bits & kOneOnly) != 0};
}

void setDisplayUnits(DisplayUnits units) {
  current.store((units.mass == MassUnit::Pounds ? kPounds : 0) | (units.length == LengthUnit::Inches ? kInches : 0) |
                (units.one_only ? kOneOnly : 0));
}

}  // namespace jib
