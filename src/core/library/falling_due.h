// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "core/library/library.h"

namespace jib::library {

// A film that has been kept as long as was agreed, or as long as the coach keeps films. It goes only once the coach
// says so (Library::letFilmsGo).
struct DueFilm {
  Submission film;
  std::string athlete;  // name
  std::string why;      // a sentence
};

// Oldest first. Never one that still waits for an answer, nor one whose letter has not gone out.
Result<std::vector<DueFilm>> filmsDue(Library& library, const std::string& today_iso);

// Why a submission whose film was let go can't be opened, a sentence.
std::string filmGone(const Submission& submission);

inline constexpr int kLonger_days = 183;  // a film that the coach keeps falls due again half a year on

// They fall due again on that day. Errors  CannotWrite
Result<bool> keepLonger(Library& library, const std::vector<SubmissionId>& ids, const std::string& today_iso);

// What a removal frees on the disk, bytes.
std::uintmax_t sizeOf(const Library::Removal& removal);

}  // namespace jib::library
