// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/model/landmark.h"

namespace jib::tracing {
namespace {

struct Names {
  std::string_view name, title;
};
constexpr std::array<Names, kLandmarks> kNames{{{"bar", "bar"},
                                                {"plate", "plate"},
                                                {"toe", "toe"},
                                                {"heel", "heel"},
                                                {"ankle", "ankle"},
                                                {"knee", "knee"},
                                                {"hip", "hip"},
                                                {"shoulder", "shoulder"},
                                                {"hip_crease", "hip crease"},
                                                {"knee_top", "top of the knee"},
                                                {"elbow", "elbow"},
                                                {"wrist", "wrist"}}};

}  // namespace

std::string_view nameOf(Landmark landmark) {
  return kNames[at(landmark)].name;
}

std::string_view titleOf(Landmark landmark) {
  return kNames[at(landmark)].title;
}

std::optional<Landmark> landmarkNamed(std::string_view name) {
  for (Landmark landmark : kAllLandmarks)
    if (nameOf(landmark) == name) return landmark;
  return std::nullopt;
}

std::string nameOf(const PointName& point) {
  const std::string name(nameOf(point.landmark));
  if (!point.side) return name;
  const std::string side = *point.side == BodySide::Left ? "left" : "right";
  return point.landmark == Landmark::Bar ? name + "_" + side : side + "_" + name;
}

std::string titleOf(const PointName& point) {
  const std::string title(titleOf(point.landmark));
  if (!point.side) return title;
  const std::string side = *point.side == BodySide::Left ? "left " : "right ";
  return point.landmark == Landmark::Bar ? side + "end of the bar" : side + title;
}

std::optional<PointName> pointNamed(std::string_view name) {
  for (const Landmark landmark : kAllLandmarks) {
    if (nameOf(landmark) == name) return PointName{landmark};
    for (const BodySide side : kSides)
      if (nameOf(PointName{landmark, side}) == name) return PointName{landmark, side};
  }
  return std::nullopt;
}

}  // namespace jib::tracing
