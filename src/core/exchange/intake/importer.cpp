// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/importer.h"

#include <fmt/format.h>

#include <algorithm>
#include <cstdlib>
#include <fstream>

#include "core/base/ascii.h"
#include "core/exchange/intake/arrival.h"
#include "core/exchange/intake/watched_folder.h"
#include "core/exchange/letters/letters.h"
#include "core/exchange/letters/outbox.h"
#include "core/exchange/mail/field_reader.h"
#include "core/exchange/mail/mailbox.h"
#include "core/exchange/mail/spool.h"
#include "core/footage/frame_reader.h"

namespace jib::exchange {
namespace fs = std::filesystem;
using library::Library;

namespace {

// A message on its way in, from whatever it came in.
struct Parcel {
  Mail mail;
  fs::path original;  // as it came
};

class Receiver {
 public:
  Receiver(Library& library, std::string today, Spool spool)
      : library_(library), today_(std::move(today)), spool_(std::move(spool)) {}

  // Nobody else takes anything into this library while the lock is held.
  Result<FolderLock> lock(Task& task) { return FolderLock::take(library_.folder() / "import.lock", task); }

  Result<Parcel> open(const fs::path& original, bool mbox) {
    auto mail = readMail(original, spool_, mbox);
    if (!mail) return fail(mail.error());
    return Parcel{std::move(*mail), original};
  }

  Result<bool> takeIn(Parcel parcel, bool by_name, Task& task) {
    auto arrival = arrivalOf(library_, parcel.mail, today_, by_name);
    if (!arrival) return fail(arrival.error());
    arrival->original = parcel.original;
    const auto films = static_cast<int>(parcel.mail.clips.size());
    const library::Message m = arrival->message;
    auto id = library_.addMessage(std::move(*arrival), task);
    if (!id) return fail(id.error());
    if (!*id) {
      ++out_.known;
      return true;
    }
    ++out_.messages;
    out_.clips += films;
    const std::string who = m.from_name.empty() ? m.from_address : m.from_name;
    for (const std::string& t : m.troubles) out_.troubles.push_back(who + ": " + t);
    const bool more = std::any_of(m.contents.begin(), m.contents.end(), [](const std::string& part) {
      return !part.starts_with("message") && !part.starts_with("film ") && part != "the same as a page";
    });
    if (more) out_.accounts.push_back(who + ": " + contentsText(m.contents));
    if (films > 0 && !m.from_address.empty())
      if (auto sent = acknowledge(m); !sent) out_.troubles.push_back(sent.error().sentence());
    return true;
  }

  void refuse(const fs::path& what, const Error& why) {
    out_.troubles.push_back(what.filename().string() + ": " + why.sentence());
  }
  // Whether the disk takes anything at all: else there is no sense in going on with the next message.
  bool diskIsFull() {
    const fs::path probe = spool_.fresh("probe");
    const bool full = !FileSystem::real().write(probe, std::string(8192, 'x'));
    FileSystem::real().remove(probe);
    return full;
  }
  Spool& spool() { return spool_; }
  Received finish() { return std::move(out_); }

 private:
  // A receipt into the outbox, where the coach wants one for everything that comes.
  Result<bool> acknowledge(const library::Message& m) {
    auto coach = library_.coach();
    if (!coach) return fail(coach.error());
    if (!coach->send_receipts || coach->address.empty()) return false;
    auto letters = LetterBook::forLibrary(library_.folder());
    if (!letters) return fail(letters.error());
    auto athlete = library_.athleteAt(m.from_address);
    if (!athlete) return fail(athlete.error());
    Dispatch receipt;
    receipt.letter = letters->signedBy(library::signatureOf(*coach)).receipt(firstNameOf(m.from_name));
    receipt.to_name = m.from_name;
    receipt.to_address = m.from_address;
    receipt.athlete = *athlete;
    if (!m.mail_id.empty()) receipt.answers = {m.mail_id};
    if (auto put = dispatch(library_, *coach, receipt, today_); !put) return fail(put.error());
    ++out_.receipts;
    return true;
  }

