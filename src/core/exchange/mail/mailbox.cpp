// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/mailbox.h"

#include <algorithm>
#include <fstream>
#include <regex>
#include <string>

#include "core/base/files.h"

namespace jib::exchange {
namespace {

// "From ines@tide.invalid Fri Nov 20 18:04:00 2026", the date as asctime writes it, a zone before or behind the year.
bool endsInDate(const std::string& line) {
  static const std::regex kDated(
      R"(^From .*(Mon|Tue|Wed|Thu|Fri|Sat|Sun),? +([A-Z][a-z]{2} +\d{1,2}|\d{1,2} +[A-Z][a-z]{2}) .*\d{4}.*)");
  return line.size() < 400 && std::regex_match(line, kDated);
}

bool isMailHeader(const std::string& line) {
  for (const char* name : {"From:", "To:", "Date:", "Subject:", "Message-ID:", "Message-Id:", "Received:",
                           "Return-Path:", "Delivered-To:", "MIME-Version:", "Content-Type:", "X-"})
    if (line.starts_with(name)) return true;
  return false;
}

// A line without its ending, however long it is: no more of it than a header needs is kept.
struct Line {
  std::string begin;
  std::uintmax_t at = 0, end = 0;
  bool empty = true;
};

class LineReader {
 public:
  explicit LineReader(std::istream& in) : in_(in) {}
  bool next(Line& line) {
    line = {{}, at_, at_, true};
    bool any = false;
    for (int c = in_.get(); c != std::istream::traits_type::eof(); c = in_.get()) {
      any = true;
      ++at_;
      if (c == '\n') break;
      if (c != '\r') {
        line.empty = false;
        if (line.begin.size() < 500) line.begin += static_cast<char>(c);
      }
    }
    line.end = at_;
    return any;
  }

 private:
  std::istream& in_;
  std::uintmax_t at_ = 0;
};

}  // namespace

Result<std::vector<MailboxEntry>> messagesOfMailbox(const std::filesystem::path& mailbox) {
  std::ifstream in(mailbox, std::ios::binary);
  if (!in)
    return fail(ErrorCode::CannotRead, "Cannot read " + mailbox.string() + ".", "Check the path and its permissions.");
  std::vector<MailboxEntry> all;
  LineReader reader(in);
  Line line, next;
  bool there = reader.next(line), after_gap = true;
  while (there) {
    const bool more = reader.next(next);
    const bool begins = after_gap && line.begin.starts_with("From ") &&
                        (line.at == 0 || endsInDate(line.begin) || (more && isMailHeader(next.begin)));
    if (begins) {
      if (!all.empty()) all.back().to = line.at;
      all.push_back({line.end, line.end});
    }
    after_gap = line.empty;
    if (!more && !all.empty()) all.back().to = line.end;
    there = more;
    line = std::move(next);
  }
  return all;
}

Result<bool> copyStretch(const std::filesystem::path& from, const MailboxEntry& stretch,
                         const std::filesystem::path& to) {
  std::ifstream in(from, std::ios::binary);
  in.seekg(static_cast<std::streamoff>(stretch.from));
  if (!in) return fail(ErrorCode::CannotRead, "Cannot read " + from.string() + ".", "Check the path.");
  std::ofstream out(to, std::ios::binary);
  std::string block(1 << 16, '\0');
  for (std::uintmax_t left = stretch.to - stretch.from; left > 0 && in;) {
    in.read(block.data(), static_cast<std::streamsize>(std::min<std::uintmax_t>(left, block.size())));
    out.write(block.data(), in.gcount());
    left -= static_cast<std::uintmax_t>(in.gcount());
  }
  out.close();
  if (!out)
    return fail(ErrorCode::CannotWrite, "There is no room to take the message in.",
                "Free some space on the disk; the message waits and nothing is lost.");
  makePrivate(to);
  return true;
}

}  // namespace jib::exchange
