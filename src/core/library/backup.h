// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/library/library.h"

namespace jib::library {

struct BackupSummary {
  std::size_t files = 0;
  std::uintmax_t bytes = 0;
  std::vector<std::string> missing = {};  // films and mails the library should hold and does not, as sentences
};

// The whole library in one zip file: the database as one consistent copy, films, mails, replies, inbox, outbox, the
// coach's own words, and a list of all files with their SHA-256 (contents.json). It gets its name when it has been read
// back and is whole; an older file of that name stays until then. What the database speaks of and the disk does not
// hold is said in `missing`. A library that can only be read is backed up too. Errors  WrongUse for a place inside the
// library; CannotRead, also when a folder cannot be looked through; CannotWrite;
//         Cancelled. Nothing is left of it then
Result<BackupSummary> backUp(Library& library, const std::filesystem::path& file, Task& task);

// Reads a backup whole and holds each file against the list. Errors  CannotRead, BadData with what is wrong
Result<BackupSummary> checkBackup(const std::filesystem::path& file, Task& task);

// Puts a backup into `folder`, which must not be there or be empty: unpacked beside it, checked, then renamed. Killed
// or cancelled half-way, `folder` is as it was. Errors  WrongUse when the folder holds something; those of checkBackup;
// CannotWrite
Result<BackupSummary> restore(const std::filesystem::path& file, const std::filesystem::path& folder, Task& task);

}  // namespace jib::library
