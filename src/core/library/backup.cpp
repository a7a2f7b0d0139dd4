// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/backup.h"

#include <archive.h>
#include <archive_entry.h>
#include <fcntl.h>
#include <unistd.h>

#include <algorithm>
#include <fstream>
#include <map>
#include <memory>
#include <nlohmann/json.hpp>
#include <set>

#include "core/base/staging_folder.h"
#include "core/library/library_impl.h"

namespace jib::library {
namespace {

using Json = nlohmann::json;

constexpr const char* kList = "contents.json";
constexpr const char* kSchemaName = "jagged-jib/backup";

struct FreeRead {
  void operator()(archive* a) const { archive_read_free(a); }
};
struct FreeWrite {
  void operator()(archive* a) const { archive_write_free(a); }
};
struct FreeEntry {
  void operator()(archive_entry* e) const { archive_entry_free(e); }
};

tl::unexpected<Error> cannotWrite(const fs::path& file, const std::string& why) {
  return fail(ErrorCode::CannotWrite, "Cannot write " + file.string() + ": " + why + ".",
              "Check that the disk has free space, or choose another place.");
}

tl::unexpected<Error> notWhole(const fs::path& file, const std::string& why) {
  return fail(ErrorCode::BadData, file.filename().string() + " is not a whole backup: " + why + ".",
              "Use another backup; nothing was changed.");
}

// What lies in the library's folder and belongs into a backup, by its path in there; the database itself comes as a
// copy. Folders that are links to another disk are followed: they hold the films.
Result<std::vector<fs::path>> filesIn(const fs::path& library) {
  std::vector<fs::path> all;
  std::error_code error;
  std::set<fs::path> been;  // a link may lead back to where it lies
  const auto broken = [&](const std::error_code& why) {
    return fail(ErrorCode::CannotRead, "Not all of " + library.string() + " can be read: " + why.message() + ".",
                "Check the permissions of its folders; no backup was made.");
  };
  fs::recursive_directory_iterator it(library, fs::directory_options::follow_directory_symlink, error);
  if (error) return broken(error);
  for (; it != fs::recursive_directory_iterator(); it.increment(error)) {
    const fs::path inside = it->path().lexically_relative(library);
    const std::string top = inside.begin()->string(), name = inside.filename().string();
    std::error_code gone;
    if (it->is_directory(gone)) {
      const bool again = it->is_symlink(gone) && !been.insert(fs::canonical(it->path(), gone)).second;
      if (top == "incoming" || name.starts_with(".") || again) it.disable_recursion_pending();
    } else if (it->is_regular_file(gone) && top != "incoming" && !top.starts_with("library.sqlite") &&
               !top.ends_with(".lock") && it->path().extension() != ".part" &&
               !(top == name && name.ends_with(".zip"))) {
      all.push_back(inside);
    }
    if (error) return broken(error);
  }
  if (error) return broken(error);
  std::sort(all.begin(), all.end());
  return all;
}

// A file without a name until it is whole, where the disk knows such: a program that is killed leaves nothing of it.
// Elsewhere it has one in a folder that the next backup sweeps.
class NamelessFile {
 public:
  Result<bool> open(const fs::path& beside) {
    const fs::path place = beside.parent_path().empty() ? fs::path(".") : beside.parent_path();
    fd_ = ::open(place.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, 0600);
    path_ = "/proc/self/fd/" + std::to_string(fd_);
    std::error_code error;
    if (fd_ >= 0 && fs::exists(path_, error)) return true;
    close();
    auto staging = StagingFolder::in(place, kStaging);
    if (!staging) return fail(staging.error());
    staging_.emplace(std::move(*staging));
    path_ = staging_->path() / "backup.zip";
    fd_ = ::open(path_.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0600);
    return fd_ >= 0 ? Result<bool>(true) : cannotWrite(beside, std::strerror(errno));
  }
  ~NamelessFile() { close(); }
  int fd() const { return fd_; }
  const fs::path& path() const { return path_; }
  // It is called `file` from now on, in place of one that was.
  Result<bool> become(const fs::path& file) {
    if (staging_) return FileSystem::real().rename(path_, file);
    auto staging = StagingFolder::in(file.parent_path(), kStaging);
    if (!staging) return fail(staging.error());
    const fs::path named = staging->path() / "backup.zip";
    if (::linkat(AT_FDCWD, path_.c_str(), AT_FDCWD, named.c_str(), AT_SYMLINK_FOLLOW) != 0)
      return cannotWrite(file, std::strerror(errno));
    return FileSystem::real().rename(named, file);
  }

