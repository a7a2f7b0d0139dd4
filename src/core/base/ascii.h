// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

namespace jib {

// Letters of ASCII, the same on every machine: <cctype> asks the machine's locale, in which an I need not become an i.
constexpr bool isAsciiUpper(char c) {
  return c >= 'A' && c <= 'Z';
}
constexpr char asciiLower(char c) {
  return isAsciiUpper(c) ? static_cast<char>(c - 'A' + 'a') : c;
}
constexpr bool isAsciiLetter(char c) {
  return asciiLower(c) >= 'a' && asciiLower(c) <= 'z';
}
inline std::string asciiLower(std::string_view text) {
  std::string out(text);
  for (char& c : out) c = asciiLower(c);
  return out;
}

}  // namespace jib
