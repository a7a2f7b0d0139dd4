// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

// The bar's height over time as the segmenters read it: frames without a bar are stepped over.
struct BarHeight {
  std::vector<double> t, z;  // presentation times, s; m
  double slow = 1;           // times slower than life

  std::size_t size() const { return t.size(); }
  double speed_mps(std::size_t i) const;  // real time, central difference
  // Time at which z crosses `level` between samples i and i + 1.
  double crossing(std::size_t i, double level) const;
};
BarHeight barHeight(const Motion& motion);

inline constexpr double kLeastStroke_m = 0.12;  // re-racks and walk-outs stay under this
inline constexpr double kOff_m = 0.01;          // the contract's centimetre
inline constexpr double kBarStill_mps = 0.03;

// The height the bar rests at next to a stroke: samples that stand still within half a second of its `edge`, looking
// away from the stroke (step -1: before it; +1: after it).
double restingHeight(const BarHeight& s, std::size_t edge, int step);

// When knees and hips have reached their final angles between two moments; `from_t` where they are not seen.
double straightTime(const Motion& m, double from_t, double to_t);
// How far a joint's angle may wander while the joint is still: points slide by so much from posture to posture.
double straightWithin_deg(const Motion& m, std::size_t frame);
bool jointsSeen(const Motion& m, double t_s);

// Lockout of a bar that is back within a centimetre at `up_t`: the bar says "not before". Joints that are surely known
// say when; those that wander only "not after". `limit_t`: by when it must be over.
Event lockoutFrom(const Motion& m, double up_t, double limit_t);

// The slowest moment of an ascent between two faster ones; nullopt when it never slows.
std::optional<double> stickingTime(const BarHeight& s, double from_t, double to_t);

}  // namespace jib::motion
