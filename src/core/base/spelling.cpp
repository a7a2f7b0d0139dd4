// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/spelling.h"

#include <algorithm>
#include <atomic>
#include <string_view>

#include "core/base/ascii.h"

namespace jib {
namespace {

std::atomic<Spelling> g_spelling{Spelling::American};

struct Pair {
  std::string_view american, british;
};

// Those that our texts use; a test holds that none is forgotten.
constexpr Pair kWords[]{{"color", "colour"},
                        {"colors", "colours"},
                        {"center", "centre"},
                        {"centers", "centres"},
                        {"centered", "centred"},
                        {"centimeter", "centimetre"},
                        {"centimeters", "centimetres"},
                        {"analyze", "analyse"},
                        {"analyzed", "analysed"},
                        {"analyzing", "analysing"},
                        {"gray", "grey"},
                        {"favor", "favour"},
                        {"favorite", "favourite"},
                        {"behavior", "behaviour"},
                        {"practicing", "practising"},
                        {"traveled", "travelled"},
                        {"canceled", "cancelled"}};

bool isLetter(char c) {
  return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
}

std::string inCaseOf(std::string_view like, std::string_view word) {
  std::string out(word);
  if (!like.empty() && like[0] >= 'A' && like[0] <= 'Z') out[0] = static_cast<char>(out[0] - 'a' + 'A');
  return out;
}

}  // namespace

Spelling spelling() {
  return g_spelling;
}

void useSpelling(Spelling chosen) {
  g_spelling = chosen;
}

std::string spelled(std::string text) {
  if (spelling() == Spelling::American) return text;
  std::string out;
  for (std::size_t i = 0; i < text.size();) {
    std::size_t end = i;
    while (end < text.size() && isLetter(text[end])) ++end;
    if (end == i) {
      out += text[i++];
      continue;
    }
    const std::string_view word = std::string_view(text).substr(i, end - i);
    const std::string lower = asciiLower(word);
    const auto known =
        std::find_if(std::begin(kWords), std::end(kWords), [&](const Pair& p) { return p.american == lower; });
    out += known == std::end(kWords) ? std::string(word) : inCaseOf(word, known->british);
    i = end;
  }
  return out;
}

}  // namespace jib
