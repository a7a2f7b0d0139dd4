// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/coaching/topic.h"

namespace jib::cli {

// Sides as the command line takes them, "depth=full". Errors  WrongUse: names the topics or choices there are
Result<coaching::Switches> sidesFrom(const std::vector<std::string>& words);

}  // namespace jib::cli