 private:
  static constexpr const char* kStaging = ".jagged-jib-backup";
  void close() {
    if (fd_ >= 0) ::close(fd_);
    fd_ = -1;
  }
  int fd_ = -1;
  fs::path path_;
  std::optional<StagingFolder> staging_;
};

class Writer {
 public:
  // `fd` is open for writing, and stays its owner's.
  Writer(fs::path file, int fd) : file_(std::move(file)), zip_(archive_write_new()), fd_(fd) {}

  Result<bool> open() {
    archive_write_set_format_zip(zip_.get());
    // Films do not shrink; what is stored plainly can be read back even from a damaged disk.
    archive_write_set_options(zip_.get(), "zip:compression=store,zip:hdrcharset=UTF-8");
    if (archive_write_open_fd(zip_.get(), fd_) != ARCHIVE_OK) return trouble();
    return true;
  }

  Result<bool> add(const fs::path& source, const std::string& name, Task& task, std::uintmax_t& done) {
    std::error_code error;
    const auto size = fs::file_size(source, error);
    std::ifstream in(source, std::ios::binary);
    if (error || !in)
      return fail(ErrorCode::CannotRead, "Cannot read " + source.string() + ".",
                  "Run \"jib library FOLDER check\", which says what is missing.");
    if (auto begun = begin(name, size); !begun) return begun;
    std::string block(1 << 18, '\0');
    std::uintmax_t written = 0;
    while (in.read(block.data(), static_cast<std::streamsize>(block.size())), in.gcount() > 0) {
      if (task.cancelled()) return cancelled();
      const auto n = static_cast<std::size_t>(in.gcount());
      if (archive_write_data(zip_.get(), block.data(), n) < 0) return trouble();
      written += n;
      done += n;
    }
    if (written != size)
      return fail(ErrorCode::CannotRead, source.filename().string() + " changed while it was read.", "Try again.");
    return true;
  }
  Result<bool> addBytes(const std::string& name, const std::string& bytes) {
    if (auto begun = begin(name, bytes.size()); !begun) return begun;
    if (archive_write_data(zip_.get(), bytes.data(), bytes.size()) < 0) return trouble();
    return true;
  }
  Result<bool> finish() {
    if (archive_write_close(zip_.get()) != ARCHIVE_OK) return trouble();
    if (::fsync(fd_) != 0) return cannotWrite(file_, std::strerror(errno));
    return true;
  }

 private:
  Result<bool> begin(const std::string& name, std::uintmax_t size) {
    const std::unique_ptr<archive_entry, FreeEntry> entry(archive_entry_new());
    archive_entry_set_pathname_utf8(entry.get(), name.c_str());
    archive_entry_set_size(entry.get(), static_cast<la_int64_t>(size));
    archive_entry_set_filetype(entry.get(), AE_IFREG);
    archive_entry_set_perm(entry.get(), 0600);
    if (archive_write_header(zip_.get(), entry.get()) != ARCHIVE_OK) return trouble();
    return true;
  }
  tl::unexpected<Error> trouble() {
    const char* why = archive_error_string(zip_.get());
    return cannotWrite(file_, why ? why : "the archive could not be written");
  }

