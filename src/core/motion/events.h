// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

namespace jib::motion {

// Which way the bar goes first: a squat and a bench press are lowered and come back, a deadlift is pulled and set down,
// and a press from the shoulders comes back to them.
enum class RepPattern { DownFirst, UpFirst, UpFromShoulders };

// The moments of a rep, in the order in which they come. What a lift calls them is in its definition (lifts/lift.h).
enum class EventKind {
  HandsOn,   // up first: the lifter has come down and taken the bar, where that is filmed
  Start,     // down first: the bar has gone 1 cm down from rest; up first: first motion of the body, where it is seen
  Bottom,    // down first: lowest bar; of a pause, where it comes to rest
  LiftOff,   // up first: the plates leave the floor, or the bar the shoulders
  Ascent,    // down first: first motion up
  Highest,   // of a miss: where the bar got furthest
  Sticking,  // slowest moment of the ascent between two faster ones
  Lockout,   // the bar is within 1 cm of its final height and the joints have stopped extending
  Lowering,  // up first: the bar has gone 1 cm down from lockout
  End,       // down first: the lockout; up first: the bar is down again
};

// From one presentation time to another.
struct Stretch {
  double from_t = 0, to_t = 0;
  bool holds(double t) const { return t >= from_t && t <= to_t; }
  friend bool operator==(const Stretch&, const Stretch&) = default;
};

struct Event {
  EventKind kind = EventKind::Start;
  double t_s = 0;      // presentation time
  double sigma_s = 0;  // 1 σ beyond the half frame that every moment is uncertain by

  friend bool operator==(const Event&, const Event&) = default;
};

enum class RepType {
  Plain,       // down first: up again at once
  Paused,      // down first: the bar rests at the bottom
  Partial,     // turned round clearly short of the set's other reps
  DeadStop,    // up first: the bar rested on the floor before
  TouchAndGo,  // up first: it did not
  Reset,       // up first: it rested so long that the lifter set up anew
  Miss,        // not brought to lockout
};

// One rep, or one that was missed.
// Holds  events in the order of their times, each kind at most once
struct Rep {
  RepType type = RepType::Plain;
  std::vector<Event> events;
  double stroke_m = 0;
  double risen = 1;  // share of the stroke the bar came up by; below 1 of a miss

  std::optional<double> when(EventKind kind) const;
  double sigma_s(EventKind kind) const;  // 0 where there is none
  void set(EventKind kind, double t_s, double sigma_s = 0);

  // Moments every rep can be asked for. Where the lift has none of that name it is the one that stands for it: the
  // lowest bar of a pull is its lift-off, and so is the beginning of its ascent.
  double start_t() const;
  double bottom_t() const;
  double ascent_t() const;
  double lockout_t() const;  // of a miss: where the bar got furthest
  double end_t() const;

  Stretch whole() const { return {start_t(), end_t()}; }
  Stretch raised() const { return {ascent_t(), lockout_t()}; }
  std::optional<Stretch> lowered() const;  // of a pull that was dropped or not filmed to its end, none

  friend bool operator==(const Rep&, const Rep&) = default;
};

// A rep from its moments, for tests and files. start < bottom <= ascent < lockout.
Rep loweredAndRaised(double start_t, double bottom_t, double ascent_t, double lockout_t, double stroke_m);

}  // namespace jib::motion
