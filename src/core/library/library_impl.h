// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>
#include <unistd.h>

#include "core/library/library.h"

namespace jib::library {
namespace fs = std::filesystem;

// What the library's own source files share; nobody else includes it.
inline tl::unexpected<Error> troubled(const SQLite::Exception& e, const std::string& read_only) {
  if (!read_only.empty()) return fail(ErrorCode::CannotWrite, read_only, "What is there can be read meanwhile.");
  const bool full = e.getErrorCode() == 13;  // SQLITE_FULL
  return fail(ErrorCode::CannotWrite, std::string("The library did not take it: ") + e.what() + ".",
              full ? "Free some space on the disk; nothing that was saved before is lost."
                   : "Check that the library's folder can be written to; nothing that was saved before is lost.");
}

struct Library::Impl {
  fs::path folder;
  FileSystem* disk;
  std::unique_ptr<SQLite::Database> database;
  std::string read_only;                 // why, as a sentence; empty: it can be written
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
    }
  }

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

  // One row for a submission; within the caller's transaction.
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
