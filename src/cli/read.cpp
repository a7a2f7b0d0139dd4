// SPDX-License-Identifier: GPL-3.0-or-later
// What the program reads in a message; nothing is kept.
#include <CLI/CLI.hpp>
#include <cstdio>
#include <iostream>
#include <iterator>
#include <memory>

#include "cli/commands.h"
#include "cli/exit_codes.h"
#include "core/base/files.h"
#include "core/exchange/mail/field_reader.h"
#include "core/exchange/mail/mail.h"
#include "core/exchange/mail/reading_file.h"
#include "core/library/dates.h"

namespace jib::cli {
namespace {

struct ReadOptions {
  std::string message, unit, json;
};

// Words alone, or a whole mail: that has a line "From:" or "Subject:" before its first empty one.
bool isMail(std::string_view bytes) {
  const auto head = bytes.substr(0, std::min(bytes.find("\n\n"), bytes.find("\r\n\r\n")));
  for (const std::string_view name : {"From:", "Subject:", "Message-ID:", "MIME-Version:"})
    if (head.starts_with(name) || head.find("\n" + std::string(name)) != std::string_view::npos) return true;
  return false;
}

Result<int> run(const ReadOptions& o) {
  std::string bytes;
  if (o.message == "-") {
    bytes.assign(std::istreambuf_iterator<char>(std::cin), {});
  } else {
    auto read = FileSystem::real().read(o.message);
    if (!read) return fail(read.error());
    bytes = std::move(*read);
  }
  std::optional<MassUnit> unit;
  if (!o.unit.empty()) unit = o.unit == "lb" ? MassUnit::Pounds : MassUnit::Kilograms;
  std::string text = bytes, on = library::today();
  bool film = false;
  if (isMail(bytes)) {
    auto mail = exchange::readMail(bytes);
    if (!mail) return fail(mail.error());
    text = mail->subject + "\n" + mail->text;
    if (!mail->sent_on.empty()) on = mail->sent_on;
    film = !mail->clips.empty() || mail->film_lost || !mail->links.empty();
  }
  auto reading = exchange::readMessage(text, on, unit);
  reading.film_expected = reading.film_expected || film;
  const std::string json = exchange::readingToJson(reading);
  if (o.json == "-") {
    std::fwrite(json.data(), 1, json.size(), stdout);
    return kDone;
  }
  if (auto kept = writeWhole(FileSystem::real(), o.json, json); !kept) return fail(kept.error());
  return kDone;
}

}  // namespace

void addRead(CLI::App& app, int& status) {
  auto o = std::make_shared<ReadOptions>();
  CLI::App* command = app.add_subcommand("read", "Show what is read in a message; nothing is kept");
  command->add_option("message", o->message, "A message (.eml), a text, or - for standard input")->required();
  command->add_option("--unit", o->unit, "What this athlete's bare numbers count in")
      ->check(CLI::IsMember({"kg", "lb"}));
  command->add_option("--json", o->json, "The reading (JSON); - for standard output")->required();
  command->callback([o, &status] {
    const auto done = run(*o);
    status = done ? *done : complain(done.error());
  });
}

}  // namespace jib::cli
