// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/files.h"
#include "core/library/ids.h"
#include "core/review/takes.h"

namespace jib::review {

// What the coach has said over one submission's clip, chapter by chapter, in a folder of its own: the sounds, and a
// list in the form of `jib reply --voice`. While something is being recorded its picture's course is written beside it,
// line by line, so that a program that ends in the middle loses none of it.
class TakeShelf {
 public:
  explicit TakeShelf(std::filesystem::path folder) : folder_(std::move(folder)) {}
  static std::filesystem::path folderOf(const std::filesystem::path& library, library::SubmissionId submission);

  // Reads what is there. What was being recorded when a program ended becomes a take, unless its chapter has one;
  // sounds that nothing names are taken away. Errors  CannotRead, BadData; the folder stays as it is
  Result<bool> open(FileSystem& disk = FileSystem::real());
  const std::vector<Take>& takes() const { return takes_; }
  const Take* of(const std::string& chapter) const;

  // Where the next sound goes: a name that has never been used. Makes the folder. Errors  CannotWrite
  Result<std::filesystem::path> nextSound();
  // The course of the picture while a sound is recorded. Errors  CannotWrite
  static Result<bool> begin(const std::filesystem::path& sound, const std::string& chapter);
  static Result<bool> note(const std::filesystem::path& sound, const Play& play);

  // All takes, in the order in which they are shown; the list is written whole. Sounds that are no longer named stay
  // until the folder is opened the next time, so that this can be taken back. Errors  CannotWrite, nothing changed
  Result<bool> set(std::vector<Take> takes, FileSystem& disk = FileSystem::real());

 private:
  std::filesystem::path list() const { return folder_ / "takes.json"; }
  void recover();
  std::filesystem::path folder_;
  std::vector<Take> takes_;
};

// The list with a take in it: in the place of the one of its chapter, else where `chapters` has it.
std::vector<Take> withTake(std::vector<Take> takes, Take take, const std::vector<std::string>& chapters);
std::vector<Take> withoutTake(std::vector<Take> takes, const std::string& chapter);

}  // namespace jib::review
