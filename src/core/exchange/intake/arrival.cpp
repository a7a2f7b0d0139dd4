// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/arrival.h"

#include <algorithm>
#include <cmath>
#include <sstream>

#include "core/base/ascii.h"
#include "core/base/quantity.h"
#include "core/exchange/intake/importer.h"
#include "core/exchange/mail/field_reader.h"
#include "core/footage/frame_reader.h"
#include "core/library/dates.h"
#include "core/lifts/which_lift.h"

namespace jib::exchange {
namespace {

using library::Library;
using library::Message;
using library::Submission;
using library::SubmissionKind;
using library::SubmissionState;
using library::ToldBy;

bool has(const Message& m, Field field) {
  return fieldNamed(m.fields, nameOf(field)) != nullptr;
}

bool saysPain(const Message& m) {
  const auto* pain = fieldNamed(m.fields, nameOf(Field::Pain));
  return pain && pain->value == "yes";
}

// An answer may stand inside what is quoted without marks: pain in there is proposed too. What our own letters say of
// pain is no answer.
void readUnmarked(const Mail& mail, Message& m) {
  if (mail.unmarked.empty() || has(m, Field::Pain)) return;
  std::string text;
  std::istringstream lines(mail.unmarked);
  for (std::string line; std::getline(lines, line);)
    if (line.find("If anything hurts") == std::string::npos && line.find("something hurts") == std::string::npos &&
        line.find("You mentioned pain") == std::string::npos && line.find("physical therapist") == std::string::npos)
      text += line + "\n";
  for (library::MessageField& f : proposedFields(text, m.received_on))
    if (f.field == nameOf(Field::Pain) && f.value == "yes") {
      f.words += " (in the quoted part)";
      m.fields.push_back(std::move(f));
    }
}

class Arrival {
 public:
  Arrival(Library& library, const Mail& mail, bool by_name) : library_(library), mail_(mail) { in_.by_name = by_name; }

  Result<Library::Incoming> made(const std::string& today) {
    Message& m = in_.message;
    m.key = mail_.key;
    m.mail_id = mail_.mail_id;
    m.from_name = mail_.from_name;
    m.from_address = mail_.from_address;
    m.subject = mail_.subject;
    m.received_on = mail_.sent_on.empty() ? today : mail_.sent_on;
    m.troubles = mail_.troubles;
    // What comes today from a phone whose clock is wrong is today's work: it would stand on top of everything for
    // years, or below it.
    constexpr int kOldest_days = 366;
    const auto age = library::daysBetween(m.received_on, today);
    if (!age || *age < -1 || *age > kOldest_days) {
      m.dated = std::exchange(m.received_on, today);
      m.troubles.push_back("Its date, " + library::spoken(m.dated) + ", can't be right: it counts as come today.");
    }
    m.body = mail_.text;
    m.quoted = mail_.quoted;
    m.contents = mail_.contents;
    const std::string said = m.subject + "\n" + m.body;
    m.fields = proposedFields(said, m.received_on);
    if (auto found = findSender(); !found) return fail(found.error());
    if (unit_) m.fields = proposedFields(said, m.received_on, unit_);
    readUnmarked(mail_, m);
    if (auto found = findThread(); !found) return fail(found.error());
    if (auto rows = mail_.clips.empty() ? wordsOnly() : films(); !rows) return fail(rows.error());
    return std::move(in_);
  }

 private:
  Result<bool> findSender() {
    Message& m = in_.message;
    if (auto coach = library_.coach()) in_.style = coach->style;
    const auto* said = fieldNamed(m.fields, nameOf(Field::Name));
    in_.athlete_name = !m.from_name.empty()     ? m.from_name
                       : said                   ? said->value
                       : m.from_address.empty() ? "Unknown athlete"
                                                : m.from_address.substr(0, m.from_address.find('@'));
    auto known = m.from_address.empty() ? Result<std::optional<library::AthleteId>>(std::nullopt)
                                        : library_.athleteAt(m.from_address);
    if (!known) return fail(known.error());
    if (m.from_address.empty() && in_.by_name) {
      auto all = library_.athletes();
      if (!all) return fail(all.error());
      for (const auto& a : *all)
        if (a.name == in_.athlete_name) *known = a.id;
    }
    sender_ = *known;
    if (sender_) {
      auto athlete = library_.athlete(*sender_);
      if (!athlete) return fail(athlete.error());
      unit_ = athlete->profile.unit;
    }
    return true;
  }

