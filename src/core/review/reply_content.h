// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "core/coaching/sketch.h"
#include "core/exchange/reports/report.h"
#include "core/review/takes.h"

namespace jib::review {

// How the reply's clip is held: beside each other on a monitor, upright on a phone with the words below, or square.
enum class FilmShape { Landscape, Portrait, Square };

// What film, page and letter of one reply say. All three are made from one of these.
struct ReplyContent {
  std::string athlete, coach;
  std::string filmed_on, written_on;  // ISO dates; empty when not known
  std::string load, greeting, closing;
  coaching::Sketch sketch;  // what the coach drew
  std::vector<std::string> keep;
  std::vector<coaching::Cue> cues;
  bool change_nothing = false;
  std::vector<exchange::FollowUp> follow_up;
  std::vector<std::string> pain;      // how to train around what hurts, a sentence each
  std::vector<std::string> week;      // how the weeks look, a line a day
  std::string next;                   // what to film next, and when
  std::vector<std::string> cautions;  // of this athlete; they stand before those every report carries
  bool all_numbers = false;           // the whole table goes along
  coaching::DrillBook drills;         // cards for what the cues say to do
  bool hide_faces = false;            // faces are blurred in film and stills
  FilmShape shape = FilmShape::Landscape;
  // The same set from another side, small in a corner of the film; null: none. Added to a time of the clip the offset
  // gives the same moment there.
  std::shared_ptr<const coaching::Analysis> second;
  double second_offset_s = 0;
  OwnSound own_sound = OwnSound::Low;  // of the clip, under what is said
  std::vector<Take> takes;             // talked through: then the film follows these, not the cues
  std::optional<double> most_mb;       // film, page and stills together, in millions of bytes
};

}  // namespace jib::review
