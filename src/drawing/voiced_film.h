// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/task.h"
#include "drawing/film_parts.h"

namespace jib::drawing {

// The clip as the coach talked through it: for each take the picture follows its plays while its sound is heard, a
// chapter a take. Takes of "cue 1" stand beside the words of the first cue. Sound and picture are cut from one clock:
// frame n of a take shows what stood on the screen at n / rate of its sound.
// Errors  ClipUnreadable of clip or sound, CannotWrite, Cancelled
Result<WrittenFilm> voicedFilm(const coaching::Analysis& analysis, const ReplyContent& content,
                               const std::vector<Stop>& stops, const std::filesystem::path& file, Task& task);

}  // namespace jib::drawing
