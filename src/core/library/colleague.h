// SPDX-License-Identifier: GPL-3.0-or-later
// Several coaches on one library: who answers what, who stands in, and a second opinion.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace jib::library {

struct CoachCard;
struct Profile;
struct Submission;

// A coach who is away; an empty `until` means here.
struct Absence {
  std::string until;    // ISO date of the last day away
  std::string covered;  // by whom, by name; empty: by whoever gets to it
  friend bool operator==(const Absence&, const Absence&) = default;
};

// A coach who works in a library beside the one whose card it is. Known by name.
struct Colleague {
  std::string name, address;
  Absence absence = {};
  std::string signature = {};  // lines under the name in letters
  friend bool operator==(const Colleague&, const Colleague&) = default;
};

// What one coach asks of another about a clip. Stays in the house: no reply, letter or export holds it.
struct SecondOpinion {
  std::string by, of;  // who asks, and whom
  std::string question;
  std::string answer;  // empty: none yet
  friend bool operator==(const SecondOpinion&, const SecondOpinion&) = default;
};

// Everybody who coaches here, the card's own first; none without a name.
std::vector<std::string> coachesOf(const CoachCard& card);
// The card with the name and address of the one who sits there; the card itself where it names nobody like that.
CoachCard seated(const CoachCard& card, std::string_view who);

// What stands under a letter: the name, and the lines below it.
std::string signatureOf(const CoachCard& card);

// Who answers a clip today: its reviewer, else the athlete's coach, or who stands in for them. Empty: whoever gets to
// it.
std::string whoseTurn(const Submission& row, const Profile& athlete, const CoachCard& card, std::string_view today_iso);
// Whether it waits for `who` today: it is theirs or anybody's, or their opinion was asked and is still to come.
bool waitsFor(std::string_view who, const Submission& row, const Profile& athlete, const CoachCard& card,
              std::string_view today_iso);

}  // namespace jib::library
