// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "core/base/files.h"
#include "core/base/task.h"
#include "core/coaching/analysis.h"
#include "core/coaching/load_speed.h"
#include "core/footage/upright.h"
#include "core/library/records.h"
#include "core/lifts/alike.h"

namespace jib::library {

struct RosterRow;  // roster.h

// The coach's records in one folder: library.sqlite and media/ with every clip under its content hash.
// Every call is one transaction: it has happened whole when it returns, or not at all. Killing the program at any
// moment loses at most the call under way. Folders are their owner's alone (0700), files too (0600).
// Errors  CannotRead (not a library, newer than this program, damaged: with what to do), CannotWrite
// Thread  one thread a Library; open another on the same folder elsewhere
class Library {
 public:
  struct Impl;  // for the library's own source files
  static constexpr int kSchema = 11;

  // Opens or makes the library in `folder`. An older schema is copied beside itself first, then migrated. Where nothing
  // can be written (a full disk, a read-only one) a library that is there is opened for reading only.
  static Result<Library> open(const std::filesystem::path& folder, FileSystem& disk = FileSystem::real());
  // A further connection to a library that is open already, for a thread of its own: nothing is looked through or swept
  // again. Errors  as above
  static Result<Library> openAgain(const std::filesystem::path& folder, FileSystem& disk = FileSystem::real());
  // Whether there is a library in `folder`, so that a mistyped path makes none.
  static bool isIn(const std::filesystem::path& folder);
  Library(Library&&) noexcept;
  Library& operator=(Library&&) noexcept;
  ~Library();

  const std::filesystem::path& folder() const;
  // Why nothing can be kept, as a sentence; empty when all is well.
  const std::string& readOnly() const;

  Result<AthleteId> addAthlete(const Athlete& athlete);
  // Changes a row as it stands at that moment, and gives it as it is then: the row is read, changed and written in one
  // transaction, so that nothing is written back that somebody else has changed meanwhile. `change` says only what it
  // means to change. Errors  CannotRead when it has been deleted
  Result<Athlete> edit(AthleteId id, const std::function<void(Athlete&)>& change);
  Result<Submission> edit(SubmissionId id, const std::function<void(Submission&)>& change);
  Result<std::vector<Athlete>> athletes();
  Result<Athlete> athlete(AthleteId id);
  // Everybody with what waits, what is due and how they can be found, by name.
  Result<std::vector<RosterRow>> roster(const std::string& today_iso);
  // A clip turns out to be another athlete's: it goes to them with the other films of its set, its review and what was
  // asked in it; its message too, where nothing else came with that. What it had measured of cues that stay behind is
  // forgotten there. Gives what went.
  Result<std::vector<SubmissionId>> giveTo(SubmissionId id, AthleteId athlete);

  // What forgetting an athlete or a submission takes with it; the lines say it for people.
  struct Removal {
    std::optional<AthleteId> athlete;  // else one submission
    std::vector<SubmissionId> submissions;
    std::vector<MessageId> messages;
    std::vector<OutgoingId> outgoing;
    std::vector<std::string> clips;            // content hashes nobody else uses
    std::vector<std::filesystem::path> files;  // in the library's folder; folders with all that is in them
    std::vector<std::string> lines;
  };
  Result<Removal> removalOf(AthleteId id);
  Result<Removal> removalOf(SubmissionId id);
  // Forgets it: rows, files, and the copies made before migrations, which hold it too. What goes is worked out anew in
  // the transaction that deletes it: something may have come since it was announced. Gives what went. Killed half-way,
  // the next open finishes it.
  Result<Removal> remove(const Removal& announced);

  // What letting films go takes with it, while the rows, their numbers, what was asked and the coach's notes stay: the
  // films, what was tracked in them, replies and takes made of them, and the files of mails that brought them. Only of
  // films that were answered or skipped and wait for nothing; others of `ids` are left out.
  Result<Removal> filmRemovalOf(const std::vector<SubmissionId>& ids);
  // Lets them go, worked out anew in one transaction. A row has no film from then on, and the day. Gives what went.
  // Killed half-way, the next open finishes it.
  Result<Removal> letFilmsGo(const std::vector<SubmissionId>& ids, const std::string& today_iso);

