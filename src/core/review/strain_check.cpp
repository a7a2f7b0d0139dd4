// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/strain_check.h"

#include "core/coaching/strain.h"
#include "core/exchange/letters/letters.h"

namespace jib::review {

std::string strainsToConfirm(const Session& session) {
  const exchange::Care& care = session.care();
  if (!care.any()) return {};
  std::string cues;
  for (const coaching::Cue& cue : session.choice().cues) {
    if (cue.after_meet) continue;  // not said now
    for (const coaching::Strain strain : coaching::strainsIn(cue))
      cues += (cues.empty() ? "“" : "; “") + (cue.wording.empty() ? cue.title : cue.wording) + "” asks for " +
              std::string(nameOf(strain));
  }
  for (const coaching::Strain strain : coaching::strainsIn(session.choice().week))
    cues += (cues.empty() ? "" : "; ") + std::string("their week asks for ") + std::string(nameOf(strain));
  if (cues.empty()) return {};
  const std::string who = exchange::firstNameOf(session.athlete().name);
  std::string why =
      care.pain ? who + (care.words.empty() ? " mentions pain" : " wrote: “" + care.words + "”") : who + " is under 18";
  return why + ". " + cues + ". Send it anyway? Press Send once more.";
}

}  // namespace jib::review
