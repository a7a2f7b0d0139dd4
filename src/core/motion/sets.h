// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "core/motion/reps.h"

namespace jib::motion {

// A set within a clip: reps [first, first + count), file time from the first start to the last lockout.
struct SetSpan {
  std::size_t first = 0, count = 0;
  double from_s = 0, to_s = 0;
};

// A rest longer than this lies between two sets, s of real time: nobody stands under a loaded bar for so long.
inline constexpr double kSetRest_s = 20;

// Cuts the reps of a clip into its sets.
// told   for each rep, where a coach has said it (setsTold in rep_edits.h): a set begins with it, or it goes with the
//        one before; may be shorter than reps
std::vector<SetSpan> cutSets(const std::vector<Rep>& reps, double slow_factor,
                             const std::vector<std::optional<bool>>& told = {});

// The set a clip with several is judged by: the heaviest whose load is known, else the last, as sets climb.
// Precondition  sets is not empty; loads may be fewer than sets
std::size_t topSet(const std::vector<SetSpan>& sets, const std::vector<std::optional<double>>& loads_kg);

}  // namespace jib::motion
