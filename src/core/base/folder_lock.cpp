// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/folder_lock.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <cerrno>
#include <chrono>
#include <cstring>
#include <thread>
#include <utility>

namespace jib {
namespace {

int openFile(const std::filesystem::path& file) {
  return ::open(file.c_str(), O_RDWR | O_CREAT | O_CLOEXEC, 0600);
}

}  // namespace

Result<FolderLock> FolderLock::take(const std::filesystem::path& file, Task& task) {
  const int fd = openFile(file);
  if (fd < 0)
    return fail(ErrorCode::CannotWrite, "Cannot write " + file.string() + ": " + std::strerror(errno) + ".",
                "Check that the folder may be written to and has free space, then try again.");
  FolderLock lock(fd);
  // Asked again and again, since a blocking wait could not be cancelled.
  constexpr auto kAgain = std::chrono::milliseconds(15);
  while (::flock(fd, LOCK_EX | LOCK_NB) != 0) {
    if (task.cancelled()) return cancelled();
    std::this_thread::sleep_for(kAgain);
  }
  return lock;
}

std::optional<FolderLock> FolderLock::tryTake(const std::filesystem::path& file) {
  const int fd = openFile(file);
  if (fd < 0) return std::nullopt;
  FolderLock lock(fd);
  if (::flock(fd, LOCK_EX | LOCK_NB) != 0) return std::nullopt;
  return lock;
}

FolderLock::FolderLock(FolderLock&& other) noexcept : fd_(std::exchange(other.fd_, -1)) {}

FolderLock& FolderLock::operator=(FolderLock&& other) noexcept {
  std::swap(fd_, other.fd_);
  return *this;
}

FolderLock::~FolderLock() {
  if (fd_ >= 0) ::close(fd_);
}

}  // namespace jib
