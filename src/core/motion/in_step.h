// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/motion/events.h"

namespace jib::motion {

// How two films of different sets run beside each other.
enum class Step {
  Stretched,  // every event of a rep falls together; between them one runs faster or slower
  OwnSpeed,   // the reps' turns fall together (of a pull: its lift-off), and each runs on at its own speed
};

// The moment of one film that belongs to a moment of another: rep for rep in their order, the last one standing for
// those the shorter set has not got. `shift`: so many reps further on, as when the first is held against the last.
// Before a rep and after it time runs as it does in life. slow_: how many times slower than life each film plays.
// nullopt where one of them has no reps. Time  presentation times of each film
struct InStep {
  const std::vector<Rep>& now;
  const std::vector<Rep>& then;
  Step how = Step::Stretched;
  int shift = 0;
  double now_slow = 1, then_slow = 1;

  std::optional<double> thenAt(double now_t) const;
  // Of the pair of reps that a moment belongs to: their numbers, counted from 0.
  struct Pair {
    std::size_t now, then;
  };
  std::optional<Pair> pairAt(double now_t) const;
};

}  // namespace jib::motion
