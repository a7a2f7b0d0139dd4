// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"

#include <fcntl.h>
#include <sys/stat.h>
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

tl::unexpected<Error> cannotRead(const fs::path& file, const std::string& why) {
  return fail(ErrorCode::CannotRead, "Cannot read " + file.string() + ": " + why + ".",
              "Check the path and its permissions.");
}

class RealFileSystem : public FileSystem {
 public:
  Result<std::string> read(const fs::path& file) override {
    std::ifstream in(file, std::ios::binary);
    if (!in) return cannotRead(file, reason(errno));
    std::error_code error;
    if (!fs::is_regular_file(file, error)) return cannotRead(file, "it is not a file");
    std::ostringstream all;
    all << in.rdbuf();
    return all.str();
  }

  Result<bool> write(const fs::path& file, std::string_view bytes) override {
    const int fd = ::open(file.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0600);
    if (fd < 0) return cannotWrite(file, reason(errno));
    ::fchmod(fd, 0600);
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
    ::fchmod(fd, 0600);
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

Result<bool> makePrivateFolder(const fs::path& folder) {
  std::error_code error;
  // Those above are made one by one, so that none of them stands open even for a moment.
  if (!fs::exists(folder, error)) {
    if (folder.has_parent_path() && folder.parent_path() != folder && !fs::exists(folder.parent_path(), error))
      if (auto above = makePrivateFolder(folder.parent_path()); !above) return above;
    if (::mkdir(folder.c_str(), 0700) != 0 && errno != EEXIST)
      return fail(ErrorCode::CannotWrite, "The folder " + folder.string() + " cannot be made: " + reason(errno) + ".",
                  "Choose another folder, or free some space.");
  }
  if (!fs::is_directory(folder, error))
    return fail(ErrorCode::CannotWrite, folder.string() + " is not a folder.", "Choose another folder.");
  fs::permissions(folder, fs::perms::group_all | fs::perms::others_all, fs::perm_options::remove, error);
  return true;
}

void makePrivate(const fs::path& file) noexcept {
  std::error_code ignored;
  fs::permissions(file, fs::perms::group_all | fs::perms::others_all, fs::perm_options::remove, ignored);
}

std::string safeExtension(std::string_view name) {
  constexpr std::size_t kLongest = 12;  // with its dot; no kind of film has a longer one
  const auto dot = name.rfind('.');
  if (dot == std::string_view::npos) return {};
  const std::string_view extension = name.substr(dot);
  if (extension.size() < 2 || extension.size() > kLongest) return {};
  for (const char c : extension.substr(1))
    if (!((c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'))) return {};
  return std::string(extension);
}

bool sameFile(const fs::path& a, const fs::path& b) {
  std::error_code error;
  if (fs::equivalent(a, b, error)) return true;
  return fs::weakly_canonical(a, error) == fs::weakly_canonical(b, error);
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

struct Sha256::State {
  std::unique_ptr<AVSHA, void (*)(void*)> sha{av_sha_alloc(), av_free};
};

Sha256::Sha256() : state_(std::make_unique<State>()) {
  av_sha_init(state_->sha.get(), 256);
}
Sha256::~Sha256() = default;

void Sha256::add(const char* bytes, std::size_t n) {
  av_sha_update(state_->sha.get(), reinterpret_cast<const uint8_t*>(bytes), n);
}

std::string Sha256::hex() {
  std::array<uint8_t, 32> digest;
  av_sha_final(state_->sha.get(), digest.data());
  std::string text;
  for (uint8_t byte : digest) {
    constexpr char kDigits[] = "0123456789abcdef";
    text += kDigits[byte >> 4];
    text += kDigits[byte & 15];
  }
  return text;
}

std::string sha256Of(std::string_view bytes) {
  Sha256 sha;
  sha.add(bytes.data(), bytes.size());
  return sha.hex();
}

Result<std::string> contentHash(const fs::path& file) {
  std::ifstream in(file, std::ios::binary);
  if (!in) return cannotRead(file, reason(errno));
  std::error_code error;
  if (!fs::is_regular_file(file, error)) return cannotRead(file, "it is not a file");
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
