// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string_view>

namespace jib::tracing {

// The named points of a side view. Names in files are those of nameOf().
enum class Landmark {
  Bar,    // centre of the near end of the bar
  Plate,  // centre of the near plate's rim: on the bar, but further from the camera than its end
  Toe,    // tip of the shoe
  Heel,   // lowest rear point of the shoe
  Ankle,  // joint centres from here
  Knee,
  Hip,
  Shoulder,
  HipCrease,  // top of the thigh in the fold
  KneeTop,    // highest point of the knee
  Elbow,      // joint centre; where the plate leaves it in sight
  Wrist,      // joint centre, of who lies under the bar: as the hand holds it
};
inline constexpr std::size_t kLandmarks = 12;
inline constexpr std::array<Landmark, kLandmarks> kAllLandmarks{
    Landmark::Bar, Landmark::Plate,    Landmark::Toe,       Landmark::Heel,    Landmark::Ankle, Landmark::Knee,
    Landmark::Hip, Landmark::Shoulder, Landmark::HipCrease, Landmark::KneeTop, Landmark::Elbow, Landmark::Wrist};
// What the coach is asked to place, in this order: from the floor up.
inline constexpr std::array<Landmark, 6> kPlacedLandmarks{Landmark::Toe,  Landmark::Heel, Landmark::Ankle,
                                                          Landmark::Knee, Landmark::Hip,  Landmark::Shoulder};

constexpr std::size_t at(Landmark landmark) {
  return static_cast<std::size_t>(landmark);
}
std::string_view nameOf(Landmark landmark);   // "hip_crease"
std::string_view titleOf(Landmark landmark);  // "hip crease", for people
std::optional<Landmark> landmarkNamed(std::string_view name);

}  // namespace jib::tracing
