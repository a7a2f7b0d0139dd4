// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace jib::review {

// A line of what is said, while it is said. Times in seconds of the film.
struct CaptionLine {
  double from_s = 0, to_s = 0;
  std::string text;
  friend bool operator==(const CaptionLine&, const CaptionLine&) = default;
};

inline constexpr std::size_t kCaptionLetters = 64;  // that are read at a glance

// Words that are said between two moments, cut where a sentence or a clause ends into lines of at most kCaptionLetters
// (a longer word stands alone); each stands for the share of the time that its letters have of all. Empty of no words.
std::vector<CaptionLine> captionLines(std::string_view words, double from_s, double to_s);
// The line that stands at a moment; empty: none.
std::string captionAt(const std::vector<CaptionLine>& lines, double at_s);

// The lines as a WebVTT file. Source  W3C, WebVTT: The Web Video Text Tracks Format
std::string toWebVtt(const std::vector<CaptionLine>& lines);

}  // namespace jib::review
