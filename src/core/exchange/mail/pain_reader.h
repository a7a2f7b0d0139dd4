// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/exchange/mail/talk.h"

namespace jib::exchange {

// Whether a message says that something hurts, in the ways people say it: "knee felt off", "my elbows are killing me",
// "something popped". It is for caution only: what it is, and how bad, is nobody's business here. A worry ("is that bad
// for my back?"), a joke ("hurt my ego"), what hurts somebody else and lifters' talk ("popped out of the hole", "pinch
// the shoulder blades") are no pain.
struct PainSaid {
  bool hurts = false;              // false: it is said that nothing does
  std::size_t at = 0;              // the first word that says so
  std::vector<std::string> words;  // the sentences that say so, as written
};
std::optional<PainSaid> painIn(const Talk& talk);

}  // namespace jib::exchange