  fs::path file_;
  std::unique_ptr<archive, FreeWrite> zip_;
  int fd_;
};

// Goes through a backup; `into` empty: only looks. Every file must be on the list with its hash, and all of the list be
// there.
Result<BackupSummary> readThrough(const fs::path& file, const fs::path& into, Task& task) {
  // long because one pass over the archive; each way it can be wrong is named where it shows
  std::error_code error;
  const auto whole = fs::file_size(file, error);
  if (error)
    return fail(ErrorCode::CannotRead, "Cannot read " + file.string() + ": " + error.message() + ".",
                "Check the path.");
  const std::unique_ptr<archive, FreeRead> zip(archive_read_new());
  archive_read_support_format_zip_seekable(zip.get());
  if (archive_read_open_filename(zip.get(), file.c_str(), 1 << 16) != ARCHIVE_OK)
    return notWhole(file, "it is no zip file, or was cut off");
  BackupSummary summary;
  std::map<std::string, std::string> found;
  std::string list;
  std::string block(1 << 18, '\0');
  for (;;) {
    archive_entry* entry = nullptr;
    const int status = archive_read_next_header(zip.get(), &entry);
    if (status == ARCHIVE_EOF) break;
    if (status < ARCHIVE_WARN) return notWhole(file, "it is damaged");
    const char* name = archive_entry_pathname_utf8(entry);
    const fs::path inside = name ? fs::path(name) : fs::path();
    if (!leadsInside(inside)) return notWhole(file, "it holds a name that leads out of it");
    const bool is_list = inside == kList;
    const fs::path to = into / inside;
    std::ofstream out;
    if (!into.empty() && !is_list) {
      if (auto made = makePrivateFolder(to.parent_path()); !made) return fail(made.error());
      out.open(to, std::ios::binary);
      if (!out) return cannotWrite(to, std::strerror(errno));
      makePrivate(to);
    }
    Sha256 sha;
    for (;;) {
      if (task.cancelled()) return cancelled();
      const la_ssize_t got = archive_read_data(zip.get(), block.data(), block.size());
      if (got < 0) return notWhole(file, "it is damaged at " + inside.string());
      if (got == 0) break;
      sha.add(block.data(), static_cast<std::size_t>(got));
      if (is_list) list.append(block.data(), static_cast<std::size_t>(got));
      if (out.is_open() && !out.write(block.data(), got)) return cannotWrite(to, "the disk is full");
      summary.bytes += static_cast<std::uintmax_t>(got);
      task.report(std::min(1.0, static_cast<double>(summary.bytes) / static_cast<double>(whole)));
    }
    if (out.is_open()) {
      out.close();
      if (!out) return cannotWrite(to, "the disk is full");
    }
    if (!is_list) found[inside.generic_string()] = sha.hex();
  }
  const Json j = Json::parse(list, nullptr, false);
  if (!j.is_object() || j.value("schema", "") != kSchemaName || !j.contains("files") || !j["files"].is_object())
    return notWhole(file, "the list of what is in it is missing");
  for (const auto& [name, hash] : j["files"].items()) {
    const auto it = found.find(name);
    if (it == found.end()) return notWhole(file, name + " is missing");
    if (!hash.is_string() || it->second != hash.get<std::string>())
      return notWhole(file, name + " is not what was kept");
  }
  for (const auto& [name, hash] : found)
    if (!j["files"].contains(name)) return notWhole(file, name + " is in it and not on its list");
  if (!found.count("library.sqlite")) return notWhole(file, "the database is missing");
  summary.files = found.size();
  return summary;
}

}  // namespace

namespace {

// One consistent copy of the database: in the library, which the next start sweeps, or beside the backup where the
// library's own disk takes nothing, which is when a backup is needed most.
Result<StagingFolder> snapshotOf(Library& library, const fs::path& beside) {
  Result<StagingFolder> last = fail(ErrorCode::CannotWrite, "", "");
  for (const fs::path& place : {library.folder() / "incoming", beside}) {
    if (place != beside)
      if (auto made = makePrivateFolder(place); !made) continue;
    last = StagingFolder::in(place, place == beside ? ".jagged-jib-backup" : "backup");
    if (!last) continue;
    auto copied = library.copyDatabase(last->path() / "library.sqlite");
    if (copied) return last;
    last = fail(copied.error());
  }
  return last;
}

// Puts the library's files into the zip, each with its hash, and says what is not there as it was kept.
Result<bool> writeAll(Library& library, const fs::path& snapshot, Writer& zip, std::vector<std::string>& missing,
                      Task& task) {
  auto kept = library.keptFiles();
  if (!kept) return fail(kept.error());
  auto files = filesIn(library.folder());
  if (!files) return fail(files.error());
  std::map<fs::path, const Library::KeptFile*> expected;
  for (const Library::KeptFile& k : *kept) expected[k.file.lexically_relative(library.folder())] = &k;
  std::error_code error;
  std::uintmax_t total = fs::file_size(snapshot, error), done = 0;
  for (const fs::path& f : *files) total += fs::file_size(library.folder() / f, error);
  Json hashes = Json::object();
  const auto add = [&](const fs::path& source, const std::string& name) -> Result<bool> {
    auto hash = contentHash(source);
    if (!hash) return fail(hash.error());
    hashes[name] = *hash;
    auto added = zip.add(source, name, task, done);
    task.report(0.6 * static_cast<double>(done) / static_cast<double>(std::max<std::uintmax_t>(total, 1)));
    return added;
  };
  if (auto added = add(snapshot, "library.sqlite"); !added) return added;
  for (const fs::path& f : *files) {
    if (auto added = add(library.folder() / f, f.generic_string()); !added) return added;
    const auto it = expected.find(f);
    if (it == expected.end()) continue;
    if (!it->second->hash.empty() && hashes[f.generic_string()] != it->second->hash)
      missing.push_back(it->second->what + " has changed since it was sent.");
    expected.erase(it);
  }
  for (const auto& [file, k] : expected) missing.push_back(k->what + " is missing.");
  const Json list{{"schema", kSchemaName}, {"version", 1}, {"files", hashes}};
  if (auto added = zip.addBytes(kList, list.dump(1)); !added) return added;
  return zip.finish();
}

}  // namespace

Result<BackupSummary> backUp(Library& library, const fs::path& file, Task& task) {
  std::error_code error;
  if (isInside(library.folder(), file))
    return fail(ErrorCode::WrongUse, file.string() + " lies in the library itself.",
                "Choose a place outside of it, best on another disk.");
  if (fs::is_directory(file, error) || !file.has_filename())
    return fail(ErrorCode::WrongUse, file.string() + " is a folder.", "Name the zip file to be written.");
  NamelessFile zip_file;
  if (auto opened = zip_file.open(file); !opened) return fail(opened.error());
  std::vector<std::string> missing;
  {
    auto snapshot = snapshotOf(library, file.parent_path());
    if (!snapshot) return fail(snapshot.error());
    Writer zip(file, zip_file.fd());
    if (auto opened = zip.open(); !opened) return fail(opened.error());
    if (auto written = writeAll(library, snapshot->path() / "library.sqlite", zip, missing, task); !written)
      return fail(written.error());
  }
  task.part(0.6, 1);
  auto checked = checkBackup(zip_file.path(), task);
  if (!checked) return checked;
  if (auto moved = zip_file.become(file); !moved) return fail(moved.error());
  checked->missing = std::move(missing);
  return checked;
}

Result<BackupSummary> checkBackup(const fs::path& file, Task& task) {
  return readThrough(file, {}, task);
}

Result<BackupSummary> restore(const fs::path& file, const fs::path& folder, Task& task) {
  auto staging = StagingFolder::forTarget(folder, ".jagged-jib-restore");
  if (!staging) return fail(staging.error());
  auto done = readThrough(file, staging->path(), task);
  if (!done) return done;
  if (auto opens = Library::open(staging->path()); !opens) return fail(opens.error());
  if (auto moved = staging->become(folder, "library.sqlite"); !moved) return fail(moved.error());
  return done;
}

}  // namespace jib::library
