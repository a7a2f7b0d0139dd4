// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace jib {

// In which units people read. Everything is kept and computed in SI units and kilograms, and files keep to those; only
// words for people follow this.
enum class MassUnit { Kilograms, Pounds };
enum class LengthUnit { Centimetres, Inches };
struct DisplayUnits {
  MassUnit mass = MassUnit::Kilograms;
  LengthUnit length = LengthUnit::Centimetres;
  bool one_only = false;  // loads are said in one unit; else in both, this one first
  friend bool operator==(const DisplayUnits&, const DisplayUnits&) = default;
};

// Of the whole program; until they are set kilograms and centimetres.
// Thread  any
DisplayUnits displayUnits();
void setDisplayUnits(DisplayUnits units);

}  // namespace jib
