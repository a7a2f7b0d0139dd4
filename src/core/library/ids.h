// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <compare>
#include <cstdint>

namespace jib::library {

// Row numbers that cannot be taken for one another.
template <class Tag>
struct Id {
  explicit Id(std::int64_t n) : number(n) {}
  std::int64_t number;
  friend auto operator<=>(const Id&, const Id&) = default;
};

using AthleteId = Id<struct AthleteTag>;
using SubmissionId = Id<struct SubmissionTag>;
using MessageId = Id<struct MessageTag>;
using OutgoingId = Id<struct OutgoingTag>;
using CueThreadId = Id<struct CueThreadTag>;

}  // namespace jib::library
