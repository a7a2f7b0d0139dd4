// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/exchange/reports/progress_page.h"
#include "core/library/library.h"

namespace jib::review {

// A frame that shows a number: which clip, when, and with which lines.
struct ProgressFrame {
  library::Submission film;
  double t_s = 0;
  lifts::Drawing drawing = lifts::Drawing::None;
};

// A progress page in words and numbers, with the frames its pictures are to be made of: then and now of each step.
struct ProgressDraft {
  exchange::ProgressPage page;
  std::vector<std::array<std::optional<ProgressFrame>, 2>> frames;  // one pair a step
};

// What was asked of an athlete and measured since, the latest first, one step a thing: four at most, so that it is
// read. Nothing of what is marked the coach's own; no meets of somebody under 18. Errors  those of the library;
// CannotJudge when nothing that was asked has been measured again
Result<ProgressDraft> progressOf(library::Library& library, library::AthleteId athlete, const std::string& today_iso);

}  // namespace jib::review