  Library& library_;
  std::string today_;
  Spool spool_;
  Received out_;
};

bool mustStop(const Error& e, Receiver& receiver) {
  return e.code == ErrorCode::Cancelled || (e.code == ErrorCode::CannotWrite && receiver.diskIsFull());
}

// One message; nothing it holds, and no bug of ours, keeps the next from its turn.
Result<bool> takeOne(const fs::path& original, bool mbox, Receiver& receiver, Task& task) {
  try {
    auto parcel = receiver.open(original, mbox);
    if (!parcel) return fail(parcel.error());
    Task inner;
    if (task.cancelled()) return cancelled();
    return receiver.takeIn(std::move(*parcel), false, inner);
  } catch (const std::exception& e) {
    return fail(ErrorCode::BadData, std::string("Something went wrong inside the program: ") + e.what() + ".",
                "The message is kept as it came; ask for it to be sent again in another way.");
  }
}

Result<bool> receiveMailbox(const fs::path& mailbox, Receiver& receiver, Task& task) {
  auto entries = messagesOfMailbox(mailbox);
  if (!entries) return fail(entries.error());
  for (std::size_t k = 0; k < entries->size(); ++k) {
    receiver.spool().clear();
    auto lock = receiver.lock(task);
    if (!lock) return fail(lock.error());
    const fs::path original = receiver.spool().fresh(".eml");
    auto taken = copyStretch(mailbox, (*entries)[k], original);
    if (taken) taken = takeOne(original, true, receiver, task);
    if (!taken) {
      if (mustStop(taken.error(), receiver)) return taken;
      receiver.refuse(mailbox.filename().string() + ", message " + std::to_string(k + 1), taken.error());
    }
    task.report(static_cast<double>(k + 1) / static_cast<double>(entries->size()));
  }
  return true;
}

Result<bool> receiveMail(const fs::path& file, Receiver& receiver, Task& task) {
  std::ifstream in(file, std::ios::binary);
  std::string first(5, '\0');
  in.read(first.data(), 5);
  if (first == "From ") return receiveMailbox(file, receiver, task);
  receiver.spool().clear();
  auto lock = receiver.lock(task);
  if (!lock) return fail(lock.error());
  return takeOne(file, false, receiver, task);
}

std::vector<fs::path> entriesOf(const fs::path& folder, bool folders) {
  std::vector<fs::path> all;
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder, error)) {
    // Links lead out of what was handed over: to other people's files, or round in a circle.
    const auto kind = entry.symlink_status(error);
    const bool wanted = folders ? fs::is_directory(kind) : fs::is_regular_file(kind);
    if (wanted && entry.path().filename().string()[0] != '.') all.push_back(entry.path());
  }
  std::sort(all.begin(), all.end());
  return all;
}

// Moved within its Maildir; one of the same name that lies there already is not lost.
void move(const fs::path& message, const fs::path& to_folder, const char* flags) {
  std::error_code error;
  fs::create_directories(to_folder, error);
  fs::path to = to_folder / (message.filename().string() + flags);
  for (int n = 2; fs::exists(to, error); ++n)
    to = to_folder / (message.filename().string() + "-" + std::to_string(n) + flags);
  fs::rename(message, to, error);
}

Result<bool> receiveMaildir(const fs::path& maildir, Receiver& receiver, Task& task) {
  const std::vector<fs::path> files = entriesOf(maildir / "new", false);
  for (std::size_t k = 0; k < files.size(); ++k) {
    receiver.spool().clear();
    auto lock = receiver.lock(task);
    if (!lock) return fail(lock.error());
    std::error_code error;
    if (!fs::exists(files[k], error)) continue;  // another program has taken it
    const auto taken = takeOne(files[k], false, receiver, task);
    if (taken) {
      move(files[k], maildir / "cur", ":2,S");  // read: the flag says so
    } else {
      if (mustStop(taken.error(), receiver)) return taken;
      receiver.refuse(files[k], taken.error());
      if (taken.error().code == ErrorCode::BadData) move(files[k], maildir / "refused", "");
    }
    task.report(static_cast<double>(k + 1) / static_cast<double>(files.size()));
  }
  return true;
}

