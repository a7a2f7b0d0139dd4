// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/coaching/asked.h"

#include <algorithm>

#include "core/base/ascii.h"

namespace jib::coaching {
namespace {

// Lower case, one blank between words and at both ends, apostrophes dropped: "My hips' rise" and "my hips rise" are
// one.
std::string plain(std::string_view text) {
  std::string out = " ";
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (c == '\'' || text.substr(i, 3) == "\xE2\x80\x99") {
      if (c != '\'') i += 2;
      continue;
    }
    const bool word = isAsciiLetter(c) || (c >= '0' && c <= '9') || static_cast<unsigned char>(c) >= 0x80;
    if (word)
      out += asciiLower(c);
    else if (out.back() != ' ')
      out += ' ';
  }
  if (out.back() != ' ') out += ' ';
  return out;
}

// All words of a phrase in their order, with up to two others between them: "knees are really caving".
bool says(const std::string& text, const std::string& phrase) {
  constexpr int kBetween = 2;
  const auto next = [](const std::string& s, std::size_t from) {
    const auto end = s.find(' ', from);
    return s.substr(from, end - from);
  };
  const std::string first = next(phrase, 0);
  for (auto at = text.find(" " + first + " "); at != std::string::npos; at = text.find(" " + first + " ", at + 1)) {
    std::size_t place = at + 1 + first.size() + 1, in = first.size() + 1;
    bool all = true;
    while (in < phrase.size() && all) {
      const std::string wanted = next(phrase, in);
      all = false;
      for (int skipped = 0; skipped <= kBetween && place < text.size(); ++skipped) {
        const std::string word = next(text, place);
        place += word.size() + 1;
        if (word != wanted) continue;
        all = true;
        break;
      }
      in += wanted.size() + 1;
    }
    if (all) return true;
  }
  return false;
}

}  // namespace

std::vector<std::string> askedAbout(std::string_view message, lifts::LiftId lift, const CueBook& book) {
  const std::string text = plain(message);
  std::vector<std::string> found;
  for (const CueEntry* e : book.all(lift))
    if (std::any_of(e->asked.begin(), e->asked.end(), [&](const std::string& phrase) { return says(text, phrase); }))
      found.push_back(e->finding);
  return found;
}

std::vector<NotSeen> notSeen(const lifts::SetMeasures& measures, const std::vector<motion::Rep>& reps,
                             const Style& style, const lifts::LiftDefinition& lift, std::string_view variant,
                             const std::vector<std::string>& asked) {
  const std::string ours = std::string(lift.name) + ".";
  std::vector<NotSeen> all;
  for (const Limit& limit : style.limits) {
    if (!limit.finding.starts_with(ours) || !lifts::isOf(variant.empty() ? lift.usual : variant, limit.variant))
      continue;
    const lifts::NamedMeasure* absent = nullptr;
    bool known = false;
    const auto look = [&](const lifts::MeasureList& list) {
      const lifts::NamedMeasure* m = lifts::find(list, limit.measure);
      if (!m) return;
      known = known || m->measured();
      if (!absent) absent = m;
    };
    for (const auto& rep : measures.reps) look(rep);
    look(measures.set);
    if (known) continue;
    NotSeen n;
    n.finding = limit.finding;
    n.why = absent ? std::get<lifts::Absent>(absent->measure).reason : "This angle does not show it.";
    n.t_s = reps.empty() ? 0 : reps.front().bottom_t();
    n.asked = std::find(asked.begin(), asked.end(), limit.finding) != asked.end();
    all.push_back(std::move(n));
  }
  return all;
}

}  // namespace jib::coaching
