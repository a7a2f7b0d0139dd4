// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "core/base/task.h"
#include "core/simulate/lift_script.h"
#include "core/simulate/pinhole.h"
#include "core/tracing/model/trace.h"

namespace jib::simulate {

// What is exactly true of one frame of a made-up clip.
struct TrueFrame {
  double t_s = 0;
  tracing::FramePoints pixels;                                        // sigma is a formality here
  std::array<std::optional<MetrePoint>, tracing::kLandmarks> metres;  // in the lifter's sagittal plane
};

struct Truth {
  ClipSpec spec;
  std::vector<TrueFrame> frames;
  std::vector<ScriptedRep> reps;
};

// The exact truth, without rendering anything.
Truth truthOf(const ClipSpec& spec);

// Renders the clip into `file` (H.264, MP4).
// Errors  CannotWrite; Cancelled, with nothing left behind
Result<bool> film(const ClipSpec& spec, const std::filesystem::path& file, Task& task);

}  // namespace jib::simulate
