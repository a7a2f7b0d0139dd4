// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/coaching/drill_figure.h"
#include "core/lifts/lift.h"

namespace jib::coaching {

// One drill as it is handed to an athlete: what it is for, how to set it up, how much of it, and what must not happen.
struct DrillCard {
  std::string id, title;
  std::string purpose, setup, dose, must_not;
  std::vector<std::string> words;  // a drill whose text holds one of these is this one
  std::vector<lifts::LiftId> lifts;
  DrillPosture posture;  // of the picture
};

// As data: resources/drills.toml.
class DrillBook {
 public:
  // Errors  CannotRead, BadData with file and line
  static Result<DrillBook> load(const std::filesystem::path& file);
  static Result<DrillBook> shipped();

  const std::vector<DrillCard>& cards() const { return cards_; }
  // The card for what a cue says to do; the longest words that fit win. Null where there is none.
  const DrillCard* cardFor(std::string_view drill, lifts::LiftId lift) const;

 private:
  std::vector<DrillCard> cards_;
};

}  // namespace jib::coaching
