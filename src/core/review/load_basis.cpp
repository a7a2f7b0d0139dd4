// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/load_basis.h"

namespace jib::review {

std::optional<coaching::BestRange> maxFromSet(const Session& session) {
  const library::Submission& s = session.submission();
  if (session.care().any() || !s.load_kg || !s.details.load_said.empty()) return std::nullopt;
  int reps = s.details.reps_said.value_or(0);
  // What was seen counts before what was said.
  if (session.analysis() && !session.analysis()->reps.empty()) reps = static_cast<int>(session.analysis()->reps.size());
  if (reps < 1) return std::nullopt;
  return coaching::bestFrom(*s.load_kg, reps, s.details.effort_said ? 10 - *s.details.effort_said : 0);
}

coaching::LoadBasis loadBasisOf(const Session& session) {
  coaching::LoadBasis basis;
  if (session.care().any()) return basis;
  const library::Submission& s = session.submission();
  basis.max_kg = session.athlete().profile.bestOf(session.lift().name);
  if (!basis.max_kg)
    if (const auto range = maxFromSet(session)) {
      basis.max_kg = range->least_kg;
      basis.max_estimated = true;
    }
  if (s.load_kg && s.details.load_said.empty()) basis.top_kg = s.load_kg;
  return basis;
}

}  // namespace jib::review
