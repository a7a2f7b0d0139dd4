// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/simulate/lift_script.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/lifts/lift.h"
#include "core/simulate/bench_script.h"
#include "core/simulate/deadlift_script.h"
#include "core/simulate/overhead_script.h"
#include "core/simulate/squat_script.h"

namespace jib::simulate {
namespace {

constexpr std::size_t kRiseSamples = 400;

}  // namespace

std::unique_ptr<LiftScript> scriptFor(const ClipSpec& spec) {
  if (spec.lift == lifts::definition(lifts::LiftId::Bench).name) return std::make_unique<BenchScript>(spec);
  if (spec.lift == lifts::definition(lifts::LiftId::Deadlift).name) return std::make_unique<DeadliftScript>(spec);
  if (spec.lift == lifts::definition(lifts::LiftId::Overhead).name) return std::make_unique<OverheadScript>(spec);
  return std::make_unique<SquatScript>(spec);
}

RiseCurve::RiseCurve(double sticking) : risen_(kRiseSamples + 1, 0.0) {
  double total = 0;
  for (std::size_t i = 1; i <= kRiseSamples; ++i) {
    const double s = (static_cast<double>(i) - 0.5) / kRiseSamples;
    const double bell = std::pow(std::sin(kPi * s), 1.2);
    const double dip = 1 - sticking * std::exp(-std::pow((s - 0.42) / 0.13, 2));
    total += bell * dip;
    risen_[i] = total;
  }
  for (double& r : risen_) r /= total;
}

double RiseCurve::at(double share) const {
  const double s = std::clamp(share, 0.0, 1.0) * kRiseSamples;
  const auto i = std::min(static_cast<std::size_t>(s), kRiseSamples - 1);
  return risen_[i] + (risen_[i + 1] - risen_[i]) * (s - static_cast<double>(i));
}

double minimumJerk(double s) {
  s = std::clamp(s, 0.0, 1.0);
  return s * s * s * (10 - 15 * s + 6 * s * s);
}

double smooth(double s) {
  s = std::clamp(s, 0.0, 1.0);
  return s * s * (3 - 2 * s);
}

}  // namespace jib::simulate
