// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "core/library/library.h"
#include "core/library/records.h"

namespace jib::exchange {

// Whether what is known of an athlete asks for another flow: under 18, pain. Never what the pain is.
struct Care {
  bool minor = false, pain = false;
  std::string words;  // what they wrote of it, the latest
  std::string on;     // the day of that message, ISO; empty where it is not known
  // Nothing is chosen for the coach, and nothing deeper, paused, heavier or maximal is offered.
  bool any() const { return minor || pain; }
};

// What an athlete wrote about pain, in one message.
struct PainNote {
  std::string on;
  bool hurts = false;  // false: that nothing does
  std::string words;
  library::MessageId message{0};
};
using PainNotes = std::map<std::int64_t, std::vector<PainNote>>;  // by athlete, oldest first
Result<PainNotes> painNotes(library::Library& library, std::optional<library::AthleteId> athlete = {});

// The one place that says how careful to be with a submission: from the profile, from its own message, and from every
// message of the athlete's of four weeks before it or later, confirmed or not: caution does not wait for a
// confirmation, and pain told of today is pain when an older film is reviewed. A later message that says nothing hurts
// ends it, but for what the submission's own message says.
Care careFor(const library::Athlete& athlete, const library::Submission& submission, const std::vector<PainNote>& notes,
             const std::vector<library::MessageField>& own_fields);
Result<Care> careFor(library::Library& library, const library::Athlete& athlete, const library::Submission& submission);

// What the athletes of open submissions wrote of pain, by submission, as a queue shows it.
Result<std::map<std::int64_t, std::string>> openPain(library::Library& library,
                                                     const std::vector<library::Submission>& submissions,
                                                     const std::vector<library::Athlete>& athletes);

// For the coach, before anything is judged; and for the athlete, at the head of a reply's cautions. Sentences.
std::vector<std::string> careForCoach(const Care& care, const std::string& first_name);
std::vector<std::string> careForAthlete(const Care& care);

}  // namespace jib::exchange
