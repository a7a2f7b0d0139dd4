// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/review/where_faults_lie.h"

namespace jib::review {
namespace {

using library::ThreadState;

// What was asked before this clip, and what became of it.
void countAsked(const std::vector<library::CueThread>& threads, const library::Submission& now,
                coaching::LiesAsked& asked) {
  for (const auto& t : threads) {
    if (t.finding != asked.finding->id || t.asked_in == now.id || t.asked_on > now.received_on) continue;
    ++asked.asked_before;
    if (t.state == ThreadState::Met || t.state == ThreadState::Better) ++asked.helped;
  }
}

}  // namespace

std::map<std::string, std::vector<coaching::LiesHint>> whereFaultsLie(library::Library& library,
                                                                      const Session& session) {
  std::map<std::string, std::vector<coaching::LiesHint>> all;
  const auto a = session.analysis();
  if (!a) return all;
  const library::Submission& now = session.submission();
  const auto threads = library.threads(now.athlete).value_or(std::vector<library::CueThread>{});
  auto earlier = library.before(now).value_or(std::vector<library::Submission>{});
  constexpr std::size_t kLookedAt = 20;  // of the earlier ones: kit of years ago explains nothing
  if (earlier.size() > kLookedAt) earlier.erase(earlier.begin() + kLookedAt, earlier.end());
  std::vector<std::map<std::string, std::string>> verdicts;  // of each of those
  for (const auto& s : earlier)
    verdicts.push_back(library.findingsOf(s.id).value_or(std::map<std::string, std::string>{}));
  const auto ratio = library.measured(now.athlete, "thigh_to_trunk_ratio");
  for (const coaching::Finding& f : a->findings) {
    if (f.verdict != coaching::Verdict::Yes) continue;
    coaching::LiesAsked asked;
    asked.finding = &f;
    asked.reps = a->reps.size();
    asked.pain = session.care().pain;
    if (now.details.load_said.empty()) asked.load_kg = now.load_kg;
    if (!session.care().any()) asked.best_kg = session.athlete().profile.bestOf(now.lift);
    if (const auto shown = library.firstShown(now.athlete, f.id)) {
      asked.shown_kg = shown->shown_kg;
      asked.clean_kg = shown->clean_kg;
    }
    countAsked(threads, now, asked);
    asked.kit_now = now.details.kit;
    for (std::size_t i = 0; i < earlier.size() && asked.kit_clean.empty(); ++i)
      if (const auto it = verdicts[i].find(f.id); it != verdicts[i].end() && it->second == "no")
        asked.kit_clean = earlier[i].details.kit;
    if (ratio && !ratio->empty()) asked.thigh_to_trunk = ratio->back().measured;
    all[f.id] = coaching::whereItLies(asked);
  }
  return all;
}

}  // namespace jib::review
