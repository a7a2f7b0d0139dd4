// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

namespace jib {

// The middle value; of an even number the upper one of the two in the middle. `v` is not empty.
inline double median(std::vector<double> v) {
  const auto middle = v.begin() + static_cast<long>(v.size() / 2);
  std::nth_element(v.begin(), middle, v.end());
  return *middle;
}

// How far the values usually lie from `about`: the median of their distances.
inline double medianOff(std::vector<double> v, double about) {
  for (double& x : v) x = std::abs(x - about);
  return median(std::move(v));
}

}  // namespace jib
