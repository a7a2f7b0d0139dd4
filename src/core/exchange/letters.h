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
#include "core/exchange/mail.h"
#include "core/library/records.h"

namespace jib::exchange {

struct Letter {
  std::string subject, text;
};

// What a reply says in words; the film and the report go with it.
struct ReplyWords {
  std::string lift, date, greeting;
  std::vector<std::string> keep;
  std::vector<coaching::Cue> cues;
  bool change_nothing = false;
  std::vector<std::string> cautions;  // of this athlete (care.h)
};

// The coach's words ready to send, as data: resources/letters.toml, or the coach's own copy of it in the library's
// folder. `first_name` may be empty everywhere.
class LetterBook {
 public:
  // Errors  CannotRead, BadData with file and line
  static Result<LetterBook> load(const std::filesystem::path& file);
  static Result<LetterBook> forLibrary(const std::filesystem::path& library_folder);

  Letter receipt(std::string_view first_name) const;
  Letter missingFilm(std::string_view first_name, std::string_view reason) const;
  Letter askFor(std::string_view first_name, const std::vector<std::string>& titles) const;
  Letter referral(std::string_view first_name) const;
  // What failed about a clip, as words to send. Empty text when the clip is good enough.
  Letter filmAgain(std::string_view first_name, const coaching::ClipCheck& check) const;
  Letter reply(std::string_view first_name, const ReplyWords& words) const;

 private:
  using Words = std::vector<std::pair<std::string_view, std::string>>;
  Letter filled(const char* name, std::string_view first_name, const Words& words) const;
  std::map<std::string, Letter, std::less<>> letters_;
};

// A letter on its way: from the coach, to an address.
Mail addressed(const library::CoachCard& from, std::string to, Letter letter);

std::string firstNameOf(std::string_view name);

}  // namespace jib::exchange
