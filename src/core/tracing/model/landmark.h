// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
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

// The athlete's own left and right.
enum class BodySide : std::size_t { Left = 0, Right = 1 };
inline constexpr std::array<BodySide, 2> kSides{BodySide::Left, BodySide::Right};

// A point in a picture: of a view that shows both sides it is one side's, and Landmark::Bar is that end of the bar.
struct PointName {
  Landmark landmark;
  std::optional<BodySide> side;
  // Implicit: a landmark names a point of a view from the side by itself.
  constexpr PointName(Landmark l = Landmark::Bar, std::optional<BodySide> s = {}) : landmark(l), side(s) {}
  friend bool operator==(const PointName&, const PointName&) = default;
};
std::string nameOf(const PointName& point);   // "hip_crease", "left_knee", "bar_left"
std::string titleOf(const PointName& point);  // "hip crease", "left knee", "left end of the bar", for people
std::optional<PointName> pointNamed(std::string_view name);

}  // namespace jib::tracing
