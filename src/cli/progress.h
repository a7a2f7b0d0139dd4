// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <string>

#include "core/base/task.h"

namespace jib::cli {

// A task that shows its progress on standard error when that is a terminal, and is cancelled by an interrupt.
std::shared_ptr<Task> terminalTask(const std::string& title, bool quiet);

}  // namespace jib::cli
