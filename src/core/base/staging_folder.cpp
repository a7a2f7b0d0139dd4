// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/staging_folder.h"

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <utility>
#include <vector>

#include "core/base/files.h"

namespace jib {
namespace fs = std::filesystem;

namespace {

constexpr const char* kLock = "lock";
constexpr const char* kContent = "content";

}  // namespace

// Of those that were killed the lock is there, and nobody holds it.
void StagingFolder::sweep(const fs::path& parent, const std::string& prefix) {
  std::error_code error;
  std::vector<fs::path> ours;
  for (const auto& entry : fs::directory_iterator(parent, error)) {
    std::error_code gone;
    if (entry.path().filename().string().starts_with(prefix + "-") && entry.is_directory(gone) &&
        !entry.is_symlink(gone) && fs::exists(entry.path() / kLock, gone))
      ours.push_back(entry.path());
  }
  for (const fs::path& folder : ours)
    if (const auto dead = FolderLock::tryTake(folder / kLock)) fs::remove_all(folder, error);
}

StagingFolder::StagingFolder(fs::path folder, FolderLock lock)
    : folder_(std::move(folder)), content_(folder_ / kContent), lock_(std::move(lock)) {}

StagingFolder::StagingFolder(StagingFolder&& other) noexcept
    : folder_(std::move(other.folder_)), content_(std::move(other.content_)), lock_(std::move(other.lock_)) {
  other.folder_.clear();
}

StagingFolder& StagingFolder::operator=(StagingFolder&& other) noexcept {
  std::swap(folder_, other.folder_);
  std::swap(content_, other.content_);
  std::swap(lock_, other.lock_);
  return *this;
}

StagingFolder::~StagingFolder() {
  if (folder_.empty()) return;
  std::error_code ignored;
  fs::remove_all(folder_, ignored);
}

Result<StagingFolder> StagingFolder::in(const fs::path& parent, const std::string& prefix) {
  const fs::path place = parent.empty() ? fs::path(".") : parent;
  sweep(place, prefix);
  std::string name = (place / (prefix + "-XXXXXX")).string();
  if (!mkdtemp(name.data()))
    return fail(ErrorCode::CannotWrite, "Cannot write in " + place.string() + ": " + std::strerror(errno) + ".",
                "Check that the folder exists, may be written to and has free space, then try again.");
  auto lock = FolderLock::tryTake(fs::path(name) / kLock);
  Result<bool> made = lock ? makePrivateFolder(fs::path(name) / kContent)
                           : Result<bool>(fail(ErrorCode::CannotWrite, "Cannot write in " + name + ".",
                                               "Check that the disk has free space, then try again."));
  if (!made) {
    std::error_code ignored;
    fs::remove_all(name, ignored);
    return fail(made.error());
  }
  return StagingFolder(name, std::move(*lock));
}

Result<StagingFolder> StagingFolder::forTarget(const fs::path& target, const std::string& prefix) {
  std::error_code error;
  const fs::path plain = withoutTrailingSlash(target);
  if (!fs::exists(plain, error)) return in(plain.parent_path(), prefix);
  auto staging =
      fs::is_directory(plain, error) ? in(plain, prefix) : Result<StagingFolder>(fail(ErrorCode::WrongUse, "", ""));
  if (!staging && staging.error().code == ErrorCode::CannotWrite) return staging;
  bool empty = staging.has_value();
  if (staging)
    for (const auto& entry : fs::directory_iterator(plain, error))
      if (entry.path().filename() != staging->folder_.filename()) empty = false;
  if (empty) return staging;
  return fail(ErrorCode::WrongUse, target.string() + " holds something already.",
              "Choose a folder that is empty or not there; nothing is ever written over.");
}

Result<bool> StagingFolder::become(const fs::path& target, const std::string& last) {
  std::error_code error;
  FileSystem& disk = FileSystem::real();
  if (!fs::exists(target, error)) return disk.rename(content_, withoutTrailingSlash(target));
  std::vector<fs::path> names;
  for (const auto& entry : fs::directory_iterator(content_, error))
    if (entry.path().filename() != last) names.push_back(entry.path().filename());
  if (fs::exists(content_ / last, error)) names.emplace_back(last);
  for (std::size_t k = 0; k < names.size(); ++k) {
    auto moved = disk.rename(content_ / names[k], target / names[k]);
    if (moved) continue;
    for (std::size_t back = 0; back < k; ++back) fs::rename(target / names[back], content_ / names[back], error);
    return moved;
  }
  return true;
}

}  // namespace jib
