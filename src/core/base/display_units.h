// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace jib {

// In which units people read. Everything is kept and computed in SI units and kilograms, and files keep to those; only
// words for people follow this.
enum class MassUnit { Kilograms, Pounds };  // which comes first: loads are always said in both
enum class LengthUnit { Centimetres, Inches };
struct DisplayUnits {
  MassUnit mass = MassUnit::Kilograms;
  LengthUnit length = LengthUnit::Centimetres;
  friend bool operator==(const DisplayUnits&, const DisplayUnits&) = default;
};

// Of the whole program; until they are set kilograms and centimetres.
// Thread  any
DisplayUnits displayUnits();
void setDisplayUnits(DisplayUnits units);

}  // namespace jib
