// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace jib::tracing {

// Where the bar meets the body.
enum class BarContact { Back, Hands };

// What tracing has to know of a lift: how body and bar hang together, and where the bar is when the lifter is ready.
struct BodyModel {
  BarContact contact = BarContact::Back;
  bool lying = false;
  bool starts_low = false;  // the bar waits at its lowest, on the floor, rather than at its highest
  // A chain of limbs is fitted to standing bodies; of others the bar is traced, and which way the athlete faces.
  bool fitted() const { return !lying; }
  bool hangs() const { return contact == BarContact::Hands && !lying; }  // the bar, from straight arms
  friend bool operator==(const BodyModel&, const BodyModel&) = default;
};

}  // namespace jib::tracing
