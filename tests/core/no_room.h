// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <sys/resource.h>

#include <csignal>

namespace jib::tests {

// While it lives the system refuses to let any file grow beyond a size: as a full disk does, at whatever write it
// comes to.
class NoRoom {
 public:
  explicit NoRoom(rlim_t most_bytes) {
    old_ = std::signal(SIGXFSZ, SIG_IGN);
    getrlimit(RLIMIT_FSIZE, &was_);
    const rlimit now{most_bytes, was_.rlim_max};
    setrlimit(RLIMIT_FSIZE, &now);
  }
  ~NoRoom() {
    setrlimit(RLIMIT_FSIZE, &was_);
    std::signal(SIGXFSZ, old_);
  }
  NoRoom(const NoRoom&) = delete;
  NoRoom& operator=(const NoRoom&) = delete;

 private:
  rlimit was_{};
  void (*old_)(int) = nullptr;
};

}  // namespace jib::tests
