// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

namespace jib::motion {

// Cutoffs in Hz of real time. A barbell in a heavy lift moves in strokes of about a second: nearly all of its motion
// lies below 4 Hz, while the jitter of traced points is spread evenly up to half the frame rate. 6 Hz keeps the
// stroke's speed within half a per cent and halves the jitter at 30 frames a second; body points jitter more and get 5
// Hz.
inline constexpr double kBarCutoff_hz = 6.0;
inline constexpr double kBodyCutoff_hz = 5.0;

// Takes out what changes faster than the cutoff, without shifting anything in time: a second-order Butterworth filter
// run forward and backward, its cutoff raised so that both passes together have the one asked for. Uneven times are
// allowed. A gap up to `bridge_s` is filled by a straight line before filtering and is a gap again afterwards; a longer
// one cuts the signal in two.
// Source  Winter 2009, section 3.4.4.2
std::vector<std::optional<double>> lowPass(const std::vector<double>& times_s,
                                           const std::vector<std::optional<double>>& values, double cutoff_hz,
                                           double bridge_s = 0.2);

// Central differences; one-sided at ends and gaps. Per second of `times_s`.
std::vector<std::optional<double>> rateOf(const std::vector<double>& times_s,
                                          const std::vector<std::optional<double>>& values);

}  // namespace jib::motion