  // Copies the clip into the library and records the submission, both or neither. The same clip is kept once. Where its
  // athlete is AthleteId(0), it belongs to the athlete called `athlete_name`, who is made with it when there is none.
  Result<SubmissionId> addSubmission(Submission submission, const std::filesystem::path& clip, Task& task,
                                     const std::string& athlete_name = {});
  Result<std::vector<Submission>> submissions();
  // One athlete's, of all lifts, latest first.
  Result<std::vector<Submission>> submissionsOf(AthleteId athlete);
  // How many of an athlete's clips were answered on that day or later.
  Result<int> answeredSince(AthleteId athlete, const std::string& day_iso);
  // The athlete's earlier ones of the same lift, latest first; the other films of this one's set are no earlier ones.
  Result<std::vector<Submission>> before(const Submission& now);
  Result<Submission> submission(SubmissionId id);
  // The other films of a clip's set, linked to it directly or by way of another; nearest first.
  Result<std::vector<SetFilm>> filmsOfSet(SubmissionId id);
  // Two clips, and what is linked with either, are one set. `offset_s` as in SetFilm, of `b` from `a`; nullopt: it is
  // not known. At most one of them may be linked already: errors  BadData
  Result<bool> joinSet(SubmissionId a, SubmissionId b, std::optional<double> offset_s);
  // A clip stands alone again.
  Result<bool> leaveSet(SubmissionId id);
  // Brings a clip and another film of its set into one time; what is linked by way of that one moves along.
  Result<bool> setOffset(SubmissionId id, SubmissionId other, double offset_s);
  std::filesystem::path clipFile(const Submission& submission) const;
  // The clip's picture is turned, mirrored or stretched by hand (footage/upright.h). What was found in it is found
  // anew, for every submission that holds it; points placed and drawings go along with the picture. `as_it_came`:
  // ClipInfo::as_it_came of the clip. Errors  CannotWrite, with nothing changed
  Result<bool> setUpright(SubmissionId id, const footage::Upright& upright, footage::PictureSize as_it_came);
  // From where a clip is filmed, as the coach says (tracing::View; empty: as the film tells). What was traced is
  // forgotten.
  Result<bool> setSeenFrom(SubmissionId id, const std::string& view);
  // Which of several people the lifter is; nullopt leaves it to the film.
  Result<bool> setLifter(SubmissionId id, const std::optional<tracing::PointedAt>& lifter);
  // Where a small picture of a clip is kept, once someone has made it. It goes with the clip.
  std::filesystem::path pictureFile(const std::string& clip_hash) const;

  // A message and its clips become one record in one step, with an athlete who is new: all of it or nothing. Clips that
  // are empty paths came with none (a link, only words): the row is what its kind says.
  // Gives nullopt when the message is there already, whichever way it came.
  struct Incoming {
    Message message;                 // athlete 0: whoever writes from its address, else a new one
    std::string athlete_name;        // of a new one
    bool by_name = false;            // an athlete of that name is taken when there is no address
    std::string style = "balanced";  // of a new one
    std::filesystem::path original;  // as it came; kept under its hash
    struct Clip {
      Submission submission;
      std::filesystem::path file = {};        // empty: none came
      std::optional<SubmissionId> into = {};  // a row that waits for this film
      // What the film and its words tell of that row, as it stands when they join it.
      std::function<void(Submission&)> join = {};
    };
    std::vector<Clip> clips;
  };
  Result<std::optional<MessageId>> addMessage(Incoming incoming, Task& task);
  // One athlete's messages of one thread, oldest first.
  Result<std::vector<Message>> thread(AthleteId athlete, const std::string& thread);
  // The thread of an athlete's that a message with these Message-IDs in its References belongs to; empty when none is
  // known. What another athlete wrote is not theirs, even when they answer it.
  Result<std::string> threadOf(AthleteId athlete, const std::vector<std::string>& answers);
  std::filesystem::path mailFile(const Message& message) const;
  Result<std::vector<Message>> messages(AthleteId athlete);
  // In which a field (exchange::Field) was read or typed in, oldest first; of one athlete, or of all.
  Result<std::vector<Message>> messagesSaying(std::string_view field, std::optional<AthleteId> athlete = {});
  Result<Message> message(MessageId id);
  // What was read of a message, changed as it stands at that moment. Gives it as it is then.
  Result<std::vector<MessageField>> editFields(MessageId id,
                                               const std::function<void(std::vector<MessageField>&)>& change);
  // The athlete's last one of a day before this one's; nullopt: it is the first.
  Result<std::optional<Submission>> lastBefore(const Submission& now);
  // The athlete's others of the same day and lift that have a film.
  Result<std::vector<Submission>> sameDay(const Submission& now);
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
  // It is made again: the lift was said to be another, or the coach wants it tried once more.
  Result<bool> forgetCheck(const std::string& clip_hash);
  Result<std::string> checkOf(const std::string& clip_hash);
  Result<std::map<std::string, std::string>> checks();  // by hash

