// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/exchange/letters/letters.h"
#include "core/library/library.h"

namespace jib::exchange {

// Something that goes out to an athlete.
struct Dispatch {
  Letter letter;
  std::string kind = "letter";  // or "reply"
  std::string to_name, to_address;
  std::optional<library::AthleteId> athlete;
  std::optional<library::SubmissionId> submission;  // it is about
  std::vector<std::string> answers;                 // Message-IDs it answers
  std::vector<std::filesystem::path> files;         // attached
};

// A letter as a ready .eml that no list speaks of yet.
struct Written {
  library::Outgoing listing;  // its place in the list
  WrittenMail mail;
};
// Errors  as of dispatch()
Result<Written> writeLetter(library::Library& library, const library::CoachCard& from, const Dispatch& dispatch,
                            const std::string& today_iso, FileSystem& disk = FileSystem::real());
// It stands in the list now, or it does not: it gets its name, or goes.
void settleLetter(const Written& written, bool listed, FileSystem& disk = FileSystem::real());

// Puts it into the library's outbox as a ready .eml, and into the list of what goes out.
// Errors  CannotRead, CannotWrite, those of the library; WrongUse when nobody has said who the coach is
Result<library::Outgoing> dispatch(library::Library& library, const library::CoachCard& from, const Dispatch& dispatch,
                                   const std::string& today_iso);

// Other words for a letter that still waits; what is attached stays. Its file is written whole or not at all.
// Errors  CannotRead, CannotWrite, BadData; WrongUse when it no longer waits
Result<bool> reword(library::Library& library, const library::Outgoing& outgoing, const std::string& text);

// What lies in the outbox folder and is in no list (of an older version, or of a program that was killed between the
// two) comes into it. Gives how many.
Result<int> listStrayMails(library::Library& library, const std::string& today_iso);

// The Message-IDs a letter about a submission answers: its thread, oldest first.
std::vector<std::string> answersFor(library::Library& library, const library::Submission& submission);

}  // namespace jib::exchange
