// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/athlete_unit.h"

#include <algorithm>
#include <cmath>

#include "core/base/quantity.h"
#include "core/exchange/mail/read_field.h"

namespace jib::exchange {
bool waitsForUnit(const library::MessageField& f) {
  return !f.sure && !f.confirmed && !f.said.empty() && !f.said_in;
}

std::optional<OpenNumbers> openNumbers(const library::Athlete& athlete, const std::vector<library::Message>& messages) {
  if (athlete.profile.unit) return std::nullopt;
  OpenNumbers open;
  for (const library::Message& m : messages)
    for (const library::MessageField& f : m.fields) {
      if (!waitsForUnit(f) || std::find(open.said.begin(), open.said.end(), f.said) != open.said.end()) continue;
      open.said.push_back(f.said);
      // What the reader took it for: the value tells which unit it was read with.
      const auto pounds = kilogramsOf(f.said, MassUnit::Pounds);
      if (pounds && std::abs(*pounds - numberFrom(f.value).value_or(0)) < 0.1) open.guess = MassUnit::Pounds;
    }
  if (open.said.empty()) return std::nullopt;
  return open;
}

Result<bool> setAthleteUnit(library::Library& library, library::AthleteId athlete, MassUnit unit) {
  auto messages = library.messages(athlete);
  if (!messages) return fail(messages.error());
  for (const library::Message& m : *messages) {
    if (std::none_of(m.fields.begin(), m.fields.end(), waitsForUnit)) continue;
    auto read = library.editFields(m.id, [&](std::vector<library::MessageField>& fields) {
      for (library::MessageField& f : fields)
        if (waitsForUnit(f))
          if (const auto kg = kilogramsOf(f.said, unit)) {
            f.value = fieldNumber(*kg);
            f.sure = true;
          }
    });
    if (!read) return fail(read.error());
  }
  auto all = library.submissionsOf(athlete);
  if (!all) return fail(all.error());
  for (const library::Submission& s : *all) {
    if (s.details.load_said.empty()) continue;
    auto row = library.edit(s.id, [&](library::Submission& now) {
      if (const auto kg = kilogramsOf(now.details.load_said, unit)) now.load_kg = *kg;
      now.details.load_said.clear();
    });
    if (!row) return fail(row.error());
  }
  // Last: what failed half-way is still asked about, and done again.
  auto kept = library.edit(athlete, [&](library::Athlete& a) { a.profile.unit = unit; });
  if (!kept) return fail(kept.error());
  return true;
}

}  // namespace jib::exchange
