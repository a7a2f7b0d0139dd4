// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>

#include "core/library/records.h"

namespace jib::library {

// A review as the JSON text kept in the database, and back, exactly.
std::string reviewToJson(const Review& review);
Result<Review> reviewFromJson(std::string_view json);

// Cues as the list of a cues file (docs/formats.md).
std::string cuesToJson(const std::vector<coaching::Cue>& cues);
Result<std::vector<coaching::Cue>> cuesFromJson(std::string_view json);

}  // namespace jib::library
