// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <opencv2/core/mat.hpp>
#include <vector>

#include "core/base/task.h"
#include "core/footage/frame_reader.h"

namespace jib::footage {

// Where a film was put together: a title card before the set, the front after the side, a closer look in the middle.
// Whatever follows a point, the bar or the room from picture to picture is lost at a cut, and two shots have no scale
// and no camera in common; so one of them is looked at. A cut is told where one picture does not look like the one
// before it, even moved about, much less so than pictures around it do, and the picture before does not come back
// within half a second. A card that fades into the film is told by its standing quite still.

// A picture made so small that people in it move little and the room is what remains: 32-bit float, kSmall.
cv::Mat smallPicture(const cv::Mat& gray);
inline constexpr int kSmallWidth = 48, kSmallHeight = 27;

// The shots of a film, in order; empty where it is one. `small`, `times_s`: one a frame.
std::vector<Shot> shotsOf(const std::vector<cv::Mat>& small, const std::vector<double>& times_s);

// Which of them to look at: the longest in which something moves.
int mainShot(const std::vector<Shot>& shots, const std::vector<cv::Mat>& small, const std::vector<double>& times_s);

// What of a film is film: the shot to look at and, in it, the part of the picture inside its borders. Decodes it once.
// Errors  those of the reader; Cancelled
Result<Upright> whatWasFilmed(FrameReader& reader, Task& task);

// A reader of just that, unless somebody has set the picture right already; nothing is kept.
Result<FrameReader> openFilmed(const std::filesystem::path& clip, Task& task);

}  // namespace jib::footage
