// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <archive.h>
#include <archive_entry.h>

#include <string>
#include <utility>
#include <vector>

namespace jib::tests {

// A zip file of these entries; names are UTF-8.
inline std::string zipOf(const std::vector<std::pair<std::string, std::string>>& files) {
  std::vector<char> room(1 << 20);
  for (const auto& f : files) room.resize(room.size() + f.second.size());
  std::size_t used = 0;
  archive* zip = archive_write_new();
  archive_write_set_format_zip(zip);
  archive_write_open_memory(zip, room.data(), room.size(), &used);
  for (const auto& [name, bytes] : files) {
    archive_entry* entry = archive_entry_new();
    archive_entry_set_pathname_utf8(entry, name.c_str());
    archive_entry_set_size(entry, static_cast<la_int64_t>(bytes.size()));
    archive_entry_set_filetype(entry, AE_IFREG);
    archive_entry_set_perm(entry, 0644);
    archive_write_header(zip, entry);
    archive_write_data(zip, bytes.data(), bytes.size());
    archive_entry_free(entry);
  }
  archive_write_close(zip);
  archive_write_free(zip);
  return {room.data(), used};
}

}  // namespace jib::tests
