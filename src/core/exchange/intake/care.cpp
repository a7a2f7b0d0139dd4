// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/care.h"

#include "core/base/quantity.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/field_reader.h"

namespace jib::exchange {

Care careFor(const library::Profile& profile, const std::vector<library::MessageField>& fields,
             std::string_view on_iso) {
  constexpr double kGrown = 18;
  Care care;
  const auto* age = fieldNamed(fields, nameOf(Field::Age));
  care.minor = (age && numberFrom(age->value).value_or(kGrown) < kGrown) || isMinor(profile, on_iso).value_or(false);
  const auto* pain = fieldNamed(fields, nameOf(Field::Pain));
  care.pain = !profile.pain.empty() || (pain && pain->value == "yes");
  return care;
}

std::vector<std::string> careForCoach(const Care& care) {
  std::vector<std::string> all;
  if (care.minor)
    all.push_back("Under 18, as far as is known: light and supervised, no maximum testing, slower progress.");
  if (care.pain)
    all.push_back("Pain mentioned. Nothing here is a diagnosis: keep loads below what provokes it, and refer on.");
  return all;
}

std::vector<std::string> careForAthlete(const Care& care) {
  std::vector<std::string> all;
  if (care.minor)
    all.push_back(
        "As far as I know you're under 18, so keep it light, lift with someone experienced there, no maximum attempts, "
        "and build up in small steps. Make sure your parents know the plan.");
  if (care.pain)
    all.push_back(
        "You mentioned pain: stay below anything that brings it on, and see a physician or physiotherapist who knows "
        "lifting before you load it again. What I see in a clip is not a diagnosis.");
  return all;
}

}  // namespace jib::exchange
