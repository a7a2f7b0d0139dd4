// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/task.h"
#include "drawing/film_parts.h"

namespace jib::drawing {

// The clip from before its first rep to after its last, slowed down and stopped for each cue; a chapter for each.
// Errors  ClipUnreadable, CannotWrite, Cancelled
Result<WrittenFilm> replyFilm(const coaching::Analysis& analysis, const ReplyContent& content,
                              const std::vector<Stop>& stops, const std::filesystem::path& file, Task& task);

}  // namespace jib::drawing
