// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace jib::motion {

// Where both feet are along the lifter's forward axis at one moment, in metres; nullopt where a foot is not made out.
struct FeetAt {
  double t_s = 0;
  std::optional<double> near_x_m, far_x_m;
};

// From the first foot leaving its place under the racked bar to the last one put down.
struct WalkOut {
  double begins_t = 0, settled_t = 0;  // presentation times, s
  std::vector<double> landings_t;      // each step of either foot, rising
};

// Steps of both feet before `until_t`, the first descent. A step is a foot that stands, moves by more than 5 cm and
// stands again; what is less is a shift of weight or the scatter of the points.
// Otherwise a sentence for the coach why there is no answer: the film begins later, or a foot is not seen throughout.
std::variant<WalkOut, std::string> findWalkOut(const std::vector<FeetAt>& feet, double until_t);

}  // namespace jib::motion
