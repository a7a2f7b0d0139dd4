// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/consent.h"

#include <fmt/format.h>

#include "core/library/dates.h"
#include "core/library/records.h"

namespace jib::library {

bool hidesFaces(const Profile& profile, std::string_view today_iso) {
  return profile.hide_faces.value_or(isMinor(profile, today_iso).value_or(false));
}

std::string consentLack(const Profile& profile, std::string_view today_iso) {
  const bool minor = isMinor(profile, today_iso).value_or(false);
  if (!profile.consent.until.empty() && std::string_view(profile.consent.until) < today_iso)
    return fmt::format("Consent to keep clips ran out on {}.", spoken(profile.consent.until));
  if (!minor || !profile.consent.agreed_on.empty()) return {};
  return profile.guardian.name.empty() ? "Under 18, and no parent or guardian is on file."
                                       : fmt::format("{} hasn't agreed yet.", profile.guardian.name);
}

std::string copyTo(const Profile& profile, std::string_view today_iso) {
  return isMinor(profile, today_iso).value_or(false) ? profile.guardian.address : std::string();
}

}  // namespace jib::library
