// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/importer.h"

#include <fmt/format.h>

#include <algorithm>
#include <cstdlib>

#include "core/exchange/field_reader.h"
#include "core/exchange/letters.h"
#include "core/footage/frame_reader.h"

namespace jib::exchange {
namespace fs = std::filesystem;
using library::Library;
using library::Submission;
using library::SubmissionState;

namespace {

// Clips on their way in lie here; what a killed import leaves is swept by the next.
class Waiting {
 public:
  explicit Waiting(const fs::path& library) : folder_(library / "incoming") {
    std::error_code ignored;
    fs::remove_all(folder_, ignored);
    fs::create_directories(folder_, ignored);
  }
  ~Waiting() {
    std::error_code ignored;
    fs::remove_all(folder_, ignored);
  }
  Result<fs::path> put(const std::string& name, const std::string& bytes) {
    const fs::path file = folder_ / (std::to_string(next_++) + fs::path(name).extension().string());
    if (auto written = FileSystem::real().write(file, bytes); !written) return fail(written.error());
    return file;
  }

 private:
  fs::path folder_;
  int next_ = 0;
};

std::optional<double> numberOf(const std::vector<library::MessageField>& fields, std::string_view name) {
  const auto* f = fieldNamed(fields, name);
  return f ? std::optional(std::strtod(f->value.c_str(), nullptr)) : std::nullopt;
}

// A message on its way in, from whatever it came in.
struct Parcel {
  Mail mail;
  std::string bytes;
  struct Clip {
    std::string name;
    fs::path file;
  };
  std::vector<Clip> clips;
};

class Receiver {
 public:
  Receiver(Library& library, std::string today)
      : library_(library), today_(std::move(today)), waiting_(library.folder()) {}

  Result<bool> takeIn(Parcel parcel, Task& task) {
    library::Library::Incoming in;
    in.bytes = std::move(parcel.bytes);
    library::Message& m = in.message;
    m.key = parcel.mail.key;
    m.from_name = parcel.mail.from_name;
    m.from_address = parcel.mail.from_address;
    m.subject = parcel.mail.subject;
    m.received_on = parcel.mail.sent_on.empty() ? today_ : parcel.mail.sent_on;
    m.body = parcel.mail.text;
    m.fields = proposedFields(m.subject + "\n" + m.body, m.received_on);
    m.troubles = parcel.mail.troubles;
    auto athlete = whose(m);
    if (!athlete) return fail(athlete.error());
    m.athlete = *athlete;
    for (const Parcel::Clip& clip : parcel.clips) {
      auto submission = submissionFor(m, clip);
      if (!submission) return fail(submission.error());
      in.clips.push_back({std::move(*submission), clip.file});
    }
    if (in.clips.empty()) noFilm(in, parcel.mail);
    const auto clips = static_cast<int>(
        std::count_if(in.clips.begin(), in.clips.end(), [](const auto& c) { return !c.file.empty(); }));
    const std::vector<std::string> troubles = m.troubles;
    const std::string who = m.from_name.empty() ? m.from_address : m.from_name;
    const std::string name = m.from_name, address = m.from_address;
    auto id = library_.addMessage(std::move(in), task);
    if (!id) return fail(id.error());
    if (!*id) {
      ++out_.known;
      return true;
    }
    ++out_.messages;
    out_.clips += clips;
    for (const std::string& t : troubles) out_.troubles.push_back(who + ": " + t);
    if (clips > 0 && !address.empty())
      if (auto sent = acknowledge(name, address); !sent) out_.troubles.push_back(sent.error().sentence());
    return true;
  }

  void refuse(const fs::path& what, const Error& why) {
    out_.troubles.push_back(what.filename().string() + ": " + why.sentence());
  }
  Result<fs::path> keep(const MailPart& clip) { return waiting_.put(clip.name, clip.bytes); }
  Received finish() { return std::move(out_); }

 private:
  // A receipt into the outbox, where the coach wants one for everything that comes.
  Result<bool> acknowledge(const std::string& name, const std::string& address) {
    auto coach = library_.coach();
    if (!coach) return fail(coach.error());
    if (!coach->send_receipts) return false;
    auto letters = LetterBook::forLibrary(library_.folder());
    if (!letters) return fail(letters.error());
    auto file =
        putInOutbox(library_.folder() / "outbox", addressed(*coach, address, letters->receipt(firstNameOf(name))), {});
    if (!file) return fail(file.error());
    ++out_.receipts;
    return true;
  }

