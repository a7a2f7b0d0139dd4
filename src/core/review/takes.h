// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/result.h"

namespace jib::review {

// From a second of the sound on the picture stands at a time of the clip and runs on at a rate; 0 is a freeze.
struct Play {
  double at_s = 0, clip_t = 0, rate = 0;
  friend bool operator==(const Play&, const Play&) = default;
};

// What a take may be about beside "cue 1", "cue 2" and so on.
inline constexpr const char* kGoodChapter = "what's good";
inline constexpr const char* kNextChapter = "what's next";

// What the coach said over the clip in one go, and what was on the screen meanwhile.
struct Take {
  std::filesystem::path file;             // of the sound
  std::string chapter;                    // "cue 1"
  double start_s = 0;                     // in the reply's film; it never begins before the take ahead of it has ended
  std::vector<Play> plays;                // in order of at_s, a second of the whole sound
  double cut_start_s = 0, cut_end_s = 0;  // of the sound, left out at either end; the file stays whole
  std::string caption = {};               // what is said, typed by the coach; empty: no captions
  friend bool operator==(const Take&, const Take&) = default;
};

// How loud the clip itself is under the voice, where it runs at its own speed.
enum class OwnSound { Off, Low, Full };

// The moment of the clip that is shown at a second of a take as it is heard, after what is cut off its start. The first
// play holds before it, too.
double clipTimeAt(const Take& take, double at_s);
bool frozenAt(const Take& take, double at_s);

// {"takes": [{"file", "chapter", "start_s", "plays": [{"at_s", "clip_t", "rate"}], "cut_start_s", "cut_end_s",
// "caption"}]}, the last three where there is something to say; files beside it, unless absolute.
// Errors  CannotRead, BadData
Result<std::vector<Take>> takesFrom(const std::filesystem::path& file);

// The same as text, each file by its name alone: the list lies beside them.
std::string takesToJson(const std::vector<Take>& takes);

}  // namespace jib::review
