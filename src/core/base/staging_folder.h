// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>

#include "core/base/folder_lock.h"

namespace jib {

// A new folder of our own in which something is put together before it has its name. It goes with the object; one whose
// program was killed goes with the next that is made in the same place under the same prefix. It is known by the lock
// in it, so that nobody else's folder of a like name is ever touched.
class StagingFolder {
 public:
  // Errors  CannotWrite
  static Result<StagingFolder> in(const std::filesystem::path& parent, const std::string& prefix);
  StagingFolder(StagingFolder&& other) noexcept;
  StagingFolder& operator=(StagingFolder&& other) noexcept;
  ~StagingFolder();

  // For what is to become `target`: inside it where it is there, beside it else. Errors  WrongUse when something lies
  // in `target` already; CannotWrite
  static Result<StagingFolder> forTarget(const std::filesystem::path& target, const std::string& prefix);
  // What programs that were killed left of them; in() does it too.
  static void sweep(const std::filesystem::path& parent, const std::string& prefix);
  // Where files go.
  const std::filesystem::path& path() const { return content_; }
  // What is in it becomes `target`, which is not there or is an empty folder. Where it is there, `last` is moved in
  // after everything else: without it what lies there is nothing yet.
  Result<bool> become(const std::filesystem::path& target, const std::string& last);

 private:
  StagingFolder(std::filesystem::path folder, FolderLock lock);
  std::filesystem::path folder_, content_;
  FolderLock lock_;
};

}  // namespace jib
