// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/measure.h"

#include <fmt/format.h>

#include <cmath>

#include "core/base/display_units.h"

namespace jib::lifts {
namespace {

constexpr double kMetresPerInch = 0.0254;

}  // namespace

const NamedMeasure* find(const MeasureList& list, std::string_view id) {
  for (const NamedMeasure& m : list)
    if (m.kind->id == id) return &m;
  return nullptr;
}

Shown shown(const MeasureDefinition& kind, const Measured& m) {
  const double within = kSureSigmas * m.sigma;
  if (kind.unit == "m") {
    if (displayUnits().length == LengthUnit::Inches)
      return {m.value / kMetresPerInch, within / kMetresPerInch, "in", 1};
    return {100 * m.value, 100 * within, "cm", 1};
  }
  if (kind.unit == "deg") return {m.value, within, "°", within < 1 ? 1 : 0};
  if (kind.unit == "%") return {m.value, within, "%", 0};
  if (kind.unit == "ratio") return {m.value, within, "", 2};
  if (kind.unit == "rep") return {m.value, within, "", 0};
  if (kind.unit == "steps") return {m.value, within, "", 1};
  if (kind.unit == "s") return {m.value, within, "s", std::abs(m.value) < 1 ? 2 : 1};
  return {m.value, within, kind.unit, 2};
}

namespace {

std::string number(double value, int decimals) {
  std::string digits = fmt::format("{:.{}f}", value, decimals);
  // "-0.0" says nothing that "0.0" does not.
  if (digits.find_first_not_of("-0.") == std::string::npos && digits[0] == '-') digits.erase(0, 1);
  if (digits[0] == '-') digits.replace(0, 1, "\u2212");
  return digits;
}

std::string withUnit(const std::string& digits, std::string_view unit) {
  if (unit.empty()) return digits;
  return unit == "°" ? digits + "°" : digits + " " + std::string(unit);
}

}  // namespace

std::string text(const MeasureDefinition& kind, const Measured& measured) {
  const Shown s = shown(kind, measured);
  return withUnit(number(s.value, s.decimals), s.unit);
}

std::string numbersWithSigma(const MeasureDefinition& kind, const Measured& measured) {
  const Shown s = shown(kind, measured);
  return number(s.value, s.decimals) + " ± " + number(s.plus_minus, s.decimals);
}

std::string textWithSigma(const MeasureDefinition& kind, const Measured& measured) {
  return withUnit(numbersWithSigma(kind, measured), shown(kind, measured).unit);
}

}  // namespace jib::lifts
