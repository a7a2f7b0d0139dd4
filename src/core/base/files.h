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
// that name stays as it was when anything fails.
Result<bool> writeWhole(FileSystem& disk, const std::filesystem::path& file, std::string_view bytes);

// SHA-256 as 64 hexadecimal digits: of bytes, and of a file's content.
std::string sha256Of(std::string_view bytes);
Result<std::string> contentHash(const std::filesystem::path& file);

}  // namespace jib
