// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>

namespace jib {

// A place in the displayed picture (rotation and pixel aspect undone): x right, y down, in pixels; the centre of the
// first pixel is (0.5, 0.5).
struct PixelPoint {
  double x = 0;
  double y = 0;
};

// A place in the lifter's own sagittal plane, in metres: x forward (where the toes point), z up from the floor,
// origin at mid-foot.
struct MetrePoint {
  double x = 0;
  double z = 0;
};

inline PixelPoint operator+(PixelPoint a, PixelPoint b) {
  return {a.x + b.x, a.y + b.y};
}
inline PixelPoint operator-(PixelPoint a, PixelPoint b) {
  return {a.x - b.x, a.y - b.y};
}
inline PixelPoint operator*(PixelPoint a, double k) {
  return {a.x * k, a.y * k};
}
inline double dot(PixelPoint a, PixelPoint b) {
  return a.x * b.x + a.y * b.y;
}
inline double cross(PixelPoint a, PixelPoint b) {
  return a.x * b.y - a.y * b.x;
}
inline double length(PixelPoint a) {
  return std::hypot(a.x, a.y);
}

inline MetrePoint operator+(MetrePoint a, MetrePoint b) {
  return {a.x + b.x, a.z + b.z};
}
inline MetrePoint operator-(MetrePoint a, MetrePoint b) {
  return {a.x - b.x, a.z - b.z};
}
inline MetrePoint operator*(MetrePoint a, double k) {
  return {a.x * k, a.z * k};
}
inline double length(MetrePoint a) {
  return std::hypot(a.x, a.z);
}

// Turns counter-clockwise in (x, y) as written; in a picture, whose y points down, that looks clockwise.
inline PixelPoint rotated(PixelPoint a, double angle_rad) {
  const double c = std::cos(angle_rad), s = std::sin(angle_rad);
  return {c * a.x - s * a.y, s * a.x + c * a.y};
}

}  // namespace jib
