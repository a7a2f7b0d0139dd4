// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "core/library/library.h"

namespace jib::review {

// How a coach coaches, to hand to another one: a TOML file with the coach's own cues, the sides taken, and the files of
// the coach's own (limits, rules, letters, filming requests, styles, topics), word for word. Nothing of any athlete's
// is in it. Documented in docs/formats.md.
struct CoachingFile {
  struct OwnCue {
    std::string finding, title, wording, drill;
    friend bool operator==(const OwnCue&, const OwnCue&) = default;
  };
  std::string from;     // who made it; may be empty
  std::string made_on;  // ISO date
  std::vector<OwnCue> cues;
  coaching::Switches sides;
  std::map<std::string, std::string> files;  // by path in a library's folder: "limits.json", "styles/mine.toml"
};

// What there is in a library to hand on.
Result<CoachingFile> coachingOf(library::Library& library, const std::string& today_iso);
std::string coachingToToml(const CoachingFile& file);

// Every part is read by whoever will read it later, before anything is taken over.
// Errors  CannotRead; BadData with what cannot be read and where
Result<CoachingFile> readCoaching(const std::filesystem::path& file);

// What is taken over of it.
struct TakeOver {
  bool cues = true, sides = true;
  std::vector<std::string> files;  // keys of CoachingFile::files
};

// Cues join the coach's own. A file that was there is kept beside it as NAME.before-DATE.
// Errors  CannotWrite: what had been taken over by then stays
Result<bool> takeOver(library::Library& library, const CoachingFile& file, const TakeOver& what,
                      const std::string& today_iso);

// What a file of CoachingFile::files is for, in words: "limits you moved".
std::string whatIs(const std::string& file);

}  // namespace jib::review
