// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "core/coaching/style.h"

namespace jib::coaching {

// One answer to a question on which good coaches disagree, and what it changes in a style.
struct Choice {
  std::string id, title, text;
  std::vector<Limit> limits;  // an empty measure: only limit and strong of the style's own limit change
  std::vector<std::string> silent;
  std::map<std::string, std::string, std::less<>> say;  // finding: the wording proposed first
  std::string miss;                                     // how a missed rep is read
  bool left_right_at_once = false;
  std::vector<std::string> order;  // in which the lift is gone over (Style::looking_order)
};

struct Topic {
  std::string id, title, about;
  std::vector<lifts::LiftId> lifts;  // it concerns; none: all
  std::vector<Choice> choices;

  const Choice* choice(std::string_view id) const;
  bool concerns(lifts::LiftId lift) const;
};

// The topics a coach can take a side on (resources/topics.toml).
class Topics {
 public:
  // Errors  CannotRead, BadData with file and line
  static Result<Topics> load(const std::filesystem::path& file);
  static Result<Topics> shipped();

  const std::vector<Topic>& all() const { return topics_; }
  const Topic* topic(std::string_view id) const;

  // The style with the chosen sides: its own [switches] first, `chosen` over them. What is not known here is left out,
  // so that a library outlives a topic. Chosen sides are told in `sides`, in words.
  Style applied(Style style, const Switches& chosen) const;

 private:
  std::vector<Topic> topics_;
};

}  // namespace jib::coaching
