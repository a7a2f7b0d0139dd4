// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/coaching/analysis.h"
#include "core/coaching/drill.h"

namespace jib::exchange {

struct ReportStill {
  std::string caption;
  std::string jpeg;     // the file's bytes
  std::size_t cue = 0;  // the place of the cue it shows; one cue may have several
};

// How something asked earlier has gone on, in words.
struct FollowUp {
  std::string asked_on, title, then, now, state;
  std::string measure;  // id of the number behind it; empty when it is followed by eye
};

// What an athlete reads, already in words. Nothing in it is meant for the coach or for the command line.
struct Report {
  std::string athlete, coach;
  std::string filmed_on, written_on;  // as people write them; empty when not known
  std::string lift, load, greeting, closing;
  std::vector<std::string> keep;
  std::vector<coaching::Cue> cues;
  bool change_nothing = false;
  std::vector<ReportStill> stills;            // in the order in which they are shown
  std::vector<std::optional<double>> film_s;  // of each cue: at which second of the reply's film it is spoken of
  std::vector<FollowUp> follow_up;
  std::vector<std::string> pain;      // how to train around what hurts, a sentence each
  std::vector<std::string> week;      // how the weeks look, a line a day
  std::string next;                   // what to film next, and when
  std::vector<std::string> cautions;  // of this athlete; they stand before those every report carries
  bool all_numbers = false;           // the whole table goes along
  coaching::DrillBook drills;         // cards for what the cues say to do
};

// What every athlete is told: rule book, pain, load, limits of one camera.
std::vector<std::string> standingCautions(const lifts::LiftDefinition& lift);

// A number that carries the reply: what it was, what it is, what is aimed at.
struct KeyNumber {
  std::string title, then, now, aim;
  bool doubtful = false;  // too close to its limit to tell from this clip
};
// Of the cues first, then of what was asked before; five at most.
std::vector<KeyNumber> keyNumbers(const Report& report, const coaching::Analysis& analysis);

// One self-contained HTML page, made to be read on a phone between sets and to be printed on A4: pictures inside, no
// network. What is good; what to try, each with its still, its words and the doubt about it; the few numbers behind it;
// what to film next. The whole table only when it is asked for, folded away.
std::string reportToHtml(const Report& report, const coaching::Analysis& analysis);

// The beginning of a page, up to its body, in the look that all of them have.
std::string pageHead(const std::string& title);

// Text as a page may hold it: <, >, & and quotes as entities.
std::string escaped(std::string_view text);
std::string base64(std::string_view bytes);

}  // namespace jib::exchange