// Films and words as if they had come by mail from somebody of that name.
Result<Parcel> parcelFrom(const std::string& name, const std::vector<fs::path>& clips, const std::string& text,
                          Receiver& receiver) {
  Parcel parcel;
  parcel.mail.from_name = name;
  parcel.mail.text = text;
  std::string key = name + '\n' + text;
  for (const fs::path& clip : clips) {
    auto hash = contentHash(clip);
    if (!hash) return fail(hash.error());
    key += *hash;
    parcel.mail.clips.push_back({clip.filename().string(), {}, clip});
  }
  parcel.mail.key = "folder:" + sha256Of(key);
  parcel.original = receiver.spool().fresh(".txt");
  if (auto written = FileSystem::real().write(parcel.original, text); !written) return fail(written.error());
  return parcel;
}

// Words, from a file of a size that words have. A link is not followed: it would lead out of the folder, to anything
// that this program may read.
std::string textOf(const fs::path& file) {
  constexpr std::uintmax_t kLongest_bytes = 1 << 20;
  std::error_code error;
  if (!fs::is_regular_file(fs::symlink_status(file, error)) || fs::file_size(file, error) > kLongest_bytes || error)
    return {};
  auto bytes = FileSystem::real().read(file);
  return bytes ? *bytes : std::string();
}

std::string lowerExtension(const fs::path& file) {
  return asciiLower(file.extension().string());
}

// The text that has a film's name.
std::string textBeside(const fs::path& film) {
  for (const char* extension : {".txt", ".TXT", ".Txt"})
    if (std::string text = textOf(fs::path(film).replace_extension(extension)); !text.empty()) return text;
  return {};
}

Result<bool> receiveParcel(const std::string& name, const std::vector<fs::path>& clips, const std::string& text,
                           Receiver& receiver, Task& task) {
  receiver.spool().clear();
  auto lock = receiver.lock(task);
  if (!lock) return fail(lock.error());
  try {
    auto parcel = parcelFrom(name, clips, text, receiver);
    if (!parcel) return fail(parcel.error());
    return receiver.takeIn(std::move(*parcel), true, task);
  } catch (const std::exception& e) {
    return fail(ErrorCode::BadData, std::string("Something went wrong inside the program: ") + e.what() + ".",
                "Ask for it to be sent again in another way.");
  }
}

// Films with texts beside them. A text of a film's own name goes with that film; any other goes with all that have
// none.
Result<bool> receiveFolder(const fs::path& folder, int depth, Receiver& receiver, Task& task) {
  std::vector<fs::path> clips, together, left_aside;
  std::string common;
  const std::vector<fs::path> files = entriesOf(folder, false);
  for (const fs::path& file : files)
    if (looksLikeClip(file.filename().string(), {})) clips.push_back(file);
  for (const fs::path& file : files) {
    const std::string extension = lowerExtension(file);
    if (extension == ".eml" || extension == ".mbox") {
      if (auto taken = receiveMail(file, receiver, task); !taken) {
        if (mustStop(taken.error(), receiver)) return taken;
        receiver.refuse(file, taken.error());
      }
    } else if (extension == ".txt") {
      const bool own =
          std::any_of(clips.begin(), clips.end(), [&](const fs::path& c) { return c.stem() == file.stem(); });
      if (!own) common += textOf(file) + "\n";
    } else if (!looksLikeClip(file.filename().string(), {})) {
      left_aside.push_back(file);
    }
  }
  for (const fs::path& clip : clips) {
    if (task.cancelled()) return cancelled();
    const std::string text = textBeside(clip);
    if (text.empty()) {
      together.push_back(clip);
      continue;
    }
    if (auto taken = receiveParcel(folder.filename().string(), {clip}, text, receiver, task); !taken) {
      if (mustStop(taken.error(), receiver)) return taken;
      receiver.refuse(clip, taken.error());
    }
  }
  // One film that cannot be read keeps no other from coming in.
  std::erase_if(together, [&](const fs::path& clip) {
    auto readable = contentHash(clip);
    if (!readable) receiver.refuse(clip, readable.error());
    return !readable;
  });
  if (!together.empty() || !common.empty())
    if (auto taken = receiveParcel(folder.filename().string(), together, common, receiver, task); !taken) {
      if (mustStop(taken.error(), receiver)) return taken;
      receiver.refuse(folder, taken.error());
    }
  for (const fs::path& file : left_aside)
    receiver.refuse(file, {ErrorCode::BadData, "This is neither a clip nor a message. It was left out.", ""});
  constexpr int kDeepest = 4;
  for (const fs::path& inner : entriesOf(folder, true)) {
    if (depth >= kDeepest)
      receiver.refuse(inner, {ErrorCode::BadData, "Folders nested this deep are left aside.", "Add it by itself."});
    else if (auto taken = receiveFolder(inner, depth + 1, receiver, task); !taken)
      return taken;
  }
  return true;
}

