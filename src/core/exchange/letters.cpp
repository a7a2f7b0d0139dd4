// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/letters.h"

#include <fmt/format.h>

namespace jib::exchange {

std::string firstNameOf(std::string_view name) {
  return std::string(name.substr(0, name.find(' ')));
}

namespace {

std::string greeting(std::string_view first_name) {
  return first_name.empty() ? "Hi,\n\n" : fmt::format("Hi {},\n\n", first_name);
}

}  // namespace

std::string receiptWords(std::string_view first_name) {
  return greeting(first_name) +
         "your clip has arrived and is in line. I look through them in order and answer each one; if your meet is "
         "close, "
         "tell me the date.\n";
}

std::string missingFilmWords(std::string_view first_name, std::string_view reason) {
  return greeting(first_name) +
         fmt::format(
             "thank you for your message. The film did not reach me ({}). Please attach the original file to an "
             "answer to this mail; links often stop working before I get to them.\n",
             reason.substr(0, reason.find_last_not_of(". ") + 1));
}

std::string askForFieldsWords(std::string_view first_name, const std::vector<std::string>& titles) {
  std::string text = greeting(first_name) + "to judge your clip well I still need:\n";
  for (const auto& t : titles) text += "\n- " + t;
  return text + "\n\nA line for each is enough.\n";
}

std::string referralWords(std::string_view first_name) {
  return greeting(first_name) +
         "you wrote that something hurts. I cannot judge that from a film, and nothing I say about technique is a "
         "promise "
         "against pain. Please stay below what sets it off, and see a physician or physiotherapist who knows lifting; "
         "tell them which lift, load and range it is. I am glad to fit the training around what they say.\n";
}

}  // namespace jib::exchange
