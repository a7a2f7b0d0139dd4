// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string_view>
#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

// At which stillness of the bar a referee signals. What a lift calls it is in its definition (lifts/lift.h).
enum class SignalPlace { BeforeDescent, AtTurn, AtTop };

// A moment by which the bar had been still so long that the signal could have come. It says nothing of what else the
// rule book asks for: locked joints, feet, the referee's own eyes.
struct SignalMoment {
  SignalPlace place = SignalPlace::AtTop;
  double t_s = 0;  // presentation time
};

// How long the bar has to rest, in real time, and how fast it may creep meanwhile. A referee's own reaction is not in
// it.
inline constexpr double kStill_s = 0.2, kStill_mps = 0.04;

// Of a set, in the order of time: before its first descent, at each turn, and at the top: of what is pulled after every
// rep, of what is lowered first after the last. Where the bar did not rest there is none.
std::vector<SignalMoment> signalsOf(const std::vector<Rep>& reps, const Motion& motion, RepPattern pattern);

}  // namespace jib::motion
