// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/care.h"

#include "core/base/quantity.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/field_reader.h"
#include "core/library/dates.h"

namespace jib::exchange {
namespace {

constexpr int kStillSore_days = 28;  // what hurt a month ago may have passed; what hurt last week has not

}  // namespace

Result<PainNotes> painNotes(library::Library& library, std::optional<library::AthleteId> athlete) {
  auto messages = library.messagesSaying(nameOf(Field::Pain), athlete);
  if (!messages) return fail(messages.error());
  PainNotes notes;
  for (const library::Message& m : *messages)
    if (const auto* pain = fieldNamed(m.fields, nameOf(Field::Pain)))
      notes[m.athlete.number].push_back({m.received_on, pain->value == "yes", pain->words, m.id});
  return notes;
}

Care careFor(const library::Athlete& athlete, const library::Submission& submission, const std::vector<PainNote>& notes,
             const std::vector<library::MessageField>& own_fields) {
  constexpr double kGrown = 18;
  Care care;
  const auto* age = fieldNamed(own_fields, nameOf(Field::Age));
  care.minor = (age && numberFrom(age->value).value_or(kGrown) < kGrown) ||
               isMinor(athlete.profile, submission.received_on).value_or(false);
  care.pain = !athlete.profile.pain.empty();
  care.words = athlete.profile.pain;
  for (const PainNote& note : notes) {
    const int since = library::daysBetween(submission.received_on, note.on).value_or(0);
    if (since < -kStillSore_days) continue;
    if (!note.hurts && !athlete.profile.pain.empty()) continue;
    care.pain = note.hurts;
    care.words = note.hurts ? note.words : std::string();
    care.on = note.hurts ? note.on : std::string();
  }
  if (const auto* pain = fieldNamed(own_fields, nameOf(Field::Pain)); pain && pain->value == "yes" && !care.pain) {
    care.pain = true;
    care.words = pain->words;
    care.on = submission.received_on;
  }
  return care;
}

Result<Care> careFor(library::Library& library, const library::Athlete& athlete,
                     const library::Submission& submission) {
  auto notes = painNotes(library, athlete.id);
  if (!notes) return fail(notes.error());
  std::vector<library::MessageField> fields;
  if (submission.message_id) {
    auto message = library.message(*submission.message_id);
    if (!message) return fail(message.error());
    fields = std::move(message->fields);
  } else {
    fields = proposedFields(submission.message, submission.received_on);
  }
  // An age told in any message holds for every film, confirmed or not.
  if (!fieldNamed(fields, nameOf(Field::Age)) && !athlete.profile.birth_year) {
    auto told = library.messagesSaying(nameOf(Field::Age), athlete.id);
    if (!told) return fail(told.error());
    for (const library::Message& m : *told)
      if (const auto* age = fieldNamed(m.fields, nameOf(Field::Age))) fields.push_back(*age);
  }
  return careFor(athlete, submission, (*notes)[athlete.id.number], fields);
}

Result<std::map<std::int64_t, std::string>> openPain(library::Library& library,
                                                     const std::vector<library::Submission>& submissions,
                                                     const std::vector<library::Athlete>& athletes) {
  auto notes = painNotes(library);
  if (!notes) return fail(notes.error());
  std::map<std::int64_t, const library::Athlete*> who;
  for (const library::Athlete& a : athletes) who[a.id.number] = &a;
  std::map<std::int64_t, std::string> open;
  for (const library::Submission& s : submissions) {
    const auto athlete = who.find(s.athlete.number);
    const bool closed = s.state == library::SubmissionState::Returned || s.state == library::SubmissionState::Skipped;
    if (closed || athlete == who.end()) continue;
    // Its own message stands among the notes; a film that came without one may have words of its own.
    std::vector<library::MessageField> own;
    if (!s.message_id && !s.message.empty()) own = proposedFields(s.message, s.received_on);
    for (const PainNote& note : (*notes)[s.athlete.number])
      if (s.message_id && note.message == *s.message_id)
        own.push_back({std::string(nameOf(Field::Pain)), note.hurts ? "yes" : "no", note.words});
    const Care care = careFor(*athlete->second, s, (*notes)[s.athlete.number], own);
    if (care.pain) open[s.id.number] = care.words;
  }
  return open;
}

std::vector<std::string> careForCoach(const Care& care, const std::string& first_name) {
  std::vector<std::string> all;
  if (care.minor)
    all.push_back(first_name +
                  " is under 18, as far as we know: light and supervised, no maxing out, slower progress.");
  if (care.pain) {
    std::string text = first_name + " mentions pain";
    if (!care.on.empty()) text += " (" + library::spoken(care.on) + ")";
    if (!care.words.empty()) text += ": “" + care.words + "”";
    // A sentence of theirs ends itself.
    const char last = care.words.empty() ? 'n' : care.words.back();
    if (last != '.' && last != '!' && last != '?') text += ".";
    all.push_back(text +
                  " Cues are off until you decide. Keep loads below what sets it off, and refer; nothing here is "
                  "a diagnosis.");
  }
  return all;
}

std::vector<std::string> careForAthlete(const Care& care) {
  std::vector<std::string> all;
  if (care.minor)
    all.push_back(
        "As far as I know you're under 18, so keep it light, train with someone experienced in the room, no max "
        "attempts, and build up in small steps. Make sure your parents know the plan.");
  if (care.pain)
    all.push_back(
        "You mentioned pain: stay below anything that brings it on, and see a doctor or physical therapist who knows "
        "lifting before you load it again. What I see in a clip is not a diagnosis.");
  return all;
}

}  // namespace jib::exchange
