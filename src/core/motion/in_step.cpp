// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/in_step.h"

#include <algorithm>
#include <cmath>

namespace jib::motion {
namespace {

// The events both reps have, in order; each pair no earlier than the one before it, or it is left out.
std::vector<std::pair<double, double>> shared(const Rep& now, const Rep& then) {
  std::vector<std::pair<double, double>> moments;
  for (const Event& event : now.events)
    if (const auto t = then.when(event.kind))
      if (moments.empty() || (event.t_s > moments.back().first && *t > moments.back().second))
        moments.emplace_back(event.t_s, *t);
  return moments;
}

}  // namespace

std::optional<InStep::Pair> InStep::pairAt(double t) const {
  if (now.empty() || then.empty()) return std::nullopt;
  // A moment between two reps belongs to the nearer one.
  std::size_t mine = 0;
  double nearest = 1e9;
  for (std::size_t i = 0; i < now.size(); ++i) {
    const double away = std::max({now[i].start_t() - t, t - now[i].end_t(), 0.0});
    if (away < nearest) {
      nearest = away;
      mine = i;
    }
  }
  const auto last = static_cast<long>(then.size()) - 1;
  const long theirs = std::clamp(static_cast<long>(mine) + shift, 0L, last);
  return Pair{mine, static_cast<std::size_t>(theirs)};
}

std::optional<double> InStep::thenAt(double t) const {
  const auto pair = pairAt(t);
  if (!pair) return std::nullopt;
  const Rep &a = now[pair->now], &b = then[pair->then];
  const double rate = then_slow / now_slow;  // what a second of this film is in that one, in life
  if (how == Step::OwnSpeed) return b.bottom_t() + (t - a.bottom_t()) * rate;
  const auto moments = shared(a, b);
  if (moments.empty()) return b.bottom_t() + (t - a.bottom_t()) * rate;
  if (t <= moments.front().first) return moments.front().second + (t - moments.front().first) * rate;
  if (t >= moments.back().first) return moments.back().second + (t - moments.back().first) * rate;
  const auto after = std::upper_bound(moments.begin(), moments.end(), t,
                                      [](double at, const auto& moment) { return at < moment.first; });
  const auto before = std::prev(after);
  const double way = (t - before->first) / (after->first - before->first);
  return before->second + way * (after->second - before->second);
}

}  // namespace jib::motion
