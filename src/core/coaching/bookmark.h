// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/reading.h"
#include "core/motion/events.h"

namespace jib::coaching {

// What the coach noticed while the set ran, before any number was shown.
struct Bookmark {
  double t_s = 0;       // the frame on show when the key was pressed
  std::string word;     // as typed or picked; may be empty
  std::string finding;  // id of the finding whose title was picked; empty of the coach's own words
  friend bool operator==(const Bookmark&, const Bookmark&) = default;
};
using Bookmarks = std::vector<Bookmark>;

// How the measures stand to a bookmark.
enum class Echo {
  Agrees,       // a finding says the same, in that rep or over the set
  OtherRep,     // it does, of other reps
  TooClose,     // it is measured, and too close to call
  Disagrees,    // it is measured, and within the limit
  NotMeasured,  // no measure speaks of it
  Near,         // of own words: what was found about that moment
};

struct BookmarkEcho {
  Echo echo = Echo::NotMeasured;
  std::vector<const Finding*> findings;  // those it is about
};

// The coach's finger comes after the eye: what shows up to `kReaction_s` before a bookmark may be meant by it.
inline constexpr double kReaction_s = 1.5;

// Holds one bookmark against what was found.
BookmarkEcho echoOf(const Bookmark& bookmark, const std::vector<Finding>& findings, const lifts::SetMeasures& measures,
                    const std::vector<motion::Rep>& reps);

std::string bookmarksToJson(const Bookmarks& bookmarks);
Bookmarks bookmarksFromJson(std::string_view json);  // what cannot be read is left out

}  // namespace jib::coaching
