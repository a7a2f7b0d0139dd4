// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/trimmed.h"

namespace jib::review {

std::pair<double, double> trimmed(const tracing::LeftOuts& parts, double first_s, double last_s, double edge_s) {
  double from = first_s, to = last_s;
  for (const auto& part : parts) {
    if (part.from_s <= first_s + edge_s && part.to_s > from) from = part.to_s;
    if (part.to_s >= last_s - edge_s && part.from_s < to) to = part.from_s;
  }
  return from < to ? std::pair(from, to) : std::pair(first_s, last_s);
}

}  // namespace jib::review
