// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/coaching/sketch.h"
#include "core/exchange/reports/report.h"

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
  std::string next;                   // what to film next, and when
  std::vector<std::string> cautions;  // of this athlete; they stand before those every report carries
  bool all_numbers = false;           // the whole table goes along
  FilmShape shape = FilmShape::Landscape;
};

}  // namespace jib::review
