// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/mail/zip.h"

#include <archive.h>
#include <archive_entry.h>
#include <fmt/format.h>
#include <locale.h>

#include <fstream>
#include <memory>

#include "core/exchange/mail/spool.h"

namespace jib::exchange {
namespace {

constexpr int kMost_entries = 200;

struct Close {
  void operator()(archive* a) const { archive_read_free(a); }
};

// libarchive turns names into the thread's own characters, and gives none for what these cannot say: under the C
// locale, everything beyond ASCII.
class Utf8Thread {
 public:
  Utf8Thread() : utf8_(newlocale(LC_CTYPE_MASK, "C.UTF-8", nullptr)), before_(uselocale(utf8_ ? utf8_ : nullptr)) {}
  ~Utf8Thread() {
    uselocale(before_);
    if (utf8_) freelocale(utf8_);
  }
  Utf8Thread(const Utf8Thread&) = delete;
  Utf8Thread& operator=(const Utf8Thread&) = delete;

 private:
  locale_t utf8_, before_;
};

bool ofTheFileManager(std::string_view path, std::string_view name) {
  return path.starts_with("__MACOSX/") || path.find("/__MACOSX/") != std::string_view::npos || name.starts_with("._") ||
         name == ".DS_Store" || name == "Thumbs.db" || name == "desktop.ini";
}

tl::unexpected<Error> refuse(const std::string& why) {
  return fail(ErrorCode::BadData, "The archive cannot be used: " + why + ".", "Ask for the clips one by one.");
}

// One entry into a file of the spool; nothing when its first bytes and its name are no film's.
Result<std::optional<MailPart>> entryOut(archive* zip, const std::string& name, Spool& spool) {
  MailPart clip{name, {}, spool.fresh(name)};
  std::ofstream out;
  char block[1 << 16];
  for (bool first = true;; first = false) {
    const la_ssize_t got = archive_read_data(zip, block, sizeof block);
    if (got < 0) return refuse("it is damaged or locked with a password");
    if (first) {
      if (!looksLikeClip(name, {block, static_cast<std::size_t>(got)})) return std::optional<MailPart>();
      out.open(clip.file, std::ios::binary);
    }
    if (got == 0) break;
    if (!spool.mayUnpack(static_cast<std::uint64_t>(got))) return refuse("it unpacks to more than 2 GB");
    out.write(block, got);
    if (!out)
      return fail(ErrorCode::CannotWrite, "There is no room to unpack the archive.",
                  "Free some space on the disk, then take the message in again.");
  }
  out.close();  // what was held back until now meets the full disk here
  if (!out)
    return fail(ErrorCode::CannotWrite, "There is no room to unpack the archive.",
                "Free some space on the disk, then take the message in again.");
  makePrivate(clip.file);
  return std::optional(std::move(clip));
}

}  // namespace

Result<Unpacked> clipsInZip(const std::filesystem::path& file, Spool& spool) {
  const Utf8Thread names_in_utf8;
  const std::unique_ptr<archive, Close> zip(archive_read_new());
  archive_read_support_format_zip(zip.get());
  if (archive_read_open_filename(zip.get(), file.c_str(), 1 << 16) != ARCHIVE_OK) return refuse("it is damaged");
  Unpacked all;
  for (int n = 0;; ++n) {
    archive_entry* entry = nullptr;
    const int status = archive_read_next_header(zip.get(), &entry);
    if (status == ARCHIVE_EOF) break;
    if (status < ARCHIVE_WARN) return refuse("it is damaged");
    if (n >= kMost_entries) return refuse("it holds too many files");
    if (archive_entry_filetype(entry) == AE_IFDIR) continue;
    const char* raw = archive_entry_pathname_utf8(entry);
    if (!raw) raw = archive_entry_pathname(entry);
    const std::string path = raw ? raw : "";
    std::string name = path.substr(path.find_last_of('/') + 1);
    if (ofTheFileManager(path, name)) continue;
    auto clip = entryOut(zip.get(), name, spool);
    if (!clip) return fail(clip.error());
    if (*clip)
      all.clips.push_back(std::move(**clip));
    else
      all.left_aside.push_back(name.empty() ? "a file without a name" : name);
  }
  return all;
}

}  // namespace jib::exchange
