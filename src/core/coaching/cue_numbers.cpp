// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/cue_numbers.h"

#include <algorithm>

namespace jib::coaching {
namespace {

void lookUpOwn(Cue& cue, const Analysis& a) {
  const auto now = cue.measure.empty() ? std::nullopt : lifts::meanOf(cue.measure, a.measures);
  cue.known = now.has_value();
  cue.value = now ? now->value : 0;
  cue.sigma = now ? now->sigma : 0;
}

void lookUp(Cue& cue, const Finding* f, const CueEntry* entry, const lifts::LiftDefinition& lift) {
  cue.before_s = entry ? entry->before_s : 0;
  if (!f) {
    cue.known = false;
    cue.value = cue.sigma = 0;
    cue.basis = Basis::TooClose;
    return;
  }
  const lifts::MeasureDefinition* kind = f->kind;
  // The words of a proof are the book's as long as they are what the book makes of the numbers it was filled with.
  const lifts::MeasureDefinition* before = lifts::measureDefinition(lift, cue.measure);
  const bool of_the_book = entry && before && cue.proof == proofText(*entry, *before, cue.limit, cue.value);
  cue.basis = basisOf(*f);
  cue.known = kind != nullptr;
  cue.measure = kind ? std::string(kind->id) : std::string();
  cue.value = kind ? f->worst.value : 0;
  cue.sigma = kind ? f->worst.sigma : 0;
  if (!cue.frame_chosen) cue.t_s = f->worst.t_s;
  if (of_the_book && kind) {
    cue.limit = f->limit;
    cue.proof = proofText(*entry, *kind, cue.limit, cue.value);
  }
}

}  // namespace

std::vector<Cue> lookedUp(std::vector<Cue> cues, const Analysis& a, const CueBook& book) {
  for (Cue& cue : cues) {
    if (cue.own) {
      lookUpOwn(cue, a);
      continue;
    }
    const auto f =
        std::find_if(a.findings.begin(), a.findings.end(), [&](const Finding& one) { return one.id == cue.finding; });
    lookUp(cue, f == a.findings.end() ? nullptr : &*f, book.entry(cue.finding), lifts::definition(a.request.lift));
  }
  return cues;
}

}  // namespace jib::coaching
