// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/progress.h"

#include <unistd.h>

#include <csignal>
#include <cstdio>

namespace jib::cli {
namespace {

Task* running = nullptr;  // the handler may only touch this; Task::cancel() is a store to an atomic

void interrupted(int) {
  if (running) running->cancel();
}

}  // namespace

std::unique_ptr<Task> terminalTask(const std::string& title, bool quiet) {
  std::unique_ptr<Task> task;
  if (quiet || !isatty(STDERR_FILENO)) {
    task = std::make_unique<Task>();
  } else {
    task = std::make_unique<Task>([title, last = -1](double fraction) mutable {
      const int percent = static_cast<int>(100 * fraction);
      if (percent == last) return;
      last = percent;
      std::fprintf(stderr, "\r%s %3d %%%s", title.c_str(), percent, percent >= 100 ? "\n" : "");
    });
  }
  running = task.get();
  std::signal(SIGINT, interrupted);
  std::signal(SIGTERM, interrupted);
  return task;
}

}  // namespace jib::cli
