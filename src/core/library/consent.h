// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

namespace jib::library {

struct Profile;

// What an athlete has agreed to; of somebody under 18, what a parent or guardian has.
struct Consent {
  std::string agreed_on;     // ISO date; empty: not asked yet
  std::string until;         // ISO date; empty: until they say otherwise
  bool show_others = false;  // in the coach's own club
  bool teaching = false;     // in courses and talks
  friend bool operator==(const Consent&, const Consent&) = default;
};

// Who looks after an athlete under 18.
struct Guardian {
  std::string name, address;  // of mail; letters to the athlete go there as well
  friend bool operator==(const Guardian&, const Guardian&) = default;
};

// Whether faces are blurred in whatever leaves the house: as the coach says, else of everybody under 18.
bool hidesFaces(const Profile& profile, std::string_view today_iso);

// What is missing or has run out, as a sentence for the coach; empty: nothing.
std::string consentLack(const Profile& profile, std::string_view today_iso);

// Where copies of letters to this athlete go; empty: nowhere.
std::string copyTo(const Profile& profile, std::string_view today_iso);

}  // namespace jib::library
