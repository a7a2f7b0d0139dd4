// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace jib::lifts {

// What a set was done with and in what state, as far as somebody said so: field and choice, by their ids.
using Kit = std::map<std::string, std::string, std::less<>>;

struct KitChoice {
  std::string_view id, title;
};
struct KitField {
  std::string_view id, title;
  std::span<const KitChoice> choices;
  std::string_view why;  // it is asked for, a sentence for the coach
  bool compares;         // two sets that differ in it cannot be held against each other
};

// All of them, in the order in which they are asked.
std::span<const KitField> kitFields();

// What keeps two sets from being compared, a phrase: "raised heel then, flat now"; empty when nothing is known to.
// Where only one of them says it, it is not known to differ.
std::string kitApart(const Kit& then, const Kit& now);
// Each field in which they do, with its phrase.
struct KitDifference {
  const KitField* field = nullptr;
  std::string then, now;  // ids of the choices
  std::string phrase;
};
std::vector<KitDifference> kitDifferences(const Kit& then, const Kit& now);

}  // namespace jib::lifts
