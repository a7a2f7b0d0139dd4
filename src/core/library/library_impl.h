// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>

#include "core/library/library.h"

namespace jib::library {
namespace fs = std::filesystem;

// What the library's own source files share; nobody else includes it.
inline tl::unexpected<Error> troubled(const SQLite::Exception& e) {
  const bool full = e.getErrorCode() == 13;  // SQLITE_FULL
  return fail(ErrorCode::CannotWrite, std::string("The library did not take it: ") + e.what() + ".",
              full ? "Free some space on the disk; nothing that was saved before is lost."
                   : "Check that the library's folder can be written to; nothing that was saved before is lost.");
}

struct Library::Impl {
  fs::path folder;
  FileSystem* disk;
  std::unique_ptr<SQLite::Database> database;

  template <class Work>
  auto guarded(Work work) -> decltype(work()) {
    try {
      return work();
    } catch (const SQLite::Exception& e) {
      return troubled(e);
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
  SubmissionId insert(const Submission& submission);

  fs::path mailFile(const std::string& hash) const { return folder / "mail" / (hash + ".eml"); }

  // Copies a clip under its hash, whole or not at all; nothing to do when it is there.
  Result<bool> keepClip(const fs::path& clip, const std::string& hash, const std::string& name) {
    const fs::path kept = mediaFile(hash, name);
    std::error_code ignored;
    if (fs::exists(kept, ignored)) return true;
    fs::path part = kept;
    part += ".part";
    if (auto copied = disk->copy(clip, part); !copied) {
      disk->remove(part);
      return copied;
    }
    if (auto renamed = disk->rename(part, kept); !renamed) {
      disk->remove(part);
      return renamed;
    }
    return true;
  }

  fs::path mediaFile(const std::string& hash, const std::string& name) const {
    return folder / "media" / (hash + fs::path(name).extension().string());
  }
};

}  // namespace jib::library