  // A look at a clip is begun. `fell`: how many earlier ones ended with their program, which may have been stopped, or
  // stopped by the clip. `elsewhere`: another program that lives is at it.
  struct Attempt {
    int fell = 0;
    bool elsewhere = false;
  };
  Result<Attempt> beginAttempt(const std::string& clip_hash);
  // It came to an end, whichever: nothing is held against the clip any more.
  Result<bool> endAttempt(const std::string& clip_hash);
  // This program gives up its look, as somebody asked it to: that says nothing of the clip.
  Result<bool> dropAttempt(const std::string& clip_hash);

  // What goes out, newest first. The .eml lies in the outbox folder before its row is there.
  Result<OutgoingId> addOutgoing(const Outgoing& outgoing);
  Result<std::vector<Outgoing>> outgoing();
  // Handed over, or taken back: then its file is moved aside, and back again when it waits once more. What was handed
  // over may wait again: a mail program that was asked to take it need not have done so.
  // Errors  WrongUse when it was handed over and is to be taken back
  Result<bool> setOutgoingState(OutgoingId id, OutgoingState state, const std::string& today_iso);
  std::filesystem::path outgoingFile(const Outgoing& outgoing) const;

  // A clip's pulse (tracing/lift_pulse.h); empty when there is none.
  Result<bool> savePulse(const std::string& clip_hash, const std::vector<float>& up);
  Result<std::vector<float>> pulseOf(const std::string& clip_hash);

  // Who writes back; the default until it was set.
  Result<CoachCard> coach();
  Result<bool> setCoach(const CoachCard& card);
  // Of several coaches, the one who sits at this desk; empty, or nobody the card names: the one whose card it is.
  // Not kept: another desk on the same folder has its own.
  void seat(std::string coach);
  // The card as whoever sits here signs with it: what leaves the house bears this name and address.
  Result<CoachCard> signer();

  // The day on which something asked of each athlete is due to be looked at again, the soonest that is open; ISO.
  Result<std::map<std::int64_t, std::string>> dueOn();  // by athlete

  // What was found in a submission, replacing what was known of it.
  Result<bool> saveFindings(SubmissionId id, const std::vector<coaching::Finding>& findings);
  // Each with its verdict, as kept: id and "yes", "no" or "too_close".
  Result<std::map<std::string, std::string>> findingsOf(SubmissionId id);
  // The lightest load at which a finding was sure, and the heaviest at which it was surely absent, over an athlete's
  // submissions of one lift. Loads in kg; nullopt when there is none.
  struct FirstShown {
    std::optional<double> shown_kg, clean_kg;
    std::string shown_on;
    int rep = 0;
  };
  Result<FirstShown> firstShown(AthleteId athlete, const std::string& finding);
  // The same, day by day: on each the lightest load at which it was sure and the heaviest at which it was surely
  // absent.
  struct ShownOn {
    std::string on;  // ISO date
    std::optional<double> shown_kg, clean_kg;
    SubmissionId submission{0};  // the one that shows it; where none does, the heaviest clean one
  };
  Result<std::vector<ShownOn>> shownByDay(AthleteId athlete, const std::string& finding);
  // In how many of the athlete's earlier sets of the lift a finding was made while its measure was below zero on
  // average, and above. The other film of this set is no earlier one.
  Result<std::array<int, 2>> sidesBefore(const Submission& now, const std::string& finding, const std::string& measure);

  // What was found and measured in a submission, and how fast the set that was judged went up (the mean speed of its
  // fastest ascent), in place of all that was known of it.
  Result<bool> saveResults(SubmissionId id, const coaching::Analysis& analysis);
  // One measure over an athlete's traced and returned sets, in the order of their days and reps; rep 0 is of the set.
  struct KeptMeasure {
    SubmissionId submission{0};
    std::string on;
    int rep = 0;
    lifts::Measured measured;
  };
  Result<std::vector<KeptMeasure>> measured(AthleteId athlete, std::string_view measure);
  // A measure of the library's latest sets that have it, latest first: each set's reps, or its own where it has one.
  Result<std::vector<std::vector<lifts::Measured>>> lastMeasured(std::string_view lift, std::string_view measure,
                                                                 int sets);
  // How many of an athlete's clips have a measure, by lift and measure.
  Result<std::map<std::pair<std::string, std::string>, int>> measuredClips(AthleteId athlete);
  // Everything kept of one set, by measure: each rep's, in their order, then the set's own.
  Result<std::map<std::string, std::vector<KeptMeasure>>> results(SubmissionId id);
  // What the numbers of a set depend on beside the lifter: what is known of the submission, and of a traced one from
  // where it was filmed.
  Result<lifts::FilmedAs> filmedAs(const Submission& submission);
  Result<bool> saveSpeed(SubmissionId id, double mps, double sigma);
  // Those of all an athlete's squats whose load is known, oldest first.
  Result<std::vector<coaching::LoadedSet>> speeds(AthleteId athlete, std::string_view lift);

