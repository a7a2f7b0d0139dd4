// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/lens.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <string>

#include "core/base/ascii.h"

namespace jib::footage {

std::optional<double> focal35From(std::string_view key, std::string_view value) {
  const std::string lower = asciiLower(key);
  if (lower.find("focal") == std::string::npos || lower.find("35") == std::string::npos) return std::nullopt;
  while (!value.empty() && value.front() == ' ') value.remove_prefix(1);
  double mm = 0;
  const auto read = std::from_chars(value.data(), value.data() + value.size(), mm);
  constexpr double kWidest = 8, kLongest = 300;  // of what a lifter is filmed with
  if (read.ec != std::errc() || !(mm >= kWidest && mm <= kLongest)) return std::nullopt;
  return mm;
}

double focalShare(double focal_35mm, int width, int height) {
  constexpr double kDiagonal_mm = 43.27;
  return focal_35mm / kDiagonal_mm * std::hypot(width, height) / std::max(width, height);
}

}  // namespace jib::footage
