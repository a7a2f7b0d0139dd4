// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/result.h"

namespace jib::library {

// A wording that another coach handed on. It is offered with the coach's own, though it has not been said here yet.
struct BorrowedCue {
  std::string finding, title, wording, drill, from;
  friend bool operator==(const BorrowedCue&, const BorrowedCue&) = default;
};

// Kept in a library's folder as borrowed-cues.json. What cannot be read is as if nothing had been borrowed.
std::vector<BorrowedCue> borrowedCues(const std::filesystem::path& folder);
// These join the ones that are there; each wording of a finding once. Errors  CannotWrite
Result<bool> borrowCues(const std::filesystem::path& folder, const std::vector<BorrowedCue>& cues);

}  // namespace jib::library
