// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "core/base/files.h"
#include "core/base/task.h"
#include "core/coaching/analysis.h"
#include "core/coaching/load_speed.h"
#include "core/library/records.h"

namespace jib::library {

// The coach's records in one folder: library.sqlite and media/ with every clip under its content hash.
// Every call is one transaction: it has happened whole when it returns, or not at all. Killing the program at any
// moment loses at most the call under way. Errors  CannotRead (not a library, newer than this program, damaged: with
// what to do), CannotWrite Thread  one thread a Library; open another on the same folder elsewhere
class Library {
 public:
  static constexpr int kSchema = 5;

  // Opens or makes the library in `folder`. An older schema is copied beside itself first, then migrated.
  static Result<Library> open(const std::filesystem::path& folder, FileSystem& disk = FileSystem::real());
  Library(Library&&) noexcept;
  Library& operator=(Library&&) noexcept;
  ~Library();

  const std::filesystem::path& folder() const;

  Result<AthleteId> addAthlete(const Athlete& athlete);
  Result<bool> updateAthlete(const Athlete& athlete);
  Result<std::vector<Athlete>> athletes();
  Result<Athlete> athlete(AthleteId id);
  // Forgets the athlete and all that came from them, media too when nobody else's submission uses it.
  Result<bool> removeAthlete(AthleteId id);

  // Copies the clip into the library and records the submission, both or neither. The same clip is kept once.
  Result<SubmissionId> addSubmission(Submission submission, const std::filesystem::path& clip, Task& task);
  Result<bool> updateSubmission(const Submission& submission);
  Result<std::vector<Submission>> submissions();
  Result<Submission> submission(SubmissionId id);
  // Brings a clip and its pair into one time: `offset_s` is added to this clip's time, taken from the other's.
  Result<bool> setPairOffset(SubmissionId id, double offset_s);
  std::filesystem::path clipFile(const Submission& submission) const;

  // A message and its clips become one record in one step: all of it or nothing. Its submissions' athlete is the
  // message's. Clips that are null came with none (a link, an empty file): the submission waits for film.
  // Gives nullopt when the message is there already.
  struct Incoming {
    Message message;
    std::string bytes;  // as it came
    struct Clip {
      Submission submission;
      std::filesystem::path file;  // empty: none came
    };
    std::vector<Clip> clips;
  };
  Result<std::optional<MessageId>> addMessage(Incoming incoming, Task& task);
  Result<std::vector<Message>> messages(AthleteId athlete);
  Result<Message> message(MessageId id);
  Result<bool> updateFields(MessageId id, const std::vector<MessageField>& fields);
  // The submissions of this athlete that hold the same film.
  Result<std::vector<Submission>> sameClip(AthleteId athlete, const std::string& clip_hash);

  // Whom an address belongs to; addresses in lower case.
  Result<std::optional<AthleteId>> athleteAt(const std::string& address);
  Result<std::vector<std::string>> addresses(AthleteId athlete);
  Result<bool> addAddress(AthleteId athlete, const std::string& address);
  // Everything of `from` becomes `into`'s, and `from` is gone. What is known of `into` stays; gaps are filled.
  Result<bool> mergeAthletes(AthleteId from, AthleteId into);

  // A clip's check, as coaching::checkToJson() made it; empty when there is none.
  Result<bool> saveCheck(const std::string& clip_hash, std::string_view json);
  Result<std::string> checkOf(const std::string& clip_hash);
  Result<std::map<std::string, std::string>> checks();  // by hash

  // A clip's pulse (tracing/lift_pulse.h); empty when there is none.
  Result<bool> savePulse(const std::string& clip_hash, const std::vector<float>& up);
  Result<std::vector<float>> pulseOf(const std::string& clip_hash);

  // Who writes back; the default until it was set.
  Result<CoachCard> coach();
  Result<bool> setCoach(const CoachCard& card);

  // The day on which something asked of each athlete is due to be looked at again, the soonest that is open; ISO.
  Result<std::map<std::int64_t, std::string>> dueOn();  // by athlete

  // What was found in a submission, replacing what was known of it.
  Result<bool> saveFindings(SubmissionId id, const std::vector<coaching::Finding>& findings);
  // The lightest load at which a finding was sure, and the heaviest at which it was surely absent, over an athlete's
  // submissions of one lift. Loads in kg; nullopt when there is none.
  struct FirstShown {
    std::optional<double> shown_kg, clean_kg;
    std::string shown_on;
    int rep = 0;
  };
  Result<FirstShown> firstShown(AthleteId athlete, const std::string& finding);

  // The same, and how fast the set that was judged went up: the mean speed of its fastest ascent.
  Result<bool> saveResults(SubmissionId id, const coaching::Analysis& analysis);
  Result<bool> saveSpeed(SubmissionId id, double mps, double sigma);
  // Those of all an athlete's squats whose load is known, oldest first.
  Result<std::vector<coaching::LoadedSet>> speeds(AthleteId athlete);

  Result<bool> saveReview(SubmissionId id, const Review& review);
  Result<Review> review(SubmissionId id);
  // The stored tracing, as traceToJson() made it; empty when there is none.
  Result<bool> saveTracing(SubmissionId id, std::string_view json);
  Result<std::string> tracing(SubmissionId id);

  // Records that the reply has gone out: the state, and one thread for each cue; parked in one transaction.
  Result<bool> recordReply(SubmissionId id, const std::vector<CueThread>& threads);
  Result<std::vector<CueThread>> threads(AthleteId athlete);
  Result<bool> updateThread(const CueThread& thread);

  // SQLite's own check and that every submission's clip is there and has its hash. Sentences; empty when all is well.
  Result<std::vector<std::string>> check();

 private:
  struct Impl;
  explicit Library(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace jib::library
