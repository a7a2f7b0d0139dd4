// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/intake/watched_folder.h"

#include <algorithm>
#include <chrono>

#include "core/base/files.h"

namespace jib::exchange {
namespace fs = std::filesystem;

namespace {

void look(const fs::path& folder, const fs::path& top, int depth, const std::set<std::string>& seen,
          fs::file_time_type now, LookInto& out) {
  constexpr int kDeepest = 3;
  constexpr std::chrono::seconds kSettles{3};
  std::error_code error;
  for (fs::directory_iterator it(folder, fs::directory_options::skip_permission_denied, error), end;
       !error && it != end; it.increment(error)) {
    const fs::path& file = it->path();
    std::error_code gone;  // a file may go while it is looked at
    if (file.filename().string().starts_with('.')) continue;
    if (it->is_directory(gone)) {
      if (depth < kDeepest && !it->is_symlink(gone)) look(file, top, depth + 1, seen, now, out);
      continue;
    }
    if (!it->is_regular_file(gone) || it->is_symlink(gone) || !looksLikeClip(file.filename().string(), {})) continue;
    const auto size = it->file_size(gone);
    const auto changed = it->last_write_time(gone);
    if (gone) continue;
    const fs::path relative = file.lexically_relative(top);
    const std::string plain =
        relative.string() + '\t' + std::to_string(size) + '\t' + std::to_string(changed.time_since_epoch().count());
    std::string sign = hiddenSign(plain);
    if (seen.contains(sign) || seen.contains(plain)) continue;
    if (size == 0 || (changed <= now && now - changed < kSettles)) {
      out.growing = true;
      continue;
    }
    out.films.push_back({file, depth == 0 ? std::string() : relative.begin()->string(), std::move(sign)});
  }
}

}  // namespace

std::string hiddenSign(const std::string& sign) {
  return sign.find('\t') == std::string::npos ? sign : sha256Of(sign);
}

LookInto newFilms(const fs::path& folder, const std::set<std::string>& seen, fs::file_time_type now) {
  LookInto out;
  look(folder, folder, 0, seen, now, out);
  std::sort(out.films.begin(), out.films.end(), [](const FoundFilm& a, const FoundFilm& b) { return a.file < b.file; });
  return out;
}

}  // namespace jib::exchange
