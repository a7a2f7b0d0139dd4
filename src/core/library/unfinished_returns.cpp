// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/unfinished_returns.h"

#include <algorithm>
#include <charconv>

#include "core/base/files.h"
#include "core/base/running_program.h"

namespace jib::library {
namespace fs = std::filesystem;

namespace {

fs::path folderOf(const fs::path& library) {
  return library / "returning";
}

fs::path fileOf(const fs::path& library, SubmissionId submission) {
  return folderOf(library) / std::to_string(submission.number);
}

}  // namespace

Result<bool> beginReturn(const fs::path& library, SubmissionId submission) {
  if (auto made = makePrivateFolder(folderOf(library)); !made) return made;
  return writeWhole(FileSystem::real(), fileOf(library, submission), thisProgram());
}

void endReturn(const fs::path& library, SubmissionId submission) {
  std::error_code ignored;
  fs::remove(fileOf(library, submission), ignored);
}

std::vector<SubmissionId> unfinishedReturns(const fs::path& library) {
  std::vector<SubmissionId> all;
  std::error_code error;
  for (const auto& entry : fs::directory_iterator(folderOf(library), error)) {
    const std::string name = entry.path().filename().string();
    std::int64_t number = 0;
    const auto [end, wrong] = std::from_chars(name.data(), name.data() + name.size(), number);
    if (wrong != std::errc() || end != name.data() + name.size() || number <= 0) continue;
    if (!lives(FileSystem::real().read(entry.path()).value_or(std::string()))) all.emplace_back(number);
  }
  std::sort(all.begin(), all.end(), [](SubmissionId a, SubmissionId b) { return a.number < b.number; });
  return all;
}

}  // namespace jib::library
