// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <string_view>

#include "core/base/result.h"

namespace jib {

// The disk, as far as we write to it, behind one interface so that tests can make it fail.
// Errors  CannotWrite or CannotRead, with the path and the system's reason.
class FileSystem {
 public:
  virtual ~FileSystem() = default;
  virtual Result<std::string> read(const std::filesystem::path& file) = 0;
  // Creates or empties `file`, writes all of `bytes` and asks the system to put them on the disk.
  virtual Result<bool> write(const std::filesystem::path& file, std::string_view bytes) = 0;
  virtual Result<bool> rename(const std::filesystem::path& from, const std::filesystem::path& to) = 0;
  virtual Result<bool> copy(const std::filesystem::path& from, const std::filesystem::path& to) = 0;
  virtual void remove(const std::filesystem::path& file) noexcept = 0;

  static FileSystem& real();
};

// Forwards everything; a test overrides the one call it wants to break.
class ForwardingFileSystem : public FileSystem {
 public:
  explicit ForwardingFileSystem(FileSystem& target) : target_(target) {}
  Result<std::string> read(const std::filesystem::path& file) override { return target_.read(file); }
  Result<bool> write(const std::filesystem::path& file, std::string_view bytes) override {
    return target_.write(file, bytes);
  }
  Result<bool> rename(const std::filesystem::path& from, const std::filesystem::path& to) override {
    return target_.rename(from, to);
  }
  Result<bool> copy(const std::filesystem::path& from, const std::filesystem::path& to) override {
    return target_.copy(from, to);
  }
  void remove(const std::filesystem::path& file) noexcept override { target_.remove(file); }

 private:
  FileSystem& target_;
};

// Puts `bytes` into `file` whole or not at all: a temporary name beside it, synced, then renamed. An older file of
// that name stays as it was when anything fails. The file is its owner's alone (0600): athletes are private people.
Result<bool> writeWhole(FileSystem& disk, const std::filesystem::path& file, std::string_view bytes);

// Makes a folder, and those above it that are missing, for its owner alone (0700); one that is there is closed to
// others. Errors  CannotWrite
Result<bool> makePrivateFolder(const std::filesystem::path& folder);
// Takes away what a file lets others do; nothing happens when that cannot be.
void makePrivate(const std::filesystem::path& file) noexcept;

// The extension of a name as a file of ours may carry it, with its dot: letters and digits, 11 at most; else empty.
std::string safeExtension(std::string_view name);

// Whether two paths lead to one file, also where one of them is not there yet.
bool sameFile(const std::filesystem::path& a, const std::filesystem::path& b);

// Whether `path`, there or not, lies somewhere in `folder`, links followed; the folder itself does not.
bool isInside(const std::filesystem::path& folder, const std::filesystem::path& path);
// Whether a path out of a file or a database, told relative to a folder, stays inside it: not absolute, no "..", and
// not the folder itself. What a stranger wrote is asked this before anything is opened or removed.
bool leadsInside(const std::filesystem::path& relative);
// "FOLDER" for "FOLDER/", to which a name can be added.
std::filesystem::path withoutTrailingSlash(const std::filesystem::path& path);

// SHA-256 of bytes that come piece by piece; hex() once, at the end.
class Sha256 {
 public:
  Sha256();
  ~Sha256();
  void add(const char* bytes, std::size_t n);
  std::string hex();

 private:
  struct State;
  std::unique_ptr<State> state_;
};

// SHA-256 as 64 hexadecimal digits: of bytes, and of a file's content.
std::string sha256Of(std::string_view bytes);
Result<std::string> contentHash(const std::filesystem::path& file);

}  // namespace jib
