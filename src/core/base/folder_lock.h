// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>

#include "core/base/result.h"
#include "core/base/task.h"

namespace jib {

// Holds a lock file of a folder as long as it lives, against other programs and other threads of this one. The system
// lets go of it when its holder dies, whatever way.
// Errors  CannotWrite when the file cannot be made; Cancelled while waiting
class FolderLock {
 public:
  // Waits until it is free.
  static Result<FolderLock> take(const std::filesystem::path& lock_file, Task& task);
  // nullopt when somebody else holds it, or it cannot be made.
  static std::optional<FolderLock> tryTake(const std::filesystem::path& lock_file);

  FolderLock(FolderLock&& other) noexcept;
  FolderLock& operator=(FolderLock&& other) noexcept;
  ~FolderLock();

 private:
  explicit FolderLock(int fd) : fd_(fd) {}
  int fd_;
};

}  // namespace jib
