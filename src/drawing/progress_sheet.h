// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/base/task.h"
#include "core/review/progress_sheet.h"

namespace jib::drawing {

struct ProgressFiles {
  std::filesystem::path html, pdf;
};

// Draws the frames of a progress sheet, with the lines that show each number, and writes page and PDF into a folder,
// named after athlete and day. A frame that cannot be had any more leaves its place empty.
// Errors  CannotWrite, Cancelled. Thread  any; it opens the library by itself
Result<ProgressFiles> writeProgress(const std::filesystem::path& library_folder, review::ProgressDraft draft,
                                    const std::filesystem::path& folder, const std::string& today_iso, Task& task);

}  // namespace jib::drawing
