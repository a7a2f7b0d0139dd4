// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/field_reader.h"

#include "core/exchange/mail/pain_reader.h"
#include "core/exchange/mail/question_reader.h"
#include "core/exchange/mail/readings.h"

namespace jib::exchange {

const ReadField* find(const std::vector<ReadField>& fields, Field field) {
  for (const ReadField& f : fields)
    if (f.field == field) return &f;
  return nullptr;
}

Reading readMessage(std::string_view text, std::string_view received_on, std::optional<MassUnit> unit) {
  const Talk talk(text);
  Readings out(talk, unit);
  readLift(out);
  readSets(out);
  readPerson(out);
  readMeet(out, received_on);
  readMasses(out);
  readWords(out);
  Reading reading;
  if (auto pain = painIn(talk)) {
    reading.pain = pain->hurts;
    out.take(Field::Pain, pain->hurts ? "yes" : "no", pain->at, pain->at);
    if (pain->hurts) reading.pain_words = std::move(pain->words);
  }
  reading.questions = questionsIn(talk);
  for (const std::string& q : reading.questions) out.takeWords(Field::Question, q);
  reading.film_expected = expectsFilm(talk);
  reading.fields = out.done();
  for (ReadField& f : reading.fields)
    if (f.field == Field::Pain && reading.pain) f.words = reading.pain_words.front();
  return reading;
}

}  // namespace jib::exchange
