// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>

#include "core/library/library.h"

namespace jib::library {

// Everything the library holds of one athlete, for the athlete to keep, in open formats:
// What the coach keeps for themselves (the notes about the athlete, bookmarks, reasons why a finding was dismissed)
// stays.
//   athlete.json   name, profile, addresses, messages with what was read from them, submissions with reviews,
//                  findings and tracings, what was asked and how it went on, what was written back
//   clips/         the films, one for each submission that has one
//   messages/      the mails as they came (.eml; .txt for words from a folder)
//   replies/       what was returned, a folder for each submission
//   letters/       what was written from the outbox (.eml)
// Made beside `folder` and moved there whole. Of two athletes with one name each has an export of its own.
// Errors  WrongUse when the folder holds something; CannotRead, CannotWrite, Cancelled
Result<bool> exportAthlete(Library& library, AthleteId id, const std::filesystem::path& folder, Task& task);

// A name for a folder or a file, of an athlete's or a film's: letters, digits, "-", "_" and "."; never empty, never one
// that leads elsewhere.
std::string folderNameFor(std::string_view name);

}  // namespace jib::library
