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
#include <functional>
#include <vector>

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

// Hands `file`'s bytes on, block by block. Opening a pipe would wait for somebody to write into it, for ever: it is
// opened without waiting, and what is opened is asked whether it is a file.
Result<bool> eachBlock(const fs::path& file, const std::function<void(const char*, std::size_t)>& use) {
  struct Closing {
    int fd;
    ~Closing() {
      if (fd >= 0) ::close(fd);
    }
  };
  const Closing in{::open(file.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC)};
  if (in.fd < 0) return cannotRead(file, reason(errno));
  struct stat told {};
  if (::fstat(in.fd, &told) != 0) return cannotRead(file, reason(errno));
  if (!S_ISREG(told.st_mode)) return cannotRead(file, "it is not a file");
  std::vector<char> block(1 << 16);
  for (;;) {
    const ssize_t n = ::read(in.fd, block.data(), block.size());
    if (n < 0 && errno == EINTR) continue;
    if (n < 0)
      return fail(ErrorCode::CannotRead, "Reading " + file.string() + " broke off: " + reason(errno) + ".",
                  "Copy the file again and retry.");
    if (n == 0) return true;
    use(block.data(), static_cast<std::size_t>(n));
  }
}

class RealFileSystem : public FileSystem {
 public:
  Result<std::string> read(const fs::path& file) override {
    std::string all;
    auto whole = eachBlock(file, [&](const char* bytes, std::size_t n) { all.append(bytes, n); });
    if (!whole) return fail(whole.error());
    return all;
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
    if (!fs::is_regular_file(from, error)) return cannotRead(from, "it is not a file");
    const auto bytes = fs::file_size(from, error);
    fs::copy_file(from, to, fs::copy_options::overwrite_existing, error);
    if (error) {
      // The library's own word for a full disk is "Input/output error".
      std::error_code ignored;
      const auto free = fs::space(to.parent_path().empty() ? "." : to.parent_path(), ignored);
      return cannotWrite(to, !ignored && free.available < bytes ? reason(ENOSPC) : error.message());
    }
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

bool isInside(const fs::path& folder, const fs::path& path) {
  std::error_code error;
  const fs::path top = fs::weakly_canonical(folder, error);
  if (error) return false;
  const fs::path place = fs::weakly_canonical(path.is_absolute() ? path : fs::absolute(path, error), error);
  if (error) return false;
  const fs::path way = place.lexically_relative(top);
  return !way.empty() && way != "." && *way.begin() != "..";
}

bool leadsInside(const fs::path& relative) {
  if (relative.empty() || relative.is_absolute() || relative.has_root_name()) return false;
  bool anything = false;
  for (const fs::path& part : relative) {
    if (part == "..") return false;
    anything |= !part.empty() && part != ".";
  }
  return anything;
}

fs::path withoutTrailingSlash(const fs::path& path) {
  return path.has_filename() || !path.has_parent_path() || path == path.root_path() ? path : path.parent_path();
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
  Sha256 sha;
  auto whole = eachBlock(file, [&](const char* bytes, std::size_t n) { sha.add(bytes, n); });
  if (!whole) return fail(whole.error());
  return sha.hex();
}

}  // namespace jib
