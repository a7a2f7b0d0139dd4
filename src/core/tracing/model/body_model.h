// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace jib::tracing {

// Where the bar meets the body.
enum class BarContact { Back, Hands };

// What tracing has to know of a lift: how body and bar hang together, and where the bar is when the lifter is ready.
struct BodyModel {
  BarContact contact = BarContact::Back;
  bool lying = false;
  bool starts_low = false;    // the bar waits at its lowest, on the floor or the shoulders, rather than at its highest
  bool around = false;        // the lifter stands inside the bar: it hangs beside the thighs, not before them
  bool racked_ahead = false;  // the bar lies on the front of the shoulders, not behind them
  bool wide = false;          // feet far outside the hips, toes and knees out
  bool overhead = false;      // the bar goes up from the front of the shoulders, over the head of who stands
  bool hangs() const { return inHands() && !lying && !overhead; }  // the bar, from straight arms
  // A bar in hands leaves the shoulder in sight, and does not hold the trunk as one on the back does.
  bool inHands() const { return contact == BarContact::Hands; }
  friend bool operator==(const BodyModel&, const BodyModel&) = default;
};

}  // namespace jib::tracing
