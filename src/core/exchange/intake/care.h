// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/library/records.h"

namespace jib::exchange {

// Whether what is known of an athlete asks for another flow: under 18, pain. Never what the pain is.
struct Care {
  bool minor = false, pain = false;
};

// From the profile and from what was read in a message, confirmed or not: caution does not wait for a confirmation.
Care careFor(const library::Profile& profile, const std::vector<library::MessageField>& fields,
             std::string_view on_iso);

// For the coach, before anything is judged; and for the athlete, at the head of a reply's cautions. Sentences.
std::vector<std::string> careForCoach(const Care& care);
std::vector<std::string> careForAthlete(const Care& care);

}  // namespace jib::exchange
