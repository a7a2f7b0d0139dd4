// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/library/book_file.h"

#include <toml++/toml.h>
#include <sstream>

namespace jib::library {

std::string bookToToml(const std::vector<Library::SaidBefore>& book) {
  toml::array cues;
  for (const auto& said : book) {
    if (said.put_away) continue;
    toml::table cue{{"finding", said.finding}, {"title", said.title}, {"wording", said.wording}};
    if (!said.drill.empty()) cue.insert("drill", said.drill);
    cue.insert("said", said.times);
    cue.insert("helped", said.helped);
    cue.insert("last_said", said.last_on);
    cues.push_back(std::move(cue));
  }
  std::ostringstream out;
  out << "# The words of your own that went out in replies, and how often what they asked for came.\n"
      << toml::table{{"cue", std::move(cues)}} << "\n";
  return out.str();
}

}  // namespace jib::library
