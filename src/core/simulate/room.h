// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/simulate/solid.h"
#include "core/simulate/spec.h"

namespace jib::simulate {

struct Paint {
  float r = 0, g = 0, b = 0;  // linear-ish, 0..1
};
inline Paint operator*(Paint p, float k) {
  return {p.r * k, p.g * k, p.b * k};
}
inline Paint operator+(Paint a, Paint b) {
  return {a.r + b.r, a.g + b.g, a.b + b.b};
}

// Smooth noise in 0..1 with features about 1 unit wide.
float noise(Vec3f p);

// What stands still around the lifter: floor, four walls and a ceiling, rack, things on the far wall.
class Room {
 public:
  explicit Room(const ClipSpec& spec);

  struct Hit {
    float distance = 1e9f;
    Paint colour;
    bool floor = false;
    Vec3f place;
  };
  Hit look(Vec3f from, Vec3f ray) const;

 private:
  struct Box {
    Vec3f low, high;
    Paint colour;
    int pattern;  // 0 plain steel, 1 with holes
  };
  void bench(const ClipSpec& spec);
  Paint wallColour(float x, float z) const;
  Paint plainWallColour(float along, float z) const;
  Paint floorColour(float x, float y) const;
  void lookAtWalls(Vec3f from, Vec3f ray, Hit& hit) const;

  ClipSpec spec_;
  float wall_y_;
  std::vector<Box> boxes_;
};

}  // namespace jib::simulate
