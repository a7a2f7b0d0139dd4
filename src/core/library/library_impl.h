// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>
#include <unistd.h>

#include <map>
#include <set>

#include "core/library/library.h"

namespace jib::library {
namespace fs = std::filesystem;

// What the library's own source files share; nobody else includes it.
inline constexpr int kSqliteFull = 13;

// SQLite's codes for a disk that is full, read-only, broken in writing, or a file that cannot be made; and for a
// database that others keep from being written.
inline bool cannotBeWritten(const SQLite::Exception& e) {
  const int code = e.getErrorCode();
  return code == kSqliteFull || code == 8 || code == 10 || code == 14 || code == 5 || code == 6;
}

inline tl::unexpected<Error> troubled(const SQLite::Exception& e, const std::string& read_only) {
  if (!read_only.empty()) return fail(ErrorCode::CannotWrite, read_only, "What is there can be read meanwhile.");
  const std::string what = std::string("The library did not take it: ") + e.what() + ".";
  if (e.getErrorCode() == kSqliteFull)
    return fail(ErrorCode::CannotWrite, what, "Free some space on the disk; nothing that was saved before is lost.");
  if (cannotBeWritten(e))
    return fail(ErrorCode::CannotWrite, what,
                "Check that the library's folder can be written to; nothing that was saved before is lost.");
  if (const int code = e.getErrorCode(); code == 11 || code == 26)
    return fail(ErrorCode::CannotRead, what, "The database is damaged: run \"jib library FOLDER check\".");
  // What was asked of it does not fit: too long, or of a row that is gone.
  return fail(ErrorCode::BadData, what, "Nothing that was saved before is lost.");
}

inline tl::unexpected<Error> changedElsewhere() {
  return fail(ErrorCode::Conflict, "Another window has changed this review meanwhile.",
              "Nothing was written over it. Copy what you typed here, go back to the list and open it again.");
}

inline tl::unexpected<Error> deletedMeanwhile() {
  return fail(ErrorCode::CannotRead, "This submission was deleted meanwhile.", "Go back to the list.");
}

// Of a table of states, the one of that name; the first where it is none of them.
template <class State, std::size_t n>
State stateNamed(const std::string& name, const std::array<State, n>& all) {
  for (State s : all)
    if (nameOf(s) == name) return s;
  return all.front();
}

inline std::optional<double> realOr(const SQLite::Column& column) {
  return column.isNull() ? std::nullopt : std::optional(column.getDouble());
}

inline void bindOr(SQLite::Statement& s, int at, const std::optional<double>& value) {
  if (value)
    s.bind(at, *value);
  else
    s.bind(at);
}

template <class Id>
void bindIdOr(SQLite::Statement& s, int at, const std::optional<Id>& id) {
  if (id)
    s.bind(at, id->number);
  else
    s.bind(at);
}

struct Library::Impl {
  fs::path folder;
  FileSystem* disk;
  std::unique_ptr<SQLite::Database> database;
  std::string read_only;                 // why, as a sentence; empty: it can be written
  std::string seat;                      // which coach sits here
  std::optional<fs::path> reading_copy;  // of the database, where its folder cannot be written
  ~Impl() {
    database.reset();
    std::error_code ignored;
    if (reading_copy) fs::remove_all(*reading_copy, ignored);
  }

  template <class Work>
  auto guarded(Work work) -> decltype(work()) {
    try {
      return work();
    } catch (const SQLite::Exception& e) {
      return troubled(e, read_only);
    } catch (const std::exception& e) {
      return fail(ErrorCode::BadData, std::string("Something went wrong in the library: ") + e.what() + ".",
                  "Nothing was changed. Try again.");
    }
  }

  // What was read from a file or a database stays in there.
  fs::path inside(const std::string& relative) const { return leadsInside(relative) ? folder / relative : fs::path(); }

  void setJson(const char* table, SubmissionId id, std::string_view json) {
    SQLite::Statement s(*database, std::string("INSERT INTO ") + table +
                                       "(submission, json) VALUES(?, ?) "
                                       "ON CONFLICT(submission) DO UPDATE SET json = excluded.json");
    s.bind(1, id.number);
    s.bind(2, std::string(json));
    s.exec();
  }

  std::string json(const char* table, SubmissionId id) {
    SQLite::Statement s(*database, std::string("SELECT json FROM ") + table + " WHERE submission = ?");
    s.bind(1, id.number);
    return s.executeStep() ? s.getColumn(0).getString() : std::string();
  }

  // Within the caller's transaction, all of these.
  void update(const Submission& submission);
  std::optional<Submission> find(SubmissionId id);
  Result<bool> setThreadState(CueThreadId id, ThreadState state, const std::string& why);
  void putFindings(SubmissionId id, const std::vector<coaching::Finding>& findings);
  void putResults(SubmissionId id, const coaching::Analysis& analysis);
  Result<int> saveReview(SubmissionId id, const Review& review, std::optional<int> over);
  int reviewNumber(SubmissionId id);
  bool putMeasuredNow(const CueThread& thread);
  OutgoingId insertOutgoing(const Outgoing& outgoing);
  void forgetWaitingLetters(SubmissionId about);
  void doom(const fs::path& file);
  // What was found out of a film that nobody holds any more.
  void forgetClip(const std::string& hash);
  // Message files of the inbox, by what they hold.
  std::multimap<std::string, fs::path> inboxByContent() const;
  // Whether a message that stays was made of the same bytes.
  bool heldByOthers(const std::string& original, const std::vector<MessageId>& going);

  // Names of the files that what goes out is listed under.
  Result<std::set<std::string>> letterFiles();

  // One row for a submission.
  SubmissionId insert(Submission submission);  // of a plate nobody told, the athlete's last
  double plateOf(AthleteId athlete);

  fs::path mailFile(const std::string& hash) const { return folder / "mail" / (hash + ".eml"); }

  // Copies a file to its place, whole or not at all; nothing to do when it is there.
  Result<bool> keepFile(const fs::path& file, const fs::path& kept) {
    std::error_code ignored;
    if (fs::exists(kept, ignored)) return true;
    if (auto made = makePrivateFolder(kept.parent_path()); !made) return made;
    // Two programs may keep the same film at once: each has a name of its own until it is whole.
    const fs::path part = kept.string() + "." + std::to_string(::getpid()) + ".part";
    if (auto copied = disk->copy(file, part); !copied) {
      disk->remove(part);
      return copied;
    }
    if (auto renamed = disk->rename(part, kept); !renamed) {
      disk->remove(part);
      return renamed;
    }
    return true;
  }
  // A clip, under its hash.
  Result<bool> keepClip(const fs::path& clip, const std::string& hash, const std::string& name) {
    return keepFile(clip, mediaFile(hash, name));
  }

  fs::path mediaFile(const std::string& hash, const std::string& name) const {
    return folder / "media" / (hash + safeExtension(name));
  }

  // The athlete of that name, made now when there is none; within the caller's transaction.
  AthleteId athleteCalled(const std::string& name, const std::string& style);
  AthleteId insertAthlete(const Athlete& athlete);
  AthleteId senderOf(const Incoming& in);
  // Files that a removal named, gone from the disk; what a killed one left is done at the next open.
  void forgetDoomed();
};

}  // namespace jib::library
