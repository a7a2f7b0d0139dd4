// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/spool.h"

#include <string>

#include "core/base/files.h"

namespace jib::exchange {
namespace fs = std::filesystem;

namespace {

constexpr const char* kLock = "lock";

// Folders whose import has ended or died: nobody holds their lock.
void sweep(const fs::path& incoming) {
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(incoming, error)) {
    if (!entry.is_directory(error)) {
      fs::remove(entry.path(), error);
      continue;
    }
    const auto dead = FolderLock::tryTake(entry.path() / kLock);
    if (dead) fs::remove_all(entry.path(), error);
  }
}

}  // namespace

Result<Spool> Spool::open(const fs::path& incoming) {
  if (auto made = makePrivateFolder(incoming); !made) return fail(made.error());
  // One import after the other comes through here, so that none sweeps a folder before its lock is held.
  Task waiting;
  auto door = FolderLock::take(incoming.string() + ".lock", waiting);
  if (!door) return fail(door.error());
  sweep(incoming);
  std::string name = (incoming / "import-XXXXXX").string();
  if (!mkdtemp(name.data()))
    return fail(ErrorCode::CannotWrite, "Nothing can be written in " + incoming.string() + ".",
                "Check that the disk has free space, then try again.");
  auto lock = FolderLock::tryTake(fs::path(name) / kLock);
  if (!lock)
    return fail(ErrorCode::CannotWrite, "Nothing can be written in " + name + ".",
                "Check that the disk has free space, then try again.");
  return Spool(name, std::move(*lock));
}

Spool::Spool(Spool&& other) noexcept
    : folder_(std::move(other.folder_)), lock_(std::move(other.lock_)), unpacked_(other.unpacked_), next_(other.next_) {
  other.folder_.clear();
}

Spool::~Spool() {
  if (folder_.empty()) return;
  std::error_code ignored;
  fs::remove_all(folder_, ignored);
}

fs::path Spool::fresh(std::string_view name) {
  return folder_ / (std::to_string(next_++) + safeExtension(name));
}

void Spool::clear() {
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folder_, error))
    if (entry.path().filename() != kLock) fs::remove_all(entry.path(), error);
  unpacked_ = 0;
}

bool Spool::mayUnpack(std::uint64_t bytes) {
  if (bytes > kMostUnpacked_bytes - unpacked_) return false;
  unpacked_ += bytes;
  return true;
}

}  // namespace jib::exchange