  // By the address it came from; else a new athlete. One of the same name is proposed on the page, never taken
  // silently.
  Result<library::AthleteId> whose(const library::Message& m) {
    if (!m.from_address.empty()) {
      auto known = library_.athleteAt(m.from_address);
      if (!known) return fail(known.error());
      if (*known) return **known;
    }
    library::Athlete fresh;
    if (auto coach = library_.coach()) fresh.style = coach->style;
    const auto* said = fieldNamed(m.fields, nameOf(Field::Name));
    fresh.name = !m.from_name.empty()     ? m.from_name
                 : said                   ? said->value
                 : m.from_address.empty() ? "Unknown athlete"
                                          : m.from_address.substr(0, m.from_address.find('@'));
    if (m.from_address.empty()) {
      // A folder of the coach's own is named as the coach names people.
      auto all = library_.athletes();
      if (!all) return fail(all.error());
      for (const auto& a : *all)
        if (a.name == fresh.name) return a.id;
    }
    auto id = library_.addAthlete(fresh);
    if (!id) return fail(id.error());
    if (!m.from_address.empty())
      if (auto added = library_.addAddress(*id, m.from_address); !added) return fail(added.error());
    return *id;
  }

  Submission blank(const library::Message& m) const {
    Submission s;
    s.received_on = m.received_on;
    s.message = m.body;
    if (const auto* lift = fieldNamed(m.fields, nameOf(Field::Lift))) s.lift = lift->value;
    if (s.lift == "bench") s.variant = "paused";
    if (s.lift == "deadlift") s.variant = "conventional";
    if (const auto* variant = fieldNamed(m.fields, nameOf(Field::Variant))) s.variant = variant->value;
    s.load_kg = numberOf(m.fields, nameOf(Field::Load_kg));
    return s;
  }

  Result<Submission> submissionFor(const library::Message& m, const Parcel::Clip& clip) {
    Submission s = blank(m);
    s.clip_name = clip.name;
    auto hash = contentHash(clip.file);
    if (!hash) return fail(hash.error());
    auto same = library_.sameClip(m.athlete, *hash);
    if (!same) return fail(same.error());
    if (!same->empty()) {
      s.state = SubmissionState::Skipped;
      s.reason = "The same film came on " + same->front().received_on + ".";
    } else if (auto opened = footage::FrameReader::open(clip.file, footage::Workers::One); !opened) {
      s.state = SubmissionState::NeedsVideo;
      s.reason = opened.error().what;
    }
    return s;
  }

  // A message without a film waits for one, unless it is only words.
  void noFilm(library::Library::Incoming& in, const Mail& mail) const {
    Submission s = blank(in.message);
    s.state = SubmissionState::AwaitingFilm;
    const bool about_a_lift =
        fieldNamed(in.message.fields, nameOf(Field::Lift)) || fieldNamed(in.message.fields, nameOf(Field::Load_kg));
    if (!mail.links.empty())
      s.reason = "A link came instead of the film: " + mail.links.front();
    else if (!mail.troubles.empty())
      s.reason = mail.troubles.front();
    else if (about_a_lift)
      s.reason = "No film was attached.";
    else
      return;
    in.clips.push_back({std::move(s), {}});
  }

  Library& library_;
  std::string today_;
  Waiting waiting_;
  Received out_;
};

Result<Parcel> parcelFrom(std::string bytes, Receiver& receiver) {
  auto mail = readMail(bytes);
  if (!mail) return fail(mail.error());
  Parcel parcel{std::move(*mail), std::move(bytes), {}};
  for (MailPart& clip : parcel.mail.clips) {
    auto file = receiver.keep(clip);
    if (!file) return fail(file.error());
    parcel.clips.push_back({clip.name, *file});
    clip.bytes = {};
  }
  return parcel;
}

bool mustStop(const Error& e) {
  return e.code == ErrorCode::Cancelled || e.code == ErrorCode::CannotWrite;
}

// One message after the other; a bad one is said and passed over.
Result<bool> takeAll(const std::vector<std::string>& messages, const fs::path& source, Receiver& receiver, Task& task) {
  for (std::size_t k = 0; k < messages.size(); ++k) {
    if (task.cancelled()) return cancelled();
    auto parcel = parcelFrom(messages[k], receiver);
    if (!parcel) {
      if (mustStop(parcel.error())) return fail(parcel.error());
      receiver.refuse(source, parcel.error());
      continue;
    }
    Task inner;
    if (auto taken = receiver.takeIn(std::move(*parcel), inner); !taken) {
      if (mustStop(taken.error())) return taken;
      receiver.refuse(source, taken.error());
    }
    task.report(static_cast<double>(k + 1) / static_cast<double>(messages.size()));
  }
  return true;
}

// The lines "From " that begin a message stand at the start or behind an empty line.
std::vector<std::string> messagesOfMbox(const std::string& bytes) {
  std::vector<std::string> all;
  std::size_t begin = std::string::npos;
  for (std::size_t line = 0; line < bytes.size();) {
    const std::size_t end = std::min(bytes.find('\n', line), bytes.size());
    const bool mark = bytes.compare(line, 5, "From ") == 0 &&
                      (line < 2 || bytes[line - 2] == '\n' || bytes.compare(line - 3, 3, "\n\r\n") == 0);
    if (mark) {
      if (begin != std::string::npos) all.push_back(bytes.substr(begin, line - begin));
      begin = std::min(end + 1, bytes.size());
    }
    line = end + 1;
  }
  if (begin != std::string::npos) all.push_back(bytes.substr(begin));
  return all;
}

std::vector<fs::path> filesOf(const fs::path& folder) {
  std::vector<fs::path> files;
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder, error))
    if (entry.is_regular_file(error) && entry.path().filename().string()[0] != '.') files.push_back(entry.path());
  std::sort(files.begin(), files.end());
  return files;
}

