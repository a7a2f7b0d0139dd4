// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/zip.h"

#include <archive.h>
#include <archive_entry.h>

#include <memory>

namespace jib::exchange {
namespace {

constexpr std::size_t kMost_bytes = 2u << 30;
constexpr int kMost_entries = 200;

struct Close {
  void operator()(archive* a) const { archive_read_free(a); }
};

}  // namespace

Result<std::vector<MailPart>> clipsInZip(std::string_view bytes) {
  const auto refuse = [](const std::string& why) {
    return fail(ErrorCode::BadData, "The archive cannot be used: " + why + ".", "Ask for the clips one by one.");
  };
  const std::unique_ptr<archive, Close> zip(archive_read_new());
  archive_read_support_format_zip(zip.get());
  if (archive_read_open_memory(zip.get(), bytes.data(), bytes.size()) != ARCHIVE_OK) return refuse("it is damaged");
  std::vector<MailPart> clips;
  std::size_t total = 0;
  for (int n = 0;; ++n) {
    archive_entry* entry = nullptr;
    const int status = archive_read_next_header(zip.get(), &entry);
    if (status == ARCHIVE_EOF) break;
    if (status < ARCHIVE_WARN) return refuse("it is damaged");
    if (n >= kMost_entries) return refuse("it holds too many files");
    const char* name = archive_entry_pathname(entry);
    if (!name || !looksLikeClip(name, {})) continue;
    MailPart clip{std::filesystem::path(name).filename().string(), {}};
    char block[1 << 16];
    for (;;) {
      const la_ssize_t got = archive_read_data(zip.get(), block, sizeof block);
      if (got < 0) return refuse("it is damaged or locked with a password");
      if (got == 0) break;
      total += static_cast<std::size_t>(got);
      if (total > kMost_bytes) return refuse("it unpacks to more than 2 GB");
      clip.bytes.append(block, static_cast<std::size_t>(got));
    }
    clips.push_back(std::move(clip));
  }
  return clips;
}

}  // namespace jib::exchange
