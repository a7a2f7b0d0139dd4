// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/care.h"

#include <cstdlib>

#include "core/exchange/field_reader.h"
#include "core/exchange/importer.h"

namespace jib::exchange {

Care careFor(const library::Profile& profile, const std::vector<library::MessageField>& fields,
             std::string_view on_iso) {
  constexpr double kGrown = 18;
  Care care;
  const auto* age = fieldNamed(fields, nameOf(Field::Age));
  care.minor = (age && std::atof(age->value.c_str()) < kGrown) || isMinor(profile, on_iso).value_or(false);
  const auto* pain = fieldNamed(fields, nameOf(Field::Pain));
  care.pain = !profile.pain.empty() || (pain && pain->value == "yes");
  return care;
}

std::vector<std::string> careForCoach(const Care& care) {
  std::vector<std::string> all;
  if (care.minor)
    all.push_back("Under 18, as far as is known: light and supervised, no maximum testing, slower progress.");
  if (care.pain)
    all.push_back("Pain is mentioned. Nothing here is a diagnosis: stay below what sets it off, and refer.");
  return all;
}

std::vector<std::string> careForAthlete(const Care& care) {
  std::vector<std::string> all;
  if (care.minor)
    all.push_back(
        "You are not grown up yet, as far as I know: keep it light, with someone there who knows lifting, no maximum "
        "attempts, and small steps. Your parents should know of the plan.");
  if (care.pain)
    all.push_back(
        "You wrote of pain: stay below what sets it off, and see a physician or physiotherapist who knows lifting "
        "before you load it again. What I see on a film is no diagnosis.");
  return all;
}

}  // namespace jib::exchange
