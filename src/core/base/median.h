// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <vector>

namespace jib {

// The middle value; of an even number the upper one of the two in the middle. `v` is not empty.
inline double median(std::vector<double> v) {
  const auto middle = v.begin() + static_cast<long>(v.size() / 2);
  std::nth_element(v.begin(), middle, v.end());
  return *middle;
}

}  // namespace jib
