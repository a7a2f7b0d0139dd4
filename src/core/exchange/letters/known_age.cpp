// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters/known_age.h"

#include <cstdlib>

#include "core/base/quantity.h"
#include "core/exchange/mail/field_reader.h"

namespace jib::exchange {

library::Profile profileAsKnown(library::Library& library, const library::Athlete& athlete) {
  library::Profile known = athlete.profile;
  if (known.birth_year) return known;
  // Where the messages cannot be read nothing is known of an age; the review says so on its own.
  const auto told = library.messagesSaying(nameOf(Field::Age), athlete.id);
  if (!told) return known;
  for (const library::Message& m : *told)
    for (const library::MessageField& field : m.fields) {
      const auto age = field.field == nameOf(Field::Age) ? numberFrom(field.value) : std::nullopt;
      if (age && m.received_on.size() >= 4)
        known.birth_year = std::atoi(m.received_on.substr(0, 4).c_str()) - static_cast<int>(*age);
    }
  return known;
}

}  // namespace jib::exchange
