// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lifts/rep_look.h"

#include <algorithm>
#include <cmath>

namespace jib::lifts {
namespace {

using tracing::Landmark;

// When the bar passes a height upwards (sign 1) or downwards (-1) between two frames; nullopt when it does not.
std::optional<double> passing(const motion::Motion& m, std::size_t from, std::size_t to, double level, double sign) {
  for (std::size_t i = from; i < to; ++i) {
    const auto &a = m.path(Landmark::Bar).at[i], &b = m.path(Landmark::Bar).at[i + 1];
    if (a && b && sign * (a->z - level) <= 0 && sign * (b->z - level) > 0)
      return m.times_s[i] + (m.times_s[i + 1] - m.times_s[i]) * (level - a->z) / (b->z - a->z);
  }
  return std::nullopt;
}

}  // namespace

double RepLook::riseTime(double share) const {
  const auto low = place(Landmark::Bar, rep.ascent_t()), high = place(Landmark::Bar, rep.lockout_t());
  if (!low || !high) return rep.ascent_t();
  return passing(m, m.frameAt(rep.ascent_t()), last(), low->z + share * (high->z - low->z), 1).value_or(rep.ascent_t());
}

double RepLook::fallTime(double share) const {
  const auto high = place(Landmark::Bar, rep.start_t()), low = place(Landmark::Bar, rep.bottom_t());
  if (!low || !high) return rep.start_t();
  return passing(m, first(), m.frameAt(rep.bottom_t()), high->z + share * (low->z - high->z), -1)
      .value_or(rep.start_t());
}

std::optional<double> RepLook::trunk(double t) const {
  const auto hip = place(Landmark::Hip, t), shoulder = place(Landmark::Shoulder, t);
  if (!hip || !shoulder) return std::nullopt;
  return lean_deg(*hip, *shoulder);
}

double RepLook::leanSigma_deg(Landmark lower, Landmark upper, double t, bool change) const {
  const auto a = place(lower, t), b = place(upper, t);
  const double l = a && b ? std::max(0.1, length(*b - *a)) : 0.4;
  const double ends =
      change ? std::hypot(wander(lower, t), wander(upper, t)) : std::hypot(sigma(lower, t), sigma(upper, t));
  // A camera that is turned sees a lean steeper than it is, by the turn's cosine; of a change, by its share of it.
  const auto& k = m.calibration;
  const double lean = a && b ? std::atan2(b->x - a->x, std::max(0.05, std::abs(b->z - a->z))) : 0.5;
  const double share = std::abs(std::tan(k.yaw_rad)) * k.yaw_sigma_rad + k.yaw_sigma_rad * k.yaw_sigma_rad / 2;
  const double turn = std::abs(std::sin(2 * lean)) / 2 * share * (change ? 0.3 : 1.0);
  return degrees(std::hypot(ends / l, change ? 0.0 : k.roll_sigma_rad, turn));
}

bool RepLook::seenThrough(Landmark l, double from_t, double to_t) const {
  constexpr double kMost = 0.7;
  double seen = 0, all = 0;
  for (std::size_t i = m.frameAt(from_t); i <= m.frameAt(to_t); ++i) {
    all += 1;
    if (m.path(l).at[i]) seen += 1;
  }
  return all > 0 && seen >= kMost * all;
}

bool RepLook::seenAtBottom(Landmark l) const {
  constexpr double kAbout_s = 0.15;
  const double about = kAbout_s * m.slow_factor;
  return seenThrough(l, rep.bottom_t() - about, rep.bottom_t() + about);
}

double RepLook::turnedAway() const {
  constexpr double kSquare_rad = 0.26, kTurned_rad = 0.52;
  // A turn that nobody knows may be as large as what is known of it allows.
  const double turn =
      std::max({std::abs(m.calibration.yaw_rad), m.calibration.yaw_sigma_rad, radians(m.calibration.turned_deg)});
  return std::clamp((turn - kSquare_rad) / (kTurned_rad - kSquare_rad), 0.0, 1.0);
}

double RepLook::eventSigma_s() const {
  const std::size_t i = std::max<std::size_t>(1, first());
  return 0.5 * (m.times_s[i] - m.times_s[i - 1]) / m.slow_factor;
}

double RepLook::ascentSigma_s() const {
  const double leaves = std::hypot(rep.sigma_s(motion::EventKind::LiftOff), rep.sigma_s(motion::EventKind::Ascent));
  return std::hypot(2 * eventSigma_s(), std::hypot(leaves, rep.sigma_s(motion::EventKind::Lockout)) / m.slow_factor);
}

double RepLook::speedSigma_mps(double speed_mps) const {
  constexpr double kAlways_mps = 0.015;
  const auto& c = m.calibration;
  return std::hypot(kAlways_mps + std::abs(speed_mps) * c.scale_sigma_rel, c.bar_speed_sigma_mps);
}

std::optional<Measured> RepLook::mirrored(const std::function<std::optional<double>(double t)>& value) const {
  const auto low = place(Landmark::Bar, rep.bottom_t()), high = place(Landmark::Bar, rep.start_t());
  if (!low || !high) return std::nullopt;
  constexpr int kHeights = 24;
  double sum = 0, n = 0, worst = 0, worst_t = rep.bottom_t();
  for (int h = 0; h < kHeights; ++h) {
    const double level = low->z + (0.08 + 0.84 * h / (kHeights - 1)) * (high->z - low->z);
    std::optional<double> down, up;
    double up_t = 0;
    for (std::size_t i = first(); i < last(); ++i) {
      const auto &a = m.path(Landmark::Bar).at[i], &b = m.path(Landmark::Bar).at[i + 1];
      if (!a || !b) continue;
      const double t = m.times_s[i] + (m.times_s[i + 1] - m.times_s[i]) * (level - a->z) / (b->z - a->z);
      if (a->z > level && b->z <= level && !down) down = value(t);
      if (a->z <= level && b->z > level && t > rep.bottom_t() && !up) {
        up = value(t);
        up_t = t;
      }
    }
    if (!down || !up) continue;
    sum += std::abs(*down - *up);
    n += 1;
    if (std::abs(*down - *up) > worst) {
      worst = std::abs(*down - *up);
      worst_t = up_t;
    }
  }
  if (n < kHeights / 2) return std::nullopt;
  return Measured{sum / n, 0, worst_t};
}

}  // namespace jib::lifts
