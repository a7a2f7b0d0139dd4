// SPDX-License-Identifier: GPL-3.0-or-later
// The small made-up clip all tests with real pixels share: its exact truth, and one analysis of it, made once.
#pragma once

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "core/coaching/analysis.h"
#include "core/simulate/truth_file.h"
#include "tests/core/kept_analysis.h"
#include "tests/core/scratch_folder.h"

namespace jib::tests {

inline const simulate::Truth& smallTruth() {
  static const simulate::Truth kTruth = simulate::truthOf(*simulate::parseSpec(bytesOf(JIB_SMALL_SPEC)));
  return kTruth;
}

// What a coach with a perfect hand would place on a frame.
inline tracing::PlacedFrame placedAt(const simulate::Truth& truth, std::size_t frame, bool flesh) {
  using tracing::at;
  using tracing::Landmark;
  tracing::PlacedFrame p{truth.frames[frame].t_s, {}};
  for (Landmark l : tracing::kAllLandmarks) {
    const bool wanted = std::find(tracing::kPlacedLandmarks.begin(), tracing::kPlacedLandmarks.end(), l) !=
                        tracing::kPlacedLandmarks.end();
    if (wanted || (flesh && (l == Landmark::HipCrease || l == Landmark::KneeTop)))
      p.points[at(l)] = truth.frames[frame].pixels[at(l)]->place;
  }
  return p;
}

// With nothing placed.
inline const coaching::Analysis& unplaced() {
  static const coaching::Analysis kAnalysis = keptAnalysis("squat", JIB_MADE_CLIP, {});
  return kAnalysis;
}

inline const coaching::Analysis& smallAnalysis() {
  static const coaching::Analysis kAnalysis = [] {
    const auto reps = simulate::trueSet(smallTruth()).reps;
    coaching::AnalysisRequest request;
    request.trace.parts.network = false;  // a few seconds for each of many tests; body_fit_test.cpp looks
    request.trace.placed = {placedAt(smallTruth(), 20, false),
                            placedAt(smallTruth(), static_cast<std::size_t>(reps[0].bottom_t() * 30), true)};
    return keptAnalysis("squat-placed", JIB_MADE_CLIP, request);
  }();
  return kAnalysis;
}

}  // namespace jib::tests
