// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/coaching/clip_check.h"
#include "core/coaching/cue.h"
#include "core/exchange/mail/mail.h"
#include "core/library/records.h"

namespace jib::exchange {

struct Letter {
  std::string subject, text;
};

// What a reply says in words; the film and the report go with it.
struct ReplyWords {
  std::string lift, date, greeting;  // the date is the film's, as people write it
  std::vector<std::string> keep;
  std::vector<coaching::Cue> cues;
  bool change_nothing = false;
  std::vector<std::string> cautions = {};  // of this athlete (care.h)
  std::string next = {};                   // what to film next, and when
  std::vector<std::string> pain = {};      // how to train around what hurts, a sentence each
  std::vector<std::string> week = {};      // how the weeks look, a line a day
  std::string closing = {};                // the coach's last words
};

// The coach's words ready to send, as data: resources/letters.toml, or the coach's own copy of it in the library's
// folder. `first_name` may be empty everywhere.
class LetterBook {
 public:
  // Errors  CannotRead, BadData with file and line
  static Result<LetterBook> load(const std::filesystem::path& file);
  static Result<LetterBook> forLibrary(const std::filesystem::path& library_folder);

  // Who signs; each letter below ends with it.
  LetterBook& signedBy(std::string coach);

  Letter receipt(std::string_view first_name) const;
  Letter missingFilm(std::string_view first_name, std::string_view reason) const;
  Letter askFor(std::string_view first_name, const std::vector<std::string>& titles) const;
  // `minor`: it asks to bring a parent or guardian in.
  Letter referral(std::string_view first_name, bool minor) const;
  // What goes along with a progress sheet.
  Letter progress(std::string_view first_name) const;
  // Only the greeting and the signature: the rest is the coach's.
  Letter blank(std::string_view first_name, std::string_view about) const;
  // What failed about a clip, as words to send. Empty text when the clip is good enough.
  Letter filmAgain(std::string_view first_name, const coaching::ClipCheck& check) const;
  Letter reply(std::string_view first_name, const ReplyWords& words) const;

 private:
  using Words = std::vector<std::pair<std::string_view, std::string>>;
  Letter filled(const char* name, const std::string& hi, const Words& words) const;
  std::map<std::string, Letter, std::less<>> letters_;
  std::string coach_;
};

// A letter on its way: from the coach, to an address.
Mail addressed(const library::CoachCard& from, std::string to, Letter letter);

std::string firstNameOf(std::string_view name);
// Whether words greet by themselves ("Hi Ines", "Nice week, Ines!"): then a letter does not greet once more.
bool greets(std::string_view words, std::string_view first_name);

}  // namespace jib::exchange