Result<bool> receiveMaildir(const fs::path& maildir, Receiver& receiver, Task& task) {
  const std::vector<fs::path> files = filesOf(maildir / "new");
  for (std::size_t k = 0; k < files.size(); ++k) {
    auto bytes = FileSystem::real().read(files[k]);
    if (!bytes) {
      receiver.refuse(files[k], bytes.error());
      continue;
    }
    Task inner;
    if (task.cancelled()) return cancelled();
    if (auto taken = takeAll({std::move(*bytes)}, files[k], receiver, inner); !taken) return taken;
    // Read: moved from new to cur with the flag that says so.
    std::error_code error;
    fs::create_directories(maildir / "cur", error);
    fs::rename(files[k], maildir / "cur" / (files[k].filename().string() + ":2,S"), error);
    task.report(static_cast<double>(k + 1) / static_cast<double>(files.size()));
  }
  return true;
}

// Films with texts beside them. A text of a film's own name goes with that film; any other goes with all that have
// none.
Result<bool> receiveFolder(const fs::path& folder, Receiver& receiver, Task& task) {
  std::vector<fs::path> clips;
  std::string common;
  const auto textBeside = [&](const fs::path& clip) {
    fs::path text = clip;
    text.replace_extension(".txt");
    auto bytes = FileSystem::real().read(text);
    return bytes ? *bytes : std::string();
  };
  for (const fs::path& file : filesOf(folder)) {
    if (looksLikeClip(file.filename().string(), {})) clips.push_back(file);
    if (file.extension() != ".txt") continue;
    const bool own =
        std::any_of(clips.begin(), clips.end(), [&](const fs::path& c) { return c.stem() == file.stem(); });
    if (auto bytes = FileSystem::real().read(file); bytes && !own) common += *bytes + "\n";
  }
  Parcel together;
  const auto said = [&](Parcel& parcel, const std::string& text) {
    parcel.mail.text = text;
    parcel.mail.from_name = folder.filename().string();
    parcel.bytes = text;
    std::string key = text;
    for (const auto& c : parcel.clips)
      if (auto hash = contentHash(c.file)) key += *hash;
    parcel.mail.key = "folder:" + sha256Of(key);
  };
  for (const fs::path& clip : clips) {
    if (task.cancelled()) return cancelled();
    const std::string text = textBeside(clip);
    if (text.empty()) {
      together.clips.push_back({clip.filename().string(), clip});
      continue;
    }
    Parcel own;
    own.clips.push_back({clip.filename().string(), clip});
    said(own, text);
    if (auto taken = receiver.takeIn(std::move(own), task); !taken) return taken;
  }
  if (together.clips.empty() && common.empty()) return true;
  said(together, common);
  return receiver.takeIn(std::move(together), task);
}

}  // namespace

const library::MessageField* fieldNamed(const std::vector<library::MessageField>& fields, std::string_view name) {
  for (const auto& f : fields)
    if (f.field == name) return &f;
  return nullptr;
}

std::vector<library::MessageField> proposedFields(std::string_view text, std::string_view received_on) {
  std::vector<library::MessageField> all;
  for (const ReadField& f : readFields(text, received_on))
    all.push_back({std::string(nameOf(f.field)), f.value, f.words, false});
  return all;
}

Result<Received> receive(Library& library, const fs::path& source, const std::string& today, Task& task) {
  std::error_code error;
  const auto status = fs::status(source, error);
  if (!fs::exists(status)) return fail(ErrorCode::CannotRead, source.string() + " is not there.", "Check the path.");
  Receiver receiver(library, today);
  Result<bool> done = true;
  if (fs::is_directory(status)) {
    const bool maildir = fs::is_directory(source / "new", error) && fs::is_directory(source / "cur", error);
    done = maildir ? receiveMaildir(source, receiver, task) : receiveFolder(source, receiver, task);
  } else if (looksLikeClip(source.filename().string(), {})) {
    Parcel parcel;
    parcel.clips.push_back({source.filename().string(), source});
    if (auto hash = contentHash(source)) parcel.mail.key = "film:" + *hash;
    done = receiver.takeIn(std::move(parcel), task);
  } else {
    auto bytes = FileSystem::real().read(source);
    if (!bytes) return fail(bytes.error());
    const bool mbox = bytes->starts_with("From ");
    done = takeAll(mbox ? messagesOfMbox(*bytes) : std::vector{*bytes}, source, receiver, task);
  }
  if (!done) return fail(done.error());
  return receiver.finish();
}

}  // namespace jib::exchange
