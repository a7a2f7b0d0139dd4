// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <filesystem>
#include <string_view>

#include "core/base/folder_lock.h"

namespace jib::exchange {

// Where the parts of one message lie while it is taken in: files in a folder of this import's own, so that memory stays
// small whatever a message holds, and programs that import at once do not meet. What a killed import leaves is swept by
// the next one that starts.
// Thread  one import at a time
class Spool {
 public:
  // Of a library, in its folder `incoming`. Errors  CannotWrite
  static Result<Spool> open(const std::filesystem::path& incoming);
  Spool(Spool&& other) noexcept;
  Spool& operator=(Spool&&) = delete;
  ~Spool();

  // A new name in it; `name` gives the extension.
  std::filesystem::path fresh(std::string_view name);
  // All files of the message before go; the budget for what archives may unpack is whole again.
  void clear();
  // Whether `bytes` more may be unpacked for this message; they are taken off the budget.
  bool mayUnpack(std::uint64_t bytes);

 private:
  Spool(std::filesystem::path folder, FolderLock lock) : folder_(std::move(folder)), lock_(std::move(lock)) {}

  static constexpr std::uint64_t kMostUnpacked_bytes = 2ull << 30;
  std::filesystem::path folder_;
  FolderLock lock_;  // of folder_, as long as this import lives
  std::uint64_t unpacked_ = 0;
  int next_ = 0;
};

}  // namespace jib::exchange
