// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/tracing/model/coach_told.h"

#include <algorithm>

namespace jib::tracing {

LeftOuts with(const LeftOuts& parts, LeftOut more) {
  if (more.from_s > more.to_s) std::swap(more.from_s, more.to_s);
  LeftOuts out;
  for (const LeftOut& part : parts) {
    if (part.to_s < more.from_s || part.from_s > more.to_s) {
      out.push_back(part);
    } else {
      more = {std::min(part.from_s, more.from_s), std::max(part.to_s, more.to_s)};
    }
  }
  out.insert(std::upper_bound(out.begin(), out.end(), more,
                              [](const LeftOut& a, const LeftOut& b) { return a.from_s < b.from_s; }),
             more);
  return out;
}

LeftOuts without(const LeftOuts& parts, double t_s) {
  LeftOuts out = parts;
  std::erase_if(out, [&](const LeftOut& part) { return part.holds(t_s); });
  return out;
}

}  // namespace jib::tracing
