// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters/outbox.h"

#include <algorithm>

#include "core/exchange/letters/known_age.h"

namespace jib::exchange {
namespace fs = std::filesystem;

Result<Written> writeLetter(library::Library& library, const library::CoachCard& from, const Dispatch& d,
                            const std::string& today, FileSystem& disk) {
  if (from.name.empty() || from.address.empty())
    return fail(ErrorCode::WrongUse, "The program does not know yet who writes.",
                "Say your name and address under Settings; the letter stays as it is.");
  Mail mail = addressed(from, d.to_address, d.letter);
  mail.mail_id = newMailId();
  mail.answers = d.answers;
  if (d.athlete)
    if (const auto whose = library.athlete(*d.athlete))
      mail.copy_address = library::copyTo(profileAsKnown(library, *whose), today);
  auto written = writeInOutbox(library.folder() / "outbox", mail, d.files, disk);
  if (!written) return fail(written.error());
  library::Outgoing out;
  out.athlete = d.athlete;
  out.submission = d.submission;
  out.kind = d.kind;
  out.to_name = d.to_name;
  out.to_address = d.to_address;
  out.subject = d.letter.subject;
  out.file = written->file.filename().string();
  out.mail_id = mail.mail_id;
  out.made_on = today;
  return Written{std::move(out), std::move(*written)};
}

void settleLetter(const Written& written, bool listed, FileSystem& disk) {
  if (!listed) return disk.remove(written.mail.until_listed);
  // Where even this fails the next start of the program does it: the list speaks of it.
  (void)disk.rename(written.mail.until_listed, written.mail.file);
}

Result<library::Outgoing> dispatch(library::Library& library, const library::CoachCard& from, const Dispatch& d,
                                   const std::string& today) {
  auto written = writeLetter(library, from, d, today);
  if (!written) return fail(written.error());
  auto id = library.addOutgoing(written->listing);
  settleLetter(*written, id.has_value());
  if (!id) return fail(id.error());
  written->listing.id = *id;
  return written->listing;
}

Result<bool> reword(library::Library& library, const library::Outgoing& outgoing, const std::string& text) {
  if (outgoing.state != library::OutgoingState::Waiting)
    return fail(ErrorCode::WrongUse, "This one has gone to the mail app already.",
                "Put it back first, then change it.");
  const auto file = library.outgoingFile(outgoing);
  auto bytes = FileSystem::real().read(file);
  if (!bytes) return fail(bytes.error());
  auto anew = rewordMail(*bytes, text);
  if (!anew) return fail(anew.error());
  return writeWhole(FileSystem::real(), file, *anew);
}

Result<int> listStrayMails(library::Library& library, const std::string& today) {
  auto known = library.outgoing();
  if (!known) return fail(known.error());
  int found = 0;
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(library.folder() / "outbox", error)) {
    const std::string name = entry.path().filename().string();
    if (entry.path().extension() != ".eml" ||
        std::any_of(known->begin(), known->end(), [&](const library::Outgoing& o) { return o.file == name; }))
      continue;
    auto bytes = FileSystem::real().read(entry.path());
    auto mail = bytes ? readMail(*bytes) : Result<Mail>(fail(bytes.error()));
    if (!mail) continue;
    library::Outgoing out;
    if (auto whose = library.athleteAt(mail->to_address); whose && *whose) out.athlete = **whose;
    out.kind = mail->clips.empty() ? "letter" : "reply";
    out.to_address = mail->to_address;
    out.subject = mail->subject;
    out.file = name;
    out.mail_id = mail->mail_id;
    out.made_on = mail->sent_on.empty() ? today : mail->sent_on;
    if (auto id = library.addOutgoing(out); !id) return fail(id.error());
    ++found;
  }
  return found;
}

std::vector<std::string> answersFor(library::Library& library, const library::Submission& s) {
  std::vector<std::string> ids;
  if (!s.message_id) return ids;
  auto message = library.message(*s.message_id);
  if (!message) return ids;
  auto thread = library.thread(message->athlete, message->thread);
  if (thread)
    for (const auto& m : *thread)
      if (!m.mail_id.empty() && m.id != message->id) ids.push_back(m.mail_id);
  if (!message->mail_id.empty()) ids.push_back(message->mail_id);
  return ids;
}

}  // namespace jib::exchange
