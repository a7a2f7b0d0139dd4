// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"

#include <fcntl.h>
#include <unistd.h>

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

#include <array>
#include <cerrno>
#include <cstring>
#include <fstream>
#include <sstream>

namespace jib {
namespace fs = std::filesystem;

namespace {

std::string reason(int error) {
  return std::strerror(error);
}

tl::unexpected<Error> cannotWrite(const fs::path& file, const std::string& why) {
  return fail(ErrorCode::CannotWrite, "Cannot write " + file.string() + ": " + why + ".",
              "Check that the folder exists, may be written to and has free space, then try again.");
}

class RealFileSystem : public FileSystem {
 public:
  Result<std::string> read(const fs::path& file) override {
    std::ifstream in(file, std::ios::binary);
    if (!in)
      return fail(ErrorCode::CannotRead, "Cannot read " + file.string() + ": " + reason(errno) + ".",
                  "Check the path and its permissions.");
    std::ostringstream all;
    all << in.rdbuf();
    return all.str();
  }

  Result<bool> write(const fs::path& file, std::string_view bytes) override {
    const int fd = ::open(file.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (fd < 0) return cannotWrite(file, reason(errno));
    std::size_t done = 0;
    while (done < bytes.size()) {
      const ssize_t n = ::write(fd, bytes.data() + done, bytes.size() - done);
      if (n < 0 && errno == EINTR) continue;
      if (n < 0) {
        const int error = errno;
        ::close(fd);
        return cannotWrite(file, reason(error));
      }
      done += static_cast<std::size_t>(n);
    }
    if (::fsync(fd) != 0) {
      const int error = errno;
      ::close(fd);
      return cannotWrite(file, reason(error));
    }
    if (::close(fd) != 0) return cannotWrite(file, reason(errno));
    return true;
  }

  Result<bool> rename(const fs::path& from, const fs::path& to) override {
    std::error_code error;
    fs::rename(from, to, error);
    if (error) return cannotWrite(to, error.message());
    // The new name survives a power cut only once the folder itself is on the disk.
    const int folder = ::open(to.parent_path().empty() ? "." : to.parent_path().c_str(), O_RDONLY | O_DIRECTORY);
    if (folder >= 0) {
      ::fsync(folder);
      ::close(folder);
    }
    return true;
  }

  Result<bool> copy(const fs::path& from, const fs::path& to) override {
    std::error_code error;
    fs::copy_file(from, to, fs::copy_options::overwrite_existing, error);
    if (error) return cannotWrite(to, error.message());
    const int fd = ::open(to.c_str(), O_RDONLY | O_CLOEXEC);
    if (fd < 0) return cannotWrite(to, reason(errno));
    const int synced = ::fsync(fd);
    ::close(fd);
    if (synced != 0) return cannotWrite(to, reason(errno));
    return true;
  }

  void remove(const fs::path& file) noexcept override {
    std::error_code ignored;
    fs::remove(file, ignored);
  }
};

}  // namespace

FileSystem& FileSystem::real() {
  static RealFileSystem disk;
  return disk;
}

Result<bool> writeWhole(FileSystem& disk, const fs::path& file, std::string_view bytes) {
  fs::path temporary = file;
  temporary += ".part";
  if (auto written = disk.write(temporary, bytes); !written) {
    disk.remove(temporary);
    return written;
  }
  if (auto renamed = disk.rename(temporary, file); !renamed) {
    disk.remove(temporary);
    return renamed;
  }
  return true;
}

namespace {

class Sha256 {
 public:
  Sha256() : sha_(av_sha_alloc(), av_free) { av_sha_init(sha_.get(), 256); }
  void add(const char* bytes, std::size_t n) { av_sha_update(sha_.get(), reinterpret_cast<const uint8_t*>(bytes), n); }
  std::string hex() {
    std::array<uint8_t, 32> digest;
    av_sha_final(sha_.get(), digest.data());
    std::string text;
    for (uint8_t byte : digest) {
      constexpr char kDigits[] = "0123456789abcdef";
      text += kDigits[byte >> 4];
      text += kDigits[byte & 15];
    }
    return text;
  }

 private:
  std::unique_ptr<AVSHA, void (*)(void*)> sha_;
};

}  // namespace

std::string sha256Of(std::string_view bytes) {
  Sha256 sha;
  sha.add(bytes.data(), bytes.size());
  return sha.hex();
}

Result<std::string> contentHash(const fs::path& file) {
  std::ifstream in(file, std::ios::binary);
  if (!in)
    return fail(ErrorCode::CannotRead, "Cannot read " + file.string() + ": " + reason(errno) + ".",
                "Check the path and its permissions.");
  Sha256 sha;
  std::array<char, 1 << 16> buffer;
  while (in) {
    in.read(buffer.data(), buffer.size());
    sha.add(buffer.data(), static_cast<std::size_t>(in.gcount()));
  }
  if (in.bad())
    return fail(ErrorCode::CannotRead, "Reading " + file.string() + " broke off.", "Copy the file again and retry.");
  return sha.hex();
}

}  // namespace jib
