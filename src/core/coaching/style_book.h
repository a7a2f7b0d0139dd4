// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
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

  // A style with the sides taken.
  // Errors  WrongUse: there is no such style; names those there are
  Result<Style> style(std::string_view id, const Switches& chosen = {}) const;

 private:
  std::vector<Style> styles_;
  Topics topics_;
  std::vector<std::string> troubles_;
};

}  // namespace jib::coaching
