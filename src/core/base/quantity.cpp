// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/quantity.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>

#include "core/base/ascii.h"

namespace jib {
namespace {

// Numbers and words one after the other: "5'10\"" is 5, ', 10, ".
class Reader {
 public:
  explicit Reader(std::string_view text) {
    // What stands in brackets is the same in other units, as the program shows it.
    for (const char c : text.substr(0, text.find('('))) text_ += c == ',' ? '.' : asciiLower(c);
  }
  std::optional<double> number() {
    skip();
    double value = 0;
    const auto [end, error] = std::from_chars(text_.data() + at_, text_.data() + text_.size(), value);
    if (error != std::errc() || !std::isfinite(value)) return std::nullopt;
    at_ = static_cast<std::size_t>(end - text_.data());
    return value;
  }
  bool unit(std::initializer_list<std::string_view> names) {
    skip();
    std::size_t end = at_;
    while (end < text_.size() && !std::isspace(static_cast<unsigned char>(text_[end])) &&
           !std::isdigit(static_cast<unsigned char>(text_[end])))
      ++end;
    const std::string_view word = std::string_view(text_).substr(at_, end - at_);
    if (std::find(names.begin(), names.end(), word) == names.end()) return false;
    at_ = end;
    return true;
  }
  bool atEnd() {
    skip();
    return at_ == text_.size();
  }

 private:
  void skip() {
    while (at_ < text_.size() && std::isspace(static_cast<unsigned char>(text_[at_]))) ++at_;
  }
  std::string text_;
  std::size_t at_ = 0;
};

std::optional<double> wholeAndPositive(Reader& reader, double value) {
  return reader.atEnd() && value > 0 ? std::optional(value) : std::nullopt;
}

}  // namespace

std::optional<double> kilogramsFrom(std::string_view text, MassUnit bare) {
  Reader reader(text);
  const auto n = reader.number();
  if (!n) return std::nullopt;
  if (reader.unit({"lb", "lbs", "lb.", "lbs.", "pound", "pounds", "#"}))
    return wholeAndPositive(reader, *n * kKilogramsPerPound);
  const bool kilos = reader.unit({"kg", "kgs", "kg.", "kilo", "kilos"});
  return wholeAndPositive(reader, kilos || bare == MassUnit::Kilograms ? *n : *n * kKilogramsPerPound);
}

std::optional<double> centimetresFrom(std::string_view text, LengthUnit bare) {
  Reader reader(text);
  const auto n = reader.number();
  if (!n) return std::nullopt;
  if (reader.unit({"'", "ft", "ft.", "feet", "foot", "\xE2\x80\xB2", "\xE2\x80\x99"})) {
    double inches = 0;
    if (!reader.atEnd()) {
      const auto more = reader.number();
      if (!more || *more < 0 || *more >= 12) return std::nullopt;
      reader.unit({"\"", "in", "in.", "inch", "inches", "''", "\xE2\x80\xB3", "\xE2\x80\x9D"});
      inches = *more;
    }
    return wholeAndPositive(reader, (12 * *n + inches) * kCentimetresPerInch);
  }
  if (reader.unit({"in", "in.", "inch", "inches", "\""})) return wholeAndPositive(reader, *n * kCentimetresPerInch);
  if (reader.unit({"m", "metres", "meters"})) return wholeAndPositive(reader, *n * 100);
  const bool centimetres = reader.unit({"cm", "cm."});
  const bool inches = !centimetres && bare == LengthUnit::Inches && *n < 100;
  return wholeAndPositive(reader, inches ? *n * kCentimetresPerInch : *n);
}

std::optional<double> numberFrom(std::string_view text) {
  double value = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
  if (error != std::errc() || end != text.data() + text.size() || !std::isfinite(value)) return std::nullopt;
  return value;
}

std::string feetAndInches(double cm) {
  const long inches = std::lround(cm / kCentimetresPerInch);
  return fmt::format("{} ft {} in", inches / 12, inches % 12);
}

std::string heightText(double cm) {
  return displayUnits().length == LengthUnit::Inches ? feetAndInches(cm) : fmt::format("{:.0f} cm", cm);
}

std::string massText(double kg) {
  return massRangeText(kg, kg);
}

std::string massRangeText(double low_kg, double high_kg) {
  const DisplayUnits units = displayUnits();
  const auto range = [](const std::string& low, const std::string& high, const char* unit) {
    return low == high ? low + unit : low + " to " + high + unit;
  };
  const auto lb = [](double kg) { return fmt::format("{:.0f}", kg * kPoundsPerKilogram); };
  const auto tenths = [](double kg) { return fmt::format("{:g}", std::round(kg * 10) / 10); };
  const std::string pounds = range(lb(low_kg), lb(high_kg), " lb");
  const std::string kilos = range(tenths(low_kg), tenths(high_kg), " kg");
  const bool pounds_first = units.mass == MassUnit::Pounds;
  const std::string& first = pounds_first ? pounds : kilos;
  return units.one_only ? first : fmt::format("{} ({})", first, pounds_first ? kilos : pounds);
}

}  // namespace jib
