// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/motion/motion.h"

namespace jib::motion {

// A rep as the coach holds it to be: once the coach has touched the list it stands for what was found.
struct HeldRep {
  Rep rep;
  bool spotted = false;   // a spotter touched the bar: what it shows is not the lifter's alone, nothing is measured
  bool left_out = false;  // stays on the time line, counts and is measured nowhere
  // A set begins with it (true) or it goes with the rep before (false), as the coach says; nullopt: as the rest tells.
  std::optional<bool> opens_set = std::nullopt;
  friend bool operator==(const HeldRep&, const HeldRep&) = default;
};
using HeldReps = std::vector<HeldRep>;

// What was found, to be edited from there.
HeldReps heldFrom(const std::vector<Rep>& found);
// Those that are judged.
std::vector<Rep> judged(const HeldReps& held);
// Where sets begin as the coach says, for each that is judged: what was said of one left out goes to the next.
std::vector<std::optional<bool>> setsTold(const HeldReps& held);

// Each edit gives a new list and leaves the old one as it was; an edit that makes no sense gives the list unchanged.
// Where the bar was traced its heights tell the inner moments and the stroke; else they stand in equal parts.

// A rep from one moment to another, in its place by time; those it overlaps are cut back.
HeldReps withRep(const HeldReps& held, const Motion& motion, RepPattern pattern, double from_s, double to_s);
HeldReps without(const HeldReps& held, std::size_t rep);
// Two reps out of one, parted at a moment inside it.
HeldReps split(const HeldReps& held, const Motion& motion, RepPattern pattern, std::size_t rep, double at_s);
// A rep and the next are one.
HeldReps joined(const HeldReps& held, const Motion& motion, RepPattern pattern, std::size_t rep);
// One of its moments elsewhere, kept between its neighbours.
HeldReps withEvent(const HeldReps& held, const Motion& motion, std::size_t rep, EventKind kind, double t_s);

std::string_view nameOf(RepType type);  // in files: "touch_and_go"
std::string_view nameOf(EventKind kind);
std::string heldToJson(const HeldReps& held);
HeldReps heldFromJson(std::string_view json);  // what cannot be read is left out

}  // namespace jib::motion
