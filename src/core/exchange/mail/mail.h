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

class Spool;

struct MailPart {
  std::string name;                 // as sent; made up from the kind of file when it came without one
  std::string bytes;                // of a message read or made in memory
  std::filesystem::path file = {};  // of a message read through a spool: where they lie
};

// One message as a person reads it.
struct Mail {
  std::string key;  // what it is known by: the SHA-256 of who wrote what when, and of its films. A second copy of a
                    // message that came by another way has the same key; another message with its Message-ID has not
  std::string mail_id;                  // its Message-ID; empty when it has none
  std::vector<std::string> answers;     // Message-IDs it answers: References and In-Reply-To, oldest first
  std::string from_name, from_address;  // the address in lower case
  std::string to_address;
  std::string copy_address;  // of a letter that is written: who gets a copy; empty: nobody
  std::string subject;
  std::string sent_on;                // ISO date; empty when it does not say
  std::string text;                   // the sender's own words, UTF-8, HTML made plain
  std::string quoted;                 // what it quotes of older messages; nothing is thrown away
  std::string unmarked;               // the part of it that bears no marks and may hold an answer
  std::vector<MailPart> clips;        // attachments that are films, zips opened
  std::vector<std::string> links;     // http and https, in the sender's own words
  std::vector<std::string> contents;  // what it held, part by part: "message", "film set.mp4", "picture left aside"
  std::vector<std::string> troubles;  // what could not be used, and why; sentences, of films before those of words
  bool film_lost = false;             // a film came, or may have come, that cannot be used
};

// "3 parts: message, film set.mp4, picture back.jpg left aside"; empty for a message of words only.
std::string contentsText(const std::vector<std::string>& contents);

// Reads one message (RFC 5322, MIME), attachments decoded. Works on whatever arrives: what cannot be used is said in
// `troubles`, and each part stands in `contents`.
// Errors  BadData when it is no message at all
// Thread  re-entrant
Result<Mail> readMail(std::string_view bytes);
// The same from a file, its attachments put into files of the spool: memory does not grow with what it holds. `mbox`:
// it is out of a mailbox file, where lines that begin with "From " bear a ">".
// Errors  as above; CannotRead, CannotWrite
Result<Mail> readMail(const std::filesystem::path& message, Spool& spool, bool mbox = false);

// A Message-ID nobody else has.
std::string newMailId();

// A message as the bytes of an .eml file. `files` are attached under their own names. A draft (`X-Unsent: 1`) opens in
// a mail program ready to send; without it the program shows a message that came.
// Errors  CannotRead for a file that is not there
enum class Draft { No, Yes };
Result<std::string> composeMail(const Mail& mail, const std::vector<std::filesystem::path>& files,
                                Draft draft = Draft::No);
// The same message with other words; what is attached, its Message-ID and its headers stay.
// Errors  BadData when it is no message, or has no words to change
Result<std::string> rewordMail(std::string_view bytes, const std::string& text);

// Writes a message into an outbox folder, whole or not at all. It bears `until_listed`, a name of this program's, until
// it stands in the list of what goes out, and is then to be called `file`: a message that no list speaks of must not be
// found there by another start.
// Errors  CannotRead, CannotWrite
struct WrittenMail {
  std::filesystem::path file, until_listed;
};
Result<WrittenMail> writeInOutbox(const std::filesystem::path& outbox, const Mail& mail,
                                  const std::vector<std::filesystem::path>& files,
                                  FileSystem& disk = FileSystem::real());

// Whether a file name, or a file's first bytes, are those of a film or of a zip.
bool looksLikeClip(std::string_view name, std::string_view first_bytes);
bool looksLikeZip(std::string_view first_bytes);

}  // namespace jib::exchange
