// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/progress.h"

#include <signal.h>
#include <unistd.h>

#include <atomic>
#include <cstdio>

namespace jib::cli {
namespace {

// The handler may only touch this; Task::cancel() is a store to an atomic.
std::atomic<Task*> running{nullptr};

void interrupted(int) {
  if (Task* task = running.load()) task->cancel();
}

}  // namespace

std::shared_ptr<Task> terminalTask(const std::string& title, bool quiet) {
  // An interrupt that comes when the work is over finds nothing to cancel.
  const auto over = [](Task* task) {
    running = nullptr;
    delete task;
  };
  std::shared_ptr<Task> task;
  if (quiet || !isatty(STDERR_FILENO)) {
    task.reset(new Task(), over);
  } else {
    task.reset(new Task([title, last = -1](double fraction) mutable {
                 const int percent = static_cast<int>(100 * fraction);
                 if (percent == last) return;
                 last = percent;
                 std::fprintf(stderr, "\r%s %3d %%%s", title.c_str(), percent, percent >= 100 ? "\n" : "");
               }),
               over);
  }
  running = task.get();
  // Without SA_RESTART: a call that waits is to come back, so that it is seen that nobody waits for it any more.
  struct sigaction on_interrupt {};
  on_interrupt.sa_handler = interrupted;
  sigaction(SIGINT, &on_interrupt, nullptr);
  sigaction(SIGTERM, &on_interrupt, nullptr);
  return task;
}

}  // namespace jib::cli
