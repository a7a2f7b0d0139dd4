// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/motion/key_moments.h"

#include <algorithm>
#include <cmath>

namespace jib::motion {
namespace {

// The moment in a stretch at which the bar comes nearest to a height; nullopt when it is seen nowhere in it.
std::optional<double> atHeight(const Motion& motion, const Stretch& in, double z) {
  const auto& bar = motion.path(tracing::Landmark::Bar).at;
  std::optional<double> best;
  double least = 1e9;
  for (std::size_t i = 0; i < bar.size() && i < motion.times_s.size(); ++i) {
    if (!bar[i] || !in.holds(motion.times_s[i])) continue;
    const double off = std::abs(bar[i]->z - z);
    if (off < least) {
      least = off;
      best = motion.times_s[i];
    }
  }
  return best;
}

std::optional<double> heightAt(const Motion& motion, double t_s) {
  if (motion.times_s.empty()) return std::nullopt;
  const auto& bar = motion.path(tracing::Landmark::Bar).at;
  const std::size_t i = motion.frameAt(t_s);
  return i < bar.size() && bar[i] ? std::optional(bar[i]->z) : std::nullopt;
}

double halfWay(const Motion& motion, const Stretch& of) {
  const auto from = heightAt(motion, of.from_t), to = heightAt(motion, of.to_t);
  const auto at = from && to ? atHeight(motion, of, (*from + *to) / 2) : std::nullopt;
  return at.value_or((of.from_t + of.to_t) / 2);
}

}  // namespace

std::vector<KeyFrame> keyFramesOf(const Rep& rep, const Motion& motion, RepPattern pattern) {
  const bool down_first = pattern == RepPattern::DownFirst;
  std::vector<KeyFrame> frames;
  // A pull whose first motion was not seen begins with its lift-off: the lifter is ready a moment before.
  constexpr double kReady_s = 0.5;
  double before = rep.start_t();
  if (!down_first && before >= rep.bottom_t() && !motion.times_s.empty())
    before = std::max(motion.times_s.front(), before - kReady_s * motion.slow_factor);
  frames.push_back({KeyMoment::Before, before});
  const Stretch half = down_first ? Stretch{rep.start_t(), rep.bottom_t()} : rep.raised();
  frames.push_back({KeyMoment::HalfWay, halfWay(motion, half)});
  frames.push_back({KeyMoment::Turn, rep.bottom_t()});
  if (const auto sticking = rep.when(EventKind::Sticking)) frames.push_back({KeyMoment::Sticking, *sticking});
  frames.push_back({KeyMoment::Lockout, rep.lockout_t()});
  std::stable_sort(frames.begin(), frames.end(), [](const KeyFrame& a, const KeyFrame& b) { return a.t_s < b.t_s; });
  return frames;
}

std::optional<double> sameHeight(const Rep& rep, const Motion& motion, double t_s) {
  const auto lowered = rep.lowered();
  const auto z = heightAt(motion, t_s);
  if (!lowered || !z || !rep.whole().holds(t_s)) return std::nullopt;
  return atHeight(motion, lowered->holds(t_s) ? rep.raised() : *lowered, *z);
}

}  // namespace jib::motion
