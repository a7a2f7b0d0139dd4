// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/task.h"
#include "core/coaching/analysis.h"
#include "core/exchange/report.h"

namespace jib::drawing {

struct ReplyContent {
  std::string athlete, date, load, greeting, style_title;
  std::vector<std::string> keep;
  std::vector<coaching::Cue> cues;
  bool change_nothing = false;
  std::vector<exchange::FollowUp> follow_up;
  std::vector<std::string> cautions;  // of this athlete; they stand before those every report carries
};

struct ReplyFiles {
  std::filesystem::path clip, html, pdf;
  std::vector<std::filesystem::path> stills;
};

// Writes the reply into a folder: reply.mp4 (the clip with overlays, a slow part and a freeze with the cue's words at
// each evidence frame), report.html and report.pdf with stills, and the stills themselves.
// Errors  ClipUnreadable, CannotWrite, Cancelled; what was begun is taken away again, and an earlier reply in the
// folder
//         stays as it was until the new one is whole
// Thread  any, but one call at a time needs a QGuiApplication for its fonts
Result<ReplyFiles> writeReply(const coaching::Analysis& analysis, const ReplyContent& content,
                              const std::filesystem::path& folder, Task& task);

}  // namespace jib::drawing
