// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "core/tracing/clip_tracer.h"

namespace jib::tracing {

// What took long to find out about a clip (bar, body, roll), as JSON and back, exactly. The trace itself is made again
// from it with solveAgain(). Readers ignore unknown keys.
nlohmann::json traceToJson(const ClipTrace& clip);
// Errors  BadData with what is missing or wrong
Result<ClipTrace> traceFromJson(const nlohmann::json& json);

nlohmann::json buildToJson(const KnownBuild& build);
// nullopt when it cannot be read: then nothing is known.
std::optional<KnownBuild> buildFromJson(const nlohmann::json& json);

nlohmann::json placedToJson(const std::vector<PlacedFrame>& placed);
// One object {"t", "points": {name: [x, y]}} or a list of such; the coach's points file.
Result<std::vector<PlacedFrame>> placedFromJson(const nlohmann::json& json);

}  // namespace jib::tracing
