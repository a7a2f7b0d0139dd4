// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/topic.h"

namespace jib::coaching {

// The styles and topics at hand: the shipped ones, and over them the coach's own files in a library's folder:
// styles/*.toml (a style of a shipped id replaces it) and topics.toml.
class StyleBook {
 public:
  // Errors  CannotRead, BadData of a shipped file
  static Result<StyleBook> shipped();
  // What cannot be read of the coach's own files is left out and told in troubles().
  static Result<StyleBook> forLibrary(const std::filesystem::path& folder);

  const std::vector<Style>& styles() const { return styles_; }
  const Topics& topics() const { return topics_; }
  const std::vector<std::string>& troubles() const { return troubles_; }

  // The coach moves a limit of a style, or gives it back (nullopt). Kept in the library's folder as limits.json:
  // {"balanced": {"squat.chest_drops": 8}}, in the limit's own unit; the file may be handed to another coach.
  // Errors  CannotWrite
  static Result<bool> moveLimit(const std::filesystem::path& folder, const std::string& style,
                                const std::string& finding, std::optional<double> to);

  // A style with the sides taken and the coach's own limits.
  // Errors  WrongUse: there is no such style; names those there are
  Result<Style> style(std::string_view id, const Switches& chosen = {}) const;

 private:
  std::vector<Style> styles_;
  Topics topics_;
  std::map<std::string, std::map<std::string, double>, std::less<>> own_limits_;  // by style and finding
  std::vector<std::string> troubles_;
};

}  // namespace jib::coaching
