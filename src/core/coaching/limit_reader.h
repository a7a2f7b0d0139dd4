// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/coaching/style.h"
#include "core/coaching/toml_reader.h"

namespace jib::coaching {

// One limit as styles and topics write it. Throws TomlTrouble at what is missing, not known, or in the wrong unit.
Limit readLimit(const std::string& finding, TomlTable& table);

}  // namespace jib::coaching
