// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "core/coaching/analysis.h"
#include "core/exchange/intake/prepare.h"
#include "core/lifts/lift.h"
#include "tests/core/must.h"
#include "tests/core/scratch_folder.h"

namespace jib::tests {

// The tracing of a small made-up clip, which takes many seconds, made once: every suite runs in a process of its own.
// It is kept beside the clips as a library keeps it, until film, request or the code that traces are others.
std::string keptTracing(const std::string& name, const std::filesystem::path& clip,
                        const coaching::AnalysisRequest& request);

// The analysis that is made from it, as when a clip is opened again.
coaching::Analysis keptAnalysis(const std::string& name, const std::filesystem::path& clip,
                                const coaching::AnalysisRequest& request);

}  // namespace jib::tests