  // A review has a number that goes up whenever it is saved: who saves over another one's work is refused.
  // `over`: the number of the review that was changed; nullopt: whatever is there. Gives the new one.
  // Errors  CannotRead when the submission has been deleted; Conflict when another window has saved it meanwhile
  Result<int> saveReview(SubmissionId id, const Review& review, std::optional<int> over = std::nullopt);
  Result<Review> review(SubmissionId id);
  Result<int> reviewNumber(SubmissionId id);  // 0: nothing was saved yet
  // The stored tracing, as traceToJson() made it; empty when there is none.
  Result<bool> saveTracing(SubmissionId id, std::string_view json);
  Result<std::string> tracing(SubmissionId id);

  // All that is recorded when a reply goes out.
  struct Return {
    SubmissionId id{0};
    std::optional<int> over;  // the number of the review it was made from, as in saveReview; nullopt: of any
    const coaching::Analysis* analysis = nullptr;  // whose results are kept; null: nothing was measured
    std::vector<CueThread> asked;                  // one for each cue; they replace what an earlier reply asked
    std::vector<CueThread> measured_now;           // earlier ones, measured again by this film
    std::vector<std::pair<SubmissionId, std::string>> together;  // other films answered by it, each with the reason
    std::optional<tracing::Flesh> flesh;  // of the athlete's body, as the coach placed it on this film
    std::optional<tracing::KnownBuild> build;
    std::optional<Outgoing> letter;  // nullopt: it went into a folder
    std::string by, on;              // who signed it, and the ISO date
  };
  // One transaction, all of it or nothing; the review itself stays as it was saved. A letter about this submission that
  // still waits is replaced by the new one. Gives the letter as it is listed.
  // Errors  CannotRead when the submission has been deleted; Conflict as in saveReview
  Result<std::optional<Outgoing>> returnReview(const Return& what);
  Result<std::vector<CueThread>> threads(AthleteId athlete);
  // What a film says now of things that were asked, all of them or none.
  Result<bool> saveMeasuredNow(const std::vector<CueThread>& threads);
  // A cue that waits, as while something hurts, and why.
  Result<bool> pauseThread(CueThreadId id, const std::string& why);
  // What no number settles, as the coach says of a film: how a pain has gone.
  Result<bool> settleThread(CueThreadId id, ThreadState state, SubmissionId in);
  // A cue that is not followed any more, and why in the coach's words; and one that is again, as if just asked.
  Result<bool> dropThread(CueThreadId id, const std::string& why);
  Result<bool> resumeThread(CueThreadId id);

  // What the coach has said before about one thing, each wording with its drill: how often, and how often what was
  // asked was met or got better by the next clip. This athlete's own first, then those that helped most.
  struct SaidBefore {
    std::string finding, title, wording, drill;  // as it is offered from now on
    int times = 0, helped = 0;
    int times_here = 0;                 // to the athlete that was asked about
    std::vector<std::string> as_said;   // the words that went out, where the coach has changed them since
    std::string last_on, most_to = {};  // ISO date; the athlete it was said to most often
    bool put_away = false;              // not offered any more
  };
  Result<std::vector<SaidBefore>> saidBefore(AthleteId athlete);
  // The coach's own book: the same over all athletes, what was put away included.
  Result<std::vector<SaidBefore>> book();
  // Wording, drill and whether it is put away become what `entry` says, for each of its `as_said`. What went out stays.
  Result<bool> setBookEntry(const SaidBefore& entry);

  // One whole, consistent copy of the database, in a new file.
  Result<bool> copyDatabase(const std::filesystem::path& to);

  // A file that a row speaks of.
  struct KeptFile {
    std::filesystem::path file;
    std::string hash;  // SHA-256 of what it must hold; empty where that is not known
    std::string what;  // "The clip set.mp4 of 2026-11-20"
  };
  Result<std::vector<KeptFile>> keptFiles();

  // SQLite's own check; that all tables are there; that every submission's clip and every message's mail is there and
  // has its hash; that nothing lies in the folders that no row speaks of. Sentences; empty when all is well.
  Result<std::vector<std::string>> check();

 private:
  // Changes what the coach has said of a clip, and forgets what was found in it.
  Result<bool> tellAnew(SubmissionId id, const std::function<void(SubmissionDetails&)>& tell);
  explicit Library(std::unique_ptr<Impl> impl);
  std::unique_ptr<Impl> impl_;
};

}  // namespace jib::library
