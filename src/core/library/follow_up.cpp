// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/follow_up.h"

#include "core/library/dates.h"
#include "core/library/progress.h"

namespace jib::library {

std::vector<CueThread> threadsFor(const Submission& submission, const std::vector<coaching::Cue>& cues,
                                  const std::string& today_iso) {
  std::vector<CueThread> threads;
  for (const coaching::Cue& cue : cues) {
    CueThread t;
    t.athlete = submission.athlete;
    t.asked_in = submission.id;
    t.asked_on = today_iso;
    t.review_on = reviewDay(today_iso, cue.weeks);
    t.finding = cue.finding;
    t.title = cue.title;
    t.wording = cue.wording;
    t.measure = cue.measure;
    t.value_then = cue.value;
    t.sigma_then = cue.sigma;
    threads.push_back(std::move(t));
  }
  return threads;
}

std::vector<CueThread> measuredNow(std::vector<CueThread> threads, const Submission& submission,
                                   const coaching::Analysis& analysis, const coaching::Style& style) {
  for (CueThread& t : threads) {
    if (t.asked_in == submission.id || t.asked_on > submission.received_on || t.state == ThreadState::Dropped) continue;
    // A later film has already had its say.
    if (t.measured_in && *t.measured_in != submission.id && t.measured_on > submission.received_on) continue;
    if (t.measure.empty()) {  // followed by eye
      const auto seen = analysis.request.by_eye.find(t.finding);
      if (seen == analysis.request.by_eye.end()) continue;
      t.measured_in = submission.id;
      t.measured_on = submission.received_on;
      t.state = seen->second ? ThreadState::NotYet : ThreadState::Met;
      continue;
    }
    const coaching::Limit* limit = style.limit(t.finding);
    if (!limit) continue;
    const auto now = measuredFor(*limit, analysis.measures);
    if (!now) continue;
    t.value_now = now->value;
    t.sigma_now = now->sigma;
    t.measured_in = submission.id;
    t.measured_on = submission.received_on;
    t.state = progressOf(t, *now, *limit);
  }
  return threads;
}

}  // namespace jib::library
