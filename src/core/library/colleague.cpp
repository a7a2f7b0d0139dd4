// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/colleague.h"

#include <algorithm>

#include "core/library/records.h"

namespace jib::library {
namespace {

// Of a coach the card names; nullptr of anybody else.
const Absence* absenceOf(const CoachCard& card, std::string_view who) {
  if (who == card.name) return &card.absence;
  const auto it =
      std::find_if(card.colleagues.begin(), card.colleagues.end(), [&](const Colleague& c) { return c.name == who; });
  return it == card.colleagues.end() ? nullptr : &it->absence;
}

}  // namespace

std::vector<std::string> coachesOf(const CoachCard& card) {
  std::vector<std::string> all;
  if (!card.name.empty()) all.push_back(card.name);
  for (const Colleague& c : card.colleagues)
    if (!c.name.empty()) all.push_back(c.name);
  return all;
}

CoachCard seated(const CoachCard& card, std::string_view who) {
  CoachCard out = card;
  for (const Colleague& c : card.colleagues)
    if (c.name == who && !who.empty()) {
      out.name = c.name;
      out.address = c.address;
      out.signature = c.signature;
    }
  return out;
}

std::string signatureOf(const CoachCard& card) {
  return card.signature.empty() ? card.name : card.name + "\n" + card.signature;
}

std::string whoseTurn(const Submission& row, const Profile& athlete, const CoachCard& card,
                      std::string_view today_iso) {
  std::string who = row.details.reviewer.empty() ? athlete.coach : row.details.reviewer;
  // Who stands in may be away as well; after as many steps as there are coaches they stand in for one another.
  for (std::size_t step = 0; step <= card.colleagues.size(); ++step) {
    const Absence* absence = absenceOf(card, who);
    if (!absence) return {};  // nobody, or somebody who coaches here no more
    if (absence->until < today_iso) return who;
    who = absence->covered;
  }
  return {};
}

bool waitsFor(std::string_view who, const Submission& row, const Profile& athlete, const CoachCard& card,
              std::string_view today_iso) {
  const auto& asked = row.details.second_opinion;
  if (asked && asked->of == who && asked->answer.empty()) return true;
  const std::string turn = whoseTurn(row, athlete, card, today_iso);
  return turn.empty() || turn == who;
}

}  // namespace jib::library