// Where everything that comes goes first. Fails where the library takes nothing.
Result<Spool> spoolOf(const Library& library) {
  if (!library.readOnly().empty())
    return fail(ErrorCode::CannotWrite, library.readOnly(), "What waits is taken in once it can be kept.");
  return Spool::open(library.folder() / "incoming");
}

}  // namespace

const library::MessageField* fieldNamed(const std::vector<library::MessageField>& fields, std::string_view name) {
  for (const auto& f : fields)
    if (f.field == name) return &f;
  return nullptr;
}

std::vector<library::MessageField> proposedFields(std::string_view text, std::string_view received_on,
                                                  std::optional<MassUnit> unit) {
  std::vector<library::MessageField> all;
  for (const ReadField& f : readMessage(text, received_on, unit).fields)
    all.push_back({std::string(nameOf(f.field)), f.value, f.words, false, f.said, f.said_in, f.sure});
  return all;
}

Result<Received> receive(Library& library, const fs::path& source, const std::string& today, Task& task) {
  std::error_code error;
  const auto status = fs::status(source, error);
  if (!fs::exists(status)) return fail(ErrorCode::CannotRead, source.string() + " is not there.", "Check the path.");
  if (!fs::is_directory(status) && !fs::is_regular_file(status))
    return fail(ErrorCode::CannotRead, source.string() + " is no file and no folder.",
                "Hand over a message, a clip, or a folder of them.");
  auto spool = spoolOf(library);
  if (!spool) return fail(spool.error());
  Receiver receiver(library, today, std::move(*spool));
  Result<bool> done = true;
  if (fs::is_directory(status)) {
    const bool maildir = fs::is_directory(source / "new", error) && fs::is_directory(source / "cur", error);
    done = maildir ? receiveMaildir(source, receiver, task) : receiveFolder(source, 0, receiver, task);
  } else if (looksLikeClip(source.filename().string(), {})) {
    done = receiveParcel({}, {source}, {}, receiver, task);
  } else {
    done = receiveMail(source, receiver, task);
    if (!done && done.error().code == ErrorCode::BadData) {
      receiver.refuse(source, done.error());
      done = true;
    }
  }
  if (!done) return fail(done.error());
  return receiver.finish();
}

Result<Received> receiveFilms(Library& library, const std::vector<FoundFilm>& films, const std::string& today,
                              Task& task) {
  auto spool = spoolOf(library);
  if (!spool) return fail(spool.error());
  Receiver receiver(library, today, std::move(*spool));
  for (std::size_t k = 0; k < films.size(); ++k) {
    if (task.cancelled()) return cancelled();
    const FoundFilm& film = films[k];
    if (auto taken = receiveParcel(film.whose, {film.file}, textBeside(film.file), receiver, task); !taken) {
      if (mustStop(taken.error(), receiver)) return fail(taken.error());
      receiver.refuse(film.file, taken.error());
    }
    task.report(static_cast<double>(k + 1) / static_cast<double>(films.size()));
  }
  return receiver.finish();
}

}  // namespace jib::exchange
