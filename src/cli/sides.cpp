// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/sides.h"

namespace jib::cli {
namespace {

template <class T>
std::string idsOf(const std::vector<T>& all) {
  std::string text;
  for (const T& one : all) text += (text.empty() ? "" : ", ") + one.id;
  return text;
}

}  // namespace

Result<coaching::Switches> sidesFrom(const std::vector<std::string>& words) {
  coaching::Switches chosen;
  if (words.empty()) return chosen;
  auto topics = coaching::Topics::shipped();
  if (!topics) return fail(topics.error());
  for (const std::string& word : words) {
    const auto equals = word.find('=');
    const coaching::Topic* topic = topics->topic(word.substr(0, equals));
    if (!topic || equals == std::string::npos)
      return fail(ErrorCode::WrongUse, "\"" + word + "\" is no topic and choice.",
                  "Write topic=choice; the topics are " + idsOf(topics->all()) + ".");
    const std::string choice = word.substr(equals + 1);
    if (!topic->choice(choice))
      return fail(ErrorCode::WrongUse, "The topic \"" + topic->id + "\" has no choice \"" + choice + "\".",
                  "Choose one of " + idsOf(topic->choices) + ".");
    chosen[topic->id] = choice;
  }
  return chosen;
}

}  // namespace jib::cli
