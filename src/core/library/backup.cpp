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

// What belongs into a backup, by its path in the library; the database itself comes as a copy.
std::vector<fs::path> filesOf(const fs::path& library) {
  std::vector<fs::path> all;
  std::error_code error;
  for (auto it = fs::recursive_directory_iterator(library, error); it != fs::recursive_directory_iterator();
       it.increment(error)) {
    if (error) break;
    const fs::path inside = it->path().lexically_relative(library);
    const std::string top = inside.begin()->string();
    if (top == "incoming" || top == "replies" + std::string("/.unfinished") || it->path().filename() == ".unfinished") {
      if (it->is_directory(error)) it.disable_recursion_pending();
      continue;
    }
    if (!it->is_regular_file(error) || top.starts_with("library.sqlite") || top.ends_with(".lock") ||
        it->path().extension() == ".part")
      continue;
    all.push_back(inside);
  }
  std::sort(all.begin(), all.end());
  return all;
}

class Writer {
 public:
  explicit Writer(fs::path file) : file_(std::move(file)), zip_(archive_write_new()) {}

  Result<bool> open() {
    archive_write_set_format_zip(zip_.get());
    // Films do not shrink; what is stored plainly can be read back even from a damaged disk.
    archive_write_set_options(zip_.get(), "zip:compression=store,zip:hdrcharset=UTF-8");
    const int fd = ::open(file_.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0600);
    if (fd < 0) return cannotWrite(file_, std::strerror(errno));
    fd_ = fd;
    if (archive_write_open_fd(zip_.get(), fd) != ARCHIVE_OK) return trouble();
    return true;
  }
  ~Writer() {
    zip_.reset();
    if (fd_ >= 0) ::close(fd_);
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
  int fd_ = -1;
};

// Goes through a backup; `into` empty: only looks. Every file must be on the list with its hash, and all of the list be
// there.
Result<BackupSummary> readThrough(const fs::path& file, const fs::path& into, Task& task) {
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
    if (inside.empty() || inside.is_absolute() ||
        std::any_of(inside.begin(), inside.end(), [](const fs::path& part) { return part == ".."; }))
      return notWhole(file, "it holds a name that leads out of it");
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
  if (!found.count("library.sqlite")) return notWhole(file, "the database is missing");
  summary.files = found.size();
  return summary;
}

}  // namespace

Result<BackupSummary> backUp(Library& library, const fs::path& file, Task& task) {
  std::error_code error;
  const fs::path part = file.string() + ".part", snapshot = file.string() + ".database.part";
  fs::remove(part, error);
  fs::remove(snapshot, error);
  const auto written = [&]() -> Result<bool> {
    if (auto copied = library.copyDatabase(snapshot); !copied) return copied;
    Writer zip(part);
    if (auto opened = zip.open(); !opened) return opened;
    const std::vector<fs::path> files = filesOf(library.folder());
    std::uintmax_t total = fs::file_size(snapshot, error), done = 0;
    for (const fs::path& f : files) total += fs::file_size(library.folder() / f, error);
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
    for (const fs::path& f : files)
      if (auto added = add(library.folder() / f, f.generic_string()); !added) return added;
    const Json list{{"schema", kSchemaName}, {"version", 1}, {"files", hashes}};
    if (auto added = zip.addBytes(kList, list.dump(1)); !added) return added;
    return zip.finish();
  }();
  const auto giveUp = [&](const Error& why) {
    fs::remove(part, error);
    fs::remove(snapshot, error);
    return fail(why);
  };
  if (!written) return giveUp(written.error());
  fs::remove(snapshot, error);
  task.part(0.6, 1);
  auto checked = checkBackup(part, task);
  if (!checked) return giveUp(checked.error());
  if (auto moved = FileSystem::real().rename(part, file); !moved) return giveUp(moved.error());
  return checked;
}

Result<BackupSummary> checkBackup(const fs::path& file, Task& task) {
  return readThrough(file, {}, task);
}

Result<BackupSummary> restore(const fs::path& file, const fs::path& folder, Task& task) {
  std::error_code error;
  if (fs::exists(folder, error) && !fs::is_empty(folder, error))
    return fail(ErrorCode::WrongUse, folder.string() + " holds something already.",
                "Choose a folder that is empty or not there; nothing is ever restored over a library.");
  const fs::path beside = folder.string() + ".restoring";
  fs::remove_all(beside, error);  // of one that was killed
  if (auto made = makePrivateFolder(beside); !made) return fail(made.error());
  auto done = readThrough(file, beside, task);
  if (done)
    if (auto opens = Library::open(beside); !opens) done = fail(opens.error());
  if (done) {
    fs::remove(folder, error);  // empty
    if (auto moved = FileSystem::real().rename(beside, folder); !moved) done = fail(moved.error());
  }
  if (!done) fs::remove_all(beside, error);
  return done;
}

}  // namespace jib::library