  Result<bool> findThread() {
    auto thread = sender_ ? library_.threadOf(*sender_, mail_.answers) : Result<std::string>(std::string());
    if (!thread) return fail(thread.error());
    answers_ours_ = !thread->empty();
    in_.message.thread = !thread->empty()         ? *thread
                         : !mail_.answers.empty() ? mail_.answers.front()
                                                  : in_.message.mail_id;
    return true;
  }

  Submission blank() const {
    const Message& m = in_.message;
    Submission s;
    s.received_on = m.received_on;
    s.message = m.body;
    s.lift.clear();
    s.variant.clear();
    if (const auto* lift = fieldNamed(m.fields, nameOf(Field::Lift))) {
      s.lift = lift->value;
      s.details.lift_by = ToldBy::Words;
      s.variant = lifts::usualVariant(s.lift);
    }
    if (const auto* variant = fieldNamed(m.fields, nameOf(Field::Variant)); variant && !s.lift.empty()) {
      s.variant = variant->value;
      s.details.variant_by = ToldBy::Words;
    }
    if (const auto* load = fieldNamed(m.fields, nameOf(Field::Load_kg))) {
      s.load_kg = numberFrom(load->value);
      if (!load->sure) s.details.load_said = load->said;
    }
    return s;
  }

  Result<bool> films() {
    auto waiting = waitingRow();
    if (!waiting) return fail(waiting.error());
    for (const MailPart& clip : mail_.clips) {
      Library::Incoming::Clip row{blank(), clip.file, std::nullopt};
      if (*waiting)
        if (auto joined = join(row, **waiting); !joined) return joined;
      waiting->reset();  // one row, one film
      row.submission.clip_name = clip.name;
      if (auto looked = look(row); !looked) return looked;
      // What the film turned out to be goes into the row that waits for it, too.
      if (row.join)
        row.join = [join = row.join, state = row.submission.state, reason = row.submission.reason](Submission& s) {
          join(s);
          s.state = state;
          s.reason = reason;
        };
      in_.clips.push_back(std::move(row));
    }
    return true;
  }

  // A film that is here already, or cannot be opened, says so in its row.
  Result<bool> look(Library::Incoming::Clip& row) {
    auto hash = contentHash(row.file);
    if (!hash) return fail(hash.error());
    auto same =
        sender_ ? library_.sameClip(*sender_, *hash) : Result<std::vector<Submission>>(std::vector<Submission>{});
    if (!same) return fail(same.error());
    if (!same->empty()) {
      row.submission.state = SubmissionState::Skipped;
      row.submission.reason = "The same clip came on " + same->front().received_on + ".";
    } else if (auto opened = footage::FrameReader::open(row.file, footage::Workers::One); !opened) {
      row.submission.state = SubmissionState::NeedsVideo;
      row.submission.reason = footage::toldOf(row.submission.clip_name, row.file, opened.error()).what;
    } else if (opened->info().cut_off) {
      in_.message.troubles.push_back(row.submission.clip_name +
                                     " was cut off on its way: its last part is missing. Ask for it to be sent again.");
    }
    return true;
  }

  // A message that names another lift or another load comes with another film than the one that is waited for.
  bool isOfAnotherSet(const Submission& waiting) const {
    const auto* lift = fieldNamed(in_.message.fields, nameOf(Field::Lift));
    const auto* load = fieldNamed(in_.message.fields, nameOf(Field::Load_kg));
    constexpr double kSame_kg = 0.6;  // a pound's rounding
    return (lift && !waiting.lift.empty() && lift->value != waiting.lift) ||
           (load && waiting.load_kg && std::abs(numberFrom(load->value).value_or(0) - *waiting.load_kg) > kSame_kg);
  }

