// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/footage/clip_info.h"

#include <algorithm>

namespace jib::footage {

double ClipInfo::frameInterval_s() const {
  if (times_s.size() < 2) return 1.0 / 30;
  std::vector<double> gaps;
  gaps.reserve(times_s.size() - 1);
  for (std::size_t i = 1; i < times_s.size(); ++i) gaps.push_back(times_s[i] - times_s[i - 1]);
  std::nth_element(gaps.begin(), gaps.begin() + gaps.size() / 2, gaps.end());
  return gaps[gaps.size() / 2];
}

double ClipInfo::duration_s() const {
  if (times_s.empty()) return 0;
  return times_s.back() - times_s.front() + frameInterval_s();
}

std::size_t ClipInfo::nearestFrame(double t_s) const {
  if (times_s.empty()) return 0;
  const auto after = std::lower_bound(times_s.begin(), times_s.end(), t_s);
  if (after == times_s.begin()) return 0;
  if (after == times_s.end()) return times_s.size() - 1;
  const auto before = std::prev(after);
  return static_cast<std::size_t>((t_s - *before <= *after - t_s ? before : after) - times_s.begin());
}

}  // namespace jib::footage
