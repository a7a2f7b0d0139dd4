// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <set>
#include <string>
#include <vector>

#include "core/exchange/intake/importer.h"

namespace jib::exchange {

// A folder of the coach's into which films come from a chat, a card or a shared drive. It is only looked into: nothing
// in it is moved or changed.

// A film in such a folder.
struct FoundFilm {
  std::filesystem::path file;
  std::string whose;  // the folder inside the watched one that holds it; empty for a film right in it
  std::string sign;   // of name, size and time of change: another film, or the same one changed, has another
};

struct LookInto {
  std::vector<FoundFilm> films;  // not seen before, in the order of their names
  bool growing = false;          // at least one was left for the next look, since it was still being written
};

// A sign as it is kept: its SHA-256, so that names of athletes do not stay in the settings when they are forgotten. One
// of an older version, which was the plain text, becomes that.
std::string hiddenSign(const std::string& sign);

// The films in `folder` whose signs are not among `seen`, three folders deep. One that changed within the last seconds
// before `now` is still being copied. A folder that is not there holds nothing.
LookInto newFilms(const std::filesystem::path& folder, const std::set<std::string>& seen,
                  std::filesystem::file_time_type now);

// Takes films in, each with the text beside it that has its name, as if they had come from whom their folder names.
// Errors  as receive()
Result<Received> receiveFilms(library::Library& library, const std::vector<FoundFilm>& films,
                              const std::string& today_iso, Task& task);

}  // namespace jib::exchange
