// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/coaching/plan.h"
#include "core/exchange/intake/care.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/letters/outbox.h"
#include "core/library/library.h"
#include "core/review/reply_content.h"
#include "core/review/session.h"
#include "core/review/takes.h"

namespace jib::review {

// What a reply is made from besides the session.
struct Surroundings {
  library::CoachCard coach;
  std::string to_address;                   // empty: it goes into a folder
  std::vector<std::string> answers;         // Message-IDs the letter answers
  std::vector<library::CueThread> earlier;  // what was asked of the athlete before
  exchange::Care care;
  std::vector<library::SetFilm> films;                                   // the other films of the set
  std::vector<std::shared_ptr<const coaching::Analysis>> film_analyses;  // of each of them; null: not measured
  std::string today;                                                     // ISO
  coaching::Rack rack = coaching::Rack::usual(MassUnit::Kilograms);      // what loads are made up from
  bool second_in_corner = true;   // another film of the set that was measured stands in a corner of the reply's
  std::optional<double> most_mb;  // what a reply may weigh; nullopt: anything
  FilmShape shape = FilmShape::Landscape;                                                       // of the reply's clip
  coaching::DrillBook drills = coaching::DrillBook::shipped().value_or(coaching::DrillBook{});  // cards of the cues
  OwnSound own_sound = OwnSound::Low;  // of the clip, under what is said
  std::vector<Take> takes;             // what the coach said over the clip; empty: it stops at each cue in silence
};

// A reply as it stood at one moment: everything that is written, sent and recorded is made from this, whatever the
// coach goes on to change. Never changed once it is made.
struct ReplyDraft {
  std::shared_ptr<const coaching::Analysis> analysis;
  ReplyContent content;
  library::CoachCard coach;
  exchange::Dispatch dispatch;      // the letter, without its files; no address: none is sent
  library::Library::Return record;  // without `over`, which is told when it is recorded
  std::string today;
  int revision = 0;  // of the session
};

// The content alone: what a reply would say and show now. The session holds an analysis.
ReplyContent contentOf(const Session& session, const Surroundings& around);
// Errors  those of the letters' file
Result<ReplyDraft> draftOf(const Session& session, const Surroundings& around, const exchange::LetterBook& letters);

}  // namespace jib::review
