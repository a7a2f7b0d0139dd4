// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <functional>

#include "core/base/angle.h"
#include "core/lifts/measure.h"

namespace jib::lifts {

// Why a measure is absent, in the coach's words.
inline constexpr const char* kHidden = "Not seen at that moment.";
inline constexpr const char* kGap = "The plate is hidden for part of the way.";
inline constexpr const char* kFootFromAbove =
    "The camera looks down on the feet: place toe and heel to compare them with the bar, or film from lower down.";
inline constexpr const char* kNoFeet = "The feet are not in the picture; film so that the whole shoe shows.";

// One rep of one motion, with the questions all measures ask.
struct RepLook {
  const motion::Motion& m;
  const motion::Rep& rep;
  const motion::Rep* before = nullptr;  // the rep before it; none of the first

  std::optional<MetrePoint> place(tracing::Landmark l, double t) const { return m.placeAt(l, t); }
  const motion::Angles& angles(double t) const { return m.angles[m.frameAt(t)]; }
  double sigma(tracing::Landmark l, double t) const { return m.path(l).sigma_m[m.frameAt(t)]; }
  double wander(tracing::Landmark l, double t) const { return m.path(l).wander_m[m.frameAt(t)]; }
  std::size_t first() const { return m.frameAt(rep.start_t()); }
  std::size_t last() const { return m.frameAt(rep.lockout_t()); }
  bool hasBody() const { return m.path(tracing::Landmark::Hip).at[m.frameAt(rep.bottom_t())].has_value(); }
  bool feetSeen() const {
    return place(tracing::Landmark::Toe, rep.bottom_t()) && place(tracing::Landmark::Heel, rep.bottom_t());
  }

  // Whether a point is made out on most frames between two moments: the largest or least of something over a stretch of
  // which half was hidden is not what happened there.
  bool seenThrough(tracing::Landmark l, double from_t, double to_t) const;
  bool seenAtBottom(tracing::Landmark l) const;

  // When the bar has risen by this share of the way from bottom to lockout; when it has gone down by this share of the
  // way from the start to the bottom.
  double riseTime(double share) const;
  double fallTime(double share) const;

  // Interpolated lean of the trunk at a moment.
  std::optional<double> trunk(double t) const;
  // 1 σ of the lean of a segment, or (change) of how far it leans differently at two moments of the rep.
  double leanSigma_deg(tracing::Landmark lower, tracing::Landmark upper, double t, bool change) const;
  // 1 σ of an event's time, real seconds: half a frame at either end of the filter's smear.
  // How far off the side the film is: 0 up to 15 degrees, 1 from 30 on. What shows there of arms, shoes and small ways
  // of the bar is less than it seems.
  double turnedAway() const;
  double eventSigma_s() const;
  // And of the time from the start of the ascent to lockout, by what is unsure about either end.
  double ascentSigma_s() const;

  // 1 σ of a speed of the bar at one moment: by the scale, and by what a bar that lies on the floor seems to move.
  double speedSigma_mps(double speed_mps) const;

  // Mean absolute difference between descent and ascent at equal bar heights, of whatever `value` gives; without σ.
  std::optional<Measured> mirrored(const std::function<std::optional<double>(double t)>& value) const;
};

}  // namespace jib::lifts
