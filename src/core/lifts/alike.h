// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/lifts/kit.h"

namespace jib::lifts {

// What a clip's numbers depend on beside the lifter, as far as it is known. What is not known of one of two clips is
// not known to differ.
struct FilmedAs {
  std::string lift, variant;
  std::string view;                     // "left", "front": as in files; empty: not known
  std::optional<double> turned_deg;     // of the camera from square-on, + towards the lifter's front
  std::optional<double> look_down_deg;  // of the camera's line to the hip
  std::optional<double> load_kg;
  Kit kit;            // shoes, belt, bar, state
  std::string scale;  // where lengths come from: "rim", "body"
};

// Like: may be joined by a line, called better or worse, and turn a cue to met. With care: the difference may come from
// what differs, so it is widened. Unlike: no number of one says anything of the other.
enum class Alike { Like, WithCare, Unlike };
std::string_view nameOf(Alike alike);  // "with_care", as in files

struct Difference {
  std::string what;                               // "view", "lens_height", "load", "variant", "kit", "scale", "lift"
  std::string a, b;                               // as words
  std::optional<double> a_number, b_number = {};  // where it is one
  Alike alike = Alike::WithCare;                  // what follows from it
  std::string why;                                // "They are filmed from different angles."
};

struct Likeness {
  Alike label = Alike::Like;
  std::vector<Difference> differs;

  std::string why() const;  // of what weighs most; empty where they are alike
  // Times which σ of a difference is widened by what may have changed unseen.
  double widening() const;
};

// One judge of all comparisons: trend, cue threads, two clips side by side, the comparison file.
Likeness alikeOf(const FilmedAs& a, const FilmedAs& b);

// Loads within this share of each other are one band: 100 and 92.5 kg, not 100 and 85.
inline constexpr double kSameLoad = 0.9;

}  // namespace jib::lifts
