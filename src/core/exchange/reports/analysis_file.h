// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "core/base/files.h"
#include "core/coaching/analysis.h"

namespace jib::exchange {

// The analysis file of docs/formats.md: everything another program may want to know about a judged clip.
std::string analysisToJson(const coaching::Analysis& analysis);

// The style an analysis was judged in and the sides it took; an empty id when the file does not tell.
struct StyleName {
  std::string id;
  coaching::Switches switches;
};
StyleName styleNamedIn(const std::filesystem::path& file);

// Reads back what analysisToJson() wrote, far enough to reply to it: the tracing and the request are stored in it, the
// rest is made again under `style`.
// Errors  CannotRead, BadData
Result<coaching::Analysis> readAnalysis(const std::filesystem::path& file, const coaching::Style& style,
                                        const coaching::CueBook& book);

// Where the picture that was traced begins in the picture as it came: the files hold pixels of the latter, the borders
// of a clip that an app put between some included. Nothing where a person turned or stretched it.
// Frame  displayed pixels
PixelPoint cutAway(const footage::ClipInfo& clip);

// One line a frame: t, bar and landmarks in pixels, bar in metres, angles.
std::string tracksToCsv(const coaching::Analysis& analysis);

}  // namespace jib::exchange
