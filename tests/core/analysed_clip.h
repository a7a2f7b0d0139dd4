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

const simulate::Truth& smallTruth();

// What a coach with a perfect hand would place on a frame.
tracing::PlacedFrame placedAt(const simulate::Truth& truth, std::size_t frame, bool flesh);

// With nothing placed.
const coaching::Analysis& unplaced();

// With two frames placed, and without the network.
const coaching::Analysis& smallAnalysis();

// Their tracings, as a library keeps them.
std::string unplacedTracing();
std::string placedTracing();

}  // namespace jib::tests
