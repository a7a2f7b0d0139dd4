// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/exchange/mail/mail.h"

namespace jib::exchange {

class Spool;

// What an archive held.
struct Unpacked {
  std::vector<MailPart> clips;          // in files of the spool
  std::vector<std::string> left_aside;  // names of what is no film
};

// Takes the films out of a zip file, into files of the spool. Bounded: a message's archives together may unpack to
// 2 GB, and each may hold 200 files. Names are UTF-8; a film whose name cannot be read is called clip-N. What file
// managers add of their own (__MACOSX, .DS_Store) is passed over.
// Errors  BadData with what is wrong and what to do; CannotWrite
Result<Unpacked> clipsInZip(const std::filesystem::path& zip, Spool& spool);

}  // namespace jib::exchange
