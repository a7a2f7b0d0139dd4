// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QString>
#include <filesystem>
#include <string>
#include <vector>

#include "core/base/task.h"
#include "core/review/reply_content.h"

namespace jib::drawing {

using review::ReplyContent;

struct ReplyFiles {
  std::filesystem::path clip, html, pdf;
  std::vector<std::filesystem::path> stills;
  std::filesystem::path captions;  // WebVTT, of a film that is talked through and captioned; empty: there is none
  bool too_heavy = false;          // ReplyContent::most_mb could not be kept: the film is as light as can be watched
  // Of faces that are hidden: of how many people besides the lifter at most at once; nullopt where none are.
  std::optional<std::size_t> others_hidden;
};

// Writes the reply into a folder, its files named after athlete, lift and day (ines-calder-squat-2026-11-16.mp4): the
// clip framed on the lifter, with overlays, a slow part and a freeze with the cue's words at each evidence frame; the
// report as a page and as a PDF; the stills. The doubt about a verdict goes along into every word.
// Errors  ClipUnreadable, CannotWrite, Cancelled; what was begun is taken away again, and an earlier reply in the
// folder
//         stays as it was until the new one is whole
// Thread  any, but one call at a time needs a QGuiApplication for its fonts
Result<ReplyFiles> writeReply(const coaching::Analysis& analysis, const ReplyContent& content,
                              const std::filesystem::path& folder, Task& task);

// A page as a PDF of A4 sheets; its bytes.
std::string printedOnA4(const std::string& html, const QString& title);
// A picture as a file's bytes, as pages hold it.
std::string asJpeg(const QImage& image);

// The report's page as Qt's rich text can show and print it: its style sheet is for browsers. `picture_px`: how wide
// its pictures are.
QString forPaper(const std::string& html, int picture_px);

}  // namespace jib::drawing
