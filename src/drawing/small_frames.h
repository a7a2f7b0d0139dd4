// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <filesystem>
#include <vector>

#include "core/base/result.h"
#include "core/base/task.h"

namespace jib::drawing {

// Frames of a clip as small pictures of one height, for strips and lists. A frame that cannot be decoded gives the
// nearest after it, or an empty picture at the end.
// at        frame numbers, rising
// Errors    ClipUnreadable; Cancelled
// Thread    any; it reads the file by itself
Result<std::vector<QImage>> smallFrames(const std::filesystem::path& clip, const std::vector<std::size_t>& at,
                                        int height_px, Task& task);

}  // namespace jib::drawing
