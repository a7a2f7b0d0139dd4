// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/base/task.h"
#include "core/coaching/sketch.h"
#include "drawing/overlay.h"

namespace jib::drawing {

// A part of a clip as it is on the stage, lines and drawings included, at its own size and speed: to keep, or to show
// somebody. What is to be blurred is blurred.
struct StretchLook {
  motion::Stretch part;  // presentation times
  bool lines = true;     // none of the traced lines: what the coach drew is shown all the same
  OverlayChoice choice;
  bool hide_faces = false;
};

// Errors  ClipUnreadable, CannotWrite; CannotJudge where faces are to be hidden and it is not known where they are;
//         Cancelled. Nothing half-written is left
Result<bool> stretchFilm(const coaching::Analysis& analysis, const coaching::Sketch& sketch, const StretchLook& look,
                         const std::filesystem::path& file, Task& task);

}  // namespace jib::drawing
