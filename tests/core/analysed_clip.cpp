// SPDX-License-Identifier: GPL-3.0-or-later
#include "tests/core/analysed_clip.h"

#include <nlohmann/json.hpp>

#include "core/tracing/trace_store.h"

namespace jib::tests {

const simulate::Truth& smallTruth() {
  static const simulate::Truth kTruth = simulate::truthOf(*simulate::parseSpec(bytesOf(JIB_SMALL_SPEC)));
  return kTruth;
}

tracing::PlacedFrame placedAt(const simulate::Truth& truth, std::size_t frame, bool flesh) {
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

const coaching::Analysis& unplaced() {
  static const coaching::Analysis kAnalysis = keptAnalysis("squat", JIB_MADE_CLIP, {});
  return kAnalysis;
}

const coaching::Analysis& smallAnalysis() {
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

std::string unplacedTracing() {
  return tracing::traceToJson(unplaced().trace).dump();
}

std::string placedTracing() {
  return tracing::traceToJson(smallAnalysis().trace).dump();
}

}  // namespace jib::tests
