// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/files.h"
#include "core/base/result.h"

namespace jib::exchange {

struct MailPart {
  std::string name;  // as sent; made up from the kind of file when it came without one
  std::string bytes;
};

// One message as a person reads it.
struct Mail {
  std::string key;  // its Message-ID, else the SHA-256 of its bytes: the same message is the same key
  std::string from_name, from_address;  // the address in lower case
  std::string to_address;
  std::string subject;
  std::string sent_on;          // ISO date; empty when it does not say
  std::string text;             // the sender's own words, UTF-8: quoted older messages are left out, HTML is made plain
  std::vector<MailPart> clips;  // attachments that are films, zips opened
  std::vector<std::string> links;     // http and https
  std::vector<std::string> troubles;  // what could not be used, and why; sentences
};

// Reads one message (RFC 5322, MIME), attachments decoded. Works on whatever arrives: what cannot be used is said in
// `troubles`.
// Errors  BadData when it is no message at all
// Thread  re-entrant
Result<Mail> readMail(std::string_view bytes);

// A message ready to send, as the bytes of an .eml file. `files` are attached under their own names.
// Errors  CannotRead for a file that is not there
Result<std::string> composeMail(const Mail& mail, const std::vector<std::filesystem::path>& files);

// Writes a message into an outbox folder under a name of its own, whole or not at all; gives the file.
// Errors  CannotRead, CannotWrite
Result<std::filesystem::path> putInOutbox(const std::filesystem::path& outbox, const Mail& mail,
                                          const std::vector<std::filesystem::path>& files,
                                          FileSystem& disk = FileSystem::real());

// Whether a file name, or a file's first bytes, are those of a film or of a zip.
bool looksLikeClip(std::string_view name, std::string_view first_bytes);
bool looksLikeZip(std::string_view first_bytes);

}  // namespace jib::exchange
