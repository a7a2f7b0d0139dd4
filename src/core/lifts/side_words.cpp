// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/side_words.h"

#include <algorithm>
#include <array>

namespace jib::lifts {
namespace {

struct Words {
  std::string_view measure, above_zero, below_zero;
};

constexpr std::array<Words, 5> kWords{{
    {"bar_tilt_max_deg", "left end higher", "right end higher"},
    {"hip_shift_m", "to the left", "to the right"},
    {"grip_offset_m", "hands to the left", "hands to the right"},
    {"elbow_tuck_difference_deg", "left elbow further out", "right elbow further out"},
    {"shoulder_height_difference_m", "left shoulder higher", "right shoulder higher"},
}};

const Words* wordsOf(std::string_view measure) {
  const auto* words =
      std::find_if(kWords.begin(), kWords.end(), [measure](const Words& w) { return w.measure == measure; });
  return words == kWords.end() ? nullptr : words;
}

}  // namespace

bool isSided(std::string_view measure) {
  return wordsOf(measure) != nullptr;
}

std::string_view sideWords(std::string_view measure, double value) {
  const Words* words = wordsOf(measure);
  if (!words || value == 0) return {};
  return value > 0 ? words->above_zero : words->below_zero;
}

}  // namespace jib::lifts