  // The row that waits for this film: of this thread, else the only one this athlete has, not long ago.
  Result<std::optional<Submission>> waitingRow() {
    std::optional<Submission> found;
    if (!sender_) return found;
    auto all = library_.submissionsOf(*sender_);
    if (!all) return fail(all.error());
    constexpr int kNotLong_days = 21;
    std::vector<Submission> waiting;
    for (Submission& s : *all) {
      if (s.state != SubmissionState::AwaitingFilm || !s.clip_hash.empty()) continue;
      if (s.message_id) {
        auto asked = library_.message(*s.message_id);
        if (!asked) return fail(asked.error());
        if (!asked->thread.empty() && asked->thread == in_.message.thread) return std::optional(std::move(s));
      }
      if (isOfAnotherSet(s)) continue;
      if (const auto days = library::daysBetween(s.received_on, in_.message.received_on);
          days && *days <= kNotLong_days)
        waiting.push_back(std::move(s));
    }
    if (waiting.size() == 1 && !answers_ours_) found = std::move(waiting.front());
    return found;
  }

  // The row keeps what it knew; what the film's message says beyond that is added.
  Result<bool> join(Library::Incoming::Clip& row, Submission waiting) {
    if (waiting.message_id) {
      auto asked = library_.message(*waiting.message_id);
      if (!asked) return fail(asked.error());
      if (!asked->thread.empty()) in_.message.thread = asked->thread;
      // What was read, and confirmed, of the words it waited with goes along.
      for (const library::MessageField& f : asked->fields)
        if (!fieldNamed(in_.message.fields, f.field)) in_.message.fields.push_back(f);
    }
    row.into = waiting.id;
    row.join = [now = row.submission](Submission& s) {
      if (!now.message.empty()) s.message += (s.message.empty() ? "" : "\n\n") + now.message;
      if (!s.load_kg) {
        s.load_kg = now.load_kg;
        s.details.load_said = now.details.load_said;
      }
      if (s.lift.empty()) {
        s.lift = now.lift;
        s.variant = now.variant;
        s.details.lift_by = now.details.lift_by;
        s.details.variant_by = now.details.variant_by;
      }
      s.state = SubmissionState::New;
      s.kind = SubmissionKind::Clip;
      s.reason.clear();
    };
    return true;
  }

  Result<bool> wordsOnly() {
    const Message& m = in_.message;
    Submission s = blank();
    const bool asks = has(m, Field::Question);
    if (!mail_.links.empty())
      s.reason = "A link came instead of the clip: " + mail_.links.front();
    else if (mail_.film_lost)
      s.reason = mail_.troubles.front();
    else if (!answers_ours_ && !saysPain(m) && readMessage(m.subject + "\n" + m.body, m.received_on).film_expected)
      s.reason = "No clip was attached.";
    if (!s.reason.empty()) {
      s.state = SubmissionState::AwaitingFilm;
    } else {
      s.kind = asks ? SubmissionKind::Question : SubmissionKind::Note;
      s.lift.clear();
      s.variant.clear();
      s.load_kg.reset();
    }
    in_.clips.push_back({std::move(s), {}, std::nullopt});
    return true;
  }

  Library& library_;
  const Mail& mail_;
  Library::Incoming in_;
  std::optional<library::AthleteId> sender_;
  std::optional<MassUnit> unit_;  // the sender counts in
  bool answers_ours_ = false;     // it belongs to a thread that is known
};

}  // namespace

Result<Library::Incoming> arrivalOf(Library& library, const Mail& mail, const std::string& today, bool by_name) {
  return Arrival(library, mail, by_name).made(today);
}

}  // namespace jib::exchange
