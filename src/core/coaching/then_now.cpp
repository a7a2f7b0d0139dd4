// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/then_now.h"

#include <fmt/format.h>

#include <cmath>
#include <optional>

#include "core/base/angle.h"
#include "core/base/display_units.h"
#include "core/lifts/rep_look.h"
#include "core/lifts/view_assessor.h"

namespace jib::coaching {
namespace {

using tracing::Landmark;

struct Lean {
  double deg, sigma_deg;
};

// Of a segment from vertical, + when its upper end is further forward; σ from both ends and the camera's roll.
std::optional<Lean> leanOf(const motion::Motion& m, std::size_t frame, Landmark lower, Landmark upper) {
  const auto &low = m.path(lower).at[frame], &high = m.path(upper).at[frame];
  if (!low || !high) return std::nullopt;
  const double dx = high->x - low->x, dz = high->z - low->z, length = std::hypot(dx, dz);
  if (length < 0.05) return std::nullopt;
  static const motion::Rep kNone;  // the σ of a lean is that of its measures, whichever rep it is in
  const lifts::RepLook look{m, kNone};
  return Lean{degrees(std::atan2(dx, dz)), look.leanSigma_deg(lower, upper, m.times_s[frame], false)};
}

struct Posture {
  const motion::Motion& m;
  std::size_t frame;
};

void addLean(std::vector<MomentDifference>& all, const Posture& now, const Posture& then, Landmark lower,
             Landmark upper, const char* title, std::string_view more, std::string_view less, double widening) {
  const auto a = leanOf(now.m, now.frame, lower, upper), b = leanOf(then.m, then.frame, lower, upper);
  if (!a || !b) return;
  all.push_back({title, a->deg - b->deg, widening * std::hypot(a->sigma_deg, b->sigma_deg), true, more, less});
}

// An included angle, 180 straight: the difference of two leans.
void addJoint(std::vector<MomentDifference>& all, const Posture& now, const Posture& then, Landmark low, Landmark joint,
              Landmark high, const char* title, double widening) {
  const auto bend = [&](const Posture& s) -> std::optional<Lean> {
    const auto below = leanOf(s.m, s.frame, low, joint), above = leanOf(s.m, s.frame, joint, high);
    if (!below || !above) return std::nullopt;
    return Lean{180 - std::abs(below->deg - above->deg), std::hypot(below->sigma_deg, above->sigma_deg)};
  };
  const auto a = bend(now), b = bend(then);
  if (a && b)
    all.push_back(
        {title, a->deg - b->deg, widening * std::hypot(a->sigma_deg, b->sigma_deg), true, "straighter", "more bent"});
}

void addBar(std::vector<MomentDifference>& all, const Posture& now, const Posture& then, double widening) {
  if (!now.m.calibration.floor_known || !then.m.calibration.floor_known) return;
  const auto &a = now.m.path(Landmark::Bar).at[now.frame], &b = then.m.path(Landmark::Bar).at[then.frame];
  if (!a || !b) return;
  const double sigma = std::hypot(now.m.calibration.bar_to_foot_sigma_m, then.m.calibration.bar_to_foot_sigma_m);
  all.push_back({"Bar over the foot", a->x - b->x, widening * sigma, false, "further forward", "further back"});
}

}  // namespace

bool MomentDifference::sure() const {
  return std::abs(value) > lifts::kSureSigmas * sigma;
}

std::string MomentDifference::text() const {
  const double within = lifts::kSureSigmas * sigma;
  const bool inches = displayUnits().length == LengthUnit::Inches;
  const double per = angle ? 1 : inches ? 100 / 2.54 : 100;
  const char* unit = angle ? "°" : inches ? " in" : " cm";
  const int digits = angle ? 0 : 1;
  if (!sure()) return fmt::format("{} same (± {:.{}f}{})", title, within * per, digits, unit);
  return fmt::format("{} {:.{}f} ± {:.{}f}{} {}", title, std::abs(value) * per, digits, within * per, digits, unit,
                     value > 0 ? more : less);
}

std::vector<MomentDifference> differencesAt(const Analysis& now, double now_t, const Analysis& then, double then_t,
                                            double widening) {
  std::vector<MomentDifference> all;
  if (!now.trace.body || !then.trace.body || now.motion.front || then.motion.front) return all;
  if (now.motion.times_s.empty() || then.motion.times_s.empty()) return all;
  if (lifts::placesFrom(now.motion.calibration).can != lifts::Can::Yes ||
      lifts::placesFrom(then.motion.calibration).can != lifts::Can::Yes)
    return all;
  const Posture a{now.motion, now.motion.frameAt(now_t)}, b{then.motion, then.motion.frameAt(then_t)};
  if (lifts::definition(now.request.lift).body.lying) {
    addJoint(all, a, b, Landmark::Shoulder, Landmark::Elbow, Landmark::Wrist, "Elbow", widening);
    return all;
  }
  addLean(all, a, b, Landmark::Hip, Landmark::Shoulder, "Torso", "more leaned", "more upright", widening);
  addLean(all, a, b, Landmark::Ankle, Landmark::Knee, "Shins", "further forward", "more upright", widening);
  addJoint(all, a, b, Landmark::Ankle, Landmark::Knee, Landmark::Hip, "Knees", widening);
  addBar(all, a, b, widening);
  return all;
}

}  // namespace jib::coaching
