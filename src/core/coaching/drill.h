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
  DrillPosture posture;  // of the figure that is drawn where there is no picture
  std::string picture;   // name of a JPEG beside the coach's own cards (DrillBook::pictureFile); empty: none
  std::string jpeg;      // its bytes; empty where it isn't there
  bool own = false;      // the coach's, or a shipped one as the coach changed it
};

// As data: resources/drills.toml, and drills.toml in a library's folder, written the same way.
class DrillBook {
 public:
  // Errors  CannotRead, BadData with file and line
  static Result<DrillBook> load(const std::filesystem::path& file);
  static Result<DrillBook> shipped();
  // The coach's own cards before the shipped ones; one of a shipped id replaces it. Own cards that cannot be read are
  // left out and told in trouble().
  static DrillBook forLibrary(const std::filesystem::path& folder);
  // Puts a card among the coach's own; `jpeg` and `picture` belong together. A card without an id gets one.
  // Errors  CannotWrite; CannotRead, BadData where the file that is there can't be read: it is not written over
  static Result<DrillCard> keep(const std::filesystem::path& folder, DrillCard card);
  // An own card goes, with its picture; a shipped one is as it came again. Errors  as keep
  static Result<bool> giveBack(const std::filesystem::path& folder, const std::string& id);
  static std::filesystem::path pictureFile(const std::filesystem::path& folder, const DrillCard& card);

  const std::vector<DrillCard>& cards() const { return cards_; }
  const std::string& trouble() const { return trouble_; }  // a sentence; empty: none
  // The card for what a cue says to do; the longest words that fit win. Null where there is none.
  const DrillCard* cardFor(std::string_view drill, lifts::LiftId lift) const;

 private:
  std::vector<DrillCard> cards_;
  std::string trouble_;
};

}  // namespace jib::coaching
